// SPDX-License-Identifier: Apache-2.0
// Text placed and shown (ISO 32000-2, 9.3 and 9.4).
#include <algorithm>
#include <cmath>

#include "base/allowance.h"
#include "content/drawing.h"
#include "content/operators.h"

namespace lumvet::content {
namespace {

std::shared_ptr<const fonts::Font> load_font(Execution& run, const Object& font) {
  const auto make = [&] {
    const Object dict = run.store.resolve(font);
    return fonts::Font::make(dict.as_dict(), run.store, run.store.limits(), run.store.findings(),
                             fonts_of(run.supply));
  };
  if (font.is_reference())
    return std::static_pointer_cast<const fonts::Font>(
        run.core.made(document::ObjectCache::Kind::font, font.as_reference(),
                      fonts_of(run.supply).identity, [&]() -> document::ObjectCache::Made {
                        auto made = make();
                        const std::size_t bytes = made->memory();
                        return {std::move(made), bytes};
                      }));
  ContentCaches::DirectFont& kept = run.caches.direct_fonts[&font.as_dict()];
  if (!kept.font) kept = {font, make()};
  return kept.font;
}

// A glyph in its own space: stretched, and in vertical lines hung by its other origin.
Matrix placed_by(const fonts::Glyph& glyph) {
  const Matrix stretched = Matrix::scaling(glyph.stretch, 1);
  if (!glyph.vertical) return stretched;
  return stretched.then(Matrix::translation(-glyph.vertical->origin.x, -glyph.vertical->origin.y));
}

void include(const Rect& box, Rect& bounds) {
  bounds.include({box.left, box.bottom});
  bounds.include({box.right, box.top});
}

bool is_plain(const fonts::Glyph& glyph) { return glyph.stretch == 1 && !glyph.vertical; }

// Glyphs of one text object do not mix with one another unless that is asked for (9.3.8).
void begin_text_group(Execution& run) {
  TextObject& text = run.frame->text;
  if (!text.is_open || text.has_group || !run.state().text_knocks_out) return;
  run.canvas->begin_group({.knockout = true}, {run.state().clip});
  text.has_group = true;
}

Status fill_glyphs(Execution& run, std::vector<PlacedGlyph> glyphs, const Rect& bounds) {
  const GraphicsState& state = run.state();
  if (state.fill.is_pattern) {
    Path shape;
    for (const PlacedGlyph& glyph : glyphs) shape.append(*glyph.outline, glyph.placed);
    return paint_pattern(run, state.fill, state.fill_alpha,
                         run.canvas->clip(state.clip, std::move(shape), FillRule::nonzero));
  }
  const Paint paint = fill_paint(run);
  if (state.text_knocks_out || !is_see_through(state)) {
    run.canvas->glyphs(std::move(glyphs), bounds, paint, run.within());
    return Done{};
  }
  for (PlacedGlyph& glyph : glyphs) {
    const Rect own = glyph.placed.bounds_of(glyph.outline->bounds());
    run.canvas->glyphs({std::move(glyph)}, own, paint, run.within());
  }
  return Done{};
}

// Hands glyphs to the canvas as the rendering mode says (9.3.6).
Status show_outlines(Execution& run, std::vector<PlacedGlyph> glyphs, const Rect& bounds) {
  if (glyphs.empty()) return Done{};
  const GraphicsState& state = run.state();
  const LetterMode mode = state.text.mode;
  if (mode >= LetterMode::fill_clip)
    for (const PlacedGlyph& glyph : glyphs)
      run.frame->text.clip.append(*glyph.outline, glyph.placed);
  if (run.is_hidden()) return Done{};
  Path outlines;  // in user space, where the line width counts
  if (strokes(mode) && state.ctm.is_invertible()) {
    const Matrix to_user = state.ctm.inverse();
    for (const PlacedGlyph& glyph : glyphs)
      outlines.append(*glyph.outline, glyph.placed.then(to_user));
  }
  if (is_see_through(state)) begin_text_group(run);
  const bool apart = fills(mode) && !outlines.is_empty() && is_see_through(state);
  if (apart) run.canvas->begin_group({.knockout = true}, {state.clip});
  Status status = fills(mode) ? fill_glyphs(run, std::move(glyphs), bounds) : Status(Done{});
  if (status.ok() && !outlines.is_empty()) status = stroke_path(run, std::move(outlines));
  if (apart) run.canvas->end_group();
  return status;
}

// How what is shown now looks.
TextLook look_of(const Execution& run) {
  const GraphicsState& state = run.state();
  TextLook look;
  look.mode = state.text.mode;
  const bool is_filled = fills(look.mode);
  if ((is_filled ? state.fill : state.stroke).is_pattern) return look;
  const Paint paint = is_filled ? fill_paint(run) : stroke_paint(run);
  look.color = {paint.red, paint.green, paint.blue};
  look.has_color = is_filled || strokes(look.mode);
  look.is_clear = paint.alpha == 0;
  return look;
}

// A glyph that is a content stream (9.6.4); what it shows as text is not the page's.
Status show_procedure(Execution& run, const fonts::Type3& type3, const fonts::Glyph& glyph,
                      const Matrix& placed) {
  if (run.state().text.mode == LetterMode::invisible || run.is_hidden()) return Done{};
  const Object procedure = run.store.resolve(type3.procedures[glyph.code & 0xFF]);
  const Stream* stream = procedure.as_stream();
  if (stream == nullptr) return Done{};
  const Budget::Depth depth(run.budget);
  if (!depth.ok()) return met_limit("glyphs show one another deeper than Limits::nesting");
  const Replaced<TextRecorder*> unread(run.text, nullptr);
  Frame frame = run.frame->inner();
  frame.state.ctm = type3.matrix.then(placed);
  frame.state.stroke = frame.state.fill;
  frame.state.text = {};
  if (!type3.resources.is_empty()) frame.resources = type3.resources;
  frame.takes_color = false;
  return run.run_stream(std::move(frame), *stream);
}

Status show_text(Execution& run, std::string_view text) {
  const TextState t = run.state().text;
  if (!t.font) {
    if (!text.empty()) run.note("text without a font is not shown");
    return Done{};
  }
  constexpr std::uint32_t kSpace = 32;
  const Matrix ctm = run.state().ctm;
  Matrix& text_matrix = run.frame->text.matrix;
  // The same for all glyphs, but for where they stand.
  Matrix placed =
      Matrix{t.size * t.horizontal_scale, 0, 0, t.size, 0, t.rise}.then(text_matrix).then(ctm);
  const Point start{placed.e, placed.f};
  // Of one text space unit along the line, and how many of them are one unit of a glyph.
  const bool is_vertical = t.font->is_vertical();
  const Matrix unit = text_matrix.then(ctm);
  const Point step = is_vertical ? Point{unit.c, unit.d} : Point{unit.a, unit.b};
  const double scale = is_vertical ? t.size : t.size * t.horizontal_scale;
  const double to_glyph_units = scale != 0 ? 1 / scale : 0;
  double moved = 0;  // text space units
  const bool is_read = run.text != nullptr && !run.is_hidden();
  if (is_read) run.text->begin(look_of(run), run.state().clip, t.font, placed);
  const fonts::Type3* const type3 = t.font->type3();
  const bool has_outlines = run.draws_letters || t.mode >= LetterMode::fill_clip;
  std::vector<PlacedGlyph> outlines = std::exchange(run.glyph_room, {});
  Rect bounds = Rect::nothing();  // of what is set apart by itself
  Rect ink = Rect::nothing();     // of all else, in units of its glyphs from the start
  Status status = Done{};
  constexpr std::size_t kPortion = 256;  // glyphs; a list that grows is there twice
  TakenMemory memory;
  t.font->decode(text, [&](const fonts::Glyph& glyph) {
    if (!status.ok()) return;
    if (outlines.size() % kPortion == kPortion - 1) {
      memory.more(2 * kPortion * sizeof(PlacedGlyph));
      status = go_on();
    }
    if (glyph.is_missing && run.lacking.insert(t.font.get()).second)
      run.note(
          "a font lacks glyphs that a text asks for; its sign for them, a box or nothing is shown");
    const double along = moved * to_glyph_units;
    placed.e = start.x + moved * step.x;
    placed.f = start.y + moved * step.y;
    if (is_read) run.text->show(glyph, {placed.e, placed.f}, along);
    if (type3 != nullptr && run.draws_letters)
      status = show_procedure(run, *type3, glyph, placed);
    else if (glyph.outline && has_outlines) {
      if (is_plain(glyph)) {
        outlines.push_back({glyph.outline, placed});
        ink = {std::min(ink.left, glyph.ink.left + along), std::min(ink.bottom, glyph.ink.bottom),
               std::max(ink.right, glyph.ink.right + along), std::max(ink.top, glyph.ink.top)};
      } else {
        const Matrix own = placed_by(glyph).then(placed);
        outlines.push_back({glyph.outline, own});
        include(own.bounds_of(glyph.ink), bounds);
      }
    }
    const bool is_space = glyph.code_bytes == 1 && glyph.code == kSpace;
    const double spacing = t.character_spacing + (is_space ? t.word_spacing : 0);
    moved += glyph.vertical ? glyph.vertical->advance * t.size + spacing
                            : (glyph.width * t.size + spacing) * t.horizontal_scale;
  });
  if (ink.left <= ink.right) {
    placed.e = start.x;
    placed.f = start.y;
    include(placed.bounds_of(ink), bounds);
  }
  const Point end = text_matrix.apply(is_vertical ? Point{0, moved} : Point{moved, 0});
  text_matrix.e = end.x;
  text_matrix.f = end.y;
  LUMVET_RETURN_IF_ERROR(show_outlines(
      run, {std::make_move_iterator(outlines.begin()), std::make_move_iterator(outlines.end())},
      bounds));
  outlines.clear();
  run.glyph_room = std::move(outlines);
  return status;
}

}  // namespace

void set_font(Execution& run, const Object& font, double size) {
  run.state().text.font = load_font(run, font);
  run.state().text.size = size;
}

void end_text_group(Execution& run) {
  if (std::exchange(run.frame->text.has_group, false)) run.canvas->end_group();
}

namespace operators {

Status begin_text(Execution& run) {
  TextObject& text = run.frame->text;
  text.matrix = text.line = {};
  end_text_group(run);  // of one that was not ended
  text.is_open = true;
  return Done{};
}

Status end_text(Execution& run) {
  TextObject& text = run.frame->text;
  end_text_group(run);
  text.is_open = false;
  if (!text.clip.is_empty())
    run.state().clip =
        run.canvas->clip(run.state().clip, std::exchange(text.clip, {}), FillRule::nonzero);
  return Done{};
}

Status character_spacing(Execution& run) {
  run.state().text.character_spacing = run.number(0);
  return Done{};
}

Status word_spacing(Execution& run) {
  run.state().text.word_spacing = run.number(0);
  return Done{};
}

Status horizontal_scale(Execution& run) {
  run.state().text.horizontal_scale = run.number(0) / 100;
  return Done{};
}

Status leading(Execution& run) {
  run.state().text.leading = run.number(0);
  return Done{};
}

Status rise(Execution& run) {
  run.state().text.rise = run.number(0);
  return Done{};
}

Status text_mode(Execution& run) {
  const std::int64_t mode = run.operand(0).as_integer();
  if (mode >= 0 && mode <= 7) run.state().text.mode = static_cast<LetterMode>(mode);
  return Done{};
}

Status choose_font(Execution& run) {
  const std::string name(run.operand(0).as_name());
  const Object fonts = run.resource("Font");
  const Object& font = fonts.as_dict()[name];
  if (font.is_null()) run.note("the font '" + name + "' is missing; another one is shown");
  set_font(run, font, run.number(1));
  return Done{};
}

Status move_line(Execution& run) {
  TextObject& text = run.frame->text;
  text.line = Matrix::translation(run.number(0), run.number(1)).then(text.line);
  text.matrix = text.line;
  return Done{};
}

Status move_line_with_leading(Execution& run) {
  run.state().text.leading = -run.number(1);
  return move_line(run);
}

Status text_matrix(Execution& run) {
  run.frame->text.matrix = run.frame->text.line = run.matrix();
  return Done{};
}

Status next_line(Execution& run) {
  TextObject& text = run.frame->text;
  text.line = Matrix::translation(0, -run.state().text.leading).then(text.line);
  text.matrix = text.line;
  return Done{};
}

Status show(Execution& run) { return show_text(run, run.operand(0).as_string()); }

Status show_adjusted(Execution& run) {
  const Object items = run.operand(0);
  const TextState& t = run.state().text;
  Matrix& matrix = run.frame->text.matrix;
  for (const Object& item : items.as_array()) {
    if (item.is_number()) {
      const double shift = -item.as_number() / 1000 * t.size;
      const Matrix move = t.font && t.font->is_vertical()
                              ? Matrix::translation(0, shift)
                              : Matrix::translation(shift * t.horizontal_scale, 0);
      matrix = move.then(matrix);
    } else {
      LUMVET_RETURN_IF_ERROR(show_text(run, item.as_string()));
    }
  }
  return Done{};
}

Status show_on_next_line(Execution& run) {
  LUMVET_RETURN_IF_ERROR(next_line(run));
  return show_text(run, run.operand(0).as_string());
}

Status show_with_spacing(Execution& run) {
  run.state().text.word_spacing = run.number(0);
  run.state().text.character_spacing = run.number(1);
  LUMVET_RETURN_IF_ERROR(next_line(run));
  return show_text(run, run.operand(2).as_string());
}

Status glyph_width_and_box(Execution& run) {
  run.frame->takes_color = true;
  return Done{};
}

}  // namespace operators
}  // namespace lumvet::content
