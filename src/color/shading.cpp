// SPDX-License-Identifier: Apache-2.0
#include "color/shading.h"

#include <algorithm>
#include <cmath>

#include "color/shading_parts.h"

namespace lumvet::color {
namespace {

Error malformed(const char* what) { return Error(ErrorCode::malformed, what); }

void put(std::uint8_t* pixel, const Rgb8& color) {
  std::copy(color.begin(), color.end(), pixel);
  pixel[3] = 255;
}

// Calls colour(point) for the middle of every pixel, in the shading's space; it gives nullptr for
// none.
template <typename ColorAt>
void paint_each(const PixelArea& area, const Matrix& to_pixels, std::uint8_t* out,
                const ColorAt& color_at) {
  const Matrix from_pixels = to_pixels.inverse();
  for (int y = 0; y < area.height; ++y)
    for (int x = 0; x < area.width; ++x, out += 4) {
      const Rgb8* color = color_at(from_pixels.apply({area.left + x + 0.5, area.top + y + 0.5}));
      if (color != nullptr)
        put(out, *color);
      else
        std::fill_n(out, 4, std::uint8_t{0});
    }
}

// Type 1 (8.7.4.5.2): a colour for every point of a rectangle.
class FunctionShading final : public Shading {
 public:
  ShadingColors colors;
  Rect domain{0, 0, 1, 1};
  Matrix placed;

  void paint(const PixelArea& area, const Matrix& to_pixels, std::uint8_t* out) const override {
    const Matrix to_domain = placed.inverse();
    Rgb8 color{};
    paint_each(area, to_pixels, out, [&](Point p) -> const Rgb8* {
      const Point at = to_domain.apply(p);
      if (at.x < domain.left || at.x > domain.right || at.y < domain.bottom || at.y > domain.top)
        return nullptr;
      const double values[] = {at.x, at.y};
      color = colors.of(values);
      return &color;
    });
  }
};

// Type 2 (8.7.4.5.3): along a line.
class AxialShading final : public Shading {
 public:
  AxialShading(const ShadingColors& colors, double from, double to) : ramp(colors, from, to) {}
  ColorRamp ramp;
  Point start, end;
  bool extends_before = false;
  bool extends_after = false;

  void paint(const PixelArea& area, const Matrix& to_pixels, std::uint8_t* out) const override {
    const double dx = end.x - start.x;
    const double dy = end.y - start.y;
    const double length = dx * dx + dy * dy;
    paint_each(area, to_pixels, out, [&](Point p) -> const Rgb8* {
      if (length == 0) return nullptr;
      const double s = ((p.x - start.x) * dx + (p.y - start.y) * dy) / length;
      if (s < 0) return extends_before ? &ramp.at(0) : nullptr;
      if (s > 1) return extends_after ? &ramp.at(1) : nullptr;
      return &ramp.at(s);
    });
  }
};

// Type 3 (8.7.4.5.4): from one circle to another. A point shows the circle of the greatest
// parameter that goes through it.
class RadialShading final : public Shading {
 public:
  RadialShading(const ShadingColors& colors, double from, double to) : ramp(colors, from, to) {}
  ColorRamp ramp;
  Point start, end;
  double start_radius = 0;
  double end_radius = 0;
  bool extends_before = false;
  bool extends_after = false;

  void paint(const PixelArea& area, const Matrix& to_pixels, std::uint8_t* out) const override {
    paint_each(area, to_pixels, out, [this](Point p) { return color_at(p); });
  }

 private:
  const Rgb8* color_at(Point p) const {
    // |p - c(s)| = r(s) with centre and radius linear in s: a s² - 2 b s + c = 0.
    const double cx = end.x - start.x;
    const double cy = end.y - start.y;
    const double dr = end_radius - start_radius;
    const double px = p.x - start.x;
    const double py = p.y - start.y;
    const double a = cx * cx + cy * cy - dr * dr;
    const double b = px * cx + py * cy + start_radius * dr;
    const double c = px * px + py * py - start_radius * start_radius;
    constexpr double kNothing = 1e-12;
    if (std::abs(a) < kNothing) {
      if (std::abs(b) < kNothing) return nullptr;
      return color_of(c / (2 * b));
    }
    const double discriminant = b * b - a * c;
    if (discriminant < 0) return nullptr;
    const double root = std::sqrt(discriminant);
    const double one = (b + root) / a;
    const double other = (b - root) / a;
    if (const Rgb8* color = color_of(std::max(one, other))) return color;
    return color_of(std::min(one, other));
  }

