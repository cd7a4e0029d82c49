// SPDX-License-Identifier: Apache-2.0
#include "assemble/blank_pages.h"

#include "file/ledger.h"
#include "save/full_writer.h"

namespace lumvet::assemble {

Status check_size(const PaperSize& size) {
  constexpr double kLeast = 3;
  constexpr double kMost = 14'400;
  const auto is_side = [](double points) { return points >= kLeast && points <= kMost; };
  if (!is_side(size.width) || !is_side(size.height))
    return Error(ErrorCode::invalid_argument, "a page's sides are 3 to 14400 points long");
  return Done{};
}

Dict blank_page(const PaperSize& size) {
  return Dict{{"Type", Object::name("Page")},
              {"Resources", Dict()},
              {"MediaBox", Array{Object(0), Object(0), Object(size.width), Object(size.height)}}};
}

Result<Document> blank_document(const PaperSize& size, const Limits& limits) {
  LUMVET_RETURN_IF_ERROR(check_size(size));
  file::Ledger ledger;
  const ObjectId pages = ledger.reserve();
  Dict blank = blank_page(size);
  blank.set("Parent", pages);
  const ObjectId page = ledger.add(std::move(blank));
  ledger.set(pages,
             Dict{{"Type", Object::name("Pages")}, {"Kids", Array{Object(page)}}, {"Count", 1}});
  const ObjectId catalog = ledger.add(Dict{{"Type", Object::name("Catalog")}, {"Pages", pages}});
  return saving::opened(ledger, catalog, std::nullopt, limits);
}

}  // namespace lumvet::assemble
