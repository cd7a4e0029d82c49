// SPDX-License-Identifier: Apache-2.0
#include "lumvet/exchange/mark_summary.h"

#include <algorithm>
#include <filesystem>
#include <map>
#include <set>

#include "annotate/chosen_marks.h"
#include "lumvet/annotate/annotations.h"
#include "lumvet/annotate/mark_list.h"
#include "lumvet/compose/flow.h"

namespace lumvet {
namespace {

using Kind = Annotation::Kind;

constexpr double kWidest = 260;   // points, of a picture
constexpr double kHighest = 150;  // points

bool is_remark(Kind kind, const std::vector<Kind>& chosen) {
  if (!is_listed(kind)) return false;
  if (chosen.empty()) return kind != Kind::link;
  return std::find(chosen.begin(), chosen.end(), kind) != chosen.end();
}

// Who said it, and when.
std::string origin_of(const Annotation& mark) {
  const std::string& date = mark.modified.empty() ? mark.created : mark.modified;
  std::string origin = mark.author;
  if (!date.empty()) origin += (origin.empty() ? "" : ", ") + date.substr(0, 16);
  return origin;
}

// What is around a mark, on the page as it is shown.
PageArea surroundings_of(const Page& page, const Annotation& mark) {
  const PageArea own = mark_area(page, mark);
  constexpr double kLeastWidth = 180;
  constexpr double kLeastHeight = 90;
  const double height = std::min(std::max(own.height * 1.4, kLeastHeight), page.height());
  const double width =
      std::min(std::max({own.width * 1.6, kLeastWidth, height * kWidest / kHighest}), page.width());
  const double left = own.left + own.width / 2 - width / 2;
  const double top = own.top + own.height / 2 - height / 2;
  return {std::clamp(left, 0.0, page.width() - width), std::clamp(top, 0.0, page.height() - height),
          width, height};
}

Drawing picture_of(const Page& page, const Annotation& mark) {
  const PageArea seen = surroundings_of(page, mark);
  const double scale = std::min({kWidest / seen.width, kHighest / seen.height, 1.5});
  Drawing picture(seen.width * scale, seen.height * scale);
  picture.draw(
      page, {-seen.left * scale, -seen.top * scale, page.width() * scale, page.height() * scale});
  const StrokeStyle frame{.width = 0.75};
  picture.stroke(box({0.4, 0.4, picture.width() - 0.8, picture.height() - 0.8}), Color::gray(0.6),
                 frame);
  return picture;
}

class Summary {
 public:
  Summary(const Document& document, Flow& flow, const SummaryOptions& options)
      : document_(document), flow_(flow), options_(options) {}

  Status add(const Page& page) {
    LUMVET_TRY(const std::vector<Annotation> marks, page.annotations());
    std::set<ObjectId> ids;
    std::vector<const Annotation*> first;
    for (const Annotation& mark : marks) ids.insert(mark.id);
    for (const Annotation& mark : marks)
      if (is_remark(mark.kind, options_.kinds) && !annotate::is_answer(mark, ids))
        first.push_back(&mark);
    if (first.empty()) return Done{};
    LUMVET_TRY(const std::string label, document_.page_label(page.index()));
    flow_.add_heading("Page " + label);
    for (const Annotation* mark : first) {
      flow_.add_heading(std::to_string(++count_) + "  " + std::string(name_of(mark->kind)), 2);
      add_thread(marks, *mark);
      if (options_.has_pictures) {
        const Drawing picture = picture_of(page, *mark);
        LUMVET_RETURN_IF_ERROR(picture.status());
        flow_.add(picture, "What the remark is about");
      }
      flow_.add_space(10);
    }
    return Done{};
  }
  int count() const { return count_; }

 private:
  // A remark and what answers it, further in.
  void add_thread(const std::vector<Annotation>& marks, const Annotation& root) {
    struct Open {
      const Annotation* mark;
      int depth;
    };
    std::vector<Open> open{{&root, 0}};
    std::set<const Annotation*> said;
    while (!open.empty()) {
      const auto [mark, depth] = open.back();
      open.pop_back();
      if (!said.insert(mark).second) continue;
      say(*mark, depth);
      if (mark->id == ObjectId()) continue;
      for (auto other = marks.rbegin(); other != marks.rend(); ++other)
        if (other->in_reply_to == mark->id) open.push_back({&*other, depth + 1});
    }
  }

  void say(const Annotation& mark, int depth) {
    const TextStyle plain{.size = 10};
    TextStyle bold = plain;
    bold.face = Typeface::nearest("Helvetica-Bold");
    TextStyle faint = plain;
    faint.color = Color::gray(0.4);
    Paragraph paragraph("", plain, style_at(depth));
    const std::string origin = origin_of(mark);
    if (!origin.empty()) paragraph.add(origin + "  ", faint);
    if (!mark.review_state.empty()) paragraph.add(mark.review_state + "  ", bold);
    if (!mark.subject.empty() && mark.subject != mark.contents)
      paragraph.add(mark.subject + "  ", bold);
    if (!mark.contents.empty()) paragraph.add(mark.contents, plain);
    if (origin.empty() && mark.review_state.empty() && mark.subject.empty() &&
        mark.contents.empty())
      paragraph.add("without words", faint);
    flow_.add(paragraph);
  }

  // Words stay with the picture below them.
  ParagraphStyle style_at(int depth) const {
    constexpr int kDeepest = 8;
    ParagraphStyle style;
    style.left = 16.0 * std::min(depth, kDeepest);
    style.after = 4;
    style.keeps_with_next = options_.has_pictures;
    return style;
  }

  const Document& document_;
  Flow& flow_;
  const SummaryOptions& options_;
  int count_ = 0;
};

Result<std::string> title_of(const Document& document, const SummaryOptions& options) {
  if (!options.title.empty()) return options.title;
  LUMVET_TRY(const DocumentInfo info, document.info());
  if (!info.title.empty()) return info.title;
  return std::filesystem::path(document.name()).filename().string();
}

}  // namespace

Result<Document> mark_summary(const Document& document, const SummaryOptions& options) {
  LUMVET_TRY(const std::string title, title_of(document, options));
  Flow flow({.title = title,
             .language = options.language,
             .paper = options.paper,
             .footer = {.left = "{title}", .right = "{page} of {pages}"},
             .heading_size = 15});
  Summary summary(document, flow, options);
  LUMVET_TRY(const std::vector<int> pages, options.pages.in(document.page_count()));
  for (const int index : pages) {
    LUMVET_TRY(const Page page, document.page(index));
    LUMVET_RETURN_IF_ERROR(summary.add(page));
  }
  if (summary.count() == 0) flow.add(Paragraph("There are no remarks.", {.size = 10}));
  return flow.as_document();
}

}  // namespace lumvet
