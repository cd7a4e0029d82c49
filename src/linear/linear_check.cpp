// SPDX-License-Identifier: Apache-2.0
#include "lumvet/linear/linear_check.h"

#include <algorithm>
#include <map>

#include "base/attempt.h"
#include "document/inside.h"
#include "document/revisions.h"
#include "linear/linear_file.h"

namespace lumvet {
namespace {

constexpr std::size_t kMostTold = 100;

class LinearChecker {
 public:
  LinearChecker(const Document& document, linear::LinearFile file)
      : document_(document), store_(store_of(document)), file_(std::move(file)) {
    for (std::uint32_t number = 0; number < store_.size(); ++number) {
      const file::XrefEntry entry = store_.entry_of(number);
      if (entry.kind == file::XrefEntry::Kind::in_file)
        objects_[entry.where - store_.header().offset] = number;
    }
    for (const std::uint64_t place : store_.cross_references().places())
      boundaries_.push_back(place - store_.header().offset);
  }

  std::vector<std::string> check() {
    compare("/L, the file's length", file_.number("L"), document_.file_size());
    const auto pages = static_cast<std::uint64_t>(document_.page_count());
    compare("/N, the number of pages", file_.number("N"), pages);
    if (file_.first_page() >= pages) {
      tell("/P names page " + std::to_string(file_.first_page() + 1) + ", but there are " +
           std::to_string(pages));
      return differences_;
    }
    const auto first = document_.page(static_cast<int>(file_.first_page()));
    if (first.ok()) compare("/O, the first page's object", file_.number("O"), first->id().number);
    if (!is_boundary(file_.number("E")))
      tell("/E, " + std::to_string(file_.number("E")) + ", is where no object begins");
    const Result<linear::HintTables> tables = file_.tables(document_);
    if (tables.ok())
      compare_tables(*tables);
    else
      tell(tables.error().message());
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

  bool is_boundary(std::uint64_t place) const {
    return objects_.contains(place) ||
           std::find(boundaries_.begin(), boundaries_.end(), place) != boundaries_.end();
  }
  std::size_t objects_within(std::uint64_t from, std::uint64_t to) const {
    auto at = objects_.lower_bound(from);
    std::size_t count = 0;
    for (; at != objects_.end() && at->first < to; ++at)
      count += at->first != file_.hints_at() ? 1 : 0;
    return count;
  }

  void compare_tables(const linear::HintTables& tables) {
    compare_pages(tables);
    compare_shared(tables);
    for (const linear::RangeHint& range : tables.ranges) {
      const std::uint64_t place = file_.real(range.place);
      const auto object = objects_.find(place);
      if (object == objects_.end() || object->second != range.first_object)
        tell(std::string("the table /") + range.key + " puts object " +
             std::to_string(range.first_object) + " at byte " + std::to_string(place) +
             ", where it is not");
      else
        compare(std::string("the number of objects of the table /") + range.key, range.objects,
                objects_within(place, file_.real(range.place + range.length)));
    }
  }

  void compare_pages(const linear::HintTables& tables) {
    const std::vector<linear::FileRange> ranges = file_.page_ranges(tables);
    for (std::size_t index = 0; index < ranges.size(); ++index) {
      const linear::PageHint& hint = tables.pages[index];
      const std::string page = "page " + std::to_string(index + 1);
      const auto opened = document_.page(static_cast<int>(index));
      const auto place = opened.ok() ? store_.place_of(opened->id().number) : std::nullopt;
      const auto [start, end] = ranges[index];
      if (place) compare("the place of " + page, start, *place - store_.header().offset);
      compare("the number of objects of " + page, hint.objects, objects_within(start, end));
      if (opened.ok()) compare_content(page, opened->dict()["Contents"], hint, start);
      for (const std::uint64_t group : hint.shared)
        if (group >= tables.shared.size())
          tell(page + " uses the shared group " + std::to_string(group) + " of " +
               std::to_string(tables.shared.size()));
    }
  }

  // Where a page's first content stream lies, if its table says so: of an array's, others may lie
  // elsewhere, and many writers leave both at 0 or give the whole page.
  void compare_content(const std::string& page, const Object& contents,
                       const linear::PageHint& hint, std::uint64_t start) {
    if (hint.content_offset == 0 || hint.content_length == 0) return;
    Object first = contents;
    if (first.is_reference() && store_.resolve(first).is_array()) first = store_.resolve(first);
    if (first.is_array() && !first.as_array().empty()) first = Object(first.as_array()[0]);
    const file::XrefEntry place =
        first.is_reference() ? store_.entry_of(first.as_reference().number) : file::XrefEntry();
    if (place.kind == file::XrefEntry::Kind::in_file)
      compare("the place of the content of " + page, start + hint.content_offset,
              place.where - store_.header().offset);
  }

  void compare_shared(const linear::HintTables& tables) {
    const std::vector<linear::FileRange> ranges = file_.group_ranges(tables);
    if (ranges.size() > tables.first_page_groups) {
      const auto first = objects_.find(ranges[tables.first_page_groups].begin);
      if (first != objects_.end())
        compare("the first shared object", tables.first_shared_object, first->second);
    }
    for (std::size_t i = 0; i < ranges.size(); ++i) {
      const std::string group = "shared group " + std::to_string(i);
      const auto [start, end] = ranges[i];
      if (!objects_.contains(start))
        tell(group + " begins at byte " + std::to_string(start) + ", where no object begins");
      else
        compare("the number of objects of " + group, tables.shared[i].objects,
                objects_within(start, end));
    }
  }

  const Document& document_;
  const file::ObjectStore& store_;
  linear::LinearFile file_;
  std::map<std::uint64_t, std::uint32_t> objects_;  // by place, counted from the header
  std::vector<std::uint64_t> boundaries_;           // besides the objects: cross references
  std::vector<std::string> differences_;
};

}  // namespace

Result<LinearCheck> check_linearized(const Document& document) {
  return attempted([&] {
    LinearCheck check;
    auto file = linear::LinearFile::of(document);
    if (!file) return check;
    check.state = document.is_linearized() ? LinearCheck::State::yes : LinearCheck::State::was_once;
    if (document.is_linearized() && !document.was_repaired())
      check.differences = LinearChecker(document, *std::move(file)).check();
    return check;
  });
}

}  // namespace lumvet
