// SPDX-License-Identifier: Apache-2.0
// Fills, strokes, dashes and clips.
#include "tests/scenes/scene.h"

namespace test {
namespace {

void discs(cairo_t* c) {
  for (int i = 0; i < 9; ++i) {
    cairo_set_source_rgba(c, i / 9.0, 0.3, 1 - i / 9.0, i % 2 == 0 ? 1 : 0.5);
    cairo_arc(c, 40 + 20 * i, 60 + 15 * (i % 3), 30.3, 0, 2 * M_PI);
    cairo_fill(c);
  }
}

Draw star(cairo_fill_rule_t rule, int points, int step) {
  return [=](cairo_t* c) {
    cairo_set_source_rgb(c, 0.2, 0.6, 0.3);
    cairo_set_fill_rule(c, rule);
    for (int i = 0; i < points; ++i)
      cairo_line_to(c, 120 + 110 * std::sin(i * step * 2 * M_PI / points),
                    120 - 110 * std::cos(i * step * 2 * M_PI / points));
    cairo_close_path(c);
    cairo_fill(c);
  };
}

void ring_of_rectangles(cairo_t* c) {
  for (int i = 0; i < 24; ++i) {
    cairo_save(c);
    cairo_translate(c, 120, 120);
    cairo_rotate(c, i * M_PI / 12);
    cairo_set_source_rgb(c, i / 24.0, 0.5, 0.8 - i / 40.0);
    cairo_rectangle(c, 50, -8, 55, 16);
    cairo_fill(c);
    cairo_restore(c);
  }
}

void slivers(cairo_t* c) {
  for (int i = 0; i < 40; ++i) {
    cairo_move_to(c, 10 + i * 5.5, 20);
    cairo_line_to(c, 12 + i * 5.5, 20);
    cairo_line_to(c, 40 + i * 4.1, 220);
    cairo_close_path(c);
  }
  cairo_fill(c);
}

void checkers(cairo_t* c) {
  for (int y = 0; y < 30; ++y)
    for (int x = y % 2; x < 30; x += 2) cairo_rectangle(c, 4.25 + x * 7.7, 5.6 + y * 7.7, 7.7, 7.7);
  cairo_set_source_rgb(c, 0.5, 0.1, 0.4);
  cairo_fill(c);
}

void curls(cairo_t* c) {
  cairo_set_fill_rule(c, CAIRO_FILL_RULE_EVEN_ODD);
  for (int i = 0; i < 6; ++i) {
    cairo_move_to(c, 20 + 10 * i, 230);
    cairo_curve_to(c, 300 - 30 * i, -100, -80 + 20 * i, -60, 220 - 10 * i, 225);
    cairo_curve_to(c, 100, 100 + 20 * i, 140, 60, 20 + 10 * i, 230);
  }
  cairo_set_source_rgb(c, 0.1, 0.3, 0.6);
  cairo_fill(c);
}

Draw corners(cairo_line_cap_t cap, cairo_line_join_t join) {
  return [=](cairo_t* c) {
    cairo_set_line_cap(c, cap);
    cairo_set_line_join(c, join);
    for (int i = 0; i < 9; ++i) {
      cairo_set_line_width(c, 2 + 1.5 * i);
      cairo_set_source_rgb(c, 0.1 * i, 0.2, 0.5);
      const double x = 20 + 75 * (i % 3);
      const double y = 25 + 75 * (i / 3);
      cairo_move_to(c, x, y);
      cairo_line_to(c, x + 35, y + 5);
      cairo_line_to(c, x + 6, y + 20);
      cairo_curve_to(c, x + 60, y + 20, x - 20, y + 45, x + 35, y + 48);
      cairo_stroke(c);
    }
  };
}

Draw dashes(cairo_line_cap_t cap, double phase, bool odd) {
  return [=](cairo_t* c) {
    const double pattern[] = {12, 5, 3, 5};
    cairo_set_line_cap(c, cap);
    for (int i = 0; i < 6; ++i) {
      cairo_set_dash(c, pattern, odd ? 3 : 4, phase * i);
      cairo_set_line_width(c, 2 + i % 3);
      cairo_rectangle(c, 10 + 17 * i, 12 + 17 * i, 210 - 34 * i, 205 - 34 * i);
      cairo_stroke(c);
    }
    cairo_set_source_rgb(c, 0.8, 0.2, 0.1);
    cairo_arc(c, 120, 120, 90, 0, 2 * M_PI);
    cairo_close_path(c);
    cairo_stroke(c);
  };
}

Draw fan(double width) {
  return [=](cairo_t* c) {
    cairo_set_line_width(c, width);
    for (int i = 0; i < 48; ++i) {
      cairo_move_to(c, 120 + 20 * std::cos(i * M_PI / 24), 120 + 20 * std::sin(i * M_PI / 24));
      cairo_line_to(c, 120 + 112 * std::cos(i * M_PI / 24), 120 + 112 * std::sin(i * M_PI / 24));
    }
    cairo_stroke(c);
  };
}

// Lines drawn in a space that is wider than high.
Draw squeezed(double across, double up, double angle) {
  return [=](cairo_t* c) {
    cairo_translate(c, 120, 120);
    cairo_rotate(c, angle);
    cairo_scale(c, across, up);
    cairo_set_line_width(c, 8);
    cairo_set_line_join(c, CAIRO_LINE_JOIN_ROUND);
    cairo_arc(c, 0, 0, 40, 0, 2 * M_PI);
    cairo_close_path(c);
    cairo_stroke(c);
    cairo_set_source_rgb(c, 0.7, 0.3, 0.1);
    cairo_rectangle(c, -25, -25, 50, 50);
    cairo_stroke(c);
  };
}

Draw miters(double limit) {
  return [=](cairo_t* c) {
    cairo_set_miter_limit(c, limit);
    cairo_set_line_width(c, 9);
    for (int i = 0; i < 6; ++i) {
      const double y = 30 + 36 * i;
      cairo_move_to(c, 20, y);
      cairo_line_to(c, 190, y + 3 + 4 * i);
      cairo_line_to(c, 20, y + 6 + 8 * i);
      cairo_set_source_rgba(c, 0.1, 0.1 * i, 0.6, 0.8);
      cairo_stroke(c);
    }
  };
}

void grid(cairo_t* c) {
  cairo_set_line_width(c, 1);
  for (int i = 0; i <= 22; ++i) {
    cairo_move_to(c, 10.5 + 10 * i, 10.5);
    cairo_line_to(c, 10.5 + 10 * i, 230.5);
    cairo_move_to(c, 10.5, 10.5 + 10 * i);
    cairo_line_to(c, 230.5, 10.5 + 10 * i);
  }
  cairo_stroke(c);
}

// The plot of a wave with several hundred short pieces.
void wave(cairo_t* c) {
  cairo_set_source_rgb(c, 0.1, 0.4, 0.3);
  cairo_set_line_width(c, 1.6);
  cairo_set_line_join(c, CAIRO_LINE_JOIN_ROUND);
  for (int i = 0; i <= 800; ++i)
    cairo_line_to(c, 10 + i * 0.275,
                  120 + 60 * std::sin(i * 0.05) * std::cos(i * 0.011) + 25 * std::sin(i * 0.31));
  cairo_stroke(c);
}

void round_clip(cairo_t* c) {
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

Draw star_clip(cairo_fill_rule_t rule) {
  return [=](cairo_t* c) {
    cairo_set_fill_rule(c, rule);
    for (int i = 0; i < 7; ++i)
      cairo_line_to(c, 120 + 110 * std::sin(i * 3 * 2 * M_PI / 7),
                    120 - 110 * std::cos(i * 3 * 2 * M_PI / 7));
    cairo_clip(c);
    cairo_set_fill_rule(c, CAIRO_FILL_RULE_WINDING);
    for (int i = 0; i < 24; ++i) {
      cairo_set_source_rgb(c, i / 24.0, 0.6, 0.9 - i / 30.0);
      cairo_rectangle(c, 0, 10 * i, 240, 8);
      cairo_fill(c);
    }
  };
}

void many_clips(cairo_t* c) {
  for (int i = 0; i < 16; ++i) {
    cairo_save(c);
    cairo_arc(c, 35 + 56 * (i % 4), 35 + 56 * (i / 4), 25, 0, 2 * M_PI);
    cairo_clip(c);
    cairo_set_source_rgb(c, 0.2, i / 16.0, 0.5);
    cairo_paint(c);
    cairo_set_source_rgb(c, 1, 1, 1);
    cairo_rectangle(c, 20 + 56 * (i % 4), 30 + 56 * (i / 4), 50, 8);
    cairo_fill(c);
    cairo_restore(c);
  }
}

void rectangle_clips(cairo_t* c) {
  for (int i = 0; i < 8; ++i) {
    cairo_rectangle(c, 8.3 * i, 7.7 * i, 240 - 17.1 * i, 240 - 15.9 * i);
    cairo_clip(c);
    cairo_set_source_rgb(c, i % 2, 0.3 + 0.08 * i, 0.6);
    cairo_paint(c);
  }
}

}  // namespace

std::vector<OracleScene> path_scenes() {
  std::vector<OracleScene> all = {
      {"discs", discs},
      {"ring of rectangles", ring_of_rectangles},
      {"slivers", slivers},
      {"checkers", checkers},
      {"curls", curls},
      {"grid", grid},
      {"wave", wave},
      {"star, nonzero", star(CAIRO_FILL_RULE_WINDING, 5, 2)},
      {"star, even-odd", star(CAIRO_FILL_RULE_EVEN_ODD, 5, 2)},
      {"dense star, nonzero", star(CAIRO_FILL_RULE_WINDING, 41, 17)},
      {"dense star, even-odd", star(CAIRO_FILL_RULE_EVEN_ODD, 41, 17)},
      {"hairlike fan", fan(0.8)},
      {"thin fan", fan(1)},
      {"fan", fan(2.5)},
      {"thick fan", fan(7)},
      {"wide lines", squeezed(2.4, 1, 0)},
      {"high lines", squeezed(0.5, 2, 0.3)},
      {"slanted lines", squeezed(2.2, 0.8, 0.9)},
      {"miters up to 2", miters(2)},
      {"miters up to 10", miters(10)},
      {"miters up to 40", miters(40)},
      {"round clip", round_clip},
      {"star clip, nonzero", star_clip(CAIRO_FILL_RULE_WINDING)},
      {"star clip, even-odd", star_clip(CAIRO_FILL_RULE_EVEN_ODD)},
      {"many clips", many_clips},
      {"rectangle clips", rectangle_clips},
  };
  const cairo_line_cap_t caps[] = {CAIRO_LINE_CAP_BUTT, CAIRO_LINE_CAP_ROUND,
                                   CAIRO_LINE_CAP_SQUARE};
  const cairo_line_join_t joins[] = {CAIRO_LINE_JOIN_MITER, CAIRO_LINE_JOIN_ROUND,
                                     CAIRO_LINE_JOIN_BEVEL};
  for (const auto cap : caps) {
    for (const auto join : joins)
      all.push_back(
          {"cap " + std::to_string(cap) + " join " + std::to_string(join), corners(cap, join)});
    all.push_back({"dashes, cap " + std::to_string(cap), dashes(cap, 3.5, false)});
    all.push_back({"odd dashes, cap " + std::to_string(cap), dashes(cap, 7.25, true)});
  }
  return all;
}

}  // namespace test
