// SPDX-License-Identifier: Apache-2.0
#include "annotate/fitted_marks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include "annotate/mark_names.h"
#include "document/annotations.h"

namespace lumvet::annotate {
namespace {

using Kind = Annotation::Kind;

bool is_apart(const Rect& a, const Rect& b) {
  return a.right < b.left || b.right < a.left || a.top < b.bottom || b.top < a.bottom;
}

// Why a mark cannot be added; nothing when it can.
Result<std::optional<std::string>> why_unfit(const NewMark& mark, const Document& document) {
  const Annotation& own = mark.annotation;
  using Reason = std::optional<std::string>;
  if (!can_be_made(own.kind))
    return Reason("is of a kind that is not made" +
                  (own.type.empty() ? std::string() : ", " + own.type));
  if (own.kind == Kind::file_attachment && !mark.parts.file)
    return Reason("has a file, which did not come along");
  if (mark.page < 0 || mark.page >= document.page_count())
    return Reason("is of page " + std::to_string(mark.page + 1) +
                  ", a page that the document does not have");
  LUMVET_TRY(const Page page, document.page(mark.page));
  if (is_apart(own.rect, page.crop_box()))
    return Reason("lies beyond the edges of page " + std::to_string(mark.page + 1));
  return Reason();
}

using Place = std::array<long, 4>;

// To the point.
Place place_of(const Rect& rect) {
  return {std::lround(rect.left), std::lround(rect.bottom), std::lround(rect.right),
          std::lround(rect.top)};
}

// Of one page.
struct Known {
  std::map<std::string, Annotation> marks = {};     // by their names
  std::set<Place> links = {};                       // in files they mostly have none
  MarkNames names = {};                             // of the page and of the list
  std::set<std::string> listed = {};                // names as the list has them
  std::map<std::string, std::string> renamed = {};  // of those, what became of what was taken
};

Result<Known> marks_on(const Document& document, int index) {
  LUMVET_TRY(const Page page, document.page(index));
  LUMVET_TRY(const std::vector<Annotation> marks, page.annotations());
  Known known;
  for (const Annotation& mark : marks) {
    if (!mark.name.empty() && known.names.take(mark.name)) known.marks.emplace(mark.name, mark);
    if (mark.kind == Kind::link) known.links.insert(place_of(mark.rect));
  }
  return known;
}

bool are_close(double a, double b, double most) { return std::abs(a - b) <= most; }

// Whether a mark is the other as a list or a file has it, in which numbers are rounded.
bool is_same(const Annotation& a, const Annotation& b) {
  constexpr double kPlace = 1;          // point
  constexpr double kColor = 1.0 / 255;  // of the range
  return a.kind == b.kind && a.author == b.author && a.contents == b.contents &&
         are_close(a.rect.left, b.rect.left, kPlace) &&
         are_close(a.rect.bottom, b.rect.bottom, kPlace) &&
         are_close(a.rect.right, b.rect.right, kPlace) &&
         are_close(a.rect.top, b.rect.top, kPlace) && are_close(a.opacity, b.opacity, kColor) &&
         std::equal(a.color.begin(), a.color.end(), b.color.begin(), b.color.end(),
                    [](double one, double other) { return are_close(one, other, kColor); });
}

// False for a mark that is there already. One that has the name of another gets one of its own,
// since names are of one mark of a page (12.5.2).
bool is_new(Annotation& mark, Known& known) {
  const std::string name = mark.name;
  if (name.empty()) return mark.kind != Kind::link || !known.links.contains(place_of(mark.rect));
  const auto there = known.marks.find(name);
  if (there != known.marks.end() && is_same(there->second, mark)) return false;
  const bool is_first = known.listed.insert(name).second;
  if (known.names.take(name)) return true;
  mark.name = known.names.next_free();
  if (is_first) known.renamed.emplace(name, mark.name);
  return true;
}

}  // namespace

Result<std::vector<NewMark>> fitted(std::vector<ListedMark> marks, const Document& document,
                                    std::vector<Finding>& findings) {
  const auto tell = [&](const ListedMark& mark, const std::string& what) {
    findings.push_back({mark.place + " " + what, {}, {}});
  };
  std::vector<ListedMark> fit;
  fit.reserve(marks.size());
  std::map<int, Known> known;
  for (ListedMark& mark : marks) {
    LUMVET_TRY(const auto reason, why_unfit(mark.mark, document));
    if (reason) {
      tell(mark, *reason + "; it was left out");
      continue;
    }
    const int page = mark.mark.page;
    if (!known.contains(page)) {
      LUMVET_TRY(known[page], marks_on(document, page));
    }
    if (!is_new(mark.mark.annotation, known[page])) {
      // A document's own links go out and come back with its marks.
      if (mark.mark.annotation.kind != Kind::link) tell(mark, "is there already; it was left out");
      continue;
    }
    fit.push_back(std::move(mark));
  }
  for (ListedMark& mark : fit) {
    const auto& renamed = known[mark.mark.page].renamed;
    const auto other = renamed.find(mark.mark.reply_to);
    if (other != renamed.end()) mark.mark.reply_to = other->second;
  }

  // What is answered comes first; what answers in a circle, or what is not there, stands alone.
  std::map<int, std::multimap<std::string, std::size_t>> waiting;
  std::vector<bool> is_done(fit.size());
  std::vector<std::size_t> next;
  for (std::size_t i = 0; i < fit.size(); ++i) {
    const NewMark& mark = fit[i].mark;
    if (mark.reply_to.empty() || known[mark.page].marks.contains(mark.reply_to))
      next.push_back(i);
    else
      waiting[mark.page].emplace(mark.reply_to, i);
  }
  std::vector<NewMark> ordered;
  ordered.reserve(fit.size());
  const auto take = [&](std::size_t first) {
    std::vector<std::size_t> open{first};
    while (!open.empty()) {
      const std::size_t at = open.back();
      open.pop_back();
      if (is_done[at]) continue;
      is_done[at] = true;
      const NewMark& mark = fit[at].mark;
      if (!mark.annotation.name.empty()) {
        auto& answers = waiting[mark.page];
        const auto [begin, end] = answers.equal_range(mark.annotation.name);
        std::vector<std::size_t> own;
        for (auto answer = begin; answer != end; ++answer) own.push_back(answer->second);
        answers.erase(begin, end);
        open.insert(open.end(), own.rbegin(), own.rend());
      }
      ordered.push_back(mark);
    }
  };
  for (const std::size_t at : next) take(at);
  for (std::size_t i = 0; i < fit.size(); ++i) {
    if (is_done[i]) continue;
    tell(fit[i], "answers '" + fit[i].mark.reply_to + "', which is not there; it stands by itself");
    fit[i].mark.reply_to.clear();
    take(i);
  }
  return ordered;
}

}  // namespace lumvet::annotate
