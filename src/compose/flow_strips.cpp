// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <cmath>
#include <utility>

#include "compose/flow_data.h"
#include "compose/row_window.h"

namespace lumvet::compose {
namespace {

class BlockSetter {
 public:
  BlockSetter(const FlowData& flow, const HeadingPages& pages, std::vector<Finding>& findings)
      : flow_(flow), pages_(pages), findings_(findings) {
    for (const Block& block : flow.blocks)
      if (const HeadingBlock* heading = std::get_if<HeadingBlock>(&block)) {
        const std::size_t number = headings_.size();
        numbers_.pages.emplace(link_name(*heading, number),
                               number < pages.size() ? pages[number] + 1 : 0);
        headings_.push_back(heading);
      }
  }

  // Of blocks that say on which pages headings are; the others are left out.
  // None is where text stands beside pictures, whose lines follow from those before them.
  void leave_out_others() {
    is_telling_alone_ =
        std::none_of(flow_.blocks.begin(), flow_.blocks.end(), [](const Block& block) {
          const PictureBlock* picture = std::get_if<PictureBlock>(&block);
          return picture != nullptr && picture->side;
        });
  }

  Result<std::optional<Strip>> next() {
    LUMVET_TRY(std::optional<Strip> strip, following());
    if (strip)
      held_ = strip->keeps_with_next ? held_ + strip->before + strip->height + strip->after : 0;
    return strip;
  }

 private:
  Result<std::optional<Strip>> following() {
    for (;;) {
      if (rows_) {
        LUMVET_TRY(std::optional<Strip> row, rows_());
        if (row) return row;
        rows_ = nullptr;
      }
      if (ready_ < strips_.size()) return std::optional<Strip>(std::move(strips_[ready_++]));
      strips_.clear();
      ready_ = 0;
      if (number_ >= flow_.blocks.size()) {
        end_beside();
        if (strips_.empty()) return std::optional<Strip>();
        continue;
      }
      const Block& block = flow_.blocks[number_];
      if (beside_ && !stands_beside(block)) {
        end_beside();
        continue;
      }
      if (runs_down(block)) {
        LUMVET_RETURN_IF_ERROR(add_downward());
        continue;
      }
      key_ = "b" + std::to_string(number_++);
      if (is_telling_alone_ && !tells_pages(block)) {
        leave_out(block);
        continue;
      }
      const Status added = std::visit([&](const auto& one) { return add(one); }, block);
      if (!added.ok()) return added.error();
    }
  }

  double width() const { return flow_.column_width(); }

  static std::string link_name(const HeadingBlock& heading, std::size_t number) {
    return heading.name.empty() ? "heading-" + std::to_string(number + 1) : heading.name;
  }

  static const Paragraph* paragraph_of(const Block& block) {
    const HeadingBlock* heading = std::get_if<HeadingBlock>(&block);
    return heading != nullptr ? &heading->text : std::get_if<Paragraph>(&block);
  }

  static bool runs_down(const Block& block) {
    const Paragraph* paragraph = paragraph_of(block);
    return paragraph != nullptr && paragraph->style().runs_down;
  }

  static bool tells_pages(const Block& block) {
    if (const Paragraph* paragraph = paragraph_of(block)) return draw::tells_pages(*paragraph);
    if (const ListBlock* list = std::get_if<ListBlock>(&block))
      return std::any_of(list->items.begin(), list->items.end(), draw::tells_pages);
    if (const Table* table = std::get_if<Table>(&block))
      return std::any_of(table->rows.begin(), table->rows.end(),
                         [](const TableRow& row) { return compose::tells_pages(row); });
    return std::holds_alternative<ContentsBlock>(block);
  }

