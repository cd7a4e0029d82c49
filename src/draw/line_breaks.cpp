// SPDX-License-Identifier: Apache-2.0
#include "draw/line_breaks.h"

#include <unicode/ubrk.h>
#include <unicode/uchar.h>

#include <algorithm>
#include <map>
#include <memory>
#include <string>

#include "draw/hyphenation.h"

namespace lumvet::draw {
namespace {

constexpr double kSlack = 1e-6;  // points
constexpr char16_t kSoftHyphen = 0xAD;

struct CloseBreaks {
  void operator()(UBreakIterator* breaks) const { ubrk_close(breaks); }
};

bool is_blank(char16_t c) {
  return c == ' ' || (c >= '\t' && c <= '\r') || c == 0x2028 || c == 0x2029 || c == 0x3000;
}

// ICU's iterator over a text; opening one takes longer than most paragraphs do, so that each
// thread keeps those of the languages that it met. Null when there is none.
UBreakIterator* breaks_in(const std::string& language, const std::u16string& text) {
  thread_local std::map<std::string, std::unique_ptr<UBreakIterator, CloseBreaks>> kept;
  constexpr std::size_t kMostKept = 16;
  UErrorCode failed = U_ZERO_ERROR;
  if (kept.size() > kMostKept) kept.clear();
  auto& breaks = kept[language];
  if (!breaks) breaks.reset(ubrk_open(UBRK_LINE, language.c_str(), nullptr, 0, &failed));
  if (!breaks || U_FAILURE(failed)) return nullptr;
  ubrk_setText(breaks.get(), text.data(), static_cast<int>(text.size()), &failed);
  return U_FAILURE(failed) ? nullptr : breaks.get();
}

// The stop that comes next.
struct Stop {
  double at = 0;
  TabStop::Align align = TabStop::Align::left;
};
Stop next_stop(const ParagraphStyle& style, double x) {
  constexpr double kEach = 36;  // points
  for (const TabStop& stop : style.tabs)
    if (stop.at > x + kSlack) return {stop.at, stop.align};
  return {(std::floor(x / kEach + kSlack) + 1) * kEach, TabStop::Align::left};
}

}  // namespace

Result<ShapedText> hyphen_at(const ShapedText& text, int unit) {
  return ShapedText::of({{"-", text.styles()[text.style_at(unit)]}});
}

Result<LineBreaks> LineBreaks::of(const ShapedText& text, const ParagraphStyle& style) {
  LineBreaks breaks;
  breaks.text_ = &text;
  breaks.style_ = &style;
  const std::u16string& all = text.text();
  const auto size = static_cast<int>(all.size());
  std::vector<double> own(all.size() + 1);
  breaks.begins_.assign(all.size() + 1, false);
  for (const ShapedRun& run : text.runs())
    for (const ShapedGlyph& glyph : run.glyphs) {
      const auto at = static_cast<std::size_t>(glyph.cluster);
      own[at] += glyph.advance * text.styles()[run.style].size;
      breaks.begins_[at] = true;
    }
  breaks.widths_.assign(all.size() + 1, 0);
  for (std::size_t i = 0; i < all.size(); ++i) {
    const bool is_tab = all[i] == '\t';
    breaks.has_tabs_ |= is_tab;
    breaks.widths_[i + 1] = breaks.widths_[i] + (is_tab || all[i] == '\n' ? 0 : own[i]);
  }
  const std::string language = text.styles().empty() ? "" : text.styles().front().language;
  UBreakIterator* iterator = breaks_in(language, all);
  if (iterator == nullptr)
    return Error(ErrorCode::invalid_argument, "it cannot be told where the text's lines may end");
  ubrk_first(iterator);
  for (int at = ubrk_next(iterator); at != UBRK_DONE; at = ubrk_next(iterator)) {
    const int status = ubrk_getRuleStatus(iterator);
    const bool is_hard = status >= UBRK_LINE_HARD && status < UBRK_LINE_HARD_LIMIT;
    breaks.opportunities_.push_back({at, is_hard || at == size});
  }
  return breaks;
}

int LineBreaks::without_blanks(int begin, int end) const {
  while (end > begin && is_blank(text_->text()[static_cast<std::size_t>(end - 1)])) --end;
  return end;
}

double LineBreaks::behind_tab(int tab, double x) const {
  const Stop stop = next_stop(*style_, x);
  if (stop.align == TabStop::Align::left) return stop.at;
  const std::u16string& all = text_->text();
  auto end = static_cast<std::size_t>(tab) + 1;
  while (end < all.size() && all[end] != '\t' && all[end] != '\n') ++end;
  const double follows = widths_[end] - widths_[static_cast<std::size_t>(tab) + 1];
  return std::max(x, stop.at - (stop.align == TabStop::Align::right ? follows : follows / 2));
}

double LineBreaks::width(int begin, int end) const {
  const auto plain = [&](int from, int to) {
    return widths_[static_cast<std::size_t>(to)] - widths_[static_cast<std::size_t>(from)];
  };
  if (!has_tabs_) return plain(begin, end);
  double x = 0;
  int from = begin;
  for (int at = begin; at < end; ++at) {
    if (text_->text()[static_cast<std::size_t>(at)] != '\t') continue;
    x = behind_tab(at, x + plain(from, at));
    from = at + 1;
  }
  return x + plain(from, end);
}

double LineBreaks::widest_word() const {
  double widest = 0;
  int from = 0;
  for (const Opportunity& opportunity : opportunities_) {
    widest = std::max(widest, width(from, without_blanks(from, opportunity.at)));
    from = opportunity.at;
  }
  return widest;
}

double LineBreaks::hyphen_width(int unit) const {
  const auto hyphen = hyphen_at(*text_, unit);
  if (!hyphen.ok() || hyphen->runs().empty()) return 0;
  return width_of(hyphen->runs().front().glyphs) * hyphen->styles().front().size;
}

// As much of a word behind a line as has room, with a hyphen; next is 0 when none has.
LineRange LineBreaks::divided(int begin, int word, int word_end, double room) const {
  if (!style_->divides_words) return {};
  const std::u16string& all = text_->text();
  int first = word;
  while (first < word_end && u_isalpha(all[static_cast<std::size_t>(first)]) == 0) ++first;
  int last = first;
  while (last < word_end && u_isalpha(all[static_cast<std::size_t>(last)]) != 0) ++last;
  constexpr int kShortest = 5;  // letters of a word that is divided
  if (last - first < kShortest) return {};
  const auto letters = std::u16string_view(all).substr(static_cast<std::size_t>(first),
                                                       static_cast<std::size_t>(last - first));
  const double hyphen = hyphen_width(first);
  LineRange best;
  for (const int division :
       divisions_of(letters, text_->styles()[text_->style_at(first)].language)) {
    const int at = first + division;
    if (width(begin, at) + hyphen > room + kSlack) break;
    best = {begin, at, at, false, true};
  }
  return best;
}

// Within a word that has no room in a whole line: as many letters as have.
LineRange LineBreaks::forced(int begin, int end, double room) const {
  int last = begin + 1;
  while (last < end && !begins_[static_cast<std::size_t>(last)]) ++last;
  for (int at = last; at <= end; ++at)
    if (begins_[static_cast<std::size_t>(at)] || at == end) {
      if (width(begin, at) > room + kSlack) break;
      last = at;
    }
  return {begin, last, last, false, false};
}

LineRange LineBreaks::line_from(int begin, double room) const {
  const std::u16string& all = text_->text();
  auto next = std::upper_bound(
      opportunities_.begin(), opportunities_.end(), begin,
      [](int unit, const Opportunity& opportunity) { return unit < opportunity.at; });
  LineRange best;
  for (; next != opportunities_.end(); ++next) {
    const int end = without_blanks(begin, next->at);
    const bool is_soft = end > begin && all[static_cast<std::size_t>(end - 1)] == kSoftHyphen &&
                         next->at < static_cast<int>(all.size());
    const double hyphen = is_soft ? hyphen_width(end - 1) : 0;
    if (width(begin, end) + hyphen > room + kSlack) break;
    best = {begin, end, next->at, next->is_hard, is_soft};
    if (next->is_hard) return best;
  }
  if (next == opportunities_.end()) return best;
  const int word = best.next > 0 ? best.next : begin;
  if (const LineRange part = divided(begin, word, next->at, room); part.next > 0) return part;
  if (best.next > 0) return best;
  return forced(begin, without_blanks(begin, next->at), room);
}

}  // namespace lumvet::draw
