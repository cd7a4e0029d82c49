// SPDX-License-Identifier: Apache-2.0
#include "redact/redaction_spots.h"

#include <algorithm>

#include "appearance/look.h"
#include "appearance/shapes.h"

namespace lumvet::redacting {
namespace {

Polygon page_corners(const Page& page, const Quad& quad) {
  Polygon corners;
  for (const Point p : quad) corners.push_back(page.to_display().inverse().apply(p));
  return corners;
}

// White on what is dark, black on what is light.
Color readable_on(const std::optional<Color>& ground) {
  if (!ground) return Color::gray(0);
  const std::vector<double> parts = ground->parts();
  double light = parts[0];
  if (parts.size() == 3) light = 0.3 * parts[0] + 0.59 * parts[1] + 0.11 * parts[2];
  if (parts.size() == 4) light = 1 - std::max({parts[0], parts[1], parts[2], parts[3]});
  return Color::gray(light < 0.5 ? 1 : 0);
}

void write_text(Drawing& drawing, const Spot& spot, const Rect& box,
                const appearance::Fonts& fonts) {
  constexpr double kLeast = 3;  // points
  TextStyle style = appearance::style_of(spot.text_look, 1, fonts);
  if (spot.text_look.color.empty()) style.color = readable_on(spot.look.fill);
  const double wide = Drawing::text_width(spot.look.text, style).value_or(0);
  const double high = style.face.ascent() - style.face.descent();
  if (wide <= 0 || high <= 0) return;
  const double fits = std::min(box.width() * 0.95 / wide, box.height() * 0.95 / high);
  style.size = spot.text_look.size > 0 ? std::min(spot.text_look.size, fits) : std::min(fits, 12.0);
  if (style.size < kLeast) return;
  const double base =
      (box.bottom + box.top) / 2 + style.size * (style.face.ascent() + style.face.descent()) / 2;
  using Alignment = Annotation::Alignment;
  if (spot.alignment == Alignment::left)
    drawing.write(spot.look.text, {box.left + 1, base}, style);
  else if (spot.alignment == Alignment::right)
    drawing.write(spot.look.text, {box.right - 1, base}, style, Drawing::Side::right);
  else
    drawing.write(spot.look.text, {(box.left + box.right) / 2, base}, style, Drawing::Side::middle);
}

}  // namespace

Spot shown_spot(const Page& page, const Quad& quad, const RedactLook& look) {
  return {page_corners(page, quad), quad, look, {}, Annotation::Alignment::centered};
}

std::vector<Spot> spots_of(const Page& page, const Annotation& mark) {
  std::vector<Polygon> all;
  for (const auto& quad : mark.quads) all.emplace_back(quad.begin(), quad.end());
  if (all.empty()) all.push_back(corners_of(mark.rect));
  std::vector<Spot> spots;
  for (Polygon& corners : all) {
    const Polygon hull = hull_of(corners);
    if (hull.size() < 3) continue;
    Spot spot;
    spot.look.fill = appearance::color_of(mark.interior_color);
    spot.look.text = mark.overlay_text;
    spot.text_look = appearance::read_text_look(mark.default_appearance);
    spot.alignment = mark.alignment;
    for (std::size_t i = 0; i < 4; ++i)
      spot.shown[i] = page.to_display().apply(hull[std::min(i, hull.size() - 1)]);
    spot.corners = std::move(corners);
    spots.push_back(std::move(spot));
  }
  return spots;
}

Result<Drawing> look_of(const Page& page, const std::vector<Spot>& spots,
                        const appearance::Fonts& fonts) {
  Drawing drawing(page.width(), page.height());
  for (const Spot& spot : spots) {
    Polygon shown;
    for (const Point p : hull_of(spot.corners)) shown.push_back(page.to_display().apply(p));
    if (shown.size() < 3) continue;
    if (spot.look.fill) drawing.fill(appearance::polygon(shown, true), *spot.look.fill);
    const Rect box = bounds_of(shown);
    if (spot.look.picture)
      drawing.draw(*spot.look.picture, {box.left, box.bottom, box.width(), box.height()});
    if (!spot.look.text.empty()) write_text(drawing, spot, box, fonts);
  }
  LUMVET_RETURN_IF_ERROR(drawing.status());
  return drawing;
}

}  // namespace lumvet::redacting
