// SPDX-License-Identifier: Apache-2.0
// Text placed and shown (ISO 32000-2, 9.4).
#include <cmath>

#include "content/interpreter.h"

#include "base/attempt.h"
#include "filters/stream_decoder.h"

namespace lumvet::content {

Status Interpreter::begin_text() {
  text_matrix_ = line_matrix_ = {};
  end_text_group();  // of one that was not ended
  in_text_ = true;
  return Done{};
}

Status Interpreter::end_text() {
  end_text_group();
  in_text_ = false;
  if (!text_clip_.is_empty()) {
    state_.clip = canvas_->clip(state_.clip, std::move(text_clip_), FillRule::nonzero);
    text_clip_ = {};
  }
  return Done{};
}

Status Interpreter::character_spacing() {
  state_.text.character_spacing = number(0);
  return Done{};
}

Status Interpreter::word_spacing() {
  state_.text.word_spacing = number(0);
  return Done{};
}

Status Interpreter::horizontal_scale() {
  state_.text.horizontal_scale = number(0) / 100;
  return Done{};
}

Status Interpreter::leading() {
  state_.text.leading = number(0);
  return Done{};
}

Status Interpreter::rise() {
  state_.text.rise = number(0);
  return Done{};
}

Status Interpreter::text_mode() {
  const std::int64_t mode = operands_[0].as_integer();
  if (mode >= 0 && mode <= 7) state_.text.mode = static_cast<TextMode>(mode);
  return Done{};
}

Status Interpreter::choose_font() {
  const Object fonts = store_.get(resources_, "Font");
  const Object& font = fonts.as_dict()[operands_[0].as_name()];
  if (font.is_null())
    note("the font '" + std::string(operands_[0].as_name()) + "' is missing; another one is shown");
  set_font(font, number(1));
  return Done{};
}

void Interpreter::set_font(const Object& font, double size) {
  state_.text.font = load_font(font);
  state_.text.size = size;
}

std::shared_ptr<const fonts::Font> Interpreter::load_font(const Object& font) {
  const auto make = [&] {
    const Object dict = store_.resolve(font);
    return fonts::Font::make(dict.as_dict(), store_, store_.limits(), store_.findings(),
                             fonts_of(supply_));
  };
  if (font.is_reference())
    return std::static_pointer_cast<const fonts::Font>(
        core_.made(document::ObjectCache::Kind::font, font.as_reference(),
                   fonts_of(supply_).identity, [&]() -> document::ObjectCache::Made {
                     auto made = make();
                     const std::size_t bytes = made->memory();
                     return {std::move(made), bytes};
                   }));
  DirectFont& kept = direct_fonts_[&font.as_dict()];
  if (!kept.font) kept = {font, make()};
  return kept.font;
}

Status Interpreter::move_line() {
  line_matrix_ = Matrix::translation(number(0), number(1)).then(line_matrix_);
  text_matrix_ = line_matrix_;
  return Done{};
}

Status Interpreter::move_line_with_leading() {
  state_.text.leading = -number(1);
  return move_line();
}

Status Interpreter::text_matrix() {
  text_matrix_ = line_matrix_ = matrix();
  return Done{};
}

Status Interpreter::next_line() {
  line_matrix_ = Matrix::translation(0, -state_.text.leading).then(line_matrix_);
  text_matrix_ = line_matrix_;
  return Done{};
}

Status Interpreter::show() { return show_text(operands_[0].as_string()); }

Status Interpreter::show_adjusted() {
  const Object items = operands_[0];
  for (const Object& item : items.as_array()) {
    if (item.is_number()) {
      const double shift = -item.as_number() / 1000 * state_.text.size;
      const bool vertical = state_.text.font && state_.text.font->is_vertical();
      const Matrix move = vertical ? Matrix::translation(0, shift)
                                   : Matrix::translation(shift * state_.text.horizontal_scale, 0);
      text_matrix_ = move.then(text_matrix_);
    } else {
      LUMVET_RETURN_IF_ERROR(show_text(item.as_string()));
    }
  }
  return Done{};
}

Status Interpreter::show_on_next_line() {
  LUMVET_RETURN_IF_ERROR(next_line());
  return show_text(operands_[0].as_string());
}

Status Interpreter::show_with_spacing() {
  state_.text.word_spacing = number(0);
  state_.text.character_spacing = number(1);
  LUMVET_RETURN_IF_ERROR(next_line());
  return show_text(operands_[2].as_string());
}

namespace {

// A glyph in its own space: stretched, and in vertical lines hung by its other origin.
Matrix placed_by(const fonts::Glyph& glyph) {
  const Matrix stretched = Matrix::scaling(glyph.stretch, 1);
  if (!glyph.vertical) return stretched;
  return stretched.then(Matrix::translation(-glyph.vertical->origin.x, -glyph.vertical->origin.y));
}

}  // namespace

Status Interpreter::show_text(std::string_view text) {
  const TextState t = state_.text;
  if (!t.font) {
    if (!text.empty()) note("text without a font is not shown");
    return Done{};
  }
  constexpr std::uint32_t kSpace = 32;
  const bool reads = canvas_->reads() && !hidden_from_;
  std::vector<ShownGlyph> shown;
  Status status = Done{};
  t.font->decode(text, [&](const fonts::Glyph& glyph) {
    if (!status.ok()) return;
    if (glyph.is_missing && lacking_.insert(t.font.get()).second)
      note(
          "a font lacks glyphs that a text asks for; its sign for them, a box or nothing is shown");
    const Matrix trm = Matrix{t.size * t.horizontal_scale, 0, 0, t.size, 0, t.rise}
                           .then(text_matrix_)
                           .then(state_.ctm);
    if (reads)
      shown.push_back({t.font->text_of(glyph.code, glyph.code_bytes), trm,
                       glyph.vertical ? glyph.vertical->advance : glyph.width,
                       glyph.vertical.has_value()});
    else if (const fonts::Type3* type3 = t.font->type3())
      status = show_procedure(*type3, glyph, trm);
    else if (glyph.outline)
      glyph_run_.push_back({glyph.outline, placed_by(glyph).then(trm)});
    const bool is_space = glyph.code_bytes == 1 && glyph.code == kSpace;
    const double spacing = t.character_spacing + (is_space ? t.word_spacing : 0);
    const Matrix move =
        glyph.vertical
            ? Matrix::translation(0, glyph.vertical->advance * t.size + spacing)
            : Matrix::translation((glyph.width * t.size + spacing) * t.horizontal_scale, 0);
    text_matrix_ = move.then(text_matrix_);
  });
  if (reads) canvas_->text(shown);
  LUMVET_RETURN_IF_ERROR(finish_run());
  return status;
}

// Hands the glyphs gathered to the canvas as the rendering mode says (9.3.6).
Status Interpreter::finish_run() {
  std::vector<PlacedGlyph> run = std::exchange(glyph_run_, {});
  if (run.empty()) return Done{};
  const TextMode mode = state_.text.mode;
  const bool fills = mode == TextMode::fill || mode == TextMode::fill_stroke ||
                     mode == TextMode::fill_clip || mode == TextMode::fill_stroke_clip;
  const bool strokes = mode == TextMode::stroke || mode == TextMode::fill_stroke ||
                       mode == TextMode::stroke_clip || mode == TextMode::fill_stroke_clip;
  if (mode >= TextMode::fill_clip)
    for (const PlacedGlyph& glyph : run) text_clip_.append(*glyph.outline, glyph.placed);
  if (hidden_from_) return Done{};
  Path outlines;  // in user space, where the line width counts
  if (strokes && state_.ctm.is_invertible()) {
    const Matrix to_user = state_.ctm.inverse();
    for (const PlacedGlyph& glyph : run)
      outlines.append(*glyph.outline, glyph.placed.then(to_user));
  }
  if (is_see_through()) begin_text_group();
  const bool apart = fills && !outlines.is_empty() && is_see_through();
  if (apart) canvas_->begin_group({.knockout = true}, {state_.clip});
  Status status = fills ? fill_glyphs(std::move(run)) : Status(Done{});
  if (status.ok() && !outlines.is_empty()) status = stroke_path(std::move(outlines));
  if (apart) canvas_->end_group();
  return status;
}

Status Interpreter::fill_glyphs(std::vector<PlacedGlyph> glyphs) {
  if (state_.fill.is_pattern) {
    Path shape;
    for (const PlacedGlyph& glyph : glyphs) shape.append(*glyph.outline, glyph.placed);
    return paint_pattern(state_.fill, state_.fill_alpha,
                         canvas_->clip(state_.clip, std::move(shape), FillRule::nonzero));
  }
  if (state_.text_knocks_out || !is_see_through()) {
    canvas_->glyphs(std::move(glyphs), fill_paint(), within());
    return Done{};
  }
  for (PlacedGlyph& glyph : glyphs) canvas_->glyphs({std::move(glyph)}, fill_paint(), within());
  return Done{};
}

// Glyphs of one text object do not mix with one another unless that is asked for (9.3.8).
void Interpreter::begin_text_group() {
  if (!in_text_ || in_text_group_ || !state_.text_knocks_out) return;
  canvas_->begin_group({.knockout = true}, {state_.clip});
  in_text_group_ = true;
}

void Interpreter::end_text_group() {
  if (in_text_group_) canvas_->end_group();
  in_text_group_ = false;
}

Status Interpreter::show_procedure(const fonts::Type3& type3, const fonts::Glyph& glyph,
                                   const Matrix& trm) {
  if (state_.text.mode == TextMode::invisible || hidden_from_) return Done{};
  const Object procedure = store_.resolve(type3.procedures[glyph.code & 0xFF]);
  const Stream* stream = procedure.as_stream();
  if (stream == nullptr) return Done{};
  const Budget::Depth depth(budget_);
  if (!depth.ok()) return met_limit("glyphs show one another deeper than Limits::nesting");
  LUMVET_RETURN_IF_ERROR(save());
  const std::size_t saved_here = saved_.size();
  state_.ctm = type3.matrix.then(trm);
  state_.stroke = state_.fill;
  state_.text = {};
  const Dict outer_resources = resources_;
  if (!type3.resources.is_empty()) resources_ = type3.resources;
  const bool outer_uncolored = std::exchange(takes_color_, false);
  Status status = run_form_content(*stream);
  takes_color_ = outer_uncolored;
  resources_ = outer_resources;
  saved_.resize(saved_here);
  LUMVET_RETURN_IF_ERROR(restore());
  return status;
}

Status Interpreter::glyph_width() { return Done{}; }

Status Interpreter::glyph_width_and_box() {
  takes_color_ = true;
  return Done{};
}

}  // namespace lumvet::content