  // The notes in it count all the same.
  void leave_out(const Block& block) {
    if (const Paragraph* paragraph = paragraph_of(block))
      numbers_.next_note += draw::count_notes(*paragraph);
    if (const ListBlock* list = std::get_if<ListBlock>(&block))
      for (const Paragraph& item : list->items) numbers_.next_note += draw::count_notes(item);
    if (const Table* table = std::get_if<Table>(&block))
      for (const TableRow& row : table->rows)
        for (const TableCell& cell : row.cells)
          numbers_.next_note += draw::count_notes(cell.content);
  }

  // Text at one side of a picture, as long as it is high.
  struct Beside {
    FreeRoom free;        // of what comes next
    double after = 0;     // free below the text so far, if there is some
    DrawStrip draw = {};  // until it has been drawn, from the left of the column
  };

  static bool stands_beside(const Block& block) {
    return (paragraph_of(block) != nullptr && !runs_down(block)) ||
           std::holds_alternative<ListBlock>(block);
  }

  // Where lines of a style have room, from so much of the column on.
  LinePlace place(const ParagraphStyle& style, double left = 0) {
    if (beside_ && !beside_->draw) beside_->free.height -= std::max(beside_->after, style.before);
    if (beside_ && beside_->free.height <= 0) beside_.reset();
    return {width() - left, left, width(), beside_ ? beside_->free : FreeRoom()};
  }

  // Lines beside the picture hold on to each other; the first of them has it with it.
  void put_beside(std::vector<Strip>& strips) {
    if (!beside_ || strips.empty()) return;
    for (Strip& strip : strips) {
      if (beside_->free.height <= 0) break;
      if (beside_->draw) {
        strip.draw = [picture = std::exchange(beside_->draw, {}), line = std::move(strip.draw)](
                         Drawing& page, Point at) {
          picture(page, at);
          line(page, at);
        };
      }
      beside_->free.height -= strip.height;
      if (beside_->free.height > 0) strip.keeps_with_next = true;
    }
    beside_->after = strips.back().after;
    if (beside_->free.height <= 0) beside_.reset();
  }

  // What is left of the picture stays free.
  void end_beside() {
    if (!beside_) return;
    Strip strip;
    strip.height = std::max(beside_->free.height, 0.0);
    strip.draw = beside_->draw ? beside_->draw : [](Drawing&, Point) {};
    strips_.push_back(std::move(strip));
    beside_.reset();
  }

  void take(std::vector<Strip> strips) {
    put_beside(strips);
    strips_.insert(strips_.end(), std::make_move_iterator(strips.begin()),
                   std::make_move_iterator(strips.end()));
  }

  static std::string tag_of(const HeadingBlock& heading) {
    return "H" + std::to_string(heading.level);
  }

  // What the next heading says about the document.
  Strip::Heading told(const HeadingBlock& heading) {
    const std::size_t number = next_heading_++;
    return {draw::plain_text(heading.text), heading.level, link_name(heading, number), number};
  }

  Status add(const HeadingBlock& heading) {
    LUMVET_TRY(std::vector<Strip> strips, strips_of(heading.text, place(heading.text.style()),
                                                    tag_of(heading), key_, numbers_));
    Strip::Heading own = told(heading);
    if (strips.empty()) return Done{};
    strips.front().headings = {std::move(own)};
    take(std::move(strips));
    return Done{};
  }

  // All paragraphs and headings from the next block on whose lines run downward, beside each other.
  Status add_downward() {
    const auto& blocks = flow_.blocks;
    std::size_t end = number_;
    bool is_wanted = !is_telling_alone_;
    for (; end < blocks.size() && runs_down(blocks[end]); ++end)
      is_wanted |= tells_pages(blocks[end]);
    std::vector<DownwardText> texts;
    for (; number_ < end; ++number_) {
      const Block& block = blocks[number_];
      const HeadingBlock* heading = std::get_if<HeadingBlock>(&block);
      texts.push_back({*paragraph_of(block), heading != nullptr ? tag_of(*heading) : "P",
                       "b" + std::to_string(number_),
                       heading != nullptr ? std::optional(told(*heading)) : std::nullopt});
      if (!is_wanted) leave_out(block);
    }
    if (!is_wanted) return Done{};
    constexpr double kAround = 8;  // points
    const double height = flow_.column_height() - (held_ > 0 ? held_ + kAround : 0);
    LUMVET_TRY(strips_, strips_of(texts, width(), std::max(height, width() / 4), numbers_));
    if (!strips_.empty()) strips_.front().before = strips_.back().after = kAround;
    return Done{};
  }

