// SPDX-License-Identifier: Apache-2.0
#include "assemble/sheet_layer.h"

#include "document/inside.h"

namespace lumvet::assemble {

void SheetLayer::add(const Page& page, ObjectId copy, const std::optional<OnSheet>& on) {
  const std::size_t place = next_++;
  if (sheets_.contains(place)) sheets_[place] = copy;
  if (!on) return;
  sheets_.emplace(on->sheet, ObjectId());
  parts_.push_back({copy, page.crop_box(), store_of(page).limits(), *on});
}

Status SheetLayer::finish() {
  std::map<ObjectId, Wrapping> drawn;
  for (const Part& part : parts_) {
    const ObjectId sheet = sheets_.at(part.on.sheet);
    LUMVET_TRY(Stream stream, form_of_page(ledger_, part.page, part.limits));
    const ObjectId form = ledger_.add(Object(std::move(stream)));
    Drawn one{form, part.on.placed};
    if (part.on.framed) one.frame = one.placed.bounds_of(part.crop);
    drawn[sheet].drawn.push_back(one);
    moves_.add(part.page, {sheet, part.on.placed, part.crop, form});
    moves_.move_annotations(part.page);
  }
  for (const auto& [sheet, wrapping] : drawn) wrap_page(ledger_, sheet, {}, wrapping);
  for (const Part& part : parts_) ledger_.drop(part.page);
  moves_.follow(ledger_.changed_ids());
  return Done{};
}

}  // namespace lumvet::assemble
