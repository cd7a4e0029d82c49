// SPDX-License-Identifier: Apache-2.0
#include "save/linear_plan.h"

#include <algorithm>
#include <array>
#include <set>
#include <string_view>
#include <utility>

#include "base/attempt.h"
#include "document/inheritable.h"
#include "document/name_tree.h"
#include "linear/page_needs.h"

namespace lumvet::saving {
namespace {

constexpr std::uint64_t kMostUses = 50'000'000;

// From an object to another one, by its place among the reachable.
struct Way {
  std::size_t place;
  linear::NeededBy by;
};

struct Stop {
  bool is_part_of_page = true;
  std::vector<Way> ways;  // that lead on
};

class Planner {
 public:
  Planner(const FlattenedPages& objects, const Object& catalog, const Reachable& reachable)
      : objects_(objects),
        reachable_(reachable),
        catalog_(objects.resolve(catalog).as_dict()),
        taken_(reachable.order().size()) {
    plan_.pages.resize(objects.pages().size());
    plan_.contents.resize(objects.pages().size());
    plan_.uses.resize(objects.pages().size());
    take(catalog, plan_.document);
  }

  Result<LinearPlan> plan() {
    find_first_page();
    for (const char* key : {"ViewerPreferences", "OpenAction", "AcroForm", "Threads"})
      take(catalog_[key], plan_.document);
    LUMVET_RETURN_IF_ERROR(gather_needs());
    // The first page has all that it needs.
    place_page(plan_.first_page, plan_.first, [](std::size_t) { return true; });
    gather_outline();
    plan_.first_has_outline = objects_.get(catalog_, "PageMode").is_name("UseOutlines");
    for (std::size_t page = 0; page < plan_.pages.size(); ++page) {
      if (page == plan_.first_page) continue;
      place_page(page, plan_.pages[page],
                 [this](std::size_t object) { return users_[object] == 1; });
    }
    for (std::size_t object = 0; object < users_.size(); ++object)
      if (users_[object] > 1) take(object, plan_.shared);
    gather_uses();
    const Object names = objects_.get(catalog_, "Names");
    gather_tree(names.as_dict()["Dests"], plan_.places);
    gather_tree(catalog_["Dests"], plan_.places);
    gather_tree(catalog_["PageLabels"], plan_.labels);
    for (std::size_t object = 0; object < taken_.size(); ++object) take(object, plan_.others);
    return std::move(plan_);
  }

 private:
  void take(std::size_t object, Part& part) {
    if (taken_[object]) return;
    taken_[object] = true;
    part.push_back(object);
  }
  void take(const Object& reference, Part& part) {
    if (!reference.is_reference()) return;
    if (const auto place = reachable_.place_of(reference.as_reference())) take(*place, part);
  }

  // The page at which it opens (12.3.2 and table 29).
  void find_first_page() {
    Object place = objects_.get(catalog_, "OpenAction");
    if (place.is_dict()) place = objects_.get(place.as_dict(), "D");
    if (place.is_string() || place.is_name()) {
      constexpr int kDeepest = 100;
      const Object names = objects_.get(catalog_, "Names");
      const Object old = objects_.get(catalog_, "Dests");
      place = objects_.resolve(place.is_name()
                                   ? old.as_dict()[place.as_name()]
                                   : document::find_in_name_tree(objects_, names.as_dict()["Dests"],
                                                                 place.as_string(), kDeepest));
      if (place.is_dict()) place = objects_.get(place.as_dict(), "D");
    }
    const Object page = place.as_array().empty() ? Object() : place.as_array()[0];
    const auto& pages = objects_.pages();
    const auto found = std::find(pages.begin(), pages.end(), page.as_reference());
    if (found != pages.end()) plan_.first_page = static_cast<std::size_t>(found - pages.begin());
  }

  // What each page needs to be shown, and by how many pages each object is needed.
  Status gather_needs() {
    users_.resize(taken_.size());
    std::vector<std::size_t> seen(taken_.size());  // by which page last, counted from 1
    std::uint64_t all = 0;
    for (std::size_t page = 0; page < objects_.pages().size(); ++page) {
      needs_.emplace_back();
      gather_page(page, seen);
      for (const std::size_t object : needs_.back()) ++users_[object];
      all += needs_.back().size();
      if (all > kMostUses)
        return Error(ErrorCode::limit,
                     "the pages share so many objects that the document cannot be linearized");
    }
    return Done{};
  }