  Status add(const Paragraph& paragraph) {
    LUMVET_TRY(std::vector<Strip> strips,
               strips_of(paragraph, place(paragraph.style()), "P", key_, numbers_));
    take(std::move(strips));
    return Done{};
  }

  // Each item beside its marker, which stands on its first line.
  Status add(const ListBlock& list) {
    const TextStyle first = list.items.empty() ? TextStyle() : draw::first_look(list.items.front());
    const double step = first.size * 1.5;
    // However deep, there is room for its text.
    constexpr double kMostOfWidth = 0.6;
    const double left = std::max(step, std::min(step * (list.depth + 1), width() * kMostOfWidth));
    for (std::size_t i = 0; i < list.items.size(); ++i) {
      const Paragraph& item = list.items[i];
      const std::string own = key_ + "i" + std::to_string(i);
      LUMVET_TRY(std::vector<Strip> strips,
                 strips_of(item, place(item.style(), left), "LBody", own + "t", numbers_));
      const double beside = beside_ ? beside_->free.left : 0;
      const std::string marker = list.is_numbered
                                     ? std::to_string(list.first + static_cast<int>(i)) + "."
                                     : (list.depth % 2 == 0 ? "•" : "–");
      LUMVET_TRY(const SetParagraph set, Paragraph(marker, draw::first_look(item),
                                                   {.align = ParagraphStyle::Align::right,
                                                    .line_height = item.style().line_height})
                                             .set(step - first.size * 0.4));
      for (std::size_t k = 0; k < strips.size(); ++k)
        strips[k].draw = [draw = strips[k].draw, set, k, own, key = key_,
                          at_marker = left + beside - step](Drawing& page, Point at) {
          const auto list_tag = page.tag("L", {.key = key});
          const auto item_tag = page.tag("LI", {.key = own});
          if (k == 0) {
            const auto label = page.tag("Lbl");
            page.write(set, {at.x + at_marker, at.y});
          }
          draw(page, at);
        };
      take(std::move(strips));
    }
    return Done{};
  }

  Status add(const Table& table) {
    LUMVET_TRY(rows_, strips_of(table, width(), flow_.column_height(), key_, numbers_));
    return Done{};
  }

  void add_figure(double height, DrawStrip draw) {
    constexpr double kAround = 8;  // points
    Strip strip;
    strip.height = height;
    strip.before = strip.after = kAround;
    strip.draw = std::move(draw);
    strips_.push_back(std::move(strip));
  }

  static DrawStrip figure(const Drawing& drawing, const std::string& description) {
    return [drawing, description](Drawing& page, Point at) {
      const auto scope = page.tag("Figure", {.alternate = description});
      page.draw(drawing, at);
    };
  }

  Status add(const PictureBlock& block) {
    constexpr double kMostBeside = 2.0 / 3;  // of the column
    const double most = block.side ? kMostBeside : 1;
    double wide = block.width > 0 ? block.width : block.picture.wide();
    double high = wide * block.picture.high() / block.picture.wide();
    const double scale =
        std::min({1.0, most * width() / wide, most * flow_.column_height() / high});
    wide *= scale;
    high *= scale;
    const bool is_right = block.side == Flow::Side::right;
    DrawStrip draw = [picture = block.picture, wide, high, description = block.description,
                      left = is_right ? width() - wide : 0](Drawing& page, Point at) {
      const auto scope = page.tag("Figure", {.alternate = description});
      page.draw(picture, {at.x + left, at.y, wide, high}, Drawing::Fit::stretched);
    };
    if (!block.side) {
      add_figure(high, std::move(draw));
      return Done{};
    }
    constexpr double kBetween = 12;  // points between it and the text, and below it
    const double free = wide + kBetween;
    beside_ =
        Beside{{high + kBetween / 2, is_right ? 0 : free, is_right ? free : 0}, 0, std::move(draw)};
    return Done{};
  }

