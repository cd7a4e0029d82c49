// SPDX-License-Identifier: Apache-2.0
#include "lumvet/save/linear_check.h"

#include <algorithm>
#include <map>

#include "document/core.h"
#include "document/revisions.h"
#include "save/hint_tables.h"

namespace lumvet {
namespace {

constexpr std::size_t kMostTold = 100;

class LinearChecker {
 public:
  LinearChecker(const Document& document, Dict parameters)
      : document_(document),
        store_(document.core().store()),
        parameters_(std::move(parameters)),
        hints_at_(number_at("H", 0)),
        hints_size_(number_at("H", 1)) {
    for (std::uint32_t number = 0; number < store_.size(); ++number) {
      const file::XrefEntry entry = store_.entry_of(number);
      if (entry.kind == file::XrefEntry::Kind::in_file)
        objects_[entry.where - store_.header().offset] = number;
    }
    for (const std::uint64_t place : store_.cross_references().places())
      boundaries_.push_back(place - store_.header().offset);
  }

  std::vector<std::string> check() {
    compare("/L, the file's length", number("L"), document_.file_size());
    const auto pages = static_cast<std::uint64_t>(document_.page_count());
    compare("/N, the number of pages", number("N"), pages);
    first_page_ = number("P");
    if (first_page_ >= pages) {
      tell("/P names page " + std::to_string(first_page_ + 1) + ", but there are " +
           std::to_string(pages));
      return differences_;
    }
    const auto first = document_.page(static_cast<int>(first_page_));
    if (first.ok()) compare("/O, the first page's object", number("O"), first->id().number);
    if (!is_boundary(number("E")))
      tell("/E, " + std::to_string(number("E")) + ", is where no object begins");
    compare_hints(pages);
    return differences_;
  }

 private:
  void tell(std::string difference) {
    if (differences_.size() < kMostTold) differences_.push_back(std::move(difference));
  }
  void compare(const std::string& what, std::uint64_t stated, std::uint64_t real) {
    if (stated != real)
      tell(what + ": " + std::to_string(stated) + " is stated, " + std::to_string(real) + " it is");
  }

  std::uint64_t number(const char* key) const {
    return static_cast<std::uint64_t>(std::max<std::int64_t>(0, parameters_[key].as_integer()));
  }
  std::uint64_t number_at(const char* key, std::size_t i) const {
    const Array& items = parameters_[key].as_array();
    return i < items.size()
               ? static_cast<std::uint64_t>(std::max<std::int64_t>(0, items[i].as_integer()))
               : 0;
  }

  bool is_boundary(std::uint64_t place) const {
    return objects_.contains(place) ||
           std::find(boundaries_.begin(), boundaries_.end(), place) != boundaries_.end();
  }
  // Tables count as if the hint stream were not there.
  std::uint64_t real(std::uint64_t place) const {
    return place >= hints_at_ ? place + hints_size_ : place;
  }
  std::size_t objects_within(std::uint64_t from, std::uint64_t to) const {
    auto at = objects_.lower_bound(from);
    std::size_t count = 0;
    for (; at != objects_.end() && at->first < to; ++at) count += at->first != hints_at_ ? 1 : 0;
    return count;
  }

  void compare_hints(std::uint64_t pages) {
    const auto found = objects_.find(hints_at_);
    const Object stream =
        found == objects_.end() ? Object() : document_.resolve(Object(ObjectId{found->second, 0}));
    const Result<ByteSlice> bytes =
        stream.is_stream() ? document_.decoded(stream)
                           : Result<ByteSlice>(Error(ErrorCode::malformed, "no stream is there"));
    if (!bytes.ok()) {
      tell("/H, the hint stream at " + std::to_string(hints_at_) +
           ", cannot be read: " + bytes.error().message());
      return;
    }
    std::vector<std::pair<char, std::uint64_t>> ranges;
    for (const char key : {'O', 'A', 'E', 'I', 'L'})
      if (const Object& at = stream.as_dict()[std::string(1, key)]; at.is_integer())
        ranges.emplace_back(key, at.as_integer());
    const auto tables =
        saving::read_hints(bytes->view(), pages,
                           static_cast<std::uint64_t>(stream.as_dict()["S"].as_integer()), ranges);
    if (!tables.ok()) {
      tell(tables.error().message());
      return;
    }
    compare_pages(*tables);
    compare_shared(*tables);
    for (const saving::RangeHint& range : tables->ranges) {
      const auto object = objects_.find(real(range.place));
      if (object == objects_.end() || object->second != range.first_object)
        tell(std::string("the table /") + range.key + " puts object " +
             std::to_string(range.first_object) + " at byte " + std::to_string(real(range.place)) +
             ", where it is not");
    }
  }

  void compare_pages(const saving::HintTables& tables) {
    std::vector<std::size_t> order = {static_cast<std::size_t>(first_page_)};
    for (std::size_t i = 0; i < tables.pages.size(); ++i)
      if (i != first_page_) order.push_back(i);
    std::uint64_t at = tables.first_page_place;
    for (const std::size_t index : order) {
      const saving::PageHint& hint = tables.pages[index];
      const std::string page = "page " + std::to_string(index + 1);
      const auto opened = document_.page(static_cast<int>(index));
      const auto place = opened.ok() ? document_.place_of(opened->id()) : std::nullopt;
      const std::uint64_t start = real(at);
      if (place) compare("the place of " + page, start, place->offset - store_.header().offset);
      at += hint.length;
      compare("the number of objects of " + page, hint.objects, objects_within(start, real(at)));
      for (const std::uint64_t group : hint.shared)
        if (group >= tables.shared.size())
          tell(page + " uses the shared group " + std::to_string(group) + " of " +
               std::to_string(tables.shared.size()));
    }
  }

  void compare_shared(const saving::HintTables& tables) {
    std::uint64_t at = tables.first_page_place;
    for (std::size_t i = 0; i < tables.shared.size(); ++i) {
      if (i == tables.first_page_groups) at = tables.first_shared_place;
      const std::string group = "shared group " + std::to_string(i);
      if (!objects_.contains(real(at)))
        tell(group + " begins at byte " + std::to_string(real(at)) + ", where no object begins");
      else
        compare("the number of objects of " + group, tables.shared[i].objects,
                objects_within(real(at), real(at + tables.shared[i].length)));
      at += tables.shared[i].length;
    }
  }

  const Document& document_;
  const file::ObjectStore& store_;
  Dict parameters_;
  std::uint64_t hints_at_;
  std::uint64_t hints_size_;
  std::uint64_t first_page_ = 0;
  std::map<std::uint64_t, std::uint32_t> objects_;  // by place, counted from the header
  std::vector<std::uint64_t> boundaries_;           // besides the objects: cross references
  std::vector<std::string> differences_;
};

}  // namespace

LinearCheck check_linearized(const Document& document) {
  LinearCheck check;
  const auto parameters = document::linear_parameters(document.core().store());
  if (!parameters) return check;
  check.state = document.is_linearized() ? LinearCheck::State::yes : LinearCheck::State::was_once;
  if (document.is_linearized() && !document.was_repaired())
    check.differences = LinearChecker(document, *parameters).check();
  return check;
}

}  // namespace lumvet
