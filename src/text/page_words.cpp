// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/page_words.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <span>

#include "content/scene_data.h"
#include "lumvet/base/assert.h"
#include "objects/text_string.h"
#include "text/page_scene.h"
#include "text/word_list.h"

namespace lumvet {
namespace {

using text::StoredWord;
using text::WordList;

constexpr double kWholeShare = 65535;

Quad quad_between(const WordList& list, const StoredWord& word, double left, double right) {
  const text::Axes& axes = list.directions[word.direction];
  const auto place = [&](double along, double across) {
    return axes.along * along + axes.down * across;
  };
  return {place(left, word.top), place(right, word.top), place(right, word.bottom),
          place(left, word.bottom)};
}

double distance_beyond(double value, double low, double high) {
  return std::max({low - value, value - high, 0.0});
}

// How many code points of a word begin before a byte of the text.
std::size_t code_points_before(const WordList& list, const StoredWord& word, std::size_t byte) {
  const std::string_view characters =
      std::string_view(list.text).substr(word.begin, word.end - word.begin);
  std::size_t count = 0;
  for (std::size_t i = 0; i < characters.size() && word.begin + i < byte; ++count)
    objects::next_code_point(characters, i);
  return count;
}

}  // namespace

struct PageWords::Impl {
  WordList list;
};

PageWords PageWords::of(const Scene& scene) {
  auto impl = std::make_shared<Impl>();
  const content::SceneData& data = data_of(scene);
  for (const text::Direction& direction : text::letters_of(data.text, data.bounds))
    impl->list.add(direction, text::drawn_lines(data, direction));
  impl->list.finish();
  return PageWords(std::move(impl));
}

Result<PageWords> PageWords::of(const Page& page, const RecordOptions& options) {
  return text::with_scene<PageWords>(
      page, options, [](const Scene& scene) -> Result<PageWords> { return of(scene); });
}

const std::string& PageWords::text() const { return impl_->list.text; }
std::size_t PageWords::word_count() const { return impl_->list.words.size(); }
std::size_t PageWords::line_count() const { return impl_->list.lines.size(); }
std::size_t PageWords::block_count() const { return impl_->list.blocks.size(); }
std::size_t PageWords::unknown_count() const { return impl_->list.unknown; }
std::size_t PageWords::memory() const { return sizeof(Impl) + impl_->list.memory(); }

TextWord PageWords::word(std::size_t number) const {
  const StoredWord& word = impl_->list.words.at(number);
  return {word.begin,
          word.end,
          word.line,
          word.column,
          quad_between(impl_->list, word, word.left, word.right),
          word.size};
}

TextLine PageWords::line(std::size_t number) const {
  const auto& lines = impl_->list.lines;
  const text::StoredLine& line = lines.at(number);
  const std::size_t end = number + 1 < lines.size() ? lines[number + 1].first_word : word_count();
  return {line.begin, line.end, line.first_word, end, line.block, line.is_row};
}

TextBlock PageWords::block(std::size_t number) const {
  const auto& blocks = impl_->list.blocks;
  const text::StoredBlock& block = blocks.at(number);
  const std::size_t end = number + 1 < blocks.size() ? blocks[number + 1].first_line : line_count();
  return {block.begin, block.end, block.first_line, end};
}

std::vector<Quad> PageWords::quads(std::size_t begin, std::size_t end) const {
  const WordList& list = impl_->list;
  std::vector<Quad> quads;
  auto word = std::upper_bound(list.words.begin(), list.words.end(), begin,
                               [](std::size_t at, const StoredWord& w) { return at < w.end; });
  // Words of one line beside each other become one; a word's own part may be in the middle of it.
  std::optional<StoredWord> open;
  double left = 0;
  double right = 0;
  const auto close = [&] {
    if (open) quads.push_back(quad_between(list, *open, left, right));
  };
  for (; word != list.words.end() && word->begin < end; ++word) {
    const std::size_t first = code_points_before(list, *word, begin);
    const std::size_t last = code_points_before(list, *word, end);
    if (first == last) continue;
    double low = kWholeShare;
    double high = 0;
    for (std::size_t i = first; i < last; ++i) {
      const text::Share& share = list.shares[word->first_share + i];
      low = std::min<double>(low, share.begin);
      high = std::max<double>(high, share.end);
    }
    const double width = word->right - word->left;
    const double from = word->left + width * low / kWholeShare;
    const double to = word->left + width * high / kWholeShare;
    if (open && open->line == word->line && open->column == word->column) {
      left = std::min(left, from);
      right = std::max(right, to);
      open->top = std::min(open->top, word->top);
      open->bottom = std::max(open->bottom, word->bottom);
    } else {
      close();
      open = *word;
      left = from;
      right = to;
    }
  }
  close();
  return quads;
}

std::size_t PageWords::offset_at(Point point) const {
  const WordList& list = impl_->list;
  const StoredWord* nearest = nullptr;
  double least = std::numeric_limits<double>::infinity();
  double along = 0;
  for (const StoredWord& word : list.words) {
    const text::Axes& axes = list.directions[word.direction];
    const double u = point.x * axes.along.x + point.y * axes.along.y;
    const double v = point.x * axes.down.x + point.y * axes.down.y;
    const double distance = std::hypot(distance_beyond(u, word.left, word.right),
                                       distance_beyond(v, word.top, word.bottom));
    if (distance >= least) continue;
    least = distance;
    nearest = &word;
    along = u;
  }
  if (nearest == nullptr) return 0;
  // The side of a character on which its line begins is that before it.
  const double width = nearest->right - nearest->left;
  const double share = width > 0 ? (along - nearest->left) / width * kWholeShare : 0;
  std::size_t best = nearest->begin;
  double best_distance = std::numeric_limits<double>::infinity();
  const std::string_view characters = std::string_view(list.text).substr(0, nearest->end);
  std::size_t index = nearest->first_share;
  for (std::size_t byte = nearest->begin; byte < nearest->end; ++index) {
    const std::size_t begins = byte;
    objects::next_code_point(characters, byte);
    const text::Share& own = list.shares[index];
    const std::size_t next =
        index + 1 < list.shares.size() && byte < nearest->end ? index + 1 : index;
    const bool goes_left = list.shares[next].begin < own.begin;
    const std::pair<double, std::size_t> sides[] = {{goes_left ? own.end : own.begin, begins},
                                                    {goes_left ? own.begin : own.end, byte}};
    for (const auto& [place, offset] : sides) {
      if (std::abs(share - place) >= best_distance) continue;
      best_distance = std::abs(share - place);
      best = offset;
    }
  }
  return best;
}

TextSpan PageWords::between(Point one, Point other) const {
  const auto [begin, end] = std::minmax({offset_at(one), offset_at(other)});
  return {begin, end};
}

namespace {

// The last of a list that begins at a place or before it.
template <typename Part>
TextSpan part_around(const std::vector<Part>& parts, std::size_t offset) {
  auto next = std::upper_bound(parts.begin(), parts.end(), offset,
                               [](std::size_t at, const Part& part) { return at < part.begin; });
  if (next != parts.begin()) --next;
  return next == parts.end() ? TextSpan() : TextSpan{next->begin, next->end};
}

}  // namespace

TextSpan PageWords::word_around(std::size_t offset) const {
  return part_around(impl_->list.words, offset);
}
TextSpan PageWords::line_around(std::size_t offset) const {
  return part_around(impl_->list.lines, offset);
}
TextSpan PageWords::block_around(std::size_t offset) const {
  return part_around(impl_->list.blocks, offset);
}

std::vector<TextSpan> PageWords::within(const PageArea& area) const {
  const WordList& list = impl_->list;
  std::vector<TextSpan> spans;
  bool follows = false;  // on the word before
  for (const StoredWord& word : list.words) {
    const Quad quad = quad_between(list, word, word.left, word.right);
    const Point middle = (quad[0] + quad[2]) * 0.5;
    const bool is_inside = middle.x >= area.left && middle.x <= area.left + area.width &&
                           middle.y >= area.top && middle.y <= area.top + area.height;
    if (is_inside && follows)
      spans.back().end = word.end;
    else if (is_inside)
      spans.push_back({word.begin, word.end});
    follows = is_inside;
  }
  return spans;
}

std::string text_of(const Scene& scene) { return PageWords::of(scene).text(); }

Result<std::string> text_of(const Page& page, const RecordOptions& options) {
  LUMVET_TRY(const PageWords words, PageWords::of(page, options));
  return words.text();
}

}  // namespace lumvet
