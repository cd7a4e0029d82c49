// SPDX-License-Identifier: Apache-2.0
#include "text/word_list.h"

#include <algorithm>
#include <cmath>

#include "base/allowance.h"
#include "objects/text_string.h"
#include "text/accents.h"
#include "text/bidirectional.h"
#include "text/column_gaps.h"
#include "text/styles.h"
#include "text/turned_blocks.h"
#include "text/wide_characters.h"

namespace lumvet::text {
namespace {

// Parts of the font size.
constexpr float kBlank = 0.2F;            // from which on a gap parts words
constexpr float kNarrowBlank = 0.1F;      // the same where nearly all letters are closer than that
constexpr float kBlankBesideWide = 0.5F;  // between Chinese, Japanese and Korean characters
constexpr double kTab = 2.5;              // from which on a gap is a tab

// Control characters, and those that turn the direction of text, are nothing that a page says.
bool is_control(char32_t c) {
  return c < 0x20 || (c >= 0x7F && c < 0xA0) || c == 0x200E || c == 0x200F ||
         (c >= 0x2028 && c <= 0x202E) || (c >= 0x2066 && c <= 0x2069) || c == 0xFEFF;
}

// The characters of a letter, without those; white space within them is one blank.
std::string visible(std::string_view characters) {
  std::string kept;
  for (std::size_t at = 0; at < characters.size();) {
    const std::size_t begin = at;
    const char32_t c = objects::next_code_point(characters, at);
    const bool is_white = c == '\n' || c == '\t' || c == '\r';
    if (is_white) kept += ' ';
    if (!is_control(c)) kept += characters.substr(begin, at - begin);
  }
  return kept;
}

constexpr char kNothing = '\x1F';  // parts words without a character of its own

// What stands on a line, as it is seen: letters, and between them what parts them.
struct Item {
  const Letter* letter = nullptr;
  char separator = 0;  // in its place
};

class Writing {
 public:
  Writing(WordList& list, const Direction& direction, const std::vector<Piece>& pieces,
          const content::SceneText& text, const WordOptions& options, StylesOfText& styles)
      : list_(list),
        direction_(direction),
        pieces_(pieces),
        text_(text),
        options_(options),
        styles_(styles) {
    number_ = static_cast<std::uint16_t>(list_.directions.size());
    list_.directions.push_back({direction.along, direction.down});
  }

  // What comes next does not go on with what was written before.
  void begin_part() { is_first_ = true; }

  // A line of another direction in a cell of a row.
  struct Head {
    Writing* writing;
    const OrderedLine* line;
  };

  // `heads` are those of each cell; none of most lines.
  void add(const OrderedLine& line, const std::vector<std::vector<Head>>& heads = {}) {
    if (line.begins_block || list_.blocks.empty() || is_first_)
      begin_block();
    else
      list_.text += '\n';
    is_first_ = false;
    is_row_ = line.is_row;
    StoredLine stored{at(), 0, word_count(), static_cast<std::uint32_t>(list_.blocks.size() - 1),
                      line.is_row};
    for (std::size_t column = 0; column < line.cells.size(); ++column) {
      if (column > 0) list_.text += '\t';
      column_ = static_cast<std::uint16_t>(std::min<std::size_t>(column, 0xFFFF));
      const std::size_t span = line.spans.empty() ? 1 : line.spans[column];
      columns_ = static_cast<std::uint8_t>(std::min<std::size_t>(span, 0xFF));
      add_cell(line.cells[column]);
      if (heads.empty()) continue;
      for (const Head& head : heads[column]) {
        if (&head != &heads[column].front()) list_.text += ' ';
        head.writing->add_head(*head.line, column_);
      }
    }
    stored.end = at();
    list_.lines.push_back(stored);
    list_.blocks.back().end = at();
  }

 private:
  std::uint32_t at() const { return static_cast<std::uint32_t>(list_.text.size()); }
  std::uint32_t word_count() const { return static_cast<std::uint32_t>(list_.words.size()); }

  void add_head(const OrderedLine& line, std::uint16_t column) {
    column_ = column;
    columns_ = 1;
    is_row_ = true;
    for (const auto& cell : line.cells) {
      if (&cell != &line.cells.front()) list_.text += ' ';
      add_cell(cell);
    }
  }

  void begin_block() {
    if (!list_.blocks.empty()) list_.text += "\n\n";
    list_.blocks.push_back({at(), at(), static_cast<std::uint32_t>(list_.lines.size())});
  }

