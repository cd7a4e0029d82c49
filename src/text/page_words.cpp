// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/page_words.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <span>

#include "content/scene_data.h"
#include "lumvet/base/assert.h"
#include "objects/text_string.h"
#include "text/bidirectional.h"
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

// Of a word that is bent, a quad for each of its code points.
const Quad* bends_of(const WordList& list, const StoredWord& word) {
  const auto number = static_cast<std::uint32_t>(&word - list.words.data());
  const auto found = std::lower_bound(
      list.bent_words.begin(), list.bent_words.end(), number,
      [](const text::StoredBends& bent, std::uint32_t at) { return bent.word < at; });
  return list.bends.data() + found->first;
}

// Where a point lies from the corner at which a quad's line begins: along the line and down, in
// parts of the quad's sides, and how far outside it is, in points.
struct PlaceIn {
  double along;
  double distance;
};

PlaceIn place_in(const Quad& quad, Point point) {
  const Point side = quad[1] - quad[0];
  const Point down = quad[3] - quad[0];
  const Point to = point - quad[0];
  const double width = std::hypot(side.x, side.y);
  const double height = std::hypot(down.x, down.y);
  const double u = width > 0 ? (to.x * side.x + to.y * side.y) / width : 0;
  const double v = height > 0 ? (to.x * down.x + to.y * down.y) / height : 0;
  return {width > 0 ? u / width : 0,
          std::hypot(distance_beyond(u, 0, width), distance_beyond(v, 0, height))};
}

// How far a point is from a word, in points.
double distance_to(const WordList& list, const StoredWord& word, Point point) {
  const text::Axes& axes = list.directions[word.direction];
  const double u = point.x * axes.along.x + point.y * axes.along.y;
  const double v = point.x * axes.down.x + point.y * axes.down.y;
  const double around = std::hypot(distance_beyond(u, word.left, word.right),
                                   distance_beyond(v, word.top, word.bottom));
  if (!word.is_bent) return around;
  const Quad* letters = bends_of(list, word);
  const std::size_t count = code_points_before(list, word, word.end);
  double least = std::numeric_limits<double>::infinity();
  for (std::size_t i = 0; i < count; ++i)
    least = std::min(least, place_in(letters[i], point).distance);
  return least;
}

// The byte before which a caret stands at a point, of a word whose letters are where they are.
std::size_t offset_in_bent(const WordList& list, const StoredWord& word, Point point) {
  const Quad* letters = bends_of(list, word);
  const std::string_view characters = std::string_view(list.text).substr(0, word.end);
  std::size_t best = word.begin;
  double least = std::numeric_limits<double>::infinity();
  std::size_t i = 0;
  for (std::size_t byte = word.begin; byte < word.end; ++i) {
    const std::size_t begins = byte;
    const bool goes_left = text::is_right_to_left(objects::next_code_point(characters, byte));
    const PlaceIn place = place_in(letters[i], point);
    if (place.distance >= least) continue;
    least = place.distance;
    best = (place.along < 0.5) != goes_left ? begins : byte;
  }
  return best;
}

}  // namespace

struct PageWords::Impl {
  WordList list;
};

PageWords PageWords::of(const Scene& scene, const WordOptions& letters) {
  auto impl = std::make_shared<Impl>();
  const content::SceneData& data = data_of(scene);
  const auto add = [&](text::Runs runs) {
    impl->list.add(
        text::letters_of(data, letters, runs),
        [&](const text::Direction& direction) { return text::drawn_lines(data, direction); },
        data.text, letters);
  };
  add(text::Runs::of_page);
  impl->list.end_page();
  if (letters.reads_annotations) add(text::Runs::of_annotations);
  impl->list.finish();
  return PageWords(std::move(impl));
}

Result<PageWords> PageWords::of(const Page& page, const RecordOptions& options,
                                const WordOptions& letters) {
  return text::with_scene<PageWords>(
      page, options, letters,
      [&](const Scene& scene) -> Result<PageWords> { return of(scene, letters); });
}

const std::string& PageWords::text() const { return impl_->list.text; }
std::size_t PageWords::word_count() const { return impl_->list.words.size(); }
std::size_t PageWords::line_count() const { return impl_->list.lines.size(); }
std::size_t PageWords::block_count() const { return impl_->list.blocks.size(); }
std::size_t PageWords::unknown_count() const { return impl_->list.unknown; }
std::size_t PageWords::memory() const { return sizeof(Impl) + impl_->list.memory(); }

