// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/arrangement.h"

#include <algorithm>
#include <numeric>

#include "assemble/binder.h"
#include "assemble/blank_pages.h"
#include "base/history.h"
#include "document/permission.h"
#include "save/full_writer.h"

namespace lumvet {
namespace {

struct Planned {
  std::size_t document;  // its place among the documents
  int page;              // of it
  assemble::PageChange change;
};
using Plan = std::vector<Planned>;
using PlanPtr = std::shared_ptr<const Plan>;

std::string pages_of(std::size_t count) {
  return std::to_string(count) + (count == 1 ? " page" : " pages");
}

// A box in the page's own space without what is cut off where it is shown turned to the right.
Rect cropped(const Rect& box, int degrees, double user_unit, const Margins& m) {
  const auto without = [&](double left, double bottom, double right, double top) {
    return Rect{box.left + left / user_unit, box.bottom + bottom / user_unit,
                box.right - right / user_unit, box.top - top / user_unit};
  };
  switch (degrees) {
    case 90: return without(m.top, m.left, m.bottom, m.right);
    case 180: return without(m.right, m.top, m.left, m.bottom);
    case 270: return without(m.bottom, m.right, m.top, m.left);
    default: return without(m.left, m.bottom, m.right, m.top);
  }
}

}  // namespace

struct Arrangement::Impl {
  Impl(const Document& document, Plan plan)
      : documents{document}, history(std::make_shared<const Plan>(std::move(plan))) {}

  std::vector<Document> documents;  // the first is the one that is arranged
  History<PlanPtr> history;

  const Plan& plan() const { return *history.now(); }
  int count() const { return static_cast<int>(plan().size()); }

  void take(std::string what, Plan plan) {
    history.take(std::move(what), std::make_shared<const Plan>(std::move(plan)));
  }

  Result<std::vector<int>> chosen(const PageSelection& pages) const {
    LUMVET_TRY(std::vector<int> indices, pages.in(count()));
    if (indices.empty())
      return Error(ErrorCode::invalid_argument,
                   "the selection names none of the " + pages_of(plan().size()));
    return indices;
  }

  // Each once.
  Result<std::vector<bool>> marked(const PageSelection& pages) const {
    LUMVET_TRY(const std::vector<int> indices, chosen(pages));
    std::vector<bool> marks(plan().size());
    for (const int index : indices) marks[static_cast<std::size_t>(index)] = true;
    return marks;
  }

  Status is_place(int before) const {
    if (before >= 0 && before <= count()) return Done{};
    return Error(ErrorCode::invalid_argument, "there is no place before page " +
                                                  std::to_string(before + 1) + "; there are " +
                                                  pages_of(plan().size()));
  }

  std::size_t place_of(const Document& document) {
    const auto known = std::find_if(documents.begin(), documents.end(), [&](const Document& other) {
      return &other.core() == &document.core();
    });
    const auto place = static_cast<std::size_t>(known - documents.begin());
    if (place == documents.size()) documents.push_back(document);
    return place;
  }

  // Pages of one document that follow each other are one part; what belongs to a whole document
  // comes with its first.
  Result<std::vector<assemble::Part>> parts(const Plan& plan) const {
    std::vector<assemble::Part> parts;
    std::vector<bool> met(documents.size());
    for (std::size_t i = 0; i < plan.size(); ++i) {
      const Planned& planned = plan[i];
      if (i == 0 || plan[i - 1].document != planned.document) {
        const bool is_first = !met[planned.document];
        met[planned.document] = true;
        Carry carry{.outlines = is_first, .attachments = is_first};
        carry.metadata = carry.opening = carry.output_intents = planned.document == 0;
        parts.push_back({documents[planned.document], {}, carry, {}});
      }
      LUMVET_TRY(Page page, documents[planned.document].page(planned.page));
      parts.back().pages.push_back(std::move(page));
      parts.back().changes.push_back(planned.change);
    }
    return parts;
  }

  Result<SaveReport> save(const Plan& plan, ByteSink& sink, const SaveOptions& options) const {
    if (plan.empty())
      return Error(ErrorCode::invalid_argument, "no page is left; a document has one at least");
    for (const Document& document : documents)
      LUMVET_CHECK(document::check_permission(document, &Permissions::assemble,
                                              "pages be taken out of it or rearranged"));
    LUMVET_TRY(const std::vector<assemble::Part> all, parts(plan));
    return assemble::Binder(all, {}).bind(options, sink);
  }
};

Arrangement::Arrangement(const Document& document) {
  Plan plan;
  for (int i = 0; i < document.page_count(); ++i) plan.push_back({0, i, {}});
  impl_ = std::make_unique<Impl>(document, std::move(plan));
}
Arrangement::Arrangement(Arrangement&&) noexcept = default;
Arrangement& Arrangement::operator=(Arrangement&&) noexcept = default;
Arrangement::~Arrangement() = default;

int Arrangement::page_count() const { return impl_->count(); }

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
  LUMVET_CHECK(impl_->is_place(before));
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
  LUMVET_CHECK(impl_->is_place(before));
  Result<std::vector<int>> indices = pages.in(other.page_count());
  if (!indices.ok()) return std::move(indices).error().during("taking pages of " + other.name());
  const std::size_t place = impl_->place_of(other);
  Plan plan = impl_->plan();
  Plan inserted;
  for (const int index : *indices) inserted.push_back({place, index, {}});
  plan.insert(plan.begin() + before, inserted.begin(), inserted.end());
  impl_->take("inserted " + pages_of(inserted.size()), std::move(plan));
  return Done{};
}

Status Arrangement::insert_blank(int before, int count, const PaperSize& size) {
  LUMVET_CHECK(impl_->is_place(before));
  constexpr int kMost = 10'000;
  if (count < 1 || count > kMost)
    return Error(ErrorCode::invalid_argument,
                 "1 to " + std::to_string(kMost) + " blank pages can be inserted at once");
  LUMVET_TRY(const Document blank, assemble::blank_document(size));
  const std::size_t place = impl_->place_of(blank);
  Plan plan = impl_->plan();
  plan.insert(plan.begin() + before, static_cast<std::size_t>(count), Planned{place, 0, {}});
  impl_->take("inserted " + pages_of(static_cast<std::size_t>(count)), std::move(plan));
  return Done{};
}

Status Arrangement::crop(const PageSelection& pages, const Margins& margins) {
  LUMVET_TRY(const std::vector<bool> marks, impl_->marked(pages));
  Plan plan = impl_->plan();
  for (std::size_t i = 0; i < plan.size(); ++i) {
    if (!marks[i]) continue;
    LUMVET_TRY(const Page page, impl_->documents[plan[i].document].page(plan[i].page));
    assemble::PageChange& change = plan[i].change;
    change.crop = cropped(change.crop.value_or(page.crop_box()),
                          (page.rotation() + change.turn) % 360, page.user_unit(), margins);
    if (change.crop->width() < 1 || change.crop->height() < 1)
      return Error(ErrorCode::invalid_argument,
                   "nothing would be left of page " + std::to_string(i + 1) + ", which is " +
                       std::to_string(static_cast<int>(page.width())) + " × " +
                       std::to_string(static_cast<int>(page.height())) + " points large");
  }
  impl_->take(
      "cropped " + pages_of(static_cast<std::size_t>(std::count(marks.begin(), marks.end(), true))),
      std::move(plan));
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
  LUMVET_CHECK(impl_->save(plan, sink, {}));
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
