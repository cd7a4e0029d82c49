// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/flow.h"

#include <algorithm>
#include <cmath>
#include <deque>

#include "compose/fields.h"
#include "compose/flow_data.h"
#include "save/full_writer.h"

namespace lumvet {

using compose::FlowData;
using compose::HeadingPages;
using compose::Strip;
using compose::StripSource;

namespace {

constexpr double kSlack = 1e-6;     // points
constexpr double kAboveNotes = 14;  // points between the text and its notes, with the rule

// Fills columns with strips, and draws each column once it is known where it ends.
class Filling {
 public:
  explicit Filling(const FlowData& flow)
      : flow_(flow),
        document_({.title = flow.options.title,
                   .author = flow.options.author,
                   .language = flow.options.language,
                   .view = flow.options.view,
                   .is_tagged = flow.options.is_tagged}) {}

  Status fill(const StripSource& strips) {
    for (;;) {
      if (again_.empty()) {
        LUMVET_TRY(std::optional<Strip> strip, strips());
        if (!strip) break;
        again_.push_back(std::move(*strip));
      }
      Strip strip = std::move(again_.front());
      again_.pop_front();
      LUMVET_RETURN_IF_ERROR(place(std::move(strip)));
    }
    end_column();
    if (document_.page_count() == 0) new_page();
    return draw_lines();
  }

  // The pages that headings are on, by their numbers.
  const HeadingPages& heading_pages() const { return heading_pages_; }
  const NewDocument& document() const { return document_; }

 private:
  // A strip of the column that is being filled.
  struct Placed {
    Strip strip;
    double y = 0;           // below the margin
    bool has_head = false;  // of its table, above it
  };

  Status place(Strip strip) {
    const bool is_first = column_.empty();
    const double head = is_first && strip.head ? strip.head->height : 0;
    const double gap = is_first ? 0 : std::max(after_, strip.before);
    double notes = height_of(strip.notes);
    for (const Placed& placed : column_) notes += height_of(placed.strip.notes);
    if (notes > 0) notes += kAboveNotes;
    if (y_ + gap + head + strip.height + notes > flow_.column_height() + kSlack) {
      if (is_first)
        return Error(ErrorCode::invalid_argument,
                     "something is " + std::to_string(std::lround(strip.height + head + notes)) +
                         " points high, and pages have room for " +
                         std::to_string(std::lround(flow_.column_height())));
      again_.push_front(std::move(strip));
      take_back();
      end_column();
      return Done{};
    }
    y_ += gap + head;
    const double height = strip.height;
    after_ = strip.after;
    const bool breaks_page = strip.breaks_page;
    column_.push_back({std::move(strip), y_, head > 0});
    y_ += height;
    if (breaks_page) {
      end_column();
      next_column_ = 0;
    }
    return Done{};
  }

  // What holds on to the strip that has no room goes to the next column with it, unless all do.
  void take_back() {
    std::size_t end = column_.size();
    while (end > 0 && column_[end - 1].strip.keeps_with_next) --end;
    if (end == 0) return;
    while (column_.size() > end) {
      again_.push_front(std::move(column_.back().strip));
      column_.pop_back();
    }
  }

  void new_page() {
    const FlowOptions& options = flow_.options;
    page_ = &document_.add_page(options.paper);
    const PageArea whole{0, 0, options.paper.width, options.paper.height};
    const auto scope = page_->artifact();
    if (options.background) page_->fill(box(whole), *options.background);
    if (options.letterhead) page_->draw(*options.letterhead, whole);
    chapters_.push_back(chapters_.empty() ? std::string() : chapters_.back());
  }

  void end_column() {
    if (column_.empty()) return;
    if (next_column_ == 0) new_page();
    const double left = flow_.options.margins.left +
                        next_column_ * (flow_.column_width() + flow_.options.between_columns);
    for (const Placed& placed : column_) draw(placed, {left, flow_.options.margins.top + placed.y});
    draw_notes(left);
    column_.clear();
    next_column_ = (next_column_ + 1) % std::max(1, flow_.options.columns);
    y_ = 0;
    after_ = 0;
  }

  static double height_of(const std::vector<compose::FootNote>& notes) {
    double height = 0;
    for (const compose::FootNote& note : notes) height += note.set.height();
    return height;
  }

  // At the foot of the column, below a short rule.
  void draw_notes(double left) {
    double height = 0;
    for (const Placed& placed : column_) height += height_of(placed.strip.notes);
    if (height <= 0) return;
    constexpr double kRule = 60;  // points
    double y = flow_.options.margins.top + flow_.column_height() - height;
    {
      const auto scope = page_->artifact();
      const double at = y - kAboveNotes * 0.4;
      page_->line({left, at}, {left + std::min(kRule, flow_.column_width()), at}, Color::gray(0.5),
                  {.width = 0.5});
    }
    for (const Placed& placed : column_)
      for (const compose::FootNote& note : placed.strip.notes) {
        const auto scope = page_->tag("Note");
        page_->name_place(note.place, {left, y});
        page_->write(note.set, {left, y});
        y += note.set.height();
      }
  }