  void add_cell(const std::vector<std::size_t>& cell) {
    items_.clear();
    for (std::size_t i = 0; i < cell.size(); ++i) {
      const Piece& piece = pieces_[cell[i]];
      if (i > 0) {
        const Piece& before = pieces_[cell[i - 1]];
        const double gap = piece.begin - before.end;
        const bool is_far = gap > kTab * std::max(piece.size, before.size);
        // Lines of a cell in a script without blanks go on without one.
        if (is_row_ && piece.base > before.base && ends_wide(before) && begins_wide(piece)) {
          items_.push_back({nullptr, kNothing});
          add_piece(piece);
          continue;
        }
        items_.push_back({nullptr, is_far && !is_row_ ? '\t' : ' '});
      }
      add_piece(piece);
    }
    const bool is_plain = std::all_of(items_.begin(), items_.end(), [](const Item& item) {
      return item.letter == nullptr || item.letter->is_plain;
    });
    if (is_plain) return write(items_);
    std::u32string seen;
    for (const Item& item : items_)
      seen += item.letter != nullptr ? first_of(item.letter->characters)
                                     : static_cast<char32_t>(item.separator);
    if (!has_right_to_left(seen)) return write(items_);
    write_in_order(seen);
  }

  // What a tab parts is put into order by itself, and follows from the right where the whole goes
  // left.
  void write_in_order(const std::u32string& seen) {
    std::vector<std::pair<std::size_t, std::size_t>> parts;
    for (std::size_t begin = 0; begin <= seen.size();) {
      const std::size_t end = std::min(seen.find('\t', begin), seen.size());
      parts.emplace_back(begin, end);
      begin = end + 1;
    }
    if (mostly_goes_left(seen)) std::reverse(parts.begin(), parts.end());
    std::vector<Item> read;
    for (const auto& [begin, end] : parts) {
      if (!read.empty()) read.push_back({nullptr, '\t'});
      for (const std::size_t place : order_of_reading(seen.substr(begin, end - begin)))
        read.push_back(items_[begin + place]);
    }
    write(read);
  }

  void add_piece(const Piece& piece) {
    gaps_.clear();
    const Letter* before = nullptr;
    float end = 0;  // of all letters so far: some stand over others
    for (const std::uint32_t i : piece.letters) {
      const Letter& letter = direction_.letters[i];
      if (before != nullptr && !letter.is_blank && !before->is_blank)
        gaps_.push_back((letter.begin - end) / letter.size);
      end = before != nullptr ? std::max(end, letter.end) : letter.end;
      before = &letter;
    }
    const float least = least_gap(gaps_);
    before = nullptr;
    for (const std::uint32_t i : piece.letters) {
      const Letter& letter = direction_.letters[i];
      if (letter.is_blank) {
        if (items_.empty() || items_.back().separator == 0) items_.push_back({nullptr, ' '});
        before = nullptr;
        continue;
      }
      if (before != nullptr) {
        const float gap = letter.begin - end;
        const float size = std::max(letter.size, before->size);
        const bool is_dropped = before->size > kDropped * letter.size;  // down beside its line
        if (gap > least * size && !is_dropped &&
            (gap > kBlankBesideWide * size || !are_wide(*before, letter)))
          items_.push_back({nullptr, ' '});
      }
      items_.push_back({&letter, 0});
      end = before != nullptr ? std::max(end, letter.end) : letter.end;
      before = &letter;
    }
  }

  bool begins_wide(const Piece& piece) const {
    return is_wide(first_of(direction_.letters[piece.letters.front()].characters));
  }
  bool ends_wide(const Piece& piece) const {
    return is_wide(first_of(direction_.letters[piece.letters.back()].characters));
  }

  // Whether one of two letters is of a script without blanks.
  static bool are_wide(const Letter& a, const Letter& b) {
    return (!a.is_plain && is_wide(first_of(a.characters))) ||
           (!b.is_plain && is_wide(first_of(b.characters)));
  }

  // Letters that are spaced out are not words of one letter, and where letters stand close narrow
  // blanks part words too.
  static float least_gap(std::vector<float>& gaps) {
    constexpr std::size_t kFew = 6;
    if (gaps.size() < kFew) return kBlank;
    constexpr float kClose = 0.05F;
    const bool are_close = std::none_of(
        gaps.begin(), gaps.end(), [](float gap) { return gap > kClose && gap < kNarrowBlank; });
    const auto wide = static_cast<std::size_t>(
        std::count_if(gaps.begin(), gaps.end(), [](float gap) { return gap > kNarrowBlank; }));
    if (2 * wide < gaps.size()) return are_close ? kNarrowBlank : kBlank;
    const auto middle = gaps.begin() + static_cast<std::ptrdiff_t>(gaps.size() / 2);
    std::nth_element(gaps.begin(), middle, gaps.end());
    constexpr float kMore = 0.15F;
    if (*middle > kNarrowBlank) return std::max(kBlank, *middle + kMore);
    return are_close ? kNarrowBlank : kBlank;
  }

