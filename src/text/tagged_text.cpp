// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/tagged_text.h"

#include <algorithm>
#include <array>
#include <string_view>

#include "base/attempt.h"
#include "text/structure_text.h"
#include "text/white_space.h"

namespace lumvet {
namespace {

// What is read as one: what lies within belongs to it.
bool is_block(std::string_view role) {
  static constexpr std::array<std::string_view, 22> kBlocks = {
      "Title",  "P",    "H",          "H1",     "H2",      "H3",      "H4",   "H5",
      "H6",     "Lbl",  "LBody",      "TD",     "TH",      "Caption", "TOCI", "Note",
      "FENote", "Code", "BlockQuote", "Figure", "Formula", "Index"};
  return std::find(kBlocks.begin(), kBlocks.end(), role) != kBlocks.end();
}

bool has_content(const StructureElement& element) {
  return std::any_of(element.parts.begin(), element.parts.end(), [](const StructurePart& part) {
    return part.kind == StructurePart::Kind::marked_content;
  });
}

}  // namespace

Result<std::vector<TaggedBlock>> tagged_text(const Document& document) {
  return attempted([&]() -> Result<std::vector<TaggedBlock>> {
    LUMVET_TRY(const Structure structure, document.structure());
    text::PageMarks marks(document);
    std::vector<TaggedBlock> blocks;
    // Elements stand before what they hold, so that one whose parent is within a block is too.
    std::vector<bool> is_within(structure.elements.size());
    for (std::size_t i = 0; i < structure.elements.size(); ++i) {
      const StructureElement& element = structure.elements[i];
      if (element.parent >= 0 && is_within[static_cast<std::size_t>(element.parent)]) {
        is_within[i] = true;
        continue;
      }
      if (!is_block(element.role) && !has_content(element)) continue;
      is_within[i] = true;
      LUMVET_TRY(const text::ElementText said, text::text_of_element(structure, element, marks));
      std::string text = text::in_one_line(said.text);
      if (text.empty()) text = text::in_one_line(element.alternate);
      if (text.empty()) continue;
      blocks.push_back({element.role, std::move(text), element.language, element.depth,
                        said.page ? said.page : element.page});
    }
    return blocks;
  });
}

}  // namespace lumvet
