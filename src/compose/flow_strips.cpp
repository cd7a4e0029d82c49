// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <cmath>

#include "compose/flow_data.h"

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
  void leave_out_others() { is_telling_alone_ = true; }

  Result<std::optional<Strip>> next() {
    for (;;) {
      if (rows_) {
        LUMVET_TRY(std::optional<Strip> row, rows_());
        if (row) return row;
        rows_ = nullptr;
      }
      if (ready_ < strips_.size()) return std::optional<Strip>(std::move(strips_[ready_++]));
      strips_.clear();
      ready_ = 0;
      if (number_ >= flow_.blocks.size()) return std::optional<Strip>();
      key_ = "b" + std::to_string(number_);
      const Block& block = flow_.blocks[number_++];
      if (is_telling_alone_ && !tells_pages(block)) {
        leave_out(block);
        continue;
      }
      const Status added = std::visit([&](const auto& one) { return add(one); }, block);
      if (!added.ok()) return added.error();
    }
  }

 private:
  double width() const { return flow_.column_width(); }

  static std::string link_name(const HeadingBlock& heading, std::size_t number) {
    return heading.name.empty() ? "heading-" + std::to_string(number + 1) : heading.name;
  }

  static bool tells_pages(const Block& block) {
    if (const Paragraph* paragraph = std::get_if<Paragraph>(&block))
      return draw::tells_pages(*paragraph);
    if (const ListBlock* list = std::get_if<ListBlock>(&block))
      return std::any_of(list->items.begin(), list->items.end(), draw::tells_pages);
    return std::holds_alternative<ContentsBlock>(block);
  }

  // The notes in it count all the same.
  void leave_out(const Block& block) {
    if (const Paragraph* paragraph = std::get_if<Paragraph>(&block))
      numbers_.next_note += draw::count_notes(*paragraph);
    if (const ListBlock* list = std::get_if<ListBlock>(&block))
      for (const Paragraph& item : list->items) numbers_.next_note += draw::count_notes(item);
  }

  void take(std::vector<Strip> strips) {
    strips_.insert(strips_.end(), std::make_move_iterator(strips.begin()),
                   std::make_move_iterator(strips.end()));
  }

  Status add(const HeadingBlock& heading) {
    constexpr double kSmaller = 0.78;  // from level to level
    const int level = std::clamp(heading.level, 1, 6);
    const double size = std::max(flow_.options.heading_size * std::pow(kSmaller, level - 1), 10.0);
    const Paragraph text(heading.text,
                         {.face = flow_.options.face,
                          .size = size,
                          .color = flow_.options.heading_color,
                          .language = flow_.options.language},
                         {.line_height = 1.15,
                          .before = size * 0.9,
                          .after = size * 0.45,
                          .keeps_together = true,
                          .keeps_with_next = true});
    LUMVET_TRY(std::vector<Strip> strips,
               strips_of(text, {width(), 0, width()}, "H" + std::to_string(level), key_, numbers_));
    const std::size_t number = next_heading_++;
    if (strips.empty()) return Done{};
    strips.front().heading = std::make_shared<const Strip::Heading>(
        Strip::Heading{heading.text, level, link_name(heading, number), number});
    take(std::move(strips));
    return Done{};
  }

  Status add(const Paragraph& paragraph) {
    LUMVET_TRY(std::vector<Strip> strips,
               strips_of(paragraph, {width(), 0, width()}, "P", key_, numbers_));
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
                 strips_of(item, {width() - left, left, width()}, "LBody", own + "t", numbers_));
      const std::string marker = list.is_numbered
                                     ? std::to_string(list.first + static_cast<int>(i)) + "."
                                     : (list.depth % 2 == 0 ? "•" : "–");
      LUMVET_TRY(const SetParagraph set, Paragraph(marker, draw::first_look(item),
                                                   {.align = ParagraphStyle::Align::right,
                                                    .line_height = item.style().line_height})
                                             .set(step - first.size * 0.4));
      for (std::size_t k = 0; k < strips.size(); ++k)
        strips[k].draw = [draw = strips[k].draw, set, k, own, key = key_, at_marker = left - step](
                             Drawing& page, Point at) {
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
    LUMVET_TRY(rows_, strips_of(table, width(), flow_.column_height(), key_));
    return Done{};
  }

  void add_figure(double height, const std::string& description, DrawStrip draw) {
    constexpr double kAround = 8;  // points
    Strip strip;
    strip.height = height;
    strip.before = strip.after = kAround;
    strip.draw = [draw = std::move(draw), description](Drawing& page, Point at) {
      const auto scope = page.tag("Figure", {.alternate = description});
      draw(page, at);
    };
    strips_.push_back(std::move(strip));
  }

  Status add(const PictureBlock& block) {
    double wide = block.width > 0 ? block.width : block.picture.wide();
    double high = wide * block.picture.high() / block.picture.wide();
    const double scale = std::min({1.0, width() / wide, flow_.column_height() / high});
    wide *= scale;
    high *= scale;
    add_figure(high, block.description,
               [picture = block.picture, wide, high](Drawing& page, Point at) {
                 page.draw(picture, {at.x, at.y, wide, high}, Drawing::Fit::stretched);
               });
    return Done{};
  }

  Status add(const ChartBlock& block) {
    // Once to itself, so that it is known now what goes wrong with it.
    Drawing drawing(width(), block.height);
    LUMVET_TRY(const std::vector<Finding> findings,
               draw_chart(drawing, {0, 0, width(), block.height}, block.chart));
    findings_.insert(findings_.end(), findings.begin(), findings.end());
    add_figure(block.height, block.chart.title,
               [drawing](Drawing& page, Point at) { page.draw(drawing, at); });
    return Done{};
  }

  Status add(const DrawingBlock& block) {
    add_figure(block.drawing.height(), block.description,
               [drawing = block.drawing](Drawing& page, Point at) { page.draw(drawing, at); });
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
          strips_of(Paragraph(heading.text + "\t" + std::to_string(page), look, style),
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
  bool is_telling_alone_ = false;
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
