// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <map>
#include <numeric>

#include "base/attempt.h"
#include "lumvet/assemble/split.h"

namespace lumvet {
namespace {

std::vector<int> range(int first, int end) {
  std::vector<int> pages(static_cast<std::size_t>(std::max(0, end - first)));
  std::iota(pages.begin(), pages.end(), first);
  return pages;
}

// Parts that begin at these pages, each with its title; the first page begins one in any case.
std::vector<SplitPart> parts_from(std::map<int, std::string> starts, int page_count) {
  starts.emplace(0, "");
  std::vector<SplitPart> parts;
  for (auto at = starts.begin(); at != starts.end(); ++at) {
    const auto next = std::next(at);
    parts.push_back(
        {range(at->first, next == starts.end() ? page_count : next->first), at->second});
  }
  return parts;
}

// Counts what is written.
class CountingSink final : public ByteSink {
 public:
  Status write(ByteView bytes) override {
    count_ += bytes.size();
    return Done{};
  }
  std::uint64_t count() const { return count_; }

 private:
  std::uint64_t count_ = 0;
};

Result<std::uint64_t> size_of(const Document& document, int first, int end,
                              const SplitOptions& options) {
  Assembly part;
  LUMVET_RETURN_IF_ERROR(part.add(document, PageSelection::of(range(first, end)), options.carry));
  CountingSink sink;
  SaveOptions how = options.save;
  how.progress = {};
  LUMVET_RETURN_IF_ERROR(part.save(sink, how));
  return sink.count();
}

}  // namespace

SplitRule SplitRule::every(int pages) {
  return SplitRule(
      [pages](const Document& document, const SplitOptions&) -> Result<std::vector<SplitPart>> {
        if (pages < 1) return Error(ErrorCode::invalid_argument, "a part has one page at least");
        std::map<int, std::string> starts;
        for (int first = 0; first < document.page_count(); first += pages)
          starts.emplace(first, "");
        return parts_from(std::move(starts), document.page_count());
      });
}

SplitRule SplitRule::before(std::vector<int> pages) {
  return SplitRule([pages = std::move(pages)](
                       const Document& document,
                       const SplitOptions&) -> Result<std::vector<SplitPart>> {
    std::map<int, std::string> starts;
    for (const int page : pages) {
      if (page < 0 || page >= document.page_count())
        return Error(ErrorCode::invalid_argument, "there is no page " + std::to_string(page + 1) +
                                                      " to cut before; " + document.name() +
                                                      " has pages 1 to " +
                                                      std::to_string(document.page_count()));
      starts.emplace(page, "");
    }
    return parts_from(std::move(starts), document.page_count());
  });
}

SplitRule SplitRule::at_outline(int level) {
  return SplitRule(
      [level](const Document& document, const SplitOptions&) -> Result<std::vector<SplitPart>> {
        if (level < 1)
          return Error(ErrorCode::invalid_argument,
                       "the outermost entries of an outline are of level 1");
        std::map<int, std::string> starts;
        LUMVET_TRY(const std::vector<OutlineEntry> outline, document.outline());
        for (const OutlineEntry& entry : outline)
          if (entry.depth < level && entry.page) starts.emplace(*entry.page, entry.title);
        if (starts.empty())
          return Error(ErrorCode::invalid_argument,
                       document.name() +
                           " has no outline whose entries lead to its pages; cut it "
                           "every so many pages instead");
        return parts_from(std::move(starts), document.page_count());
      });
}

SplitRule SplitRule::odd_and_even() {
  return SplitRule(
      [](const Document& document, const SplitOptions&) -> Result<std::vector<SplitPart>> {
        std::vector<SplitPart> parts(2);
        for (int page = 0; page < document.page_count(); ++page)
          parts[static_cast<std::size_t>(page % 2)].pages.push_back(page);
        if (parts[1].pages.empty()) parts.pop_back();
        return parts;
      });
}

SplitRule SplitRule::before_those(Tells begins_a_part) {
  return SplitRule(
      [begins_a_part = std::move(begins_a_part)](
          const Document& document, const SplitOptions&) -> Result<std::vector<SplitPart>> {
        std::vector<SplitPart> parts(1);
        for (int i = 0; i < document.page_count(); ++i) {
          LUMVET_TRY(const Page page, document.page(i));
          LUMVET_TRY(const bool begins, called_back(begins_a_part, page));
          if (begins && !parts.back().pages.empty()) parts.emplace_back();
          parts.back().pages.push_back(i);
        }
        return parts;
      });
}

SplitRule SplitRule::at_separators(Tells is_separator) {
  return SplitRule(
      [is_separator = std::move(is_separator)](
          const Document& document, const SplitOptions&) -> Result<std::vector<SplitPart>> {
        std::vector<SplitPart> parts(1);
        for (int i = 0; i < document.page_count(); ++i) {
          LUMVET_TRY(const Page page, document.page(i));
          LUMVET_TRY(const bool parts_others, called_back(is_separator, page));
          if (!parts_others)
            parts.back().pages.push_back(i);
          else if (!parts.back().pages.empty())
            parts.emplace_back();
        }
        if (parts.back().pages.empty()) parts.pop_back();
        if (parts.empty())
          return Error(ErrorCode::invalid_argument,
                       document.name() + " has nothing but pages that part others");
        return parts;
      });
}

// The longest part that is small enough is looked for by doubling it and then halving the rest.
SplitRule SplitRule::at_most(std::uint64_t bytes) {
  return SplitRule([bytes](const Document& document,
                           const SplitOptions& options) -> Result<std::vector<SplitPart>> {
    const int count = document.page_count();
    std::vector<SplitPart> parts;
    int length = 1;  // of the part before, about which the next will be
    for (int first = 0; first < count;) {
      int fits = first + 1;
      int too_long = count + 1;
      const auto look = [&](int end) -> Status {
        LUMVET_TRY(const std::uint64_t size, size_of(document, first, end, options));
        (size <= bytes ? fits : too_long) = end;
        return Done{};
      };
      for (int step = length; fits < count && too_long > count; step *= 2)
        LUMVET_RETURN_IF_ERROR(look(std::min(count, std::max(fits + 1, first + step))));
      while (fits < count && too_long - fits > 1)
        LUMVET_RETURN_IF_ERROR(look(fits + (too_long - fits) / 2));
      parts.push_back({range(first, fits), ""});
      length = fits - first;
      first = fits;
    }
    return parts;
  });
}

Result<std::vector<SplitPart>> SplitRule::parts_of(const Document& document,
                                                   const SplitOptions& options) const {
  if (document.page_count() == 0)
    return Error(ErrorCode::invalid_argument, document.name() + " has no pages to cut");
  return plan_(document, options);
}

}  // namespace lumvet