  Status add(const ChartBlock& block) {
    // Once to itself, so that it is known now what goes wrong with it.
    Drawing drawing(width(), block.height);
    LUMVET_TRY(const std::vector<Finding> findings,
               draw_chart(drawing, {0, 0, width(), block.height}, block.chart));
    findings_.insert(findings_.end(), findings.begin(), findings.end());
    add_figure(block.height, figure(drawing, block.chart.title));
    return Done{};
  }

  Status add(const DrawingBlock& block) {
    add_figure(block.drawing.height(), figure(block.drawing, block.description));
    return Done{};
  }

  Status add(const SpaceBlock& block) {
    Strip strip;
    strip.height = block.height;
    strip.breaks_page = block.breaks_page;
    strip.draw = [](Drawing&, Point) {};
    strips_.push_back(std::move(strip));
    return Done{};
  }

  // A line a heading, with the page that it is on.
  Status add(const ContentsBlock& block) {
    constexpr double kSize = 11;
    constexpr double kStep = 16;
    for (std::size_t i = 0; i < headings_.size(); ++i) {
      const HeadingBlock& heading = *headings_[i];
      if (heading.level > block.levels) continue;
      const TextStyle look{
          .face = flow_.options.face, .size = kSize, .link = "#" + link_name(heading, i)};
      const int page = i < pages_.size() ? pages_[i] + 1 : 0;
      const ParagraphStyle style{
          .left = kStep * (heading.level - 1),
          .after = 3,
          .tabs = {{width() - kStep * (heading.level - 1), TabStop::Align::right, "."}}};
      LUMVET_TRY(
          std::vector<Strip> strips,
          strips_of(
              Paragraph(draw::plain_text(heading.text) + "\t" + std::to_string(page), look, style),
              {width(), 0, width()}, "TOCI", key_ + "e" + std::to_string(i), numbers_));
      for (Strip& strip : strips)
        strip.draw = [draw = strip.draw, key = key_](Drawing& drawing, Point at) {
          const auto scope = drawing.tag("TOC", {.key = key});
          draw(drawing, at);
        };
      take(std::move(strips));
    }
    return Done{};
  }

  const FlowData& flow_;
  const HeadingPages& pages_;
  std::vector<Finding>& findings_;
  std::vector<const HeadingBlock*> headings_;
  std::vector<Strip> strips_;  // of the block
  std::size_t ready_ = 0;      // that is given next
  StripSource rows_;           // of the table that the block is
  std::string key_;            // of the block
  std::size_t number_ = 0;     // of the block that comes next
  std::size_t next_heading_ = 0;
  Numbers numbers_;
  std::optional<Beside> beside_;
  bool is_telling_alone_ = false;
  double held_ = 0;  // points, of strips given that hold on to what comes next
};

}  // namespace

Result<std::vector<double>> heights_telling_pages(const FlowData& flow, const HeadingPages& pages) {
  std::vector<Finding> ignored;
  BlockSetter setter(flow, pages, ignored);
  setter.leave_out_others();
  std::vector<double> heights;
  for (;;) {
    LUMVET_TRY(const std::optional<Strip> strip, setter.next());
    if (!strip) return heights;
    heights.push_back(strip->height);
  }
}

StripSource strips_of(const FlowData& flow, const HeadingPages& pages,
                      std::vector<Finding>& findings) {
  auto setter = std::make_shared<BlockSetter>(flow, pages, findings);
  return [setter = std::move(setter)] { return setter->next(); };
}

}  // namespace lumvet::compose