  void write(const std::vector<Item>& items) {
    for (std::size_t i = 0; i < items.size();) {
      if (items[i].letter == nullptr) {
        if (items[i].separator != kNothing) list_.text += items[i].separator;
        ++i;
        continue;
      }
      std::size_t end = i;
      while (end < items.size() && items[end].letter != nullptr) ++end;
      write_word(items, i, end);
      i = end;
    }
  }

  void write_word(const std::vector<Item>& items, std::size_t first, std::size_t end) {
    StoredWord word{};
    word.begin = at();
    word.first_share = static_cast<std::uint32_t>(list_.shares.size());
    word.line = static_cast<std::uint32_t>(list_.lines.size());
    word.direction = number_;
    word.column = column_;
    word.columns = columns_;
    tell_of(*items[first].letter, word);
    float left = items[first].letter->begin;
    float right = items[first].letter->end;
    float top = items[first].letter->top;
    float bottom = items[first].letter->bottom;
    float smallest = items[first].letter->size;
    for (std::size_t i = first; i < end; ++i) {
      const Letter& letter = *items[i].letter;
      left = std::min(left, letter.begin);
      right = std::max(right, letter.end);
      top = std::min(top, letter.top);
      bottom = std::max(bottom, letter.bottom);
      word.size = std::max(word.size, letter.size);
      list_.unknown += letter.is_unknown ? 1 : 0;
      word.is_bent = word.is_bent || letter.bend >= 0;
      smallest = std::min(smallest, letter.size);
      if (letter.visibility == Visibility::seen) word.visibility = Visibility::seen;
    }
    const Scale share(left, right);
    // A large letter at the head of a paragraph reaches beside other lines than its word's.
    word.is_bent = word.is_bent || word.size > kDropped * smallest;
    for (std::size_t i = first; i < end; ++i) {
      const Letter& letter = *items[i].letter;
      if (letter.is_plain) {
        list_.text += letter.characters[0];
        list_.shares.push_back({share(letter.begin), share(letter.end)});
        continue;
      }
      const std::string characters = said_by(letter);
      list_.text += characters;
      add_shares(letter, characters, share);
    }
    word.end = at();
    word.left = left;
    word.right = right;
    word.top = top;
    word.bottom = bottom;
    if (word.end == word.begin) return;
    if (word.is_bent) add_bends(items, first, end, word);
    list_.words.push_back(word);
  }

  std::string said_by(const Letter& letter) const {
    std::string characters = visible(letter.characters);
    return options_.splits_ligatures ? without_ligatures(characters) : characters;
  }

  // What its first letter says of a word.
  void tell_of(const Letter& letter, StoredWord& word) {
    word.visibility = letter.visibility;
    word.style = styles_.of(text_.runs[letter.run].style);
    const std::int32_t mark = text_.runs[letter.run].mark;
    for (std::int32_t at = mark; at >= 0 && !word.is_artifact;) {
      const content::TextMark& around = text_.marks[static_cast<std::size_t>(at)];
      at = around.outer;
      word.is_artifact = around.is_artifact;
    }
    word.mark = place_of(mark_around(text_, mark));
  }

  // Among the list's marks; -1 of none.
  std::int32_t place_of(const std::optional<ContentMark>& mark) {
    if (!mark) return -1;
    if (list_.marks.empty() || list_.marks.back() != *mark) list_.marks.push_back(*mark);
    return static_cast<std::int32_t>(list_.marks.size() - 1);
  }

  // Keeps where each letter of a word is, and makes the word reach around them all.
  void add_bends(const std::vector<Item>& items, std::size_t first, std::size_t end,
                 StoredWord& word) {
    list_.bent_words.push_back({word_count(), static_cast<std::uint32_t>(list_.bends.size())});
    Rect around = Rect::nothing();
    const std::size_t before = list_.bends.size();
    for (std::size_t i = first; i < end; ++i) {
      const Letter& letter = *items[i].letter;
      const Quad quad = direction_.quad_of(letter);
      for (const Point corner : quad)
        around.include({direction_.place_along(corner), direction_.place_across(corner)});
      list_.bends.insert(list_.bends.end(), code_points_in(said_by(letter)), quad);
    }
    if (list_.bends.size() == before) return;
    word.left = static_cast<float>(around.left);
    word.right = static_cast<float>(around.right);
    word.top = static_cast<float>(around.bottom);
    word.bottom = static_cast<float>(around.top);
  }

