// SPDX-License-Identifier: Apache-2.0
#include "color/shading.h"
#include "base/findings_list.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <limits>

#include "base/simd.h"
#include "color/shading_parts.h"

namespace lumvet::color {
namespace {

Error malformed(const char* what) { return Error(ErrorCode::malformed, what); }

void put(std::uint8_t* pixel, const Rgb8& color) {
  std::copy(color.begin(), color.end(), pixel);
  pixel[3] = 255;
}

// Calls color(point) for the middle of every pixel, in the shading's space; it gives nullptr for
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

// Type 1 (8.7.4.5.2): a color for every point of a rectangle.
class FunctionShading final : public Shading {
 public:
  ShadingColors colors;
  Rect domain{0, 0, 1, 1};
  Matrix placed;

  std::optional<Rect> reach() const override { return placed.bounds_of(domain); }
  void paint(const PixelArea& area, const Matrix& to_pixels, Rims,
             std::uint8_t* out) const override {
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

  void paint(const PixelArea& area, const Matrix& to_pixels, Rims,
             std::uint8_t* out) const override {
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
    const double before = extends_before ? 0 : ColorRamp::kNone;
    const double after = extends_after ? ColorRamp::kLast : ColorRamp::kNone;
    std::vector<std::int32_t> entries(static_cast<std::size_t>(area.width));
    const std::size_t row_bytes = entries.size() * 4;
    for (int y = 0; y < area.height; ++y) {
      if (y > 0 && per_y == 0) {
        std::memcpy(out, out - row_bytes, row_bytes);
        out += row_bytes;
        continue;
      }
      const double in_row = at_origin + per_y * (area.top + y + 0.5);
      find_entries(in_row, per_x, area.left, before, after, entries);
      for (const std::int32_t entry : entries) {
        const std::uint32_t pixel = ramp.pixel(entry);
        std::memcpy(out, &pixel, sizeof pixel);
        out += sizeof pixel;
      }
    }
  }

 private:
  // Entries of the ramp for pixels side by side.
  LUMVET_WIDE static void find_entries(double in_row, double per_x, int left, double before,
                                       double after, std::span<std::int32_t> entries) {
    std::int32_t* out = entries.data();
    const int count = static_cast<int>(entries.size());
    for (int i = 0; i < count; ++i) {
      const double s = in_row + per_x * (left + i + 0.5);
      double entry = s * ColorRamp::kLast + 0.5;
      entry = s < 0 ? before : entry;
      entry = s > 1 ? after : entry;
      out[i] = static_cast<std::int32_t>(entry);
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

  std::optional<Rect> reach() const override {
    if (extends_before || extends_after) return std::nullopt;
    const auto box = [](Point center, double radius) {
      return Rect{center.x, center.y, center.x, center.y}.grown(radius);
    };
    Rect both = box(start, start_radius);
    const Rect other = box(end, end_radius);
    both.include({other.left, other.bottom});
    both.include({other.right, other.top});
    return both;
  }
  void paint(const PixelArea& area, const Matrix& to_pixels, Rims,
             std::uint8_t* out) const override {
    const Matrix m = to_pixels.inverse();
    const Circles circles = circles_of();
    std::vector<std::int32_t> entries(static_cast<std::size_t>(area.width));
    for (int y = 0; y < area.height; ++y) {
      const Point row{m.c * (area.top + y + 0.5) + m.e - start.x,
                      m.d * (area.top + y + 0.5) + m.f - start.y};
      if (circles.one_over_a == 0)
        find_single(circles, m, row, area.left, entries);
      else
        find_entries(circles, m, row, area.left, entries);
      for (const std::int32_t entry : entries) {
        const std::uint32_t pixel = ramp.pixel(entry);
        std::memcpy(out, &pixel, sizeof pixel);
        out += 4;
      }
    }
  }

 private:
  // |p - c(s)| = r(s) with center and radius linear in s: a s² - 2 b s + c = 0.
  struct Circles {
    double cx = 0;
    double cy = 0;
    double dr = 0;
    double a = 0;
    double one_over_a = 0;  // 0 where the equation is linear
    double radius = 0;      // of the first
    // Of s, where it is shown.
    double least = 0;
    double most = 1;

    LUMVET_INSIDE bool shows(double s) const {
      return (s >= least) & (s <= most) & (radius + s * dr >= 0);
    }
  };
  static constexpr double kNothing = 1e-12;

  Circles circles_of() const {
    constexpr double kEndless = std::numeric_limits<double>::max();
    Circles circles{.cx = end.x - start.x,
                    .cy = end.y - start.y,
                    .dr = end_radius - start_radius,
                    .radius = start_radius,
                    .least = extends_before ? -kEndless : 0,
                    .most = extends_after ? kEndless : 1};
    circles.a = circles.cx * circles.cx + circles.cy * circles.cy - circles.dr * circles.dr;
    if (std::abs(circles.a) >= kNothing) circles.one_over_a = 1 / circles.a;
    return circles;
  }

  LUMVET_INSIDE static std::int32_t entry_at(double s) {
    const double from_0 = s < 0 ? 0 : s;
    const double within = from_0 > 1 ? 1 : from_0;
    constexpr double kHalf = 0.5;  // it is not below 0
    return static_cast<std::int32_t>(within * ColorRamp::kLast + kHalf);
  }

  // Entries of the ramp for pixels side by side: of the greater of both parameters where it is
  // shown, or of the other. `row` is where a pixel at 0 would be, from the first circle's center.
  LUMVET_WIDE static void find_entries(const Circles& circles, const Matrix& m, Point row, int left,
                                       std::span<std::int32_t> entries) {
    const Circles k = circles;
    const double along_x = m.a;
    const double along_y = m.b;
    std::int32_t* __restrict out = entries.data();
    const int count = static_cast<int>(entries.size());
    for (int i = 0; i < count; ++i) {
      const double u = left + i + 0.5;
      const double px = along_x * u + row.x;
      const double py = along_y * u + row.y;
      const double b = px * k.cx + py * k.cy + k.radius * k.dr;
      const double c = px * px + py * py - k.radius * k.radius;
      const double discriminant = b * b - k.a * c;
      const double root = std::sqrt(discriminant < 0 ? 0 : discriminant);
      const double one = (b + root) * k.one_over_a;
      const double other = (b - root) * k.one_over_a;
      const double most = one > other ? one : other;
      const double least = one > other ? other : one;
      const bool shows_most = k.shows(most);
      const double chosen = shows_most ? most : least;
      const bool shows = (discriminant >= 0) & (shows_most | k.shows(least));
      out[i] = shows ? entry_at(chosen) : ColorRamp::kNone;
    }
  }

  static void find_single(const Circles& k, const Matrix& m, Point row, int left,
                          std::span<std::int32_t> entries) {
    double u = left + 0.5;
    for (std::int32_t& entry : entries) {
      const double px = m.a * u + row.x;
      const double py = m.b * u + row.y;
      const double b = px * k.cx + py * k.cy + k.radius * k.dr;
      const double c = px * px + py * py - k.radius * k.radius;
      const double s = c / (2 * b);
      entry = std::abs(b) >= kNothing && k.shows(s) ? entry_at(s) : ColorRamp::kNone;
      u += 1;
    }
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
  if (colors.space->is_pattern()) return malformed("a shading in the colors of patterns");
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
