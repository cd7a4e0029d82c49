// SPDX-License-Identifier: Apache-2.0
// Any file, bound with itself, arranged and cut: no crash, no hang, and what is saved opens again
// with as many pages.
#include "fuzz/small_limits.h"
#include "lumvet/lumvet.h"

namespace {

void reopen(const lumvet::Result<lumvet::SaveReport>& saved, lumvet::BufferSink& sink, int pages) {
  if (!saved.ok()) return;
  const auto again = lumvet::Document::open(sink.take());
  if (!again.ok() || again->page_count() != pages) __builtin_trap();
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size < 1) return 0;
  const auto open = [&] {
    return lumvet::Document::open(lumvet::Bytes(data, data + size), {.limits = fuzz::kSmallLimits});
  };
  const auto one = open();
  const auto other = open();
  if (!one.ok() || !other.ok() || one->page_count() > 20) return 0;
  const std::uint8_t choice = data[size - 1];
  lumvet::Assembly book({.join_fields = (choice & 1) != 0});
  static_cast<void>(book.add(*one, {}, {.heading = "one", .lost_entries = true}));
  static_cast<void>(book.add(*other, lumvet::PageSelection::of({0})));
  lumvet::BufferSink sink;
  const lumvet::FileLayout layout = (choice & 32) != 0   ? lumvet::FileLayout::linearized
                                    : (choice & 64) != 0 ? lumvet::FileLayout::linearized_classic
                                                         : lumvet::FileLayout::compact;
  if (book.page_count() > 0) reopen(book.save(sink, {.layout = layout}), sink, book.page_count());

  auto pages = lumvet::EditableDocument::of(*one);
  static_cast<void>(pages.duplicate(lumvet::PageSelection::of({0})));
  static_cast<void>(pages.rotate({}, 90));
  static_cast<void>(pages.insert_blank(0, 1, {100, 100}));
  static_cast<void>(pages.insert(*other, {}, 1));
  static_cast<void>(pages.reverse());
  if ((choice & 2) != 0) static_cast<void>(pages.resize(lumvet::PageSelection::of({1}), {90, 50}));
  if ((choice & 4) != 0)
    static_cast<void>(lumvet::overlay(pages, {}, *other, {}, {.scale = 0.5, .opacity = 0.5}));
  const auto now = pages.now();
  if (!now.ok()) return 0;
  lumvet::BufferSink arranged;
  reopen(pages.save(arranged), arranged, now->page_count());
  if ((choice & 8) != 0)
    if (const auto plan = lumvet::SheetPlan::of(
            *now, lumvet::SheetLayout{.columns = 2, .rows = 2, .framed = true});
        plan.ok())
      static_cast<void>(plan->document());
  if ((choice & 16) != 0)
    if (const auto plan = lumvet::SheetPlan::of(*now, lumvet::BookletLayout{}); plan.ok())
      static_cast<void>(plan->document());
  static_cast<void>(lumvet::SplitRule::at_outline(1).parts_of(*one));
  return 0;
}