TextWord PageWords::word(std::size_t number) const {
  const StoredWord& word = impl_->list.words.at(number);
  TextWord said{
      word.begin,  word.end,        word.line,
      word.column, word.columns,    quad_between(impl_->list, word, word.left, word.right),
      word.size,   word.style,      word.visibility,
      {},          word.is_artifact};
  if (word.mark >= 0) said.mark = impl_->list.marks[static_cast<std::size_t>(word.mark)];
  return said;
}

const std::vector<WordStyle>& PageWords::styles() const { return impl_->list.styles; }

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
  return {block.begin, block.end, block.first_line, end, number >= impl_->list.page_blocks};
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
    if (word->is_bent) {
      close();
      open.reset();
      const Quad* letters = bends_of(list, *word);
      for (std::size_t i = first; i < last; ++i)
        if (i == first || letters[i] != letters[i - 1]) quads.push_back(letters[i]);
      continue;
    }
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
  for (const StoredWord& word : list.words) {
    const double distance = distance_to(list, word, point);
    if (distance >= least) continue;
    least = distance;
    nearest = &word;
  }
  if (nearest == nullptr) return 0;
  if (nearest->is_bent) return offset_in_bent(list, *nearest, point);
  const text::Axes& axes = list.directions[nearest->direction];
  const double along = point.x * axes.along.x + point.y * axes.along.y;
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

PageWords PageWords::without_lines(const std::vector<TextSpan>& spans) const {
  auto impl = std::make_shared<Impl>();
  const WordList& from = impl_->list;
  WordList& list = impl->list;
  // What words refer to stays; of text, words, lines and blocks the rest is taken over.
  list.shares = from.shares;
  list.directions = from.directions;
  list.styles = from.styles;
  list.marks = from.marks;
  list.bends = from.bends;
  list.unknown = from.unknown;
  const auto is_left_out = [&](const text::StoredLine& line) {
    return std::any_of(spans.begin(), spans.end(), [&](const TextSpan& span) {
      return span.begin < line.end && line.begin < span.end;
    });
  };
  auto bent = from.bent_words.begin();
  for (std::size_t b = 0; b < from.blocks.size(); ++b) {
    const TextBlock old = block(b);
    bool is_open = false;
    for (std::size_t i = old.first_line; i < old.lines_end; ++i) {
      text::StoredLine stored = from.lines[i];
      if (is_left_out(stored)) continue;
      if (!is_open && !list.blocks.empty()) list.text += "\n\n";
      if (is_open) list.text += '\n';
      const auto begin = static_cast<std::uint32_t>(list.text.size());
      if (!is_open && !old.is_of_annotations) list.page_blocks = list.blocks.size() + 1;
      if (!is_open)
        list.blocks.push_back({begin, begin, static_cast<std::uint32_t>(list.lines.size())});
      is_open = true;
      list.text.append(from.text, stored.begin, stored.end - stored.begin);
      const TextLine said = line(i);
      const auto line_number = static_cast<std::uint32_t>(list.lines.size());
      const auto first_word = static_cast<std::uint32_t>(list.words.size());
      for (std::size_t w = said.first_word; w < said.words_end; ++w) {
        StoredWord word = from.words[w];
        while (bent != from.bent_words.end() && bent->word < w) ++bent;
        if (word.is_bent)
          list.bent_words.push_back({static_cast<std::uint32_t>(list.words.size()), bent->first});
        word.begin = word.begin - stored.begin + begin;
        word.end = word.end - stored.begin + begin;
        word.line = line_number;
        list.words.push_back(word);
      }
      stored = {begin, static_cast<std::uint32_t>(list.text.size()), first_word,
                static_cast<std::uint32_t>(list.blocks.size() - 1), stored.is_row};
      list.blocks.back().end = stored.end;
      list.lines.push_back(stored);
    }
  }
  list.finish();
  return PageWords(std::move(impl));
}

std::string text_of(const Scene& scene) { return PageWords::of(scene).text(); }

Result<std::string> text_of(const Page& page, const RecordOptions& options) {
  LUMVET_TRY(const PageWords words, PageWords::of(page, options));
  return words.text();
}

}  // namespace lumvet
