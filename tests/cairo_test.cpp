// SPDX-License-Identifier: Apache-2.0
// The same scenes, written by cairo once as PDF and once as pixels. Our drawing of the former has
// to look like the latter.
#include <cairo-pdf.h>
#include <cairo.h>

#include <cmath>

#include "tests/support/cairo_scene.h"

using namespace test;

namespace {

void fills(cairo_t* c) {
  for (int i = 0; i < 9; ++i) {
    cairo_set_source_rgba(c, i / 9.0, 0.3, 1 - i / 9.0, i % 2 == 0 ? 1 : 0.5);
    cairo_arc(c, 40 + 20 * i, 60 + 15 * (i % 3), 30.3, 0, 2 * M_PI);
    cairo_fill(c);
  }
  cairo_set_source_rgb(c, 0.2, 0.6, 0.3);
  cairo_set_fill_rule(c, CAIRO_FILL_RULE_EVEN_ODD);
  for (int i = 0; i < 5; ++i)
    cairo_line_to(c, 120 + 90 * std::sin(i * 4 * M_PI / 5), 160 - 70 * std::cos(i * 4 * M_PI / 5));
  cairo_fill(c);
}

void strokes(cairo_t* c) {
  const cairo_line_cap_t caps[] = {CAIRO_LINE_CAP_BUTT, CAIRO_LINE_CAP_ROUND,
                                   CAIRO_LINE_CAP_SQUARE};
  const cairo_line_join_t joins[] = {CAIRO_LINE_JOIN_MITER, CAIRO_LINE_JOIN_ROUND,
                                     CAIRO_LINE_JOIN_BEVEL};
  for (int i = 0; i < 9; ++i) {
    cairo_set_line_cap(c, caps[i % 3]);
    cairo_set_line_join(c, joins[i / 3]);
    cairo_set_line_width(c, 2 + i);
    const double x = 30 + 75 * (i % 3);
    const double y = 30 + 75 * (i / 3);
    cairo_move_to(c, x, y);
    cairo_line_to(c, x + 35, y + 5);
    cairo_line_to(c, x + 6, y + 20);
    cairo_curve_to(c, x + 60, y + 20, x - 20, y + 45, x + 35, y + 48);
    cairo_stroke(c);
  }
}

void dashes(cairo_t* c) {
  const double pattern[] = {12, 5, 3, 5};
  for (int i = 0; i < 6; ++i) {
    cairo_set_dash(c, pattern, i % 2 == 0 ? 4 : 3, i * 3.5);
    cairo_set_line_width(c, 3 + i % 3);
    cairo_set_line_cap(c, i % 2 == 0 ? CAIRO_LINE_CAP_BUTT : CAIRO_LINE_CAP_ROUND);
    cairo_rectangle(c, 10 + 17 * i, 12 + 17 * i, 210 - 34 * i, 205 - 34 * i);
    cairo_stroke(c);
  }
}

void clips(cairo_t* c) {
  cairo_arc(c, 100, 100, 80, 0, 2 * M_PI);
  cairo_clip(c);
  cairo_save(c);
  cairo_rectangle(c, 60.5, 20.5, 150, 90);
  cairo_clip(c);
  cairo_set_source_rgb(c, 0.9, 0.4, 0.1);
  cairo_paint(c);
  cairo_restore(c);
  cairo_set_source_rgba(c, 0.1, 0.2, 0.8, 0.6);
  cairo_translate(c, 100, 130);
  cairo_rotate(c, 0.4);
  cairo_scale(c, 2.2, 0.7);
  cairo_rectangle(c, -30, -30, 60, 60);
  cairo_fill_preserve(c);
  cairo_set_source_rgb(c, 0, 0, 0);
  cairo_set_line_width(c, 5);
  cairo_stroke(c);
}

void text(cairo_t* c) {
  cairo_font_options_t* options = cairo_font_options_create();
  cairo_font_options_set_hint_style(options, CAIRO_HINT_STYLE_NONE);
  cairo_font_options_set_hint_metrics(options, CAIRO_HINT_METRICS_OFF);
  cairo_font_options_set_antialias(options, CAIRO_ANTIALIAS_GRAY);
  cairo_set_font_options(c, options);
  cairo_font_options_destroy(options);
  const char* faces[] = {"DejaVu Sans", "Liberation Serif", "Nimbus Sans"};
  for (int i = 0; i < 6; ++i) {
    cairo_select_font_face(c, faces[i % 3],
                           i % 2 == 0 ? CAIRO_FONT_SLANT_NORMAL : CAIRO_FONT_SLANT_ITALIC,
                           i < 3 ? CAIRO_FONT_WEIGHT_NORMAL : CAIRO_FONT_WEIGHT_BOLD);
    cairo_set_font_size(c, 12 + 4 * i);
    cairo_set_source_rgb(c, 0, 0.1 * i, 0.2);
    // Letter by letter, since cairo rounds advances to 1/64 pixel of the surface at hand; and as
    // outlines where it draws pixels, since it would move every glyph to a whole pixel there.
    const char* letters[] = {"O", "ß", "ö", "&", "Ł", "½", "g"};
    for (int k = 0; k < 7; ++k) {
      cairo_move_to(c, 8.3 + 33 * k, 30.7 + 36 * i);
      if (cairo_surface_get_type(cairo_get_target(c)) == CAIRO_SURFACE_TYPE_PDF) {
        cairo_show_text(c, letters[k]);
      } else {
        cairo_text_path(c, letters[k]);
        cairo_fill(c);
      }
    }
  }
}

void pictures(cairo_t* c) {
  constexpr int kSide = 16;
  cairo_surface_t* image = cairo_image_surface_create(CAIRO_FORMAT_ARGB32, kSide, kSide);
  unsigned char* data = cairo_image_surface_get_data(image);
  const int stride = cairo_image_surface_get_stride(image);
  for (int y = 0; y < kSide; ++y)
    for (int x = 0; x < kSide; ++x) {
      const unsigned alpha = x < 8 ? 255u : 128u;
      unsigned char* p = data + y * stride + x * 4;
      p[0] = static_cast<unsigned char>(static_cast<unsigned>(x) * 16 * alpha / 255);
      p[1] = static_cast<unsigned char>(static_cast<unsigned>(y) * 16 * alpha / 255);
      p[2] = static_cast<unsigned char>(static_cast<unsigned>((x ^ y) & 1) * alpha);
      p[3] = static_cast<unsigned char>(alpha);
    }
  cairo_surface_mark_dirty(image);
  const auto place = [&](double x, double y, double scale, double angle) {
    cairo_save(c);
    cairo_translate(c, x, y);
    cairo_rotate(c, angle);
    cairo_scale(c, scale, scale);
    cairo_set_source_surface(c, image, 0, 0);
    cairo_pattern_set_filter(cairo_get_source(c), CAIRO_FILTER_NEAREST);
    cairo_paint(c);
    cairo_restore(c);
  };
  place(10, 10, 8, 0);
  place(160, 120, 5, 0.5);
  cairo_surface_destroy(image);
}

}  // namespace

TEST_CASE("our drawing looks like cairo's of the same scene", "[oracle]") {
  struct Row {
    const char* name;
    Draw draw;
    double mean;
    double far_off;
  };
  const std::vector<Row> rows = {
      {"fills", fills, 0.25, 0.0005},  {"strokes", strokes, 0.25, 0.001},
      {"dashes", dashes, 0.25, 0.001}, {"clips", clips, 0.25, 0.0005},
      {"text", text, 0.5, 0.001},      {"pictures", pictures, 0.6, 0.004}};
  for (const Row& row : rows)
    for (const double scale : {1.0, 2.0}) {
      const Difference difference = compare(row.draw, scale);
      CAPTURE(row.name, scale, difference.mean, difference.far_off);
      CHECK(difference.mean < row.mean);
      CHECK(difference.far_off < row.far_off);
    }
}
