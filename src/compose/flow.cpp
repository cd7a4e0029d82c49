// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/flow.h"

#include <algorithm>
#include <cmath>
#include <deque>

#include "compose/fields.h"
#include "compose/flow_data.h"
#include "draw/document_writer.h"
#include "save/full_writer.h"

namespace lumvet {

using compose::FlowData;
using compose::HeadingPages;
using compose::Strip;
using compose::StripSource;

namespace {

constexpr double kSlack = 1e-6;  // points

// How many pages there are; 0 as long as that is not known.
using PageCount = std::shared_ptr<int>;
using TakePage = std::function<Status(Drawing page)>;

bool tell_count(const FlowOptions& options) {
  const auto tells = [](const std::string& text) {
    return text.find("{pages}") != std::string::npos;
  };
  const auto any = [&](const PageLine& line) {
    return tells(line.left) || tells(line.middle) || tells(line.right);
  };
  return any(options.header) || any(options.footer);
}

Status draw_line(Drawing& page, const FlowOptions& options, const PageLine& line, double y,
                 const compose::Fields& fields) {
  constexpr double kSize = 9;
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

// Head and foot of a page, by its number from 1.
Status draw_lines(Drawing& page, const FlowOptions& options, int number, int count,
                  const std::string& chapter) {
  constexpr double kOfMargin = 0.55;
  const compose::Fields fields{{"page", std::to_string(number)},
                               {"pages", std::to_string(count)},
                               {"chapter", chapter},
                               {"title", options.title}};
  if (number > 1 || options.first_page_has_header)
    LUMVET_RETURN_IF_ERROR(
        draw_line(page, options, options.header, options.margins.top * kOfMargin, fields));
  return draw_line(page, options, options.footer,
                   options.paper.height - options.margins.bottom * (1 - kOfMargin), fields);
}

// Fills columns with strips, draws each column once it is known where it ends, and gives each page
// away once it is full. Nothing is drawn where nobody takes pages.
class Filling {
 public:
  Filling(const FlowData& flow, PageCount count, TakePage take)
      : flow_(flow),
        count_(std::move(count)),
        take_(std::move(take)),
        tells_count_(tell_count(flow.options)) {}

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
    LUMVET_RETURN_IF_ERROR(end_column());
    if (page_count_ == 0) LUMVET_RETURN_IF_ERROR(new_page());
    LUMVET_RETURN_IF_ERROR(end_page());
    *count_ = page_count_;
    return Done{};
  }

  // The pages that headings are on, by their numbers.
  const HeadingPages& heading_pages() const { return heading_pages_; }
  int page_count() const { return page_count_; }

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
    if (notes > 0) notes += compose::kAboveNotes;
    if (y_ + gap + head + strip.height + notes > flow_.column_height() + kSlack) {
      if (is_first)
        return Error(ErrorCode::invalid_argument,
                     "something is " + std::to_string(std::lround(strip.height + head + notes)) +
                         " points high, and pages have room for " +
                         std::to_string(std::lround(flow_.column_height())));
      again_.push_front(std::move(strip));
      take_back();
      return end_column();
    }
    y_ += gap + head;
    const double height = strip.height;
    after_ = strip.after;
    const bool breaks_page = strip.breaks_page;
    column_.push_back({std::move(strip), y_, head > 0});
    y_ += height;
    if (breaks_page) {
      LUMVET_RETURN_IF_ERROR(end_column());
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

  Status new_page() {
    LUMVET_RETURN_IF_ERROR(end_page());
    ++page_count_;
    if (!take_) return Done{};
    const FlowOptions& options = flow_.options;
    page_.emplace(options.paper.width, options.paper.height);
    const PageArea whole{0, 0, options.paper.width, options.paper.height};
    const auto scope = page_->artifact();
    if (options.background) page_->fill(box(whole), *options.background);
    if (options.letterhead) page_->draw(*options.letterhead, whole);
    return Done{};
  }

  Status end_page() {
    if (!page_) return Done{};
    {
      const auto scope = page_->artifact();
      if (tells_count_ && *count_ == 0)
        draw::draw_late(*page_, late_lines());
      else
        LUMVET_RETURN_IF_ERROR(draw_lines(*page_, flow_.options, page_count_, *count_, chapter_));
    }
    LUMVET_RETURN_IF_ERROR(take_(std::move(*page_)));
    page_.reset();
    return Done{};
  }

  std::shared_ptr<const draw::LateDrawing> late_lines() const {
    draw::LateDrawing late;
    late.drawn = [&options = flow_.options, number = page_count_, count = count_,
                  chapter = chapter_]() -> Result<Drawing> {
      Drawing lines(options.paper.width, options.paper.height);
      LUMVET_RETURN_IF_ERROR(draw_lines(lines, options, number, *count, chapter));
      return lines;
    };
    return std::make_shared<const draw::LateDrawing>(std::move(late));
  }

  Status end_column() {
    if (column_.empty()) return Done{};
    if (next_column_ == 0) LUMVET_RETURN_IF_ERROR(new_page());
    for (const Placed& placed : column_)
      for (const Strip::Heading& heading : placed.strip.headings) {
        if (heading.level == 1) chapter_ = heading.text;
        heading_pages_.resize(std::max(heading_pages_.size(), heading.number + 1));
        heading_pages_[heading.number] = page_count_ - 1;
      }
    if (page_) draw_column();
    column_.clear();
    next_column_ = (next_column_ + 1) % std::max(1, flow_.options.columns);
    y_ = 0;
    after_ = 0;
    return Done{};
  }

  void draw_column() {
    const double left = flow_.options.margins.left +
                        next_column_ * (flow_.column_width() + flow_.options.between_columns);
    for (const Placed& placed : column_) draw(placed, {left, flow_.options.margins.top + placed.y});
    draw_notes(left);
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
      const double at = y - compose::kAboveNotes * 0.4;
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
    for (const Strip::Heading& heading : strip.headings) {
      page_->add_outline_entry(heading.text, at.y, heading.level - 1);
      page_->name_place(heading.name, at);
    }
    strip.draw(*page_, at);
  }

  const FlowData& flow_;
  PageCount count_;
  TakePage take_;
  bool tells_count_;
  std::optional<Drawing> page_;
  int page_count_ = 0;
  std::string chapter_;  // of the page, as it is so far
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

TextStyle FlowOptions::heading_look(int level) const {
  constexpr double kSmaller = 0.78;  // from level to level
  constexpr double kLeast = 10;      // points
  const double size = heading_size * std::pow(kSmaller, std::clamp(level, 1, 6) - 1);
  return {
      .face = face, .size = std::max(size, kLeast), .color = heading_color, .language = language};
}
ParagraphStyle FlowOptions::heading_style(int level) const {
  const double size = heading_look(level).size;
  return {.line_height = 1.15,
          .before = size * 0.9,
          .after = size * 0.45,
          .keeps_together = true,
          .keeps_with_next = true};
}

void Flow::add_heading(const std::string& text, int level, const std::string& name) {
  const FlowOptions& options = data_->options;
  add_heading(Paragraph(text, options.heading_look(level), options.heading_style(level)), level,
              name);
}
void Flow::add_heading(const Paragraph& text, int level, const std::string& name) {
  data_->blocks.emplace_back(compose::HeadingBlock{text, std::clamp(level, 1, 6), name});
}
void Flow::add(const Paragraph& paragraph) { data_->blocks.emplace_back(paragraph); }
void Flow::add_list(const std::vector<Paragraph>& items, bool numbered, int first, int depth) {
  data_->blocks.emplace_back(compose::ListBlock{items, numbered, first, std::max(depth, 0)});
}
void Flow::add(const Table& table) { data_->blocks.emplace_back(table); }
void Flow::add(const Picture& picture, double width, const std::string& description) {
  data_->blocks.emplace_back(compose::PictureBlock{picture, width, description, {}});
}
void Flow::add_beside(const Picture& picture, Side side, double width,
                      const std::string& description) {
  data_->blocks.emplace_back(compose::PictureBlock{picture, width, description, side});
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

Status check(const FlowData& flow) {
  if (flow.column_width() > 0 && flow.column_height() > 0) return Done{};
  return Error(ErrorCode::invalid_argument, "the margins leave no room on the paper");
}

// What is known before pages are drawn.
struct Known {
  HeadingPages pages;
  PageCount count = std::make_shared<int>(0);
};

// Fills pages that nobody takes until all headings are where the contents say; numbers that grow
// can move what is behind them. When what tells their pages is as high as before, nothing moves.
Result<Known> find_out(const FlowData& flow) {
  constexpr int kMostTries = 6;
  Known known;
  LUMVET_TRY(std::vector<double> heights, compose::heights_telling_pages(flow, known.pages));
  if (heights.empty()) return known;
  for (int tried = 0; tried < kMostTries; ++tried) {
    std::vector<Finding> ignored;
    Filling filling(flow, known.count, nullptr);
    LUMVET_RETURN_IF_ERROR(filling.fill(compose::strips_of(flow, known.pages, ignored)));
    known.pages = filling.heading_pages();
    LUMVET_TRY(std::vector<double> next, compose::heights_telling_pages(flow, known.pages));
    if (next == heights) break;
    heights = std::move(next);
  }
  return known;
}

}  // namespace

Result<Document> Flow::as_document(std::vector<Finding>* findings) const {
  BufferSink sink;
  LUMVET_TRY(SaveReport report, save(sink));
  if (findings != nullptr) *findings = std::move(report.findings);
  return Document::open(sink.take());
}

Result<SaveReport> Flow::save(ByteSink& sink, const SaveOptions& options) const {
  const FlowData& flow = *data_;
  LUMVET_RETURN_IF_ERROR(check(flow));
  LUMVET_TRY(const Known known, find_out(flow));
  std::vector<Finding> findings;
  const NewDocumentOptions about{.title = flow.options.title,
                                 .author = flow.options.author,
                                 .language = flow.options.language,
                                 .view = flow.options.view};
  LUMVET_TRY(SaveReport report,
             draw::write_new_document(
                 about, {flow.options.is_tagged, draw::TagTree::Keys::end}, options, sink,
                 [&](draw::DocumentWriter& writer) {
                   Filling filling(flow, known.count, [&](const Drawing& page) -> Status {
                     LUMVET_RETURN_IF_ERROR(writer.add(page));
                     const auto done = static_cast<std::uint64_t>(writer.page_count());
                     if (options.progress)
                       options.progress(done,
                                        std::max(done, static_cast<std::uint64_t>(*known.count)));
                     return Done{};
                   });
                   return filling.fill(compose::strips_of(flow, known.pages, findings));
                 }));
  report.findings.insert(report.findings.end(), findings.begin(), findings.end());
  return report;
}

Result<SaveReport> Flow::save(const std::filesystem::path& path, const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

}  // namespace lumvet
