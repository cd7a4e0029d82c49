// SPDX-License-Identifier: Apache-2.0
// Blend modes, groups, masks, gradients, meshes and patterns against cairo's own pixels.
#include "tests/support/cairo_scene.h"

using namespace test;

namespace {

void gradient_over(cairo_t* c, double x0, double y0, double x1, double y1) {
  cairo_pattern_t* pattern = cairo_pattern_create_linear(x0, y0, x1, y1);
  cairo_pattern_add_color_stop_rgb(pattern, 0, 0.9, 0.2, 0.1);
  cairo_pattern_add_color_stop_rgb(pattern, 0.5, 0.95, 0.9, 0.3);
  cairo_pattern_add_color_stop_rgb(pattern, 1, 0.1, 0.3, 0.8);
  cairo_set_source(c, pattern);
  cairo_pattern_destroy(pattern);
}

// Overlapping colours, opaque and not, blended by one operator over a gradient.
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

Draw linear(cairo_extend_t extend, double angle) {
  return [=](cairo_t* c) {
    cairo_translate(c, 120, 120);
    cairo_rotate(c, angle);
    cairo_pattern_t* pattern = cairo_pattern_create_linear(-50, -20, 40, 30);
    cairo_pattern_add_color_stop_rgba(pattern, 0, 1, 0, 0, 1);
    cairo_pattern_add_color_stop_rgba(pattern, 0.3, 1, 1, 0, 1);
    cairo_pattern_add_color_stop_rgba(pattern, 0.8, 0, 0.5, 1, 1);
    cairo_pattern_add_color_stop_rgba(pattern, 1, 0.1, 0, 0.3, 1);
    cairo_pattern_set_extend(pattern, extend);
    cairo_set_source(c, pattern);
    cairo_rectangle(c, -80, -80, 160, 160);
    cairo_fill(c);
    cairo_pattern_destroy(pattern);
  };
}

Draw radial(cairo_extend_t extend, double x0, double r0, double x1, double r1) {
  return [=](cairo_t* c) {
    cairo_pattern_t* pattern = cairo_pattern_create_radial(x0, 120, r0, x1, 110, r1);
    cairo_pattern_add_color_stop_rgb(pattern, 0, 1, 1, 0.8);
    cairo_pattern_add_color_stop_rgb(pattern, 0.6, 0.9, 0.3, 0.2);
    cairo_pattern_add_color_stop_rgb(pattern, 1, 0.2, 0.1, 0.4);
    cairo_pattern_set_extend(pattern, extend);
    cairo_set_source(c, pattern);
    cairo_arc(c, 120, 120, 110, 0, 2 * M_PI);
    cairo_fill(c);
    cairo_pattern_destroy(pattern);
  };
}

void transparent_gradient(cairo_t* c) {
  cairo_set_source_rgb(c, 0.2, 0.5, 0.3);
  for (int i = 0; i < 12; ++i) cairo_rectangle(c, 20 * i, 0, 10, 240);
  cairo_fill(c);
  cairo_pattern_t* pattern = cairo_pattern_create_linear(20, 20, 220, 220);
  cairo_pattern_add_color_stop_rgba(pattern, 0, 0.9, 0.1, 0.1, 1);
  cairo_pattern_add_color_stop_rgba(pattern, 1, 0.1, 0.1, 0.9, 0);
  cairo_set_source(c, pattern);
  cairo_rectangle(c, 20, 20, 200, 200);
  cairo_fill(c);
  cairo_pattern_destroy(pattern);
}

void mesh(cairo_t* c) {
  cairo_pattern_t* pattern = cairo_pattern_create_mesh();
  cairo_mesh_pattern_begin_patch(pattern);
  cairo_mesh_pattern_move_to(pattern, 30, 30);
  cairo_mesh_pattern_curve_to(pattern, 90, -10, 150, 70, 210, 30);
  cairo_mesh_pattern_curve_to(pattern, 250, 100, 170, 150, 210, 210);
  cairo_mesh_pattern_curve_to(pattern, 150, 170, 90, 250, 30, 210);
  cairo_mesh_pattern_curve_to(pattern, 70, 150, -10, 90, 30, 30);
  cairo_mesh_pattern_set_corner_color_rgb(pattern, 0, 1, 0, 0);
  cairo_mesh_pattern_set_corner_color_rgb(pattern, 1, 0, 1, 0);
  cairo_mesh_pattern_set_corner_color_rgb(pattern, 2, 0, 0, 1);
  cairo_mesh_pattern_set_corner_color_rgb(pattern, 3, 1, 1, 0);
  cairo_mesh_pattern_end_patch(pattern);
  cairo_set_source(c, pattern);
  cairo_paint(c);
  cairo_pattern_destroy(pattern);
}

void faded_group(cairo_t* c) {
  gradient_over(c, 0, 0, 0, 240);
  cairo_rectangle(c, 0, 100, 240, 60);
  cairo_fill(c);
  cairo_push_group(c);
  cairo_set_source_rgb(c, 0.9, 0.2, 0.2);
  cairo_arc(c, 90, 120, 60, 0, 2 * M_PI);
  cairo_fill(c);
  cairo_set_source_rgb(c, 0.2, 0.3, 0.9);
  cairo_arc(c, 150, 120, 60, 0, 2 * M_PI);
  cairo_fill(c);
  cairo_pop_group_to_source(c);
  cairo_paint_with_alpha(c, 0.55);
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

void masked(cairo_t* c) {
  cairo_pattern_t* mask = cairo_pattern_create_radial(120, 120, 20, 120, 120, 110);
  cairo_pattern_add_color_stop_rgba(mask, 0, 0, 0, 0, 1);
  cairo_pattern_add_color_stop_rgba(mask, 1, 0, 0, 0, 0);
  gradient_over(c, 0, 40, 240, 200);
  cairo_mask(c, mask);
  cairo_pattern_destroy(mask);
}

// A pattern of a drawing, repeated, turned and slanted.
Draw tiled(double side, double angle, double scale) {
  return [=](cairo_t* c) {
    const cairo_rectangle_t extents = {0, 0, side, side};
    cairo_surface_t* cell = cairo_recording_surface_create(CAIRO_CONTENT_COLOR_ALPHA, &extents);
    cairo_t* d = cairo_create(cell);
    cairo_set_source_rgb(d, 0.8, 0.4, 0.1);
    cairo_arc(d, side / 2, side / 2, side * 0.3, 0, 2 * M_PI);
    cairo_fill(d);
    cairo_set_source_rgb(d, 0.1, 0.3, 0.5);
    cairo_rectangle(d, 0, 0, side * 0.2, side * 0.2);
    cairo_fill(d);
    cairo_destroy(d);
    cairo_pattern_t* pattern = cairo_pattern_create_for_surface(cell);
    cairo_pattern_set_extend(pattern, CAIRO_EXTEND_REPEAT);
    cairo_matrix_t matrix;
    cairo_matrix_init_scale(&matrix, 1 / scale, 1 / scale);
    cairo_matrix_rotate(&matrix, angle);
    cairo_pattern_set_matrix(pattern, &matrix);
    cairo_set_source(c, pattern);
    cairo_arc(c, 120, 120, 100, 0, 2 * M_PI);
    cairo_fill(c);
    cairo_pattern_destroy(pattern);
    cairo_surface_destroy(cell);
  };
}

void gradient_stroke(cairo_t* c) {
  gradient_over(c, 30, 30, 210, 210);
  cairo_set_line_width(c, 18);
  cairo_set_line_join(c, CAIRO_LINE_JOIN_ROUND);
  cairo_move_to(c, 40, 200);
  cairo_curve_to(c, 60, 20, 120, 20, 130, 130);
  cairo_line_to(c, 200, 50);
  cairo_stroke(c);
}

struct Scene {
  std::string name;
  Draw draw;
};

std::vector<Scene> scenes() {
  std::vector<Scene> all = {
      {"transparent gradient", transparent_gradient},
      {"mesh", mesh},
      {"faded group", faded_group},
      {"group of blends", group_of_blends},
      {"masked", masked},
      {"gradient stroke", gradient_stroke},
      {"tiles", tiled(24, 0, 1)},
      {"small tiles", tiled(9, 0, 1)},
      {"turned tiles", tiled(20, 0.5, 1.3)},
      {"large tiles", tiled(90, 0.2, 1)},
  };
  const cairo_operator_t operators[] = {
      CAIRO_OPERATOR_MULTIPLY,       CAIRO_OPERATOR_SCREEN,     CAIRO_OPERATOR_OVERLAY,
      CAIRO_OPERATOR_DARKEN,         CAIRO_OPERATOR_LIGHTEN,    CAIRO_OPERATOR_COLOR_DODGE,
      CAIRO_OPERATOR_COLOR_BURN,     CAIRO_OPERATOR_HARD_LIGHT, CAIRO_OPERATOR_SOFT_LIGHT,
      CAIRO_OPERATOR_DIFFERENCE,     CAIRO_OPERATOR_EXCLUSION,  CAIRO_OPERATOR_HSL_HUE,
      CAIRO_OPERATOR_HSL_SATURATION, CAIRO_OPERATOR_HSL_COLOR,  CAIRO_OPERATOR_HSL_LUMINOSITY};
  for (const cairo_operator_t op : operators)
    all.push_back({"operator " + std::to_string(static_cast<int>(op)), blended(op)});
  for (const cairo_extend_t extend :
       {CAIRO_EXTEND_NONE, CAIRO_EXTEND_PAD, CAIRO_EXTEND_REPEAT, CAIRO_EXTEND_REFLECT})
    for (const double angle : {0.0, 0.7}) {
      const std::string kind = std::to_string(static_cast<int>(extend));
      all.push_back({"linear " + kind + " at " + std::to_string(angle), linear(extend, angle)});
    }
  for (const cairo_extend_t extend : {CAIRO_EXTEND_NONE, CAIRO_EXTEND_PAD}) {
    const std::string kind = std::to_string(static_cast<int>(extend));
    all.push_back({"radial " + kind, radial(extend, 120, 0, 120, 80)});
    all.push_back({"radial inside " + kind, radial(extend, 100, 10, 130, 90)});
    all.push_back({"cone " + kind, radial(extend, 50, 10, 180, 40)});
    all.push_back({"shrinking " + kind, radial(extend, 120, 90, 125, 20)});
  }
  return all;
}

}  // namespace

TEST_CASE("transparency, gradients and patterns look as cairo draws them", "[cairo]") {
  for (const Scene& scene : scenes())
    for (const double scale : {1.0, 2.0}) {
      CAPTURE(scene.name, scale);
      const Difference difference = compare(scene.draw, scale);
      CAPTURE(difference.mean, difference.far_off);
      CHECK(difference.mean < 1.4);
      CHECK(difference.far_off < 0.008);
    }
}
