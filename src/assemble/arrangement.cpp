// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/arrangement.h"

#include <algorithm>

#include "assemble/arrangement_plan.h"
#include "assemble/blank_pages.h"
#include "save/full_writer.h"

namespace lumvet {

using assemble::pages_of;
using assemble::Plan;
using assemble::Planned;

Arrangement::Arrangement(const Document& document) {
  Plan plan;
  for (int i = 0; i < document.page_count(); ++i) plan.push_back({0, i, {}, {}});
  impl_ = std::make_unique<Impl>(document, std::move(plan));
}
Arrangement::Arrangement(Arrangement&&) noexcept = default;
Arrangement& Arrangement::operator=(Arrangement&&) noexcept = default;
Arrangement::~Arrangement() = default;

int Arrangement::page_count() const { return impl_->count(); }
Result<std::string> Arrangement::title() const {
  LUMVET_TRY(const Metadata metadata, impl_->documents.front().metadata());
  return metadata.properties.title;
}

Status Arrangement::turn(const PageSelection& pages, int degrees) {
  constexpr int kQuarter = 90;
  constexpr int kWhole = 360;
  if (degrees % kQuarter != 0)
    return Error(ErrorCode::invalid_argument,
                 "pages turn by 90, 180 or 270 degrees, not by " + std::to_string(degrees));
  LUMVET_TRY(const std::vector<bool> marks, impl_->marked(pages));
  Plan plan = impl_->plan();
  for (std::size_t i = 0; i < plan.size(); ++i)
    if (marks[i])
      plan[i].change.turn = ((plan[i].change.turn + degrees) % kWhole + kWhole) % kWhole;
  impl_->take(
      "turned " + pages_of(static_cast<std::size_t>(std::count(marks.begin(), marks.end(), true))),
      std::move(plan));
  return Done{};
}

Status Arrangement::move(const PageSelection& pages, int before) {
  LUMVET_RETURN_IF_ERROR(impl_->is_place(before));
  LUMVET_TRY(const std::vector<int> indices, impl_->chosen(pages));
  LUMVET_TRY(const std::vector<bool> marks, impl_->marked(pages));
  const Plan& old = impl_->plan();
  Plan plan;
  const auto put_moved = [&] {
    std::vector<bool> done(old.size());
    for (const int index : indices) {
      const auto i = static_cast<std::size_t>(index);
      if (!done[i]) plan.push_back(old[i]);
      done[i] = true;
    }
  };
  for (std::size_t i = 0; i < old.size(); ++i) {
    if (static_cast<int>(i) == before) put_moved();
    if (!marks[i]) plan.push_back(old[i]);
  }
  if (before == impl_->count()) put_moved();
  impl_->take(
      "moved " + pages_of(static_cast<std::size_t>(std::count(marks.begin(), marks.end(), true))),
      std::move(plan));
  return Done{};
}

Status Arrangement::drop(const PageSelection& pages) {
  LUMVET_TRY(const std::vector<bool> marks, impl_->marked(pages));
  Plan plan;
  for (std::size_t i = 0; i < marks.size(); ++i)
    if (!marks[i]) plan.push_back(impl_->plan()[i]);
  if (plan.empty())
    return Error(ErrorCode::invalid_argument, "no page would be left; a document has one at least");
  const std::string what = "dropped " + pages_of(marks.size() - plan.size());
  impl_->take(what, std::move(plan));
  return Done{};
}

Status Arrangement::duplicate(const PageSelection& pages) {
  LUMVET_TRY(const std::vector<bool> marks, impl_->marked(pages));
  Plan plan;
  for (std::size_t i = 0; i < marks.size(); ++i)
    plan.insert(plan.end(), marks[i] ? 2 : 1, impl_->plan()[i]);
  const std::string what = "duplicated " + pages_of(plan.size() - marks.size());
  impl_->take(what, std::move(plan));
  return Done{};
}

Status Arrangement::keep(const PageSelection& pages) {
  LUMVET_TRY(const std::vector<int> indices, impl_->chosen(pages));
  Plan plan;
  for (const int index : indices) plan.push_back(impl_->plan()[static_cast<std::size_t>(index)]);
  const std::string what = "kept " + pages_of(plan.size()) + " in a new order";
  impl_->take(what, std::move(plan));
  return Done{};
}

Status Arrangement::reverse(const PageSelection& pages) {
  LUMVET_TRY(const std::vector<bool> marks, impl_->marked(pages));
  Plan plan = impl_->plan();
  std::vector<std::size_t> places;
  for (std::size_t i = 0; i < marks.size(); ++i)
    if (marks[i]) places.push_back(i);
  for (std::size_t i = 0; i < places.size(); ++i)
    plan[places[i]] = impl_->plan()[places[places.size() - 1 - i]];
  impl_->take("reversed " + pages_of(places.size()), std::move(plan));
  return Done{};
}

Status Arrangement::interleave(bool backs_reversed) {
  const Plan& old = impl_->plan();
  if (old.size() % 2 != 0)
    return Error(ErrorCode::invalid_argument,
                 "fronts and backs must be equally many, but there are " + pages_of(old.size()));
  const std::size_t half = old.size() / 2;
  Plan plan;
  for (std::size_t i = 0; i < half; ++i) {
    plan.push_back(old[i]);
    plan.push_back(old[backs_reversed ? old.size() - 1 - i : half + i]);
  }
  impl_->take("interleaved " + pages_of(old.size()), std::move(plan));
  return Done{};
}

Status Arrangement::insert(const Document& other, const PageSelection& pages, int before) {
  LUMVET_RETURN_IF_ERROR(impl_->is_place(before));
  Result<std::vector<int>> indices = pages.in(other.page_count());
  if (!indices.ok()) return std::move(indices).error().during("taking pages of " + other.name());
  const std::size_t place = impl_->place_of(other);
  Plan plan = impl_->plan();
  Plan inserted;
  for (const int index : *indices) inserted.push_back({place, index, {}, {}});
  plan.insert(plan.begin() + before, inserted.begin(), inserted.end());
  impl_->take("inserted " + pages_of(inserted.size()), std::move(plan));
  return Done{};
}

Status Arrangement::insert_blank(int before, int count, const PaperSize& size) {
  LUMVET_RETURN_IF_ERROR(impl_->is_place(before));
  constexpr int kMost = 10'000;
  if (count < 1 || count > kMost)
    return Error(ErrorCode::invalid_argument,
                 "1 to " + std::to_string(kMost) + " blank pages can be inserted at once");
  LUMVET_TRY(const Document blank, assemble::blank_document(size));
  const std::size_t place = impl_->place_of(blank);
  Plan plan = impl_->plan();
  plan.insert(plan.begin() + before, static_cast<std::size_t>(count), Planned{place, 0, {}, {}});
  impl_->take("inserted " + pages_of(static_cast<std::size_t>(count)), std::move(plan));
  return Done{};
}

bool Arrangement::can_undo() const { return impl_->history.can_undo(); }
bool Arrangement::can_redo() const { return impl_->history.can_redo(); }
void Arrangement::undo() { impl_->history.undo(); }
void Arrangement::redo() { impl_->history.redo(); }
std::vector<std::string> Arrangement::steps() const { return impl_->history.steps(); }

std::vector<int> Arrangement::order() const {
  std::vector<int> order;
  for (const Planned& planned : impl_->plan())
    order.push_back(planned.document == 0 ? planned.page : -1);
  return order;
}

Result<Document> Arrangement::preview(const PageSelection& pages) const {
  LUMVET_TRY(const std::vector<int> indices, impl_->chosen(pages));
  Plan plan;
  for (const int index : indices) plan.push_back(impl_->plan()[static_cast<std::size_t>(index)]);
  BufferSink sink;
  LUMVET_RETURN_IF_ERROR(impl_->save(plan, sink, {}));
  return Document::open(sink.take());
}

Result<SaveReport> Arrangement::save(ByteSink& sink, const SaveOptions& options) const {
  return impl_->save(impl_->plan(), sink, options);
}

Result<SaveReport> Arrangement::save(const std::filesystem::path& path,
                                     const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

}  // namespace lumvet
