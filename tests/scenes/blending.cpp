// SPDX-License-Identifier: Apache-2.0
// Blend modes, groups and masks.
#include "tests/scenes/scene.h"

namespace test {
namespace {

void gradient_over(cairo_t* c, double x0, double y0, double x1, double y1) {
  cairo_pattern_t* pattern = cairo_pattern_create_linear(x0, y0, x1, y1);
  cairo_pattern_add_color_stop_rgb(pattern, 0, 0.9, 0.2, 0.1);
  cairo_pattern_add_color_stop_rgb(pattern, 0.5, 0.95, 0.9, 0.3);
  cairo_pattern_add_color_stop_rgb(pattern, 1, 0.1, 0.3, 0.8);
  cairo_set_source(c, pattern);
  cairo_pattern_destroy(pattern);
}

// Overlapping colors, opaque and not, blended by one operator over a gradient.
Draw blended(cairo_operator_t op) {
  return [op](cairo_t* c) {
    gradient_over(c, 0, 0, 240, 0);
    cairo_rectangle(c, 10, 10, 220, 220);
    cairo_fill(c);
    cairo_set_operator(c, op);
    const double colors[][4] = {
        {0.8, 0.3, 0.5, 1}, {0.2, 0.7, 0.3, 0.6}, {0.5, 0.5, 0.5, 1}, {0.1, 0.2, 0.9, 0.8}};
    for (int i = 0; i < 4; ++i) {
      cairo_set_source_rgba(c, colors[i][0], colors[i][1], colors[i][2], colors[i][3]);
      cairo_arc(c, 80 + 80 * (i % 2), 80 + 80 * (i / 2), 60.5, 0, 2 * M_PI);
      cairo_fill(c);
    }
    cairo_set_operator(c, CAIRO_OPERATOR_OVER);
  };
}

void two_discs(cairo_t* c) {
  cairo_set_source_rgb(c, 0.9, 0.2, 0.2);
  cairo_arc(c, 90, 120, 60, 0, 2 * M_PI);
  cairo_fill(c);
  cairo_set_source_rgb(c, 0.2, 0.3, 0.9);
  cairo_arc(c, 150, 120, 60, 0, 2 * M_PI);
  cairo_fill(c);
}

Draw faded_group(double alpha) {
  return [alpha](cairo_t* c) {
    gradient_over(c, 0, 0, 0, 240);
    cairo_rectangle(c, 0, 100, 240, 60);
    cairo_fill(c);
    cairo_push_group(c);
    two_discs(c);
    cairo_pop_group_to_source(c);
    cairo_paint_with_alpha(c, alpha);
  };
}

void nested_groups(cairo_t* c) {
  gradient_over(c, 0, 0, 240, 0);
  cairo_rectangle(c, 0, 80, 240, 60);
  cairo_fill(c);
  for (int i = 0; i < 4; ++i) {
    cairo_push_group(c);
    cairo_set_source_rgb(c, 0.2 * i, 0.8 - 0.2 * i, 0.5);
    cairo_arc(c, 60 + 40 * i, 100 + 15 * i, 50, 0, 2 * M_PI);
    cairo_fill(c);
  }
  for (int i = 0; i < 4; ++i) {
    cairo_pop_group_to_source(c);
    cairo_paint_with_alpha(c, 0.8);
  }
}

// A group whose parts multiply with one another, not with what is below the group.
void group_of_blends(cairo_t* c) {
  gradient_over(c, 0, 0, 240, 240);
  cairo_rectangle(c, 20, 20, 200, 200);
  cairo_fill(c);
  cairo_push_group(c);
  cairo_set_operator(c, CAIRO_OPERATOR_OVER);
  cairo_set_source_rgb(c, 0.9, 0.8, 0.2);
  cairo_arc(c, 90, 120, 60, 0, 2 * M_PI);
  cairo_fill(c);
  cairo_set_operator(c, CAIRO_OPERATOR_MULTIPLY);
  cairo_set_source_rgba(c, 0.2, 0.8, 0.9, 0.9);
  cairo_arc(c, 150, 120, 60, 0, 2 * M_PI);
  cairo_fill(c);
  cairo_pop_group_to_source(c);
  cairo_paint_with_alpha(c, 0.8);
}

Draw masked(bool round) {
  return [round](cairo_t* c) {
    cairo_pattern_t* mask = round ? cairo_pattern_create_radial(120, 120, 20, 120, 120, 110)
                                  : cairo_pattern_create_linear(0, 30, 0, 210);
    cairo_pattern_add_color_stop_rgba(mask, 0, 0, 0, 0, 1);
    cairo_pattern_add_color_stop_rgba(mask, 1, 0, 0, 0, 0);
    gradient_over(c, 0, 40, 240, 200);
    cairo_mask(c, mask);
    cairo_pattern_destroy(mask);
  };
}

void masked_group(cairo_t* c) {
  cairo_push_group(c);
  two_discs(c);
  cairo_pop_group_to_source(c);
  cairo_pattern_t* mask = cairo_pattern_create_linear(40, 0, 200, 0);
  cairo_pattern_add_color_stop_rgba(mask, 0, 0, 0, 0, 0.1);
  cairo_pattern_add_color_stop_rgba(mask, 0.5, 0, 0, 0, 1);
  cairo_pattern_add_color_stop_rgba(mask, 1, 0, 0, 0, 0.2);
  cairo_mask(c, mask);
  cairo_pattern_destroy(mask);
}

void glass(cairo_t* c) {
  for (int i = 0; i < 60; ++i) {
    cairo_set_source_rgba(c, (i * 7 % 10) / 10.0, (i * 3 % 10) / 10.0, (i % 10) / 10.0, 0.35);
    cairo_rectangle(c, i * 37 % 190, i * 53 % 190, 50, 50);
    cairo_fill(c);
  }
}

}  // namespace

std::vector<OracleScene> blending_scenes() {
  std::vector<OracleScene> all = {
      {"faded group", faded_group(0.55)}, {"faint group", faded_group(0.2)},
      {"nested groups", nested_groups},   {"group of blends", group_of_blends},
      {"mask, round", masked(true)},      {"mask, straight", masked(false)},
      {"masked group", masked_group},     {"glass", glass},
  };
  for (int op = CAIRO_OPERATOR_MULTIPLY; op <= CAIRO_OPERATOR_HSL_LUMINOSITY; ++op)
    all.push_back({"operator " + std::to_string(op), blended(static_cast<cairo_operator_t>(op))});
  return all;
}

}  // namespace test