  void gather_page(std::size_t page, std::vector<std::size_t>& seen) {
    const ObjectId id = objects_.pages()[page];
    const Object dict = objects_.resolve(Object(id));
    if (const auto place = reachable_.place_of(id)) note(*place, page, seen);
    std::vector<Way> open;
    note_streams(dict.as_dict()["Contents"], page, seen, open);
    plan_.contents[page] = needs_.back().size() - 1;
    const std::vector<Way> ways = ways_to(linear::needs_of_page(dict.as_dict()));
    open.insert(open.begin(), ways.rbegin(), ways.rend());
    while (!open.empty() && Attempt::follow(sizeof(Way))) {
      const Way at = open.back();
      open.pop_back();
      if (seen[at.place] == page + 1) continue;
      const Stop& stop = stop_at(at);
      if (!stop.is_part_of_page) continue;
      note(at.place, page, seen);
      open.insert(open.end(), stop.ways.rbegin(), stop.ways.rend());
    }
  }

  // The streams of a page's content come first and together; what they lead to themselves is left
  // in `open`.
  void note_streams(const Object& contents, std::size_t page, std::vector<std::size_t>& seen,
                    std::vector<Way>& open) {
    const Object list = objects_.resolve(contents);
    const Array streams = list.is_array() ? list.as_array() : Array{contents};
    for (const Object& stream : streams) {
      const auto place = reachable_.place_of(stream.as_reference());
      if (!place || !reachable_.is_stream(*place) || !note(*place, page, seen)) continue;
      const Stop& stop = stop_at({*place, linear::NeededBy::anything});
      open.insert(open.end(), stop.ways.rbegin(), stop.ways.rend());
    }
  }

  bool note(std::size_t place, std::size_t page, std::vector<std::size_t>& seen) {
    if (seen[place] == page + 1) return false;
    seen[place] = page + 1;
    needs_.back().push_back(place);
    return true;
  }

  std::vector<Way> ways_to(const std::vector<linear::Need>& needs) const {
    std::vector<Way> ways;
    for (const linear::Need& need : needs)
      if (const auto place = reachable_.place_of(need.id)) ways.push_back({*place, need.by});
    return ways;
  }

  // Looked at once, however many pages share it.
  const Stop& stop_at(const Way& way) {
    constexpr std::size_t kKinds = 3;  // of needs
    const auto [known, fresh] =
        stops_.try_emplace(way.place * kKinds + static_cast<std::size_t>(way.by));
    if (fresh) {
      const Object object = objects_.resolve(Object(reachable_.order()[way.place]));
      known->second.is_part_of_page = !linear::is_no_part_of_page(object);
      if (known->second.is_part_of_page)
        known->second.ways = ways_to(linear::needs_of(object, way.by));
    }
    return known->second;
  }

  template <typename IsOwn>
  void place_page(std::size_t page, Part& part, const IsOwn& is_own) {
    const std::size_t contents = plan_.contents[page];
    std::size_t own_contents = 0;
    for (std::size_t i = 0; i < needs_[page].size(); ++i) {
      const std::size_t object = needs_[page][i];
      // The page itself is its own, whatever else leads to it.
      if (i > 0 && !is_own(object)) continue;
      const std::size_t before = part.size();
      take(object, part);
      if (i > 0 && i <= contents && part.size() > before) ++own_contents;
    }
    // Where some lie elsewhere, the rest is not all there is; then the first is told alone.
    plan_.contents[page] =
        own_contents == contents ? contents : std::min<std::size_t>(own_contents, 1);
  }

  void gather_outline() {
    std::vector<Object> open = {catalog_["Outlines"]};
    std::set<ObjectId> seen;
    while (!open.empty()) {
      const Object at = open.back();
      open.pop_back();
      if (!at.is_reference() || !seen.insert(at.as_reference()).second) continue;
      take(at, plan_.outline);
      const Object object = objects_.resolve(at);
      open.push_back(object.as_dict()["Next"]);
      open.push_back(object.as_dict()["First"]);
    }
  }

