// SPDX-License-Identifier: Apache-2.0
// Any document changed in any way: what the view shows is what is saved and opened again, and what
// was taken back is as it was.
#include "fuzz/small_limits.h"
#include "lumvet/lumvet.h"

using namespace lumvet;

namespace {

// One step, by a byte; a step that cannot be done is none.
void change(EditableDocument& edited, int pages, std::uint8_t how) {
  const int page = how / 8 % std::max(pages, 1);
  const PageSelection one = PageSelection::of({page});
  switch (how % 8) {
    case 0: static_cast<void>(edited.rotate(one, 90).ok()); break;
    case 1: static_cast<void>(edited.move(one, pages - page).ok()); break;
    case 2: static_cast<void>(edited.drop(one).ok()); break;
    case 3: static_cast<void>(edited.insert_blank(page, 1, {50, 50}).ok()); break;
    case 4: static_cast<void>(edited.reverse().ok()); break;
    case 5: edited.undo(); break;
    case 6: static_cast<void>(edited.set_properties({.title = "x"}).ok()); break;
    default: static_cast<void>(edited.crop(one, {.left = 1}).ok()); break;
  }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  constexpr std::size_t kSteps = 6;  // the first bytes say what is done
  if (size < kSteps) return 0;
  const auto document =
      Document::open(Bytes(data + kSteps, data + size), {.limits = fuzz::kSmallLimits});
  if (!document.ok() || document->page_count() > 200) return 0;
  EditableDocument edited = EditableDocument::of(*document);
  for (std::size_t i = 0; i < kSteps; ++i) {
    const auto now = edited.now();
    if (!now.ok()) return 0;
    change(edited, now->page_count(), data[i]);
  }
  const auto now = edited.now();
  BufferSink sink;
  if (now.ok() && edited.save(sink).ok()) {
    const auto saved = Document::open(sink.take());
    const bool is_sound = now->findings().empty();  // damage may have cost pages
    if (is_sound && (!saved.ok() || saved->page_count() != now->page_count())) __builtin_trap();
  }
  static_cast<void>(edited.appended().ok());
  while (edited.can_undo()) edited.undo();
  const auto before = edited.now();
  if (before.ok() && before->page_count() != document->page_count()) __builtin_trap();
  return 0;
}
