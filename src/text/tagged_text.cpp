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

// What is read as one.
bool is_block(std::string_view role) {
  static constexpr std::array<std::string_view, 22> kBlocks = {
      "Title",  "P",    "H",          "H1",     "H2",      "H3",      "H4",   "H5",
      "H6",     "Lbl",  "LBody",      "TD",     "TH",      "Caption", "TOCI", "Note",
      "FENote", "Code", "BlockQuote", "Figure", "Formula", "Index"};
  return std::find(kBlocks.begin(), kBlocks.end(), role) != kBlocks.end();
}

// Of those: what may hold paragraphs and lists of its own, which are read by themselves then.
bool may_hold_blocks(std::string_view role) {
  return role == "LBody" || role == "BlockQuote" || role == "Note" || role == "FENote" ||
         role == "Index";
}

// Of each element, whether it is read as one or holds something that is.
std::vector<bool> blocks_and_holders(const std::vector<StructureElement>& elements) {
  std::vector<bool> found(elements.size());
  for (std::size_t i = elements.size(); i-- > 0;) {  // elements stand before what they hold
    found[i] = found[i] || is_block(elements[i].role);
    if (found[i] && elements[i].parent >= 0)
      found[static_cast<std::size_t>(elements[i].parent)] = true;
  }
  return found;
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
    const std::vector<StructureElement>& elements = structure.elements;
    const std::vector<bool> parted = blocks_and_holders(elements);
    // How much of what an element holds is read with it.
    enum class Reads : std::uint8_t { nothing, all_but_blocks, all };
    std::vector<Reads> reads(elements.size(), Reads::nothing);
    for (std::size_t i = 0; i < elements.size(); ++i) {
      const StructureElement& element = elements[i];
      const Reads around =
          element.parent >= 0 ? reads[static_cast<std::size_t>(element.parent)] : Reads::nothing;
      if (around == Reads::all || (around == Reads::all_but_blocks && !parted[i])) {
        reads[i] = Reads::all;
        continue;
      }
      const bool is_one = is_block(element.role) && !may_hold_blocks(element.role);
      if (!is_block(element.role) && !has_content(element)) continue;
      const bool holds_blocks =
          std::any_of(element.parts.begin(), element.parts.end(), [&](const StructurePart& part) {
            return part.kind == StructurePart::Kind::element && part.element >= 0 &&
                   parted[static_cast<std::size_t>(part.element)];
          });
      reads[i] = is_one || !holds_blocks ? Reads::all : Reads::all_but_blocks;
      LUMVET_TRY(const text::ElementText said,
                 text::text_of_element(structure, element, marks,
                                       reads[i] == Reads::all ? nullptr : &parted));
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