  const Rgb8* color_of(double s) const {
    if (start_radius + s * (end_radius - start_radius) < 0) return nullptr;
    if (s < 0) return extends_before ? &ramp.at(0) : nullptr;
    if (s > 1) return extends_after ? &ramp.at(1) : nullptr;
    return &ramp.at(s);
  }
};

std::pair<double, double> domain_of(const ShadingSource& source) {
  const std::vector<double> domain = numbers_in(source, "Domain");
  return domain.size() == 2 ? std::pair(domain[0], domain[1]) : std::pair(0.0, 1.0);
}

template <typename Kind>
void read_extend(const ShadingSource& source, Kind& shading) {
  const Object extend = source.resolver.get(source.dict, "Extend");
  if (extend.as_array().size() != 2) return;
  shading.extends_before = source.resolver.resolve(extend.as_array()[0]).as_bool();
  shading.extends_after = source.resolver.resolve(extend.as_array()[1]).as_bool();
}

}  // namespace

MadeShading make_function_shading(const ShadingSource& source, ShadingColors colors) {
  if (!colors.function) return malformed("a shading by a function without one");
  auto shading = std::make_shared<FunctionShading>();
  shading->colors = std::move(colors);
  if (const auto domain = numbers_in(source, "Domain"); domain.size() == 4)
    shading->domain = {domain[0], domain[2], domain[1], domain[3]};
  if (const auto m = numbers_in(source, "Matrix"); m.size() == 6)
    shading->placed = {m[0], m[1], m[2], m[3], m[4], m[5]};
  if (!shading->placed.is_invertible()) return malformed("a shading with an impossible matrix");
  return std::shared_ptr<Shading>(std::move(shading));
}

MadeShading make_axial_shading(const ShadingSource& source, const ShadingColors& colors) {
  const std::vector<double> c = numbers_in(source, "Coords");
  if (c.size() != 4 || !colors.function) return malformed("an axial shading without its line");
  const auto [from, to] = domain_of(source);
  auto shading = std::make_shared<AxialShading>(colors, from, to);
  shading->start = {c[0], c[1]};
  shading->end = {c[2], c[3]};
  read_extend(source, *shading);
  return std::shared_ptr<Shading>(std::move(shading));
}

MadeShading make_radial_shading(const ShadingSource& source, const ShadingColors& colors) {
  const std::vector<double> c = numbers_in(source, "Coords");
  if (c.size() != 6 || c[2] < 0 || c[5] < 0 || !colors.function)
    return malformed("a radial shading without its circles");
  const auto [from, to] = domain_of(source);
  auto shading = std::make_shared<RadialShading>(colors, from, to);
  shading->start = {c[0], c[1]};
  shading->start_radius = c[2];
  shading->end = {c[3], c[4]};
  shading->end_radius = c[5];
  read_extend(source, *shading);
  return std::shared_ptr<Shading>(std::move(shading));
}

Result<std::shared_ptr<const Shading>> Shading::make(const Object& object, const Dict& resources,
                                                     const objects::Resolver& resolver,
                                                     Budget& budget, Findings& findings) {
  const Object value = resolver.resolve(object);
  if (!value.is_dict() && !value.is_stream()) return malformed("a shading is missing");
  const Dict& dict = value.as_dict();
  const ShadingSource source{dict, value.as_stream(), resolver, budget, findings};
  ShadingColors colors;
  LUMVET_TRY(colors.space,
             ColorSpace::make(dict["ColorSpace"], resources, resolver, budget, findings));
  if (colors.space->is_pattern()) return malformed("a shading in the colours of patterns");
  if (dict.contains("Function")) {
    LUMVET_TRY(colors.function, Function::make(dict["Function"], resolver, budget, findings));
  }
  const std::shared_ptr<const ColorSpace> space = colors.space;
  const std::int64_t type = resolver.get(dict, "ShadingType").as_integer();
  MadeShading made = type == 1   ? make_function_shading(source, std::move(colors))
                     : type == 2 ? make_axial_shading(source, colors)
                     : type == 3 ? make_radial_shading(source, colors)
                     : type >= 4 && type <= 7
                         ? make_mesh_shading(source, std::move(colors), static_cast<int>(type))
                         : MadeShading(malformed("a shading of a type that does not exist"));
  if (!made.ok()) return std::move(made).error();
  const std::vector<double> box = numbers_in(source, "BBox");
  if (box.size() == 4)
    (*made)->box_ = Rect{std::min(box[0], box[2]), std::min(box[1], box[3]),
                         std::max(box[0], box[2]), std::max(box[1], box[3])};
  const std::vector<double> background = numbers_in(source, "Background");
  if (background.size() == space->components())
    (*made)->background_ = to_rgb8(space->to_rgb(background));
  return std::shared_ptr<const Shading>(*std::move(made));
}

}  // namespace lumvet::color
