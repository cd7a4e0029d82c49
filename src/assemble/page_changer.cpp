// SPDX-License-Identifier: Apache-2.0
#include "assemble/page_changer.h"

#include "assemble/annotation_copier.h"
#include "assemble/used_resources.h"
#include "document/inside.h"
#include "document/number_arrays.h"

namespace lumvet::assemble {
namespace {

Result<Balance> balance_of_page(const Page& page) {
  LUMVET_TRY(const Bytes content, page.content());
  return balance_of(content);
}

}  // namespace

Status PageChanger::change(const Page& page, ObjectId copy, const PageChange& change,
                           std::vector<Drawn> marks) {
  const std::size_t place = next_++;
  const bool is_sheet = sheets_.contains(place);
  Wrapping wrapping{change.moved, change.seen, {}};
  for (Drawn& mark : marks) {
    mark.placed = mark.placed.then(change.moved);
    wrapping.drawn.push_back(std::move(mark));
  }
  for (const Guest& guest : change.guests) {
    LUMVET_TRY(const ObjectId form, form_of(guest));
    wrapping.drawn.push_back(
        {form, guest.placed, guest.opacity, guest.behind, guest.clip, {}, true});
  }
  set_boxes(page, copy, change);
  Balance balance;
  if (wrapping.is_needed() || is_sheet) {
    LUMVET_TRY(balance, balance_of_page(page));
  }
  if (wrapping.is_needed() && !is_sheet) wrap_page(ledger_, copy, balance, wrapping);
  if (!is_sheet && !change.on_sheet && change.moved == Matrix()) return Done{};
  if (change.on_sheet) sheets_.insert(change.on_sheet->sheet);
  waiting_[place] = {copy,
                     change,
                     shape_of(page, change).crop,
                     balance,
                     std::move(wrapping),
                     store_of(page).limits(),
                     {}};
  return Done{};
}

void PageChanger::set_boxes(const Page& page, ObjectId copy, const PageChange& change) {
  if (change.turn == 0 && !change.crop && !change.media) return;
  Dict dict = ledger_.resolve(Object(copy)).as_dict();
  dict.set("Rotate", shape_of(page, change).rotation);
  if (change.media) {
    dict.set("MediaBox", document::array_of(*change.media));
    for (const char* key : {"CropBox", "BleedBox", "TrimBox", "ArtBox"}) dict.remove(key);
  }
  if (change.crop) dict.set("CropBox", document::array_of(*change.crop));
  ledger_.set(copy, std::move(dict));
}

Result<ObjectId> PageChanger::form_of(const Guest& guest) {
  const document::Core* core = &core_of(guest.document);
  const auto known = forms_.find({core, guest.page});
  if (known != forms_.end()) return known->second;
  auto& copier = guests_[core];
  if (!copier) copier = std::make_unique<SourceCopier>(guest.document, ledger_);
  LUMVET_TRY(const Page page, guest.document.page(guest.page));
  const ObjectId copy = ledger_.reserve();
  copier->copy_page(page, used_resources(guest.document, page), copy, ObjectId());
  const Wrapping wrapping{{}, {}, drawn_annotations(*copier, ledger_, page)};
  if (wrapping.is_needed()) {
    LUMVET_TRY(const Balance balance, balance_of_page(page));
    wrap_page(ledger_, copy, balance, wrapping);
  }
  LUMVET_TRY(Stream form, form_of_page(ledger_, copy, core->store().limits()));
  ledger_.drop(copy);
  // Together they shine through, not each through the other (11.6.6).
  if (!form.dict.contains("Group"))
    form.dict.set("Group",
                  Dict{{"Type", Object::name("Group")}, {"S", Object::name("Transparency")}});
  const ObjectId id = ledger_.add(Object(std::move(form)));
  forms_.emplace(std::pair(core, guest.page), id);
  return id;
}

// To the outermost page that it lies on.
Move PageChanger::move_of(const Waiting& page) const {
  Move move;
  const Matrix& moved = page.change.moved;
  move.seen = moved.inverse().bounds_of(page.crop);
  for (const Waiting* at = &page;; at = &waiting_.at(at->change.on_sheet->sheet)) {
    move.to = at->id;
    move.by = move.by.then(at->change.moved);
    if (!at->change.on_sheet) return move;
    move.by = move.by.then(at->change.on_sheet->placed);
  }
}

// Onto its sheet, as a form.
Status PageChanger::lay(Waiting& page, Move& move) {
  LUMVET_TRY(Stream stream, form_of_page(ledger_, page.id, page.limits));
  const ObjectId form = ledger_.add(Object(std::move(stream)));
  Waiting& sheet = waiting_.at(page.change.on_sheet->sheet);
  const Matrix& moved = sheet.change.moved;
  Drawn part{form, page.change.on_sheet->placed.then(moved)};
  if (sheet.change.seen) part.clip = moved.bounds_of(*sheet.change.seen);
  if (page.change.on_sheet->framed) part.frame = part.placed.bounds_of(page.crop);
  sheet.parts.push_back(part);
  move.form = form;
  return Done{};
}

Status PageChanger::finish() {
  // Pages come before the sheets that they lie on, and those before the sheets that they lie on.
  for (auto& [place, page] : waiting_) {
    if (sheets_.contains(place)) {
      Wrapping& wrapping = page.wrapping;
      wrapping.drawn.insert(wrapping.drawn.begin(), page.parts.begin(), page.parts.end());
      wrap_page(ledger_, page.id, page.balance, wrapping);
    }
    Move move = move_of(page);
    if (page.change.on_sheet) LUMVET_RETURN_IF_ERROR(lay(page, move));
    moves_.add(page.id, move);
    moves_.move_annotations(page.id);
  }
  for (const auto& [place, page] : waiting_)
    if (page.change.on_sheet) ledger_.drop(page.id);
  moves_.follow();
  return Done{};
}

void PageChanger::visit_guests(const std::function<void(SourceCopier&)>& visit) {
  for (const auto& [core, copier] : guests_) visit(*copier);
}

}  // namespace lumvet::assemble