  static std::size_t code_points_in(std::string_view characters) {
    std::size_t count = 0;
    for (std::size_t at = 0; at < characters.size(); ++count)
      objects::next_code_point(characters, at);
    return count;
  }

  // Lengths along a word as parts of it.
  struct Scale {
    Scale(float from, float to) : left(from), shares(to > from ? kWhole / (to - from) : 0) {}
    std::uint16_t operator()(float place) const {
      return static_cast<std::uint16_t>(std::clamp((place - left) * shares, 0.0F, kWhole) + 0.5F);
    }
    static constexpr float kWhole = 65535;
    float left;
    float shares;  // to the point
  };

  // The code points of a ligature have equal parts of it.
  void add_shares(const Letter& letter, std::string_view characters, const Scale& share) {
    const std::size_t count = code_points_in(characters);
    const bool goes_left = is_right_to_left(first_of(characters));
    const float step = letter.width() / static_cast<float>(count);
    for (std::size_t k = 0; k < count; ++k) {
      const auto part = static_cast<float>(goes_left ? count - 1 - k : k);
      list_.shares.push_back(
          {share(letter.begin + part * step), share(letter.begin + (part + 1) * step)});
    }
  }

  WordList& list_;
  const Direction& direction_;
  const std::vector<Piece>& pieces_;
  const content::SceneText& text_;
  const WordOptions& options_;
  StylesOfText& styles_;
  std::uint16_t number_ = 0;  // of the direction
  std::uint16_t column_ = 0;
  std::uint8_t columns_ = 1;
  bool is_first_ = true;
  bool is_row_ = false;      // of a table, whose cells tabs part
  std::vector<Item> items_;  // of a cell
  std::vector<float> gaps_;  // of a piece, in parts of the font size
};

}  // namespace

void WordList::add(std::span<const Direction> all,
                   const std::function<DrawnLines(const Direction&)>& lines_beside,
                   const content::SceneText& said, const WordOptions& options) {
  std::vector<LaidDirection> laid;
  for (const Direction& direction : all) {
    if (!goes_on()) break;
    DrawnLines drawn = lines_beside(direction);
    std::vector<Piece> pieces = pieces_of(direction.letters, drawn);
    drawn.gaps = column_gaps(pieces, direction.letters);
    if (!drawn.gaps.empty()) pieces = pieces_of(direction.letters, drawn);
    std::vector<OrderedLine> ordered =
        reading_order(pieces, direction.letters, drawn, direction.goes_left());
    laid.push_back({&direction, std::move(pieces), std::move(ordered)});
  }
  if (laid.empty()) return;
  StylesOfText known(said, styles);
  std::vector<Writing> writings;
  writings.reserve(laid.size());
  for (const LaidDirection& one : laid)
    writings.emplace_back(*this, *one.direction, one.pieces, said, options, known);
  for (const LinesOf& some : in_reading_order(laid)) {
    Writing& writing = writings[some.direction];
    writing.begin_part();
    std::vector<std::vector<Writing::Head>> heads;
    for (const std::vector<LineAt>& column : some.heads.columns) {
      heads.emplace_back();
      for (const LineAt& at : column)
        heads.back().push_back({&writings[at.direction], &laid[at.direction].lines[at.line]});
    }
    for (std::size_t i = some.first; i < some.end && goes_on(); ++i) {
      const OrderedLine& line = laid[some.direction].lines[i];
      if (i > some.first || heads.empty()) {
        writing.add(line);
      } else if (some.heads.are_a_row) {
        OrderedLine row{.cells = {}, .spans = {}, .is_row = true, .begins_block = true};
        row.cells.resize(line.cells.size());
        writing.add(row, heads);
        OrderedLine next = line;
        next.begins_block = false;
        writing.add(next);
      } else {
        writing.add(line, heads);
      }
    }
  }
}

void WordList::finish() {
  text.shrink_to_fit();
  words.shrink_to_fit();
  lines.shrink_to_fit();
  blocks.shrink_to_fit();
  shares.shrink_to_fit();
  directions.shrink_to_fit();
  styles.shrink_to_fit();
  marks.shrink_to_fit();
  bent_words.shrink_to_fit();
  bends.shrink_to_fit();
}

std::size_t WordList::memory() const {
  const auto bytes_of = [](const auto& list) { return list.capacity() * sizeof(list[0]); };
  return text.capacity() + bytes_of(words) + bytes_of(lines) + bytes_of(blocks) + bytes_of(shares) +
         bytes_of(directions) + bytes_of(styles) + bytes_of(marks) + bytes_of(bent_words) +
         bytes_of(bends);
}

}  // namespace lumvet::text