  void gather_tree(const Object& root, Part& part) {
    std::vector<Object> open = {root};
    std::set<ObjectId> seen;
    while (!open.empty()) {
      const Object at = open.back();
      open.pop_back();
      if (at.is_reference() && !seen.insert(at.as_reference()).second) continue;
      take(at, part);
      const Object object = objects_.resolve(at);
      const Object kids = objects_.get(object.as_dict(), "Kids");
      open.insert(open.end(), kids.as_array().rbegin(), kids.as_array().rend());
    }
  }

  // What pages need that is neither their own nor among what every viewer has anyway.
  void gather_uses() {
    std::vector<bool> is_elsewhere(taken_.size());
    for (const std::size_t object : plan_.first) is_elsewhere[object] = true;
    for (const std::size_t object : plan_.shared) is_elsewhere[object] = true;
    for (std::size_t page = 0; page < needs_.size(); ++page) {
      if (page == plan_.first_page) continue;
      for (const std::size_t object : needs_[page])
        if (is_elsewhere[object]) plan_.uses[page].push_back(object);
    }
  }

  const FlattenedPages& objects_;
  const Reachable& reachable_;
  Dict catalog_;
  std::vector<bool> taken_;
  std::unordered_map<std::size_t, Stop> stops_;  // by place and kind of need
  std::vector<Part> needs_;                      // by page
  std::vector<std::uint32_t> users_;             // by object
  LinearPlan plan_;
};

}  // namespace

Result<FlattenedPages> FlattenedPages::of(const objects::Resolver& objects, const Object& catalog) {
  FlattenedPages pages(objects);
  pages.walk(objects.resolve(catalog).as_dict()["Pages"]);
  if (pages.pages_.empty())
    return Error(ErrorCode::malformed, "a document without pages cannot be linearized");
  return pages;
}

Object FlattenedPages::resolve(const Object& object) const {
  if (object.is_reference()) {
    const auto changed = changed_.find(key(object.as_reference()));
    if (changed != changed_.end()) return changed->second;
  }
  return objects_->resolve(object);
}

void FlattenedPages::walk(const Object& root) {
  struct Open {
    Object node;
    Dict inherited;
  };
  std::vector<Open> open = {{root, Dict()}};
  std::set<ObjectId> seen;
  while (!open.empty()) {
    const Open at = open.back();
    open.pop_back();
    if (!at.node.is_reference() || !seen.insert(at.node.as_reference()).second) continue;
    Dict dict = resolve(at.node).as_dict();
    Dict inherited = at.inherited;
    for (const std::string_view key : document::kInheritable)
      if (dict.contains(key)) inherited.set(key, dict[key]);
    const Object kids = objects_->get(dict, "Kids");
    if (kids.is_array()) {
      Array numbered = kids.as_array();
      bool has_direct = false;
      for (Object& kid : numbered) {
        if (!kid.is_dict()) continue;
        const ObjectId id{next_--, 0};
        changed_[key(id)] = std::exchange(kid, Object(id));
        has_direct = true;
      }
      for (std::size_t i = numbered.size(); i-- > 0;) open.push_back({numbered[i], inherited});
      if (!has_direct) continue;
      dict.set("Kids", std::move(numbered));
    } else if (!dict.is_empty()) {
      for (const auto& [key, value] : inherited) dict.set(key, value);
      // What damage took away, since it has to be there (table 31).
      if (!objects_->get(dict, "Resources").is_dict()) dict.set("Resources", Dict());
      if (!objects_->get(dict, "MediaBox").is_array())
        dict.set("MediaBox", Array{Object(0), Object(0), Object(612), Object(792)});
      pages_.push_back(at.node.as_reference());
    }
    changed_[key(at.node.as_reference())] = std::move(dict);
  }
}

Result<LinearPlan> plan_parts(const FlattenedPages& objects, const Object& catalog,
                              const Reachable& reachable) {
  return Planner(objects, catalog, reachable).plan();
}

}  // namespace lumvet::saving
