// SPDX-License-Identifier: Apache-2.0
#include "color/shading.h"

#include <algorithm>
#include <cmath>
#include <cstring>

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
    if (length == 0) {
      std::fill_n(out,
                  static_cast<std::size_t>(area.width) * static_cast<std::size_t>(area.height) * 4,
                  std::uint8_t{0});
      return;
    }
    // How far along the line a pixel lies is linear in its place.
    const Matrix m = to_pixels.inverse();
    const double per_x = (m.a * dx + m.b * dy) / length;
    const double per_y = (m.c * dx + m.d * dy) / length;
    const double at_origin = ((m.e - start.x) * dx + (m.f - start.y) * dy) / length;
    for (int y = 0; y < area.height; ++y) {
      const double in_row = at_origin + per_y * (area.top + y + 0.5);
      for (int x = 0; x < area.width; ++x, out += 4) {
        const double s = in_row + per_x * (area.left + x + 0.5);
        const bool is_shown = s < 0 ? extends_before : s <= 1 || extends_after;
        const std::uint32_t pixel = is_shown ? ramp.pixel_at(s < 0 ? 0 : s > 1 ? 1 : s) : 0;
        std::memcpy(out, &pixel, sizeof pixel);
      }
    }
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
    const Matrix from_pixels = to_pixels.inverse();
    const Circles circles(*this);
    for (int y = 0; y < area.height; ++y)
      for (int x = 0; x < area.width; ++x, out += 4) {
        const std::uint32_t pixel =
            circles.pixel_at(from_pixels.apply({area.left + x + 0.5, area.top + y + 0.5}));
        std::memcpy(out, &pixel, sizeof pixel);
      }
  }

 private:
  // |p - c(s)| = r(s) with centre and radius linear in s: a s² - 2 b s + c = 0.
  class Circles {
   public:
    explicit Circles(const RadialShading& shading)
        : shading_(shading),
          cx_(shading.end.x - shading.start.x),
          cy_(shading.end.y - shading.start.y),
          dr_(shading.end_radius - shading.start_radius),
          a_(cx_ * cx_ + cy_ * cy_ - dr_ * dr_),
          one_over_a_(std::abs(a_) < kNothing ? 0 : 1 / a_) {}

    std::uint32_t pixel_at(Point p) const {
      const double px = p.x - shading_.start.x;
      const double py = p.y - shading_.start.y;
      const double b = px * cx_ + py * cy_ + shading_.start_radius * dr_;
      const double c = px * px + py * py - shading_.start_radius * shading_.start_radius;
      if (one_over_a_ == 0) return std::abs(b) < kNothing ? 0 : pixel_of(c / (2 * b));
      const double discriminant = b * b - a_ * c;
      if (discriminant < 0) return 0;
      const double root = std::sqrt(discriminant);
      const double one = (b + root) * one_over_a_;
      const double other = (b - root) * one_over_a_;
      if (const std::uint32_t pixel = pixel_of(std::max(one, other)); pixel != 0) return pixel;
      return pixel_of(std::min(one, other));
    }

   private:
    static constexpr double kNothing = 1e-12;

    std::uint32_t pixel_of(double s) const {
      if (shading_.start_radius + s * dr_ < 0) return 0;
      if (s < 0) return shading_.extends_before ? shading_.ramp.pixel_at(0) : 0;
      if (s > 1) return shading_.extends_after ? shading_.ramp.pixel_at(1) : 0;
      return shading_.ramp.pixel_at(s);
    }

    const RadialShading& shading_;
    double cx_;
    double cy_;
    double dr_;
    double a_;
    double one_over_a_;
  };
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
                                                     Budget& budget, Findings& findings,
                                                     Intent intent) {
  const Object value = resolver.resolve(object);
  if (!value.is_dict() && !value.is_stream()) return malformed("a shading is missing");
  const Dict& dict = value.as_dict();
  const ShadingSource source{dict, value.as_stream(), resolver, budget, findings};
  ShadingColors colors;
  LUMVET_TRY(colors.space,
             ColorSpace::make(dict["ColorSpace"], resources, resolver, budget, findings));
  colors.space = by_intent(std::move(colors.space), intent);
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
