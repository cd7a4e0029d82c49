// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "lumvet/text/written_words.h"
#include "text/list_markers.h"

namespace lumvet {
namespace {

using text::ListMarker;

void append_escaped(std::string_view text, std::string& html) {
  for (const char c : text) {
    switch (c) {
      case '&': html += "&amp;"; break;
      case '<': html += "&lt;"; break;
      case '>': html += "&gt;"; break;
      default: html += c; break;
    }
  }
}

// As the value of an attribute, in quotation marks.
void append_quoted(std::string_view text, std::string& html) {
  html += '"';
  for (std::size_t at = 0;;) {
    const std::size_t mark = text.find('"', at);
    append_escaped(text.substr(at, mark - at), html);
    if (mark == std::string_view::npos) break;
    html += "&quot;";
    at = mark + 1;
  }
  html += '"';
}

// The size that most letters have.
double usual_size(const PageWords& words) {
  std::map<double, std::size_t> letters;
  for (std::size_t i = 0; i < words.word_count(); ++i) {
    const TextWord word = words.word(i);
    letters[word.size] += word.end - word.begin;
  }
  const auto most =
      std::max_element(letters.begin(), letters.end(),
                       [](const auto& a, const auto& b) { return a.second < b.second; });
  return most == letters.end() ? 0 : most->first;
}

// Writes the blocks of a page, of which a part may be selected.
class HtmlWriter {
 public:
  HtmlWriter(const PageWords& words, const TextSpan& selected,
             const std::vector<HtmlPicture>& pictures)
      : words_(words),
        selected_(selected),
        pictures_(pictures),
        is_placed_(pictures.size()),
        usual_(usual_size(words)) {}

  std::string take() {
    for (std::size_t b = 0; b < words_.block_count(); ++b) {
      const TextBlock block = words_.block(b);
      if (block.begin >= selected_.end || block.end <= selected_.begin) continue;
      put_pictures_before(block);
      if (words_.line(block.first_line).is_row) {
        close_list();
        put_table(block);
      } else if (is_list(b)) {
        put_items(block);
      } else {
        close_list();
        put_paragraph(block);
      }
    }
    close_list();
    for (std::size_t i = 0; i < pictures_.size(); ++i)
      if (!is_placed_[i]) put_picture(i);
    return std::move(html_);
  }

 private:
  struct OpenList {
    double left;
    ListMarker::Kind kind;
  };

  std::string_view text_of(std::size_t begin, std::size_t end) const {
    const std::size_t from = std::clamp(selected_.begin, begin, end);
    return std::string_view(words_.text())
        .substr(from, std::clamp(selected_.end, from, end) - from);
  }
  bool is_selected(const TextLine& line) const {
    return line.begin < selected_.end && selected_.begin < line.end;
  }
  Quad place_of(const TextLine& line) const { return words_.word(line.first_word).quad; }
  std::optional<ListMarker> marker_of(const TextLine& line) const {
    return text::list_marker(
        std::string_view(words_.text()).substr(line.begin, line.end - line.begin));
  }

  // One that ends above the next block, or stands beside it, comes before it.
  void put_pictures_before(const TextBlock& block) {
    const TextLine line = words_.line(block.first_line);
    if (line.first_word == line.words_end) return;
    const Quad first = place_of(line);
    for (std::size_t i = 0; i < pictures_.size(); ++i) {
      if (is_placed_[i]) continue;
      const Quad& quad = pictures_[i].quad;
      const double middle = (quad[0].y + quad[2].y) / 2;
      const auto [left, right] = std::minmax({quad[0].x, quad[1].x, quad[2].x, quad[3].x});
      const double text_left = std::min(first[0].x, first[1].x);
      if (middle < first[3].y && text_left < right && text_left >= left - kBeside) put_picture(i);
    }
  }

  void put_picture(std::size_t i) {
    is_placed_[i] = true;
    close_list();
    html_ += "<p><img src=";
    append_quoted(pictures_[i].source, html_);
    html_ += " alt=";
    append_quoted(pictures_[i].description, html_);
    html_ += "></p>\n";
  }

