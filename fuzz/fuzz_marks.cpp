// SPDX-License-Identifier: Apache-2.0
// Any bytes as a list of marks, or as the entries of an annotation: no crash, what is added can be
// drawn and listed, and what its list says again is the same.
#include <string_view>

#include "fuzz/small_limits.h"
#include "lumvet/annotate/mark_list.h"
#include "lumvet/render/render.h"

namespace {

// A page with an annotation of these entries, or none.
lumvet::Result<lumvet::Document> page_with(std::string_view entries) {
  std::string text =
      "%PDF-2.0\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n"
      "2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj\n"
      "3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 60 60]/Rotate 90/Annots[";
  if (!entries.empty()) text += "<</Rect[5 5 50 40]/F 4" + std::string(entries) + ">>";
  text += "]>>endobj\ntrailer<</Root 1 0 R>>";
  return lumvet::Document::open(lumvet::Bytes(text.begin(), text.end()),
                                {.limits = fuzz::kSmallLimits});
}

void draw(const lumvet::Document& document) {
  if (const auto page = document.page(0); page.ok())
    static_cast<void>(lumvet::render(*page, {.dpi = 40}));
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const std::string_view text(reinterpret_cast<const char*>(data), size);
  if (size > 0 && data[0] == '/') {
    if (const auto document = page_with(text); document.ok()) draw(*document);
    return 0;
  }
  const auto document = page_with({});
  if (!document.ok()) __builtin_trap();
  const auto marks = lumvet::read_marks(text, *document);
  if (!marks.ok() || marks->marks.empty()) return 0;
  auto edited = lumvet::EditableDocument::of(*document);
  if (!lumvet::add_annotations(edited, marks->marks).ok()) return 0;
  const auto now = edited.now();
  if (!now.ok()) return 0;
  draw(*now);
  const auto list = lumvet::marks_as_json(*now);
  if (list.ok() && !lumvet::read_marks(*list, *document).ok()) __builtin_trap();
  if (lumvet::flatten_annotations(edited, {}).ok()) draw(edited.now().value());
  return 0;
}
