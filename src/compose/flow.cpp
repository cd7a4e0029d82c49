// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/flow.h"

#include <algorithm>
#include <cmath>

#include "compose/fields.h"
#include "compose/flow_data.h"

namespace lumvet {

using compose::FlowData;
using compose::HeadingPages;
using compose::Strip;

namespace {

constexpr double kSlack = 1e-6;  // points

// Where a strip stands.
struct Place {
  std::size_t strip = 0;
  int page = 0;
  Point at;
  bool has_head = false;  // of its table, above it
};

// Fills columns with strips.
class Filling {
 public:
  Filling(const FlowData& flow, const std::vector<Strip>& strips) : flow_(flow), strips_(strips) {}

  Result<std::vector<Place>> fill() {
    for (std::size_t i = 0; i < strips_.size();) {
      const Strip& strip = strips_[i];
      const bool is_first = places_.size() == column_begin_;
      const double head = is_first && strip.head ? strip.head->height : 0;
      const double gap = is_first ? 0 : std::max(after_, strip.before);
      if (y_ + gap + head + strip.height > flow_.column_height() + kSlack) {
        if (is_first)
          return Error(ErrorCode::invalid_argument,
                       "something is " + std::to_string(std::lround(strip.height + head)) +
                           " points high, and pages have room for " +
                           std::to_string(std::lround(flow_.column_height())));
        i = last_break(i);
        next_column();
        continue;
      }
      y_ += gap + head;
      places_.push_back({i, page_, {left(), flow_.options.margins.top + y_}, head > 0});
      y_ += strip.height;
      after_ = strip.after;
      if (strip.breaks_page) {
        column_ = std::max(1, flow_.options.columns) - 1;
        next_column();
      }
      ++i;
    }
    return std::move(places_);
  }

 private:
  double left() const {
    return flow_.options.margins.left +
           column_ * (flow_.column_width() + flow_.options.between_columns);
  }

  // The strip before which the column may end, at or before one that has no room; what stands
  // behind it is taken back. Where all hold together, they end here.
  std::size_t last_break(std::size_t strip) {
    std::size_t begin = strip;
    while (begin > 0 && strips_[begin - 1].keeps_with_next) --begin;
    const std::size_t first = places_[column_begin_].strip;
    if (begin <= first) return strip;
    while (!places_.empty() && places_.back().strip >= begin) places_.pop_back();
    return begin;
  }

  void next_column() {
    if (++column_ >= std::max(1, flow_.options.columns)) {
      column_ = 0;
      ++page_;
    }
    y_ = 0;
    after_ = 0;
    column_begin_ = places_.size();
  }

  const FlowData& flow_;
  const std::vector<Strip>& strips_;
  std::vector<Place> places_;
  std::size_t column_begin_ = 0;  // of places_
  int page_ = 0;
  int column_ = 0;
  double y_ = 0;  // below the margin
  double after_ = 0;
};

class Pages {
 public:
  Pages(const FlowData& flow, const std::vector<Strip>& strips, const std::vector<Place>& places)
      : flow_(flow), strips_(strips), places_(places) {}

  Result<Document> draw() {
    const FlowOptions& options = flow_.options;
    NewDocument document({.title = options.title,
                          .author = options.author,
                          .language = options.language,
                          .view = options.view,
                          .is_tagged = options.is_tagged});
    const int count = places_.empty() ? 1 : places_.back().page + 1;
    std::string chapter;
    std::size_t next = 0;
    for (int number = 0; number < count; ++number) {
      Drawing& page = document.add_page(options.paper);
      for (; next < places_.size() && places_[next].page == number; ++next)
        draw(page, places_[next], chapter);
      LUMVET_RETURN_IF_ERROR(draw_lines(page, number, count, chapter));
      if (!page.status().ok()) return page.status().error();
    }
    return document.as_document();
  }

 private:
  void draw(Drawing& page, const Place& place, std::string& chapter) {
    const Strip& strip = strips_[place.strip];
    if (place.has_head) strip.head->draw(page, {place.at.x, place.at.y - strip.head->height});
    if (strip.heading) {
      if (strip.heading->level == 1) chapter = strip.heading->text;
      page.add_outline_entry(strip.heading->text, place.at.y, strip.heading->level - 1);
      page.name_place(strip.heading->name, place.at);
    }
    strip.draw(page, place.at);
  }