  void draw(const Placed& placed, Point at) {
    const Strip& strip = placed.strip;
    if (placed.has_head) strip.head->draw(*page_, {at.x, at.y - strip.head->height});
    if (strip.heading) {
      if (strip.heading->level == 1) chapters_.back() = strip.heading->text;
      page_->add_outline_entry(strip.heading->text, at.y, strip.heading->level - 1);
      page_->name_place(strip.heading->name, at);
      heading_pages_.push_back(document_.page_count() - 1);
    }
    strip.draw(*page_, at);
  }

  // Heads and feet, once it is known how many pages there are.
  Status draw_lines() {
    const FlowOptions& options = flow_.options;
    constexpr double kOfMargin = 0.55;
    for (int number = 0; number < document_.page_count(); ++number) {
      Drawing& page = document_.page(number);
      const compose::Fields fields{{"page", std::to_string(number + 1)},
                                   {"pages", std::to_string(document_.page_count())},
                                   {"chapter", chapters_[static_cast<std::size_t>(number)]},
                                   {"title", options.title}};
      const auto scope = page.artifact();
      if (number > 0 || options.first_page_has_header)
        LUMVET_RETURN_IF_ERROR(
            draw_line(page, options.header, options.margins.top * kOfMargin, fields));
      LUMVET_RETURN_IF_ERROR(
          draw_line(page, options.footer,
                    options.paper.height - options.margins.bottom * (1 - kOfMargin), fields));
    }
    return Done{};
  }

  Status draw_line(Drawing& page, const PageLine& line, double y,
                   const compose::Fields& fields) const {
    constexpr double kSize = 9;
    const FlowOptions& options = flow_.options;
    const TextStyle look{.face = options.face, .size = kSize, .color = Color::gray(0.35)};
    const double left = options.margins.left;
    const double right = options.paper.width - options.margins.right;
    const auto draw = [&](const std::string& text, double x, Drawing::Side side) -> Status {
      LUMVET_TRY(const std::string filled, compose::filled(text, fields));
      if (!filled.empty()) page.write(filled, {x, y}, look, side);
      return Done{};
    };
    LUMVET_RETURN_IF_ERROR(draw(line.left, left, Drawing::Side::left));
    LUMVET_RETURN_IF_ERROR(draw(line.middle, (left + right) / 2, Drawing::Side::middle));
    return draw(line.right, right, Drawing::Side::right);
  }

  const FlowData& flow_;
  NewDocument document_;
  Drawing* page_ = nullptr;
  std::vector<std::string> chapters_;  // of each page, as it ends
  HeadingPages heading_pages_;
  std::deque<Strip> again_;  // to be placed, before what the source gives
  std::vector<Placed> column_;
  int next_column_ = 0;  // of the page, that is being filled
  double y_ = 0;         // below the margin
  double after_ = 0;
};

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

namespace {

// Until all headings are where the contents say; numbers that grow can move what is behind them.
// Calls take(document) with what is made then.
template <typename Made, typename Take>
Result<Made> made(const FlowData& flow, std::vector<Finding>& findings, const Take& take) {
  if (!(flow.column_width() > 0 && flow.column_height() > 0))
    return Error(ErrorCode::invalid_argument, "the margins leave no room on the paper");
  constexpr int kMostTries = 6;
  const bool has_contents =
      std::any_of(flow.blocks.begin(), flow.blocks.end(), [](const compose::Block& block) {
        return std::holds_alternative<compose::ContentsBlock>(block);
      });
  HeadingPages pages;
  for (int tried = 0;; ++tried) {
    findings.clear();
    Filling filling(flow);
    LUMVET_RETURN_IF_ERROR(filling.fill(compose::strips_of(flow, pages, findings)));
    if (!has_contents || filling.heading_pages() == pages || tried >= kMostTries)
      return take(filling.document());
    pages = filling.heading_pages();
  }
}

}  // namespace

Result<Document> Flow::as_document(std::vector<Finding>* findings) const {
  std::vector<Finding> found;
  LUMVET_TRY(const Document document, made<Document>(*data_, found, [](const NewDocument& pages) {
               return pages.as_document();
             }));
  if (findings != nullptr) *findings = std::move(found);
  return document;
}

Result<SaveReport> Flow::save(ByteSink& sink, const SaveOptions& options) const {
  std::vector<Finding> found;
  LUMVET_TRY(SaveReport report, made<SaveReport>(*data_, found, [&](const NewDocument& pages) {
               return pages.save(sink, options);
             }));
  report.findings.insert(report.findings.end(), found.begin(), found.end());
  return report;
}

Result<SaveReport> Flow::save(const std::filesystem::path& path, const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

}  // namespace lumvet
