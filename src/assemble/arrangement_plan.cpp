// SPDX-License-Identifier: Apache-2.0
#include "assemble/arrangement_plan.h"

#include <algorithm>

#include "base/attempt.h"
#include "document/inside.h"
#include "document/permission.h"

namespace lumvet {
namespace assemble {

std::string pages_of(std::size_t count) {
  return std::to_string(count) + (count == 1 ? " page" : " pages");
}

void visit(const Planned& page, const std::function<void(const Planned&)>& with) {
  if (page.parts)
    for (const OnPlannedSheet& part : *page.parts) visit(part.page, with);
  with(page);
}

}  // namespace assemble

namespace {

using assemble::Part;
using assemble::Plan;
using assemble::Planned;

struct Flat {
  const Planned* planned;
  std::optional<assemble::OnSheet> on_sheet;
};

// What lies on sheets before them.
void flatten(const Planned& planned, std::vector<Flat>& all) {
  std::vector<std::size_t> parts;
  if (planned.parts)
    for (const assemble::OnPlannedSheet& part : *planned.parts) {
      flatten(part.page, all);
      parts.push_back(all.size() - 1);
      all.back().on_sheet = {0, part.placed, part.framed};
    }
  for (const std::size_t part : parts) all[part].on_sheet->sheet = all.size();
  all.push_back({&planned, {}});
}

}  // namespace

Result<std::vector<int>> Arrangement::Impl::chosen(const PageSelection& pages) const {
  LUMVET_TRY(std::vector<int> indices, pages.in(count()));
  if (indices.empty())
    return Error(ErrorCode::invalid_argument,
                 "the selection names none of the " + assemble::pages_of(plan().size()));
  return indices;
}

Result<std::vector<bool>> Arrangement::Impl::marked(const PageSelection& pages) const {
  LUMVET_TRY(const std::vector<int> indices, chosen(pages));
  std::vector<bool> marks(plan().size());
  for (const int index : indices) marks[static_cast<std::size_t>(index)] = true;
  return marks;
}

Status Arrangement::Impl::is_place(int before) const {
  if (before >= 0 && before <= count()) return Done{};
  return Error(ErrorCode::invalid_argument, "there is no place before page " +
                                                std::to_string(before + 1) + "; there are " +
                                                assemble::pages_of(plan().size()));
}

std::size_t Arrangement::Impl::place_of(const Document& document) {
  const auto known = std::find_if(documents.begin(), documents.end(), [&](const Document& other) {
    return &core_of(other) == &core_of(document);
  });
  const auto place = static_cast<std::size_t>(known - documents.begin());
  if (place == documents.size()) documents.push_back(document);
  return place;
}

Result<Page> Arrangement::Impl::page_of(const Planned& planned) const {
  return documents[planned.document].page(planned.page);
}

Result<assemble::Shape> Arrangement::Impl::shape_of(const Planned& planned) const {
  LUMVET_TRY(const Page page, page_of(planned));
  return assemble::shape_of(page, planned.change);
}

// Pages of one document that follow each other are one part; what belongs to a whole document comes
// with its first.
Result<std::vector<Part>> Arrangement::Impl::parts(const Plan& plan) const {
  std::vector<Flat> all;
  for (const Planned& planned : plan) flatten(planned, all);
  std::vector<Part> parts;
  std::vector<bool> met(documents.size());
  for (std::size_t i = 0; i < all.size(); ++i) {
    const Planned& planned = *all[i].planned;
    if (i == 0 || all[i - 1].planned->document != planned.document) {
      const bool is_first = !met[planned.document];
      met[planned.document] = true;
      Carry carry{.outlines = is_first, .attachments = is_first};
      carry.metadata = carry.opening = carry.output_intents = planned.document == 0;
      parts.push_back({documents[planned.document], {}, carry, {}});
    }
    LUMVET_TRY(Page page, page_of(planned));
    parts.back().pages.push_back(std::move(page));
    parts.back().changes.push_back(planned.change);
    parts.back().changes.back().on_sheet = all[i].on_sheet;
  }
  return parts;
}

// Of those documents that are still in the plan.
Status Arrangement::Impl::check_permissions(const Plan& plan) const {
  const auto check = [](const Document& document) {
    return document::check_permission(document, &Permissions::assemble,
                                      "pages be taken out of it or rearranged");
  };
  Status allowed = Done{};
  std::vector<bool> met(documents.size());
  for (const Planned& top : plan)
    assemble::visit(top, [&](const Planned& page) {
      if (allowed.ok() && !met[page.document]) allowed = check(documents[page.document]);
      met[page.document] = true;
      for (const assemble::Guest& guest : page.change.guests)
        if (allowed.ok()) allowed = check(guest.document);
    });
  return allowed;
}

Result<SaveReport> Arrangement::Impl::save(const Plan& plan, ByteSink& sink,
                                           const SaveOptions& options) const {
  if (plan.empty())
    return Error(ErrorCode::invalid_argument, "no page is left; a document has one at least");
  LUMVET_RETURN_IF_ERROR(check_permissions(plan));
  return attempted([&]() -> Result<SaveReport> {
    LUMVET_TRY(const std::vector<Part> all, parts(plan));
    return assemble::Binder(all, {}).bind(options, sink);
  });
}

}  // namespace lumvet
