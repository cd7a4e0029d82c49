// SPDX-License-Identifier: Apache-2.0
#include "content/text_recorder.h"

#include <algorithm>

#include "base/allowance.h"
#include "objects/text_string.h"

namespace lumvet::content {
namespace {

std::array<float, 4> scaling_of(const Matrix& m) {
  return {static_cast<float>(m.a), static_cast<float>(m.b), static_cast<float>(m.c),
          static_cast<float>(m.d)};
}

// As much of a text as one glyph can hold, not ending within a character.
std::string_view first_part(std::string_view text) {
  if (text.size() <= TextGlyph::kMostBytes) return text;
  std::size_t end = TextGlyph::kMostBytes;
  while (end > 0 && (static_cast<unsigned char>(text[end]) & 0xC0) == 0x80) --end;
  return text.substr(0, end > 0 ? end : TextGlyph::kMostBytes);
}

}  // namespace

Rect SceneText::bounds_of(std::size_t run) const {
  double low = 0;
  double high = 0;
  for (std::size_t i = runs[run].first_glyph; i < glyphs_end(run); ++i) {
    low = std::min({low, glyphs[i].begin(), glyphs[i].begin() + glyphs[i].advance()});
    high = std::max({high, glyphs[i].begin(), glyphs[i].begin() + glyphs[i].advance()});
  }
  const fonts::Font& font = font_of(runs[run]);
  const auto& [ascent, descent] = font.line_extent();
  constexpr double kHalfWide = 0.5;  // of a column, about its line
  return placed(runs[run]).bounds_of(font.is_vertical() ? Rect{-kHalfWide, low, kHalfWide, high}
                                                        : Rect{low, descent, high, ascent});
}

std::size_t SceneText::memory() const {
  std::size_t bytes = characters.capacity();
  const auto add = [&bytes](const auto& list) { bytes += list.capacity() * sizeof(list[0]); };
  add(runs);
  add(glyphs);
  add(styles);
  add(marks);
  add(forms);
  add(actual_texts);
  add(fonts);
  for (const std::string& actual : actual_texts) bytes += actual.capacity();
  return bytes;
}

bool TextRecorder::is_like_last_run() const {
  if (!to_last_run_ || text_.runs.size() == text_.page_runs) return false;
  const TextRun& run = text_.runs.back();
  const TextStyle& style = text_.styles[run.style];
  return run.mark == mark_ && run.clip == clip_ && style.look == look_ &&
         &text_.font_of(run) == font_.get() && style.scaled == scaling_of(placed_);
}

std::optional<double> TextRecorder::along_last_run(Point origin) const {
  // Parts of the font size by which a glyph may stand beside its run.
  constexpr double kBeside = 1e-4;
  if (!goes_on_) return std::nullopt;
  const Point at = to_last_run_->apply(origin);
  const bool vertical = font_->is_vertical();
  if (!(std::abs(vertical ? at.x : at.y) < kBeside)) return std::nullopt;
  return vertical ? at.y : at.x;
}

// A few glyphs' at a time.
bool TextRecorder::take_more(std::uint64_t bytes) {
  constexpr std::uint64_t kPortion = 4096;
  const std::uint64_t more = std::max(kPortion, bytes);
  if (!Allowance::take(more)) return false;
  granted_ += more;
  return true;
}

void TextRecorder::begin(const TextLook& look, ClipId clip,
                         const std::shared_ptr<const fonts::Font>& font, const Matrix& placed) {
  look_ = look;
  clip_ = clip;
  font_ = font;
  placed_ = placed;
  // Glyphs, and what holds them, neither cover a run nor lie below it.
  looked_at_ = std::min(looked_at_, scene_.operations.size());
  for (; looked_at_ < scene_.operations.size(); ++looked_at_) {
    const auto& what = scene_.operations[looked_at_].what;
    if (!std::holds_alternative<ShowGlyphs>(what) && !std::holds_alternative<BeginGroup>(what) &&
        !std::holds_alternative<EndGroup>(what))
      to_last_run_.reset();
  }
  goes_on_ = is_like_last_run();
  is_first_ = true;
}

// One of the last few, since texts go back and forth between some.
std::uint32_t TextRecorder::style_of(const std::shared_ptr<const fonts::Font>& font,
                                     const Matrix& placed) {
  constexpr std::size_t kRecent = 8;
  const auto [known, is_new] =
      fonts_.try_emplace(font.get(), static_cast<std::uint32_t>(text_.fonts.size()));
  if (is_new) text_.fonts.push_back(font);
  const std::array<float, 4> scaled = scaling_of(placed);
  const std::size_t count = text_.styles.size();
  for (std::size_t i = count; i > 0 && i + kRecent > count; --i)
    if (text_.styles[i - 1].font == known->second && text_.styles[i - 1].scaled == scaled &&
        text_.styles[i - 1].look == look_)
      return static_cast<std::uint32_t>(i - 1);
  text_.styles.push_back({scaled, known->second, look_});
  return static_cast<std::uint32_t>(count);
}

void TextRecorder::begin_run(Point origin) {
  const std::uint32_t style = style_of(font_, placed_);
  text_.runs.push_back({static_cast<float>(origin.x), static_cast<float>(origin.y), style, mark_,
                        static_cast<std::uint32_t>(text_.glyphs.size()),
                        static_cast<std::uint32_t>(text_.characters.size()),
                        static_cast<std::uint32_t>(scene_.operations.size()), clip_});
  to_last_run_ = std::nullopt;
  if (placed_.is_invertible()) {
    Matrix placed = placed_;
    placed.e = origin.x;
    placed.f = origin.y;
    to_last_run_ = placed.inverse();
  }
  goes_on_ = to_last_run_.has_value();
}

void TextRecorder::show(const fonts::Glyph& glyph, Point origin, double from_first) {
  // A list that grows is there twice.
  if (!take(2 * (sizeof(TextGlyph) + glyph.text.size()))) return;
  if (is_first_ || !goes_on_) {
    const std::optional<double> along = along_last_run(origin);
    if (!along) begin_run(origin);
    first_along_ = along.value_or(0) - from_first;
    is_first_ = false;
  }
  const double along = first_along_ + from_first;
  const double advance = glyph.vertical ? glyph.vertical->advance : glyph.width;
  if (glyph.text.size() == 1) {
    text_.glyphs.emplace_back(along, advance, 1);
    text_.characters += glyph.text.front();
    return;
  }
  std::string_view rest = glyph.text;
  std::string_view part = first_part(rest);
  text_.glyphs.emplace_back(along, advance, part.size());
  while (part.size() < rest.size()) {
    rest.remove_prefix(part.size());
    part = first_part(rest);
    text_.glyphs.emplace_back(along + advance, 0, part.size());
  }
  text_.characters += glyph.text;
}

std::int32_t TextRecorder::keep(const Object& said) {
  if (!said.is_string()) return -1;
  text_.actual_texts.push_back(objects::text_to_utf8(said.as_string()));
  return static_cast<std::int32_t>(text_.actual_texts.size() - 1);
}

void TextRecorder::begin_marked(std::string_view tag, const Dict& properties) {
  TextMark mark;
  mark.is_artifact = tag == "Artifact";
  mark.outer = mark_;
  if (!forms_.empty()) {
    OpenForm& form = forms_.back();
    if (form.known < 0) {
      form.known = static_cast<std::int32_t>(text_.forms.size());
      text_.forms.push_back(form.offset);
    }
    mark.form = form.known;
  }
  if (const Object& number = properties["MCID"]; number.is_integer())
    mark.number = static_cast<int>(number.as_integer());
  mark.actual_text = keep(properties["ActualText"]);
  mark.expansion = keep(properties["E"]);
  text_.marks.push_back(mark);
  mark_ = static_cast<std::int32_t>(text_.marks.size() - 1);
}

void TextRecorder::end_marked() {
  if (mark_ >= 0) mark_ = text_.marks[static_cast<std::size_t>(mark_)].outer;
}

void TextRecorder::finish() {
  text_.runs.shrink_to_fit();
  text_.glyphs.shrink_to_fit();
  text_.characters.shrink_to_fit();
  text_.styles.shrink_to_fit();
  text_.marks.shrink_to_fit();
  text_.forms.shrink_to_fit();
  text_.actual_texts.shrink_to_fit();
  text_.fonts.shrink_to_fit();
}

}  // namespace lumvet::content
