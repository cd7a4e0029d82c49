// SPDX-License-Identifier: Apache-2.0
#include "appearance/icons.h"

#include <algorithm>

#include "appearance/look.h"
#include "appearance/shapes.h"

namespace lumvet::appearance {
namespace {

const Color kInk = Color::gray(0.15);
const StrokeStyle kThin{.width = 1, .cap = LineCap::round, .join = LineJoin::round};
const StrokeStyle kBold{.width = 2, .cap = LineCap::round, .join = LineJoin::round};

void shape(Drawing& drawing, const std::vector<Point>& corners, const Color& color) {
  const Path path = polygon(corners, true);
  drawing.fill(path, color);
  drawing.stroke(path, kInk, kThin);
}

void lines(Drawing& drawing, const std::vector<Point>& points, const StrokeStyle& style = kThin) {
  drawing.stroke(polygon(points, false), kInk, style);
}

void round_plate(Drawing& drawing, const Color& color) {
  const Path path = ellipse({1.5, 1.5, 17, 17});
  drawing.fill(path, color);
  drawing.stroke(path, kInk, kThin);
}

// A plate with a corner turned down, and lines of writing.
void page(Drawing& drawing, const Color& color) {
  shape(drawing, {{3.5, 1.5}, {16.5, 1.5}, {16.5, 14}, {12, 18.5}, {3.5, 18.5}}, color);
  lines(drawing, {{12, 18.5}, {12, 14}, {16.5, 14}});
  for (const double y : {5.0, 8.0, 11.0}) lines(drawing, {{6, y}, {14, y}});
}

void balloon(Drawing& drawing, const Color& color) {
  shape(drawing, {{1.5, 6.5}, {5, 6.5}, {5, 1.5}, {10, 6.5}, {18.5, 6.5}, {18.5, 18}, {1.5, 18}},
        color);
  for (const double y : {10.0, 14.0}) lines(drawing, {{4.5, y}, {15.5, y}});
}

}  // namespace

void draw_note_icon(Drawing& drawing, const std::string& name, const Color& color) {
  if (name == "Key") {
    drawing.fill(ellipse({2, 9, 9, 9}), color);
    drawing.stroke(ellipse({2, 9, 9, 9}), kInk, kThin);
    drawing.stroke(ellipse({5, 12.5, 2.5, 2.5}), kInk, kThin);
    lines(drawing, {{9.5, 10.5}, {17.5, 2.5}}, kBold);
    lines(drawing, {{15, 5}, {17, 7}}, kBold);
  } else if (name == "Help") {
    round_plate(drawing, color);
    drawing.stroke(smooth({{7, 12.5},
                           {7.6, 14.6},
                           {10, 15.4},
                           {12.6, 14.4},
                           {12.8, 12},
                           {10.8, 10},
                           {10, 8.6},
                           {10, 7.6}}),
                   kInk, kBold);
    drawing.fill(ellipse({8.8, 3.8, 2.4, 2.4}), kInk);
  } else if (name == "Insert" || name == "NewParagraph") {
    shape(drawing, {{2.5, 2.5}, {10, 17.5}, {17.5, 2.5}}, color);
    if (name == "NewParagraph") lines(drawing, {{7, 5}, {13, 5}});
  } else if (name == "Paragraph") {
    round_plate(drawing, color);
    lines(drawing, {{10.5, 4.5}, {10.5, 15.5}, {14, 15.5}});
    lines(drawing, {{13, 4.5}, {13, 15.5}});
    drawing.fill(sector({10.5, 12.8}, 2.7, 180, 360), kInk);
    drawing.fill(ellipse({6.6, 10.1, 5.4, 5.4}), kInk);
  } else if (name == "Note") {
    page(drawing, color);
  } else {
    balloon(drawing, color);
  }
}

void draw_file_icon(Drawing& drawing, const std::string& name, const Color& color) {
  if (name == "Graph") {
    shape(drawing, {{1.5, 1.5}, {18.5, 1.5}, {18.5, 18.5}, {1.5, 18.5}}, Color::gray(1));
    double left = 4;
    for (const double high : {5.0, 12.0, 8.5}) {
      drawing.fill(box({left, 4, 3, high}), color);
      drawing.stroke(box({left, 4, 3, high}), kInk, {.width = 0.6});
      left += 4.5;
    }
  } else if (name == "Tag") {
    shape(drawing, {{1.5, 10}, {7, 17}, {18.5, 17}, {18.5, 3}, {7, 3}}, color);
    drawing.fill(ellipse({5, 8.5, 3, 3}), Color::gray(1));
    drawing.stroke(ellipse({5, 8.5, 3, 3}), kInk, kThin);
  } else if (name == "Paperclip") {
    const Path clip = smooth({{13.5, 13.5},
                              {7.8, 6.2},
                              {6, 4},
                              {3.5, 4.6},
                              {3.6, 7.4},
                              {10.5, 16.6},
                              {13.4, 18.4},
                              {16.6, 16.4},
                              {15.8, 12.4},
                              {9.2, 3.6}});
    drawing.stroke(clip, kInk, {.width = 3, .cap = LineCap::round, .join = LineJoin::round});
    drawing.stroke(clip, color, {.width = 1.4, .cap = LineCap::round, .join = LineJoin::round});
  } else {
    // A pin, from its head down to its point.
    shape(drawing, {{7, 18.5}, {13, 18.5}, {12, 12.5}, {15.5, 9}, {4.5, 9}, {8, 12.5}}, color);
    lines(drawing, {{10, 9}, {10, 1.5}}, kBold);
  }
}

void draw_sound_icon(Drawing& drawing, const std::string& name, const Color& color) {
  if (name == "Mic") {
    drawing.fill(rounded_box({7, 8.5, 6, 10}, 3), color);
    drawing.stroke(rounded_box({7, 8.5, 6, 10}, 3), kInk, kThin);
    drawing.stroke(smooth({{4.5, 11}, {5.4, 7.4}, {10, 5.2}, {14.6, 7.4}, {15.5, 11}}), kInk,
                   kThin);
    lines(drawing, {{10, 5.2}, {10, 2}});
    lines(drawing, {{6.5, 2}, {13.5, 2}});
    return;
  }
  shape(drawing, {{2, 7}, {6, 7}, {11, 2.5}, {11, 17.5}, {6, 13}, {2, 13}}, color);
  drawing.stroke(smooth({{13.5, 6.5}, {15, 10}, {13.5, 13.5}}), kInk, kThin);
  drawing.stroke(smooth({{15.8, 4.5}, {18, 10}, {15.8, 15.5}}), kInk, kThin);
}

void draw_film_icon(Drawing& drawing, const Rect& place) {
  const double size = std::min({place.width() / 3, place.height() / 3, 2 * kIconSize});
  const Point middle{(place.left + place.right) / 2, (place.bottom + place.top) / 2};
  const Path plate = ellipse({middle.x - size, middle.y - size, 2 * size, 2 * size});
  drawing.fill(plate, Color::gray(0.25));
  drawing.fill(polygon({{middle.x - size * 0.35, middle.y - size * 0.55},
                        {middle.x + size * 0.65, middle.y},
                        {middle.x - size * 0.35, middle.y + size * 0.55}},
                       true),
               Color::gray(1));
}

}  // namespace lumvet::appearance
