// SPDX-License-Identifier: Apache-2.0
// Gradients, meshes and repeated patterns.
#include "tests/scenes/scene.h"

namespace test {
namespace {

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

Draw fading(bool round) {
  return [=](cairo_t* c) {
    cairo_set_source_rgb(c, 0.2, 0.5, 0.3);
    for (int i = 0; i < 12; ++i) cairo_rectangle(c, 20 * i, 0, 10, 240);
    cairo_fill(c);
    cairo_pattern_t* pattern = round ? cairo_pattern_create_radial(120, 120, 10, 120, 120, 100)
                                     : cairo_pattern_create_linear(20, 20, 220, 220);
    cairo_pattern_add_color_stop_rgba(pattern, 0, 0.9, 0.1, 0.1, 1);
    cairo_pattern_add_color_stop_rgba(pattern, 1, 0.1, 0.1, 0.9, 0);
    cairo_set_source(c, pattern);
    cairo_rectangle(c, 20, 20, 200, 200);
    cairo_fill(c);
    cairo_pattern_destroy(pattern);
  };
}

// One patch or several side by side, with curved or straight sides.
Draw mesh(int across, double bend) {
  return [=](cairo_t* c) {
    cairo_pattern_t* pattern = cairo_pattern_create_mesh();
    const double side = 180.0 / across;
    for (int row = 0; row < across; ++row)
      for (int column = 0; column < across; ++column) {
        const double x = 30 + column * side;
        const double y = 30 + row * side;
        const double b = bend * side;
        cairo_mesh_pattern_begin_patch(pattern);
        cairo_mesh_pattern_move_to(pattern, x, y);
        cairo_mesh_pattern_curve_to(pattern, x + side / 3, y - b, x + 2 * side / 3, y + b, x + side,
                                    y);
        cairo_mesh_pattern_curve_to(pattern, x + side + b, y + side / 3, x + side - b,
                                    y + 2 * side / 3, x + side, y + side);
        cairo_mesh_pattern_curve_to(pattern, x + 2 * side / 3, y + side + b, x + side / 3,
                                    y + side - b, x, y + side);
        cairo_mesh_pattern_curve_to(pattern, x - b, y + 2 * side / 3, x + b, y + side / 3, x, y);
        for (unsigned corner = 0; corner < 4; ++corner) {
          const unsigned k = (corner + static_cast<unsigned>(row + column)) % 4;
          cairo_mesh_pattern_set_corner_color_rgb(pattern, corner, k == 0 || k == 3,
                                                  k == 1 || k == 3, k == 2);
        }
        cairo_mesh_pattern_end_patch(pattern);
      }
    cairo_set_source(c, pattern);
    cairo_paint(c);
    cairo_pattern_destroy(pattern);
  };
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
  cairo_pattern_t* pattern = cairo_pattern_create_linear(30, 30, 210, 210);
  cairo_pattern_add_color_stop_rgb(pattern, 0, 0.9, 0.2, 0.1);
  cairo_pattern_add_color_stop_rgb(pattern, 1, 0.1, 0.3, 0.8);
  cairo_set_source(c, pattern);
  cairo_pattern_destroy(pattern);
  cairo_set_line_width(c, 18);
  cairo_set_line_join(c, CAIRO_LINE_JOIN_ROUND);
  cairo_move_to(c, 40, 200);
  cairo_curve_to(c, 60, 20, 120, 20, 130, 130);
  cairo_line_to(c, 200, 50);
  cairo_stroke(c);
}

}  // namespace

std::vector<OracleScene> gradient_scenes() {
  std::vector<OracleScene> all = {
      {"fading line", fading(false)},
      {"fading disc", fading(true)},
      {"mesh", mesh(1, 0.3)},
      {"straight mesh", mesh(1, 0)},
      {"nine patches", mesh(3, 0.2)},
      {"gradient stroke", gradient_stroke},
      {"tiles", tiled(24, 0, 1)},
      {"small tiles", tiled(9, 0, 1)},
      {"turned tiles", tiled(20, 0.5, 1.3)},
      {"large tiles", tiled(90, 0.2, 1)},
      {"stretched tiles", tiled(12, 0, 2.5)},
  };
  for (const cairo_extend_t extend :
       {CAIRO_EXTEND_NONE, CAIRO_EXTEND_PAD, CAIRO_EXTEND_REPEAT, CAIRO_EXTEND_REFLECT})
    for (const double angle : {0.0, 0.7})
      all.push_back({"linear, extend " + std::to_string(static_cast<int>(extend)) +
                         (angle > 0 ? ", turned" : ""),
                     linear(extend, angle)});
  for (const cairo_extend_t extend : {CAIRO_EXTEND_NONE, CAIRO_EXTEND_PAD}) {
    const std::string kind = ", extend " + std::to_string(static_cast<int>(extend));
    all.push_back({"radial" + kind, radial(extend, 120, 0, 120, 80)});
    all.push_back({"radial inside" + kind, radial(extend, 100, 10, 130, 90)});
    all.push_back({"cone" + kind, radial(extend, 50, 10, 180, 40)});
    all.push_back({"shrinking" + kind, radial(extend, 120, 90, 125, 20)});
  }
  return all;
}

}  // namespace test