  Status draw_lines(Drawing& page, int number, int count, const std::string& chapter) const {
    const FlowOptions& options = flow_.options;
    const compose::Fields fields{{"page", std::to_string(number + 1)},
                                 {"pages", std::to_string(count)},
                                 {"chapter", chapter},
                                 {"title", options.title}};
    const auto scope = page.artifact();
    const auto draw = [&](const PageLine& line, double y) -> Status {
      constexpr double kSize = 9;
      const TextStyle look{.face = options.face, .size = kSize, .color = Color::gray(0.35)};
      const double right = options.paper.width - options.margins.right;
      const std::pair<const std::string*, std::pair<double, Drawing::Side>> parts[] = {
          {&line.left, {options.margins.left, Drawing::Side::left}},
          {&line.middle, {(options.margins.left + right) / 2, Drawing::Side::middle}},
          {&line.right, {right, Drawing::Side::right}}};
      for (const auto& [text, place] : parts) {
        LUMVET_TRY(const std::string filled, compose::filled(*text, fields));
        if (!filled.empty()) page.write(filled, {place.first, y}, look, place.second);
      }
      return Done{};
    };
    constexpr double kOfMargin = 0.55;
    if (number > 0 || options.first_page_has_header)
      LUMVET_RETURN_IF_ERROR(draw(options.header, options.margins.top * kOfMargin));
    return draw(options.footer, options.paper.height - options.margins.bottom * (1 - kOfMargin));
  }

  const FlowData& flow_;
  const std::vector<Strip>& strips_;
  const std::vector<Place>& places_;
};

HeadingPages heading_pages(const std::vector<Strip>& strips, const std::vector<Place>& places) {
  HeadingPages pages;
  for (const Place& place : places)
    if (strips[place.strip].heading) pages.push_back(place.page);
  return pages;
}

}  // namespace

Flow::Flow(FlowOptions options) : data_(std::make_unique<FlowData>()) {
  data_->options = std::move(options);
}
Flow::Flow(Flow&&) noexcept = default;
Flow& Flow::operator=(Flow&&) noexcept = default;
Flow::~Flow() = default;

void Flow::add_heading(const std::string& text, int level, const std::string& name) {
  data_->blocks.emplace_back(compose::HeadingBlock{text, level, name});
}
void Flow::add(const Paragraph& paragraph) { data_->blocks.emplace_back(paragraph); }
void Flow::add_list(const std::vector<Paragraph>& items, bool numbered, int first, int depth) {
  data_->blocks.emplace_back(compose::ListBlock{items, numbered, first, std::max(depth, 0)});
}
void Flow::add(const Table& table) { data_->blocks.emplace_back(table); }
void Flow::add(const Picture& picture, double width, const std::string& description) {
  data_->blocks.emplace_back(compose::PictureBlock{picture, width, description});
}
void Flow::add(const Chart& chart, double height) {
  data_->blocks.emplace_back(compose::ChartBlock{chart, height});
}
void Flow::add(const Drawing& drawing, const std::string& description) {
  data_->blocks.emplace_back(compose::DrawingBlock{drawing, description});
}
void Flow::add_space(double points) {
  data_->blocks.emplace_back(compose::SpaceBlock{std::max(points, 0.0), false});
}
void Flow::add_page_break() { data_->blocks.emplace_back(compose::SpaceBlock{0, true}); }
void Flow::add_contents(int levels) { data_->blocks.emplace_back(compose::ContentsBlock{levels}); }

Result<Document> Flow::as_document(std::vector<Finding>* findings) const {
  const FlowData& flow = *data_;
  if (!(flow.column_width() > 0 && flow.column_height() > 0))
    return Error(ErrorCode::invalid_argument, "the margins leave no room on the paper");
  // Until all headings are where the contents say; numbers that grow can move what is behind them.
  constexpr int kMostTries = 6;
  HeadingPages pages;
  for (int tried = 0;; ++tried) {
    std::vector<Finding> found;
    LUMVET_TRY(const std::vector<Strip> strips, compose::strips_of(flow, pages, found));
    LUMVET_TRY(const std::vector<Place> places, Filling(flow, strips).fill());
    HeadingPages now = heading_pages(strips, places);
    const bool has_contents =
        std::any_of(flow.blocks.begin(), flow.blocks.end(), [](const compose::Block& block) {
          return std::holds_alternative<compose::ContentsBlock>(block);
        });
    if (has_contents && now != pages && tried < kMostTries) {
      pages = std::move(now);
      continue;
    }
    if (findings != nullptr) *findings = std::move(found);
    return Pages(flow, strips, places).draw();
  }
}

Result<SaveReport> Flow::save(const std::filesystem::path& path, const SaveOptions& options) const {
  std::vector<Finding> findings;
  LUMVET_TRY(const Document document, as_document(&findings));
  LUMVET_TRY(SaveReport report, lumvet::save(document, path, options));
  report.findings.insert(report.findings.end(), findings.begin(), findings.end());
  return report;
}

}  // namespace lumvet