  // What lies between two bytes of a line, as far as it is selected.
  void put_words(const TextLine& line, std::size_t from, std::size_t to, bool has_styles) {
    std::size_t done = from;
    std::string style;
    std::string closing;
    for (std::size_t i = line.first_word; i < line.words_end; ++i) {
      const TextWord word = words_.word(i);
      const std::size_t begin = std::max(word.begin, from);
      const std::size_t end = std::min(word.end, to);
      if (begin >= end || text_of(begin, end).empty()) continue;
      std::string wanted;
      std::string wanted_closing;
      if (has_styles) tell_style(words_.styles()[word.style], wanted, wanted_closing);
      const bool changes = wanted != style;
      if (changes) html_ += closing;
      append_escaped(text_of(done, begin), html_);
      if (changes) html_ += wanted;
      append_escaped(text_of(begin, end), html_);
      style = std::move(wanted);
      closing = std::move(wanted_closing);
      done = end;
    }
    html_ += closing;
  }

  static void tell_style(const WordStyle& style, std::string& opening, std::string& closing) {
    constexpr int kDark = 64;  // levels of 255; gray and black are what text is in anyway
    if (style.color) {
      const auto [red, green, blue] = *style.color;
      const auto [low, high] = std::minmax({red, green, blue});
      if (high - low > kDark) {
        constexpr std::string_view kDigits = "0123456789abcdef";
        opening += "<span style=\"color:#";
        for (const std::uint8_t level : {red, green, blue}) {
          opening += kDigits[level >> 4];
          opening += kDigits[level & 15];
        }
        opening += "\">";
        closing = "</span>";
      }
    }
    if (style.is_bold) {
      opening += "<b>";
      closing = "</b>" + closing;
    }
    if (style.is_italic) {
      opening += "<i>";
      closing = "</i>" + closing;
    }
  }

  void put_paragraph(const TextBlock& block) {
    constexpr double kHeading = 1.15;  // times the usual size
    constexpr double kLargeHeading = 1.45;
    constexpr std::size_t kMostLines = 3;  // of a heading
    const TextLine first = words_.line(block.first_line);
    const double size = first.first_word < first.words_end ? words_.word(first.first_word).size : 0;
    const bool is_short = block.lines_end - block.first_line <= kMostLines;
    const std::string element = !is_short || size < kHeading * usual_ ? "p"
                                : size < kLargeHeading * usual_       ? "h2"
                                                                      : "h1";
    html_ += "<" + element + ">";
    put_lines(block.first_line, block.lines_end, 0, element == "p");
    html_ += "</" + element + ">\n";
  }

  // Lines of one element; of the first, what a marker takes is left out.
  void put_lines(std::size_t first, std::size_t end, std::size_t marker, bool has_styles) {
    bool is_first = true;
    for (std::size_t i = first; i < end; ++i) {
      const TextLine line = words_.line(i);
      if (!is_selected(line)) continue;
      if (!is_first) html_ += '\n';
      is_first = false;
      put_words(line, line.begin + (i == first ? marker : 0), line.end, has_styles);
    }
  }

  // Whether a block begins like an item, and so does another line of it, or a block beside it.
  bool is_list(std::size_t number) const {
    const TextBlock block = words_.block(number);
    const TextLine first = words_.line(block.first_line);
    const auto marker = marker_of(first);
    if (!marker || first.first_word == first.words_end) return false;
    for (const OpenList& list : lists_)
      if (list.kind == marker->kind && std::abs(list.left - place_of(first)[0].x) < kSameLeft)
        return true;
    const auto goes_on = [&](const TextLine& line) {
      const auto other = line.is_row ? std::nullopt : marker_of(line);
      return other && other->kind == marker->kind &&
             (marker->kind == ListMarker::Kind::bullet || other->number != marker->number) &&
             line.first_word < line.words_end &&
             std::abs(place_of(line)[0].x - place_of(first)[0].x) < kSameLeft;
    };
    for (std::size_t i = block.first_line + 1; i < block.lines_end; ++i)
      if (goes_on(words_.line(i))) return true;
    return (number > 0 && goes_on(words_.line(words_.block(number - 1).first_line))) ||
           (number + 1 < words_.block_count() &&
            goes_on(words_.line(words_.block(number + 1).first_line)));
  }

  void put_items(const TextBlock& block) {
    for (std::size_t i = block.first_line; i < block.lines_end;) {
      const TextLine line = words_.line(i);
      std::size_t end = i + 1;
      while (end < block.lines_end && !marker_of(words_.line(end))) ++end;
      const auto marker = marker_of(line);
      bool has_part = false;
      for (std::size_t k = i; k < end; ++k) has_part |= is_selected(words_.line(k));
      if (has_part && marker) {
        open_item(*marker, place_of(line)[0].x);
        put_lines(i, end, marker->length, true);
      }
      i = end;
    }
  }

