// SPDX-License-Identifier: Apache-2.0
#include "annotate/fitted_marks.h"

#include <map>
#include <optional>
#include <set>

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

using Names = std::set<std::string>;

Result<Names> names_on(const Document& document, int index) {
  LUMVET_TRY(const Page page, document.page(index));
  LUMVET_TRY(const std::vector<Annotation> marks, page.annotations());
  Names names;
  for (const Annotation& mark : marks)
    if (!mark.name.empty()) names.insert(mark.name);
  return names;
}

}  // namespace

Result<std::vector<NewMark>> fitted(std::vector<ListedMark> marks, const Document& document,
                                    std::vector<Finding>& findings) {
  const auto tell = [&](const ListedMark& mark, const std::string& what) {
    findings.push_back({mark.place + " " + what, {}, {}});
  };
  std::vector<ListedMark> fit;
  fit.reserve(marks.size());
  std::map<int, Names> known;
  for (ListedMark& mark : marks) {
    LUMVET_TRY(const auto reason, why_unfit(mark.mark, document));
    if (reason) {
      tell(mark, *reason + "; it was left out");
      continue;
    }
    if (!mark.mark.reply_to.empty() && !known.contains(mark.mark.page)) {
      LUMVET_TRY(known[mark.mark.page], names_on(document, mark.mark.page));
    }
    fit.push_back(std::move(mark));
  }

  // What is answered comes first; what answers in a circle, or what is not there, stands alone.
  std::map<int, std::multimap<std::string, std::size_t>> waiting;
  std::vector<bool> is_done(fit.size());
  std::vector<std::size_t> next;
  for (std::size_t i = 0; i < fit.size(); ++i) {
    const NewMark& mark = fit[i].mark;
    if (mark.reply_to.empty() || known[mark.page].contains(mark.reply_to))
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
