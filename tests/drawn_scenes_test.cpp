// SPDX-License-Identifier: Apache-2.0
// The same drawing made by cairo straight into pixels, and by a Drawing that becomes a page, which
// is then rendered: both have to look alike.
#include <cmath>
#include <iostream>
#include <numbers>

#include "lumvet/draw/drawing.h"
#include "tests/scenes/compare.h"
#include "tests/support/catch.h"

using namespace test;
using lumvet::BlendMode;
using lumvet::Color;
using lumvet::Drawing;
using lumvet::FillRule;
using lumvet::Gradient;
using lumvet::LineCap;
using lumvet::LineJoin;
using lumvet::Path;
using lumvet::Point;
using lumvet::StrokeStyle;

namespace {

struct TwinScene {
  std::string name;
  Draw by_cairo;
  std::function<void(Drawing&)> by_us;
};

void path_to(cairo_t* c, const Path& path) {
  std::size_t at = 0;
  const auto& p = path.points();
  for (const Path::Segment segment : path.segments()) switch (segment) {
      case Path::Segment::move: cairo_move_to(c, p[at].x, p[at].y), at += 1; break;
      case Path::Segment::line: cairo_line_to(c, p[at].x, p[at].y), at += 1; break;
      case Path::Segment::curve:
        cairo_curve_to(c, p[at].x, p[at].y, p[at + 1].x, p[at + 1].y, p[at + 2].x, p[at + 2].y);
        at += 3;
        break;
      case Path::Segment::close: cairo_close_path(c); break;
    }
}

void color_to(cairo_t* c, const Color& color, double alpha = 1) {
  const auto& parts = color.parts();
  cairo_set_source_rgba(c, parts[0], parts[1], parts[2], alpha);
}

Path star(Point center, double radius, int points) {
  Path path;
  for (int i = 0; i < points; ++i) {
    const double angle = 2 * std::numbers::pi * 2 * i / points;
    const Point at{center.x + radius * std::sin(angle), center.y - radius * std::cos(angle)};
    i == 0 ? path.move_to(at) : path.line_to(at);
  }
  path.close();
  return path;
}

Path wave() {
  Path path;
  path.move_to({20, 120});
  path.curve_to({80, 0}, {120, 240}, {220, 60});
  path.line_to({200, 200});
  return path;
}

const std::vector<std::pair<std::string, Path>>& shapes() {
  static const std::vector<std::pair<std::string, Path>> kShapes = {
      {"box", lumvet::box({30, 50, 150, 90})},
      {"rounded box", lumvet::rounded_box({30, 50, 150, 90}, 25)},
      {"ellipse", lumvet::ellipse({20, 60, 190, 110})},
      {"sector", lumvet::sector({120, 120}, 100, 20, 250)},
      {"ring", lumvet::sector({120, 120}, 100, 0, 360, 55)},
      {"part of a ring", lumvet::sector({120, 120}, 105, 300, 480, 60)},
      {"star", star({120, 125}, 105, 5)},
      {"wave", wave()}};
  return kShapes;
}

const Color kInk = Color::rgb(0.15, 0.35, 0.5);
const Color kRust = Color::rgb(0.72, 0.33, 0.16);

void add_fills(std::vector<TwinScene>& scenes) {
  for (const auto& [name, path] : shapes())
    for (const FillRule rule : {FillRule::nonzero, FillRule::even_odd}) {
      const auto cairo_rule =
          rule == FillRule::nonzero ? CAIRO_FILL_RULE_WINDING : CAIRO_FILL_RULE_EVEN_ODD;
      scenes.push_back({name + (rule == FillRule::nonzero ? " filled" : " filled by even-odd"),
                        [=, path = path](cairo_t* c) {
                          cairo_set_fill_rule(c, cairo_rule);
                          color_to(c, kInk);
                          path_to(c, path);
                          cairo_fill(c);
                        },
                        [=, path = path](Drawing& d) { d.fill(path, kInk, rule); }});
    }
}

void add_strokes(std::vector<TwinScene>& scenes) {
  const std::vector<std::pair<std::string, StrokeStyle>> styles = {
      {"thick, butt, miter", {.width = 14}},
      {"round", {.width = 12, .cap = LineCap::round, .join = LineJoin::round}},
      {"square, bevel", {.width = 12, .cap = LineCap::square, .join = LineJoin::bevel}},
      {"dashed", {.width = 5, .dashes = {18, 9, 4, 9}, .dash_phase = 6}}};
  for (const auto& [look, style] : styles)
    for (const auto& [name, path] : shapes()) {
      if (name == "ring" || name == "rounded box") continue;
      scenes.push_back(
          {name + " stroked " + look,
           [path = path, style = style](cairo_t* c) {
             color_to(c, kRust);
             cairo_set_line_width(c, style.width);
             cairo_set_line_cap(c, static_cast<cairo_line_cap_t>(style.cap));
             cairo_set_line_join(c, static_cast<cairo_line_join_t>(style.join));
             cairo_set_miter_limit(c, style.miter_limit);
             cairo_set_dash(c, style.dashes.data(), static_cast<int>(style.dashes.size()),
                            style.dash_phase);
             path_to(c, path);
             cairo_stroke(c);
           },
           [path = path, style = style](Drawing& d) { d.stroke(path, kRust, style); }});
    }
}

void add_gradients(std::vector<TwinScene>& scenes) {
  const auto add_stops = [](cairo_pattern_t* pattern) {
    cairo_pattern_add_color_stop_rgb(pattern, 0.1, 0.9, 0.8, 0.3);
    cairo_pattern_add_color_stop_rgb(pattern, 0.5, 0.2, 0.5, 0.4);
    cairo_pattern_add_color_stop_rgb(pattern, 1, 0.2, 0.1, 0.4);
  };
  const std::vector<lumvet::ColorStop> stops = {{0.1, Color::rgb(0.9, 0.8, 0.3)},
                                                {0.5, Color::rgb(0.2, 0.5, 0.4)},
                                                {1, Color::rgb(0.2, 0.1, 0.4)}};
  for (const double angle : {0.0, 25.0, 200.0})
    for (const bool is_round : {false, true}) {
      const Gradient gradient = is_round ? Gradient::around({110, 120}, 90, stops)
                                         : Gradient::along({40, 60}, {200, 150}, stops);
      scenes.push_back({std::string(is_round ? "round" : "straight") + " gradient turned by " +
                            std::to_string(angle),
                        [=](cairo_t* c) {
                          cairo_translate(c, 120, 120);
                          cairo_rotate(c, angle * std::numbers::pi / 180);
                          cairo_translate(c, -120, -120);
                          cairo_pattern_t* pattern =
                              is_round ? cairo_pattern_create_radial(110, 120, 0, 110, 120, 90)
                                       : cairo_pattern_create_linear(40, 60, 200, 150);
                          add_stops(pattern);
                          cairo_set_source(c, pattern);
                          path_to(c, lumvet::box({50, 50, 140, 140}));
                          cairo_fill(c);
                          cairo_pattern_destroy(pattern);
                        },
                        [=](Drawing& d) {
                          const auto scope = d.scope();
                          d.move(120, 120);
                          d.turn(angle);
                          d.move(-120, -120);
                          d.fill(lumvet::box({50, 50, 140, 140}), gradient);
                        }});
    }
}

void add_blends(std::vector<TwinScene>& scenes) {
  const std::vector<std::pair<BlendMode, cairo_operator_t>> blends = {
      {BlendMode::multiply, CAIRO_OPERATOR_MULTIPLY},
      {BlendMode::screen, CAIRO_OPERATOR_SCREEN},
      {BlendMode::overlay, CAIRO_OPERATOR_OVERLAY},
      {BlendMode::color_dodge, CAIRO_OPERATOR_COLOR_DODGE},
      {BlendMode::color_burn, CAIRO_OPERATOR_COLOR_BURN},
      {BlendMode::saturation, CAIRO_OPERATOR_HSL_SATURATION},
      {BlendMode::color, CAIRO_OPERATOR_HSL_COLOR},
      {BlendMode::darken, CAIRO_OPERATOR_DARKEN},
      {BlendMode::lighten, CAIRO_OPERATOR_LIGHTEN},
      {BlendMode::hard_light, CAIRO_OPERATOR_HARD_LIGHT},
      {BlendMode::soft_light, CAIRO_OPERATOR_SOFT_LIGHT},
      {BlendMode::difference, CAIRO_OPERATOR_DIFFERENCE},
      {BlendMode::exclusion, CAIRO_OPERATOR_EXCLUSION},
      {BlendMode::luminosity, CAIRO_OPERATOR_HSL_LUMINOSITY}};
  for (const auto& [blend, operation] : blends)
    scenes.push_back({"blended by " + std::to_string(static_cast<int>(blend)),
                      [operation = operation](cairo_t* c) {
                        cairo_set_source_rgb(c, 1, 1, 1);
                        cairo_paint(c);
                        color_to(c, kInk);
                        path_to(c, lumvet::box({30, 30, 120, 120}));
                        cairo_fill(c);
                        cairo_set_operator(c, operation);
                        color_to(c, kRust, 0.8);
                        path_to(c, lumvet::ellipse({80, 80, 130, 130}));
                        cairo_fill(c);
                      },
                      [blend = blend](Drawing& d) {
                        // Paper is not below a page's colors, but behind all of them.
                        d.fill(lumvet::box({0, 0, kSize, kSize}), Color::gray(1));
                        d.fill(lumvet::box({30, 30, 120, 120}), kInk);
                        const auto scope = d.scope();
                        d.set_blend(blend);
                        d.set_opacity(0.8);
                        d.fill(lumvet::ellipse({80, 80, 130, 130}), kRust);
                      }});
}

void add_others(std::vector<TwinScene>& scenes) {
  scenes.push_back({"clipped and turned",
                    [](cairo_t* c) {
                      path_to(c, lumvet::ellipse({40, 40, 160, 160}));
                      cairo_clip(c);
                      cairo_translate(c, 120, 120);
                      cairo_rotate(c, std::numbers::pi / 6);
                      cairo_scale(c, 1.4, 0.6);
                      color_to(c, kInk);
                      path_to(c, lumvet::box({-60, -60, 120, 120}));
                      cairo_fill(c);
                    },
                    [](Drawing& d) {
                      const auto scope = d.scope();
                      d.clip(lumvet::ellipse({40, 40, 160, 160}));
                      d.move(120, 120);
                      d.turn(30);
                      d.scale(1.4, 0.6);
                      d.fill(lumvet::box({-60, -60, 120, 120}), kInk);
                    }});
  scenes.push_back({"a group of half the opacity",
                    [](cairo_t* c) {
                      cairo_push_group(c);
                      color_to(c, kInk);
                      path_to(c, lumvet::box({30, 30, 120, 120}));
                      cairo_fill(c);
                      color_to(c, kRust);
                      path_to(c, lumvet::ellipse({80, 80, 130, 130}));
                      cairo_fill(c);
                      cairo_pop_group_to_source(c);
                      cairo_paint_with_alpha(c, 0.5);
                    },
                    [](Drawing& d) {
                      Drawing group(kSize, kSize);
                      group.fill(lumvet::box({30, 30, 120, 120}), kInk);
                      group.fill(lumvet::ellipse({80, 80, 130, 130}), kRust);
                      d.draw(group, {0, 0}, {.opacity = 0.5});
                    }});
  scenes.push_back(
      {"masked by light",
       [](cairo_t* c) {
         color_to(c, kInk);
         cairo_pattern_t* mask = cairo_pattern_create_linear(40, 0, 200, 0);
         cairo_pattern_add_color_stop_rgba(mask, 0, 0, 0, 0, 0);
         cairo_pattern_add_color_stop_rgba(mask, 1, 0, 0, 0, 1);
         cairo_rectangle(c, 40, 60, 160, 100);
         cairo_clip(c);
         cairo_mask(c, mask);
         cairo_pattern_destroy(mask);
       },
       [](Drawing& d) {
         Drawing mask(160, 100);
         mask.fill(lumvet::box({0, 0, 160, 100}),
                   Gradient::along({0, 0}, {160, 0}, {{0, Color::gray(0)}, {1, Color::gray(1)}}));
         d.set_mask(mask, Drawing::Mask::light, {40, 60});
         d.fill(lumvet::box({40, 60, 160, 100}), kInk);
       }});
}

}  // namespace

TEST_CASE("a drawing looks like cairo's of the same scene", "[oracle]") {
  std::vector<TwinScene> scenes;
  add_fills(scenes);
  add_strokes(scenes);
  add_gradients(scenes);
  add_blends(scenes);
  add_others(scenes);
  REQUIRE(scenes.size() >= 60);
  for (const TwinScene& scene : scenes) {
    CAPTURE(scene.name);
    Drawing drawing(kSize, kSize);
    scene.by_us(drawing);
    const lumvet::Document document = drawing.as_document().value();
    const lumvet::Scene recorded = lumvet::Scene::record(document.page(0).value()).value();
    CHECK(document.findings().empty());
    for (const double scale : {1.0, 2.0}) {
      const Difference difference = Comparison(as_our_pixels(recorded, scale),
                                               as_pixels(scene.by_cairo, scale), pixels_at(scale))
                                        .measure();
      CAPTURE(scale, difference.mean, difference.far_off);
      CHECK(difference.drawn > 0.02);
      CHECK(difference.mean < 2);
      CHECK(difference.far_off < 0.005);
    }
  }
}