  // Further right is a list within the item before.
  void open_item(const ListMarker& marker, double left) {
    while (!lists_.empty() && (left < lists_.back().left - kSameLeft ||
                               (std::abs(left - lists_.back().left) <= kSameLeft &&
                                lists_.back().kind != marker.kind)))
      close_one();
    if (lists_.empty() || left > lists_.back().left + kSameLeft) {
      const bool is_bullet = marker.kind == ListMarker::Kind::bullet;
      if (!lists_.empty()) html_ += '\n';
      html_ += is_bullet ? "<ul>\n" : "<ol";
      if (marker.kind == ListMarker::Kind::letter) html_ += " type=\"a\"";
      if (!is_bullet && marker.number != 1)
        html_ += " start=\"" + std::to_string(marker.number) + "\"";
      if (!is_bullet) html_ += ">\n";
      lists_.push_back({left, marker.kind});
    } else {
      html_ += "</li>\n";
    }
    html_ += "<li>";
  }
  void close_one() {
    html_ += lists_.back().kind == ListMarker::Kind::bullet ? "</li>\n</ul>" : "</li>\n</ol>";
    html_ += '\n';
    lists_.pop_back();
  }
  void close_list() {
    while (!lists_.empty()) close_one();
  }

  // Behind the first rows of a table that are bold, where the rest is not.
  std::size_t end_of_heads(const TextBlock& block) const {
    std::size_t end = block.first_line;
    while (end < block.lines_end && is_bold(words_.line(end))) ++end;
    return end < block.lines_end ? end : block.first_line;
  }
  bool is_bold(const TextLine& line) const {
    for (std::size_t i = line.first_word; i < line.words_end; ++i)
      if (!words_.styles()[words_.word(i).style].is_bold) return false;
    return line.first_word < line.words_end;
  }

  void put_table(const TextBlock& block) {
    html_ += "<table>\n";
    const std::size_t heads_end = end_of_heads(block);
    for (std::size_t i = block.first_line; i < block.lines_end; ++i) {
      const TextLine line = words_.line(i);
      if (!is_selected(line)) continue;
      html_ += "<tr>";
      const bool is_head = i < heads_end;
      const std::string cell = is_head ? "th" : "td";
      std::size_t word = line.first_word;
      for (std::size_t begin = line.begin; begin <= line.end;) {
        const std::size_t end = std::min(words_.text().find('\t', begin), line.end);
        while (word < line.words_end && words_.word(word).end <= begin) ++word;
        const bool has_words = word < line.words_end && words_.word(word).begin < end;
        const int columns = has_words ? words_.word(word).columns : 1;
        if (begin < selected_.end && (end > selected_.begin || end == begin)) {
          html_ += "<" + cell;
          if (columns > 1) html_ += " colspan=\"" + std::to_string(columns) + "\"";
          html_ += ">";
          put_words(line, begin, end, !is_head);
          html_ += "</" + cell + ">";
        }
        begin = end + 1;
        // The columns that it takes are cells without text.
        for (int k = 1; k < columns && begin <= line.end; ++k)
          begin = std::min(words_.text().find('\t', begin), line.end) + 1;
      }
      html_ += "</tr>\n";
    }
    html_ += "</table>\n";
  }

  static constexpr double kSameLeft = 4;  // points
  static constexpr double kBeside = 36;

  const PageWords& words_;
  TextSpan selected_;
  const std::vector<HtmlPicture>& pictures_;
  std::vector<bool> is_placed_;
  double usual_;
  std::vector<OpenList> lists_;
  std::string html_;
};

}  // namespace

std::string begin_of_html(std::string_view title) {
  std::string html = "<!DOCTYPE html>\n<meta charset=\"utf-8\">\n<title>";
  append_escaped(title, html);
  return html +
         "</title>\n<style>body{max-width:50em;margin:2em auto;padding:0 1em}"
         "table{border-collapse:collapse}td,th{padding:.2em .8em .2em 0;text-align:left;"
         "vertical-align:top}img{max-width:100%}</style>\n";
}

std::string as_html(const PageWords& words, const std::vector<HtmlPicture>& pictures) {
  return HtmlWriter(words, {0, words.text().size()}, pictures).take();
}

std::string as_html(const PageWords& words, const TextSpan& selected) {
  if (selected.begin >= selected.end) return {};
  return HtmlWriter(words, selected, {}).take();
}

}  // namespace lumvet
