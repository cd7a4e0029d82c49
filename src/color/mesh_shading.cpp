// SPDX-License-Identifier: Apache-2.0
// Shadings by meshes of triangles and of patches (ISO 32000-2, 8.7.4.5.5 to 8.7.4.5.8).
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

#include "base/allowance.h"
#include "base/simd.h"
#include "color/mesh_rims.h"
#include "color/shading_parts.h"

namespace lumvet::color {
namespace {

// With a function its input, from 0 to 1 over its domain, otherwise red, green and blue.
using Shade = std::array<double, 3>;

struct Vertex {
  Point at;
  Shade shade{};
};

struct Triangle {
  std::array<Vertex, 3> corners;
};

// Sixteen control points (figure 45), and the shades of the corners 00, 03, 33 and 30.
struct Patch {
  std::array<std::array<Point, 4>, 4> net{};
  std::array<Shade, 4> shades{};
};

Shade mixed(const Shade& a, const Shade& b, double part) {
  Shade shade;
  for (std::size_t i = 0; i < shade.size(); ++i) shade[i] = a[i] + (b[i] - a[i]) * part;
  return shade;
}

// The numbers of a mesh's stream, each of any number of bits.
class MeshData {
 public:
  explicit MeshData(ByteView bytes) : bytes_(bytes) {}

  bool has(std::uint64_t bits) const { return at_ + bits <= std::uint64_t{bytes_.size()} * 8; }
  void to_byte() { at_ = (at_ + 7) / 8 * 8; }

  std::uint32_t next(unsigned bits) {
    std::uint64_t value = 0;
    for (unsigned i = 0; i < bits; ++i, ++at_)
      value = value << 1 | (bytes_[static_cast<std::size_t>(at_ / 8)] >> (7 - at_ % 8) & 1);
    return static_cast<std::uint32_t>(value);
  }

 private:
  ByteView bytes_;
  std::uint64_t at_ = 0;  // bits
};

class MeshShading final : public Shading {
 public:
  std::vector<Triangle> triangles;
  std::vector<Patch> patches;
  std::optional<ColorRamp> ramp;

  bool is_mesh() const override { return true; }
  std::optional<Rect> reach() const override {
    Rect all = Rect::nothing();
    for (const Triangle& triangle : triangles)
      for (const auto& corner : triangle.corners) all.include(corner.at);
    for (const Patch& patch : patches)
      for (const auto& row : patch.net)
        for (const Point p : row) all.include(p);
    return all;
  }

  void paint(const PixelArea& area, const Matrix& to_pixels, Rims rims,
             std::uint8_t* out) const override {
    const auto row_bytes = static_cast<std::size_t>(area.width) * 4;
    if (rims == Rims::sharp) {
      std::fill_n(out, row_bytes * static_cast<std::size_t>(area.height), std::uint8_t{0});
      return fill_all(area, to_pixels, out);
    }
    // With the pixels around it, since those at its border may be of a rim.
    const PixelArea wide{area.left - 1, area.top - 1, area.width + 2, area.height + 2};
    const auto wide_bytes = static_cast<std::size_t>(wide.width) * 4;
    const TakenMemory memory(wide_bytes * static_cast<std::size_t>(wide.height));
    if (!memory.status().ok()) return;
    Bytes pixels(wide_bytes * static_cast<std::size_t>(wide.height));
    fill_all(wide, to_pixels, pixels.data());
    smooth(wide, to_pixels, pixels.data());
    for (int y = 0; y < area.height; ++y)
      std::copy_n(&pixels[static_cast<std::size_t>(y + 1) * wide_bytes + 4], row_bytes,
                  out + static_cast<std::size_t>(y) * row_bytes);
  }

 private:
  void fill_all(const PixelArea& area, const Matrix& to_pixels, std::uint8_t* out) const {
    for (const Triangle& triangle : triangles) {
      if (!goes_on()) return;
      fill(placed(triangle, to_pixels), area, out);
    }
    for (const Patch& patch : patches) {
      if (!goes_on()) return;
      for_triangles(patch, to_pixels, area,
                    [&](const Triangle& triangle) { fill(triangle, area, out); });
    }
  }

  void smooth(const PixelArea& area, const Matrix& to_pixels, std::uint8_t* pixels) const {
    MeshRims rims(area, pixels);
    const auto add = [&](const Triangle& triangle) {
      const auto& [a, b, c] = triangle.corners;
      rims.add({a.at, b.at, c.at}, [&](Point p) { return color_at(triangle, p); });
    };
    for (const Triangle& triangle : triangles) {
      if (!goes_on()) return;
      add(placed(triangle, to_pixels));
    }
    for (const Patch& patch : patches) {
      if (!goes_on()) return;
      Rect bounds = Rect::nothing();
      for (const auto& row : patch.net)
        for (const Point p : row) bounds.include(to_pixels.apply(p));
      if (rims.is_near(bounds)) for_triangles(patch, to_pixels, area, add);
    }
    rims.finish();
  }

  static Triangle placed(Triangle triangle, const Matrix& to_pixels) {
    for (Vertex& corner : triangle.corners) corner.at = to_pixels.apply(corner.at);
    return triangle;
  }

  // Of a place in a triangle that has an area.
  Rgb8 color_at(const Triangle& triangle, Point p) const {
    const auto& [a, b, c] = triangle.corners;
    const double twice =
        (b.at.x - a.at.x) * (c.at.y - a.at.y) - (b.at.y - a.at.y) * (c.at.x - a.at.x);
    const double x = p.x - a.at.x;
    const double y = p.y - a.at.y;
    const double wb = (x * (c.at.y - a.at.y) - y * (c.at.x - a.at.x)) / twice;
    const double wc = (y * (b.at.x - a.at.x) - x * (b.at.y - a.at.y)) / twice;
    Shade shade;
    for (std::size_t i = 0; i < shade.size(); ++i)
      shade[i] = a.shade[i] + wb * (b.shade[i] - a.shade[i]) + wc * (c.shade[i] - a.shade[i]);
    return color_of(shade);
  }

  Rgb8 color_of(const Shade& shade) const {
    if (ramp) return ramp->at(std::clamp(shade[0], 0.0, 1.0));
    return to_rgb8({shade[0], shade[1], shade[2]});
  }

  static constexpr double kSlack = 1e-9;  // of a weight

  // The colors of pixels side by side, of which the first is at `place`, with what a shade is at
  // `origin` and how much it grows from one pixel to the next.
  static LUMVET_INSIDE void put_shades(std::uint8_t* pixels, int count, const Shade& at_origin,
                                       const Shade& per_pixel, double place, double origin) {
    using Four = double __attribute__((vector_size(32)));
    using Levels = std::int32_t __attribute__((vector_size(16)));
    const Four from = {at_origin[0], at_origin[1], at_origin[2], 1};
    const Four growing = {per_pixel[0], per_pixel[1], per_pixel[2], 0};
    const Four zero = {0, 0, 0, 0};
    const Four one = {1, 1, 1, 1};
    for (int i = 0; i < count; ++i, pixels += 4) {
      Four unit = from + growing * (place + i - origin);
      unit = unit > zero ? unit : zero;
      unit = unit < one ? unit : one;
      const Levels levels = __builtin_convertvector(unit * 255 + 0.5, Levels);
      for (int k = 0; k < 4; ++k) pixels[k] = static_cast<std::uint8_t>(levels[k]);
    }
  }

  // Corners in pixels. A pixel belongs to a triangle when its middle does; what lies right between
  // two belongs to both, so that none is left out.
  LUMVET_WIDE void fill(const Triangle& triangle, const PixelArea& area, std::uint8_t* out) const {
    const Vertex& a = triangle.corners[0];
    const Vertex& b = triangle.corners[1];
    const Vertex& c = triangle.corners[2];
    const double twice =
        (b.at.x - a.at.x) * (c.at.y - a.at.y) - (b.at.y - a.at.y) * (c.at.x - a.at.x);
    if (twice == 0 || !std::isfinite(twice)) return;
    const auto [left, right] = std::minmax({a.at.x, b.at.x, c.at.x});
    const auto [top, bottom] = std::minmax({a.at.y, b.at.y, c.at.y});
    if (right < area.left || left > area.left + area.width || bottom < area.top ||
        top > area.top + area.height)
      return;
    const int x0 = first_pixel(left, area.left, area.width);
    const int x1 = first_pixel(right, area.left, area.width);
    const int y0 = first_pixel(top, area.top, area.height);
    const int y1 = first_pixel(bottom, area.top, area.height);
    // The weights of b and c, and with them the shade, are linear in the place.
    const double over = 1 / twice;
    const double b_per_x = (c.at.y - a.at.y) * over;
    const double b_per_y = -(c.at.x - a.at.x) * over;
    const double c_per_x = -(b.at.y - a.at.y) * over;
    const double c_per_y = (b.at.x - a.at.x) * over;
    Shade per_x, per_y;
    for (std::size_t i = 0; i < per_x.size(); ++i) {
      const double b_more = b.shade[i] - a.shade[i];
      const double c_more = c.shade[i] - a.shade[i];
      per_x[i] = b_per_x * b_more + c_per_x * c_more;
      per_y[i] = b_per_y * b_more + c_per_y * c_more;
    }
    const RowLimit b_side(b_per_x);
    const RowLimit c_side(c_per_x);
    const RowLimit a_side(-b_per_x - c_per_x);
    const double from = area.left + 0.5 - a.at.x;
    for (int y = y0; y <= std::min(y1, area.height - 1); ++y) {
      const double py = area.top + y + 0.5 - a.at.y;
      const double wb0 = from * b_per_x + py * b_per_y;
      const double wc0 = from * c_per_x + py * c_per_y;
      const double farthest = std::min(x1, area.width - 1);
      double first = x0;
      double last = farthest;
      b_side.narrow(wb0, first, last);
      c_side.narrow(wc0, first, last);
      a_side.narrow(1 - wb0 - wc0, first, last);
      const auto place = [&](int x) { return area.left + x + 0.5 - a.at.x; };
      const auto is_inside = [&](int x) {
        const double wb = place(x) * b_per_x + py * b_per_y;
        const double wc = place(x) * c_per_x + py * c_per_y;
        return wb >= -kSlack && wc >= -kSlack && wb + wc <= 1 + kSlack;
      };
      constexpr double kNear = 1e-6;  // pixels by which a limit may be off
      int x = static_cast<int>(std::min(first, farthest + 1) + (1 - kNear));
      int end = static_cast<int>(std::max(last, -1.0) + kNear) + 1;
      while (x < end && !is_inside(x)) ++x;
      while (x < end && !is_inside(end - 1)) --end;
      Shade at_a;
      for (std::size_t i = 0; i < at_a.size(); ++i) at_a[i] = a.shade[i] + py * per_y[i];
      std::uint8_t* pixel =
          out + (static_cast<std::size_t>(y) * static_cast<std::size_t>(area.width) +
                 static_cast<std::size_t>(x)) *
                    4;
      if (!ramp) {
        put_shades(pixel, end - x, at_a, per_x, area.left + x + 0.5, a.at.x);
        continue;
      }
      for (; x < end; ++x, pixel += 4) {
        const double px = place(x);
        const Rgb8 color =
            color_of({at_a[0] + px * per_x[0], at_a[1] + px * per_x[1], at_a[2] + px * per_x[2]});
        std::copy(color.begin(), color.end(), pixel);
        pixel[3] = 255;
      }
    }
  }

  // Where along a row a weight that grows by so much from pixel to pixel is not below zero. Without
  // branches, which nothing could foresee.
  class RowLimit {
   public:
    explicit RowLimit(double per_pixel)
        : reach_(per_pixel == 0 ? 0 : -1 / per_pixel),
          before_(reach_ < 0 ? 0 : -2 * kFar),
          behind_(reach_ > 0 ? 0 : 2 * kFar) {}
    void narrow(double at_zero, double& first, double& last) const {
      const double crossing = std::clamp((at_zero + kSlack) * reach_, -kFar, kFar);
      first = std::max(first, crossing + before_);
      last = std::min(last, crossing + behind_);
    }

   private:
    static constexpr double kFar = 1e9;  // pixels
    double reach_;                       // until a weight of one is gone, against the direction
    double before_;                      // what takes a crossing out of the way that limits nothing
    double behind_;
  };

  // The place of a coordinate in the area, kept within it and one beyond.
  static int first_pixel(double at, int first, int count) {
    return static_cast<int>(std::clamp(std::floor(at) - first, 0.0, static_cast<double>(count)));
  }

  static std::array<double, 4> bernstein(double t) {
    const double s = 1 - t;
    return {s * s * s, 3 * t * s * s, 3 * t * t * s, t * t * t};
  }

  // What a grid over a patch has in cells, across (u) and down (v).
  struct Steps {
    int across;
    int down;
  };

  // So many that nothing lies further than kOff pixels from the patch and no color is further off
  // than a level: a chord of a cubic curve is off by 3/4 of its largest second difference over
  // the square of the steps, a cell cut in two by a quarter of its twist.
  static Steps steps_for(const Patch& patch) {
    constexpr double kOff = 1.0 / 16;
    constexpr double kMost = 96;
    const auto length = [](Point p) { return std::hypot(p.x, p.y); };
    double bend_across = 0;
    double bend_down = 0;
    double twist = 0;
    const auto& n = patch.net;
    for (std::size_t i = 0; i < 4; ++i)
      for (std::size_t j = 0; j + 2 < 4; ++j) {
        bend_across = std::max(bend_across, length(n[j][i] - n[j + 1][i] * 2 + n[j + 2][i]));
        bend_down = std::max(bend_down, length(n[i][j] - n[i][j + 1] * 2 + n[i][j + 2]));
      }
    for (std::size_t i = 0; i < 3; ++i)
      for (std::size_t j = 0; j < 3; ++j)
        twist = std::max(twist, length(n[i][j] - n[i][j + 1] - n[i + 1][j] + n[i + 1][j + 1]));
    double color_twist = 0;
    for (std::size_t i = 0; i < 3; ++i)
      color_twist = std::max(color_twist, std::abs(patch.shades[0][i] - patch.shades[1][i] +
                                                   patch.shades[2][i] - patch.shades[3][i]));
    constexpr double kLevels = 255;
    const double cells = std::max(9 * twist / (4 * kOff), color_twist * kLevels / 4);
    const auto steps = [&](double bend) {
      const double least = std::max(0.75 * bend / kOff, cells);
      return static_cast<int>(std::ceil(std::clamp(std::sqrt(least), 1.0, kMost)));
    };
    return {steps(bend_across), steps(bend_down)};
  }

  // The corners of a grid's column: u stays, v goes from 0 to 1.
  static void put_column(const Patch& patch, double u, int steps, std::vector<Vertex>& column) {
    const auto bu = bernstein(u);
    std::array<Point, 4> curve{};
    for (std::size_t j = 0; j < 4; ++j)
      for (std::size_t i = 0; i < 4; ++i) curve[j] = curve[j] + patch.net[i][j] * bu[i];
    const Shade top = mixed(patch.shades[0], patch.shades[3], u);
    const Shade bottom = mixed(patch.shades[1], patch.shades[2], u);
    column.clear();
    for (int j = 0; j <= steps; ++j) {
      const double v = static_cast<double>(j) / steps;
      const auto bv = bernstein(v);
      Vertex vertex;
      for (std::size_t k = 0; k < 4; ++k) vertex.at = vertex.at + curve[k] * bv[k];
      vertex.shade = mixed(top, bottom, v);
      column.push_back(vertex);
    }
  }

  // As a grid of triangles. Later ones cover earlier ones where a patch is folded.
  template <typename Take>
  static void for_triangles(const Patch& patch, const Matrix& to_pixels, const PixelArea& area,
                            const Take& take) {
    Patch placed = patch;
    Rect bounds = Rect::nothing();
    for (auto& row : placed.net)
      for (Point& p : row) {
        p = to_pixels.apply(p);
        bounds.include(p);
      }
    if (!(bounds.left < area.left + area.width && bounds.right > area.left &&
          bounds.bottom < area.top + area.height && bounds.top > area.top))
      return;
    const Steps steps = steps_for(placed);
    std::vector<Vertex> before;
    std::vector<Vertex> column;
    for (int i = 0; i <= steps.across && goes_on(); ++i) {
      put_column(placed, static_cast<double>(i) / steps.across, steps.down, column);
      for (std::size_t j = 0; i > 0 && j + 1 < column.size(); ++j) {
        take({{before[j], before[j + 1], column[j]}});
        take({{before[j + 1], column[j + 1], column[j]}});
      }
      std::swap(before, column);
    }
  }
};

class MeshReader {
 public:
  MeshReader(const ShadingSource& source, ShadingColors colors, MeshShading& mesh)
      : source_(source), colors_(std::move(colors)), mesh_(mesh) {}

  Status read(int type) {
    LUMVET_TRY(bytes_, filters::decode_whole(*source_.stream, source_.resolver, source_.budget,
                                             source_.findings));
    coordinate_bits_ = bits("BitsPerCoordinate", 32);
    component_bits_ = bits("BitsPerComponent", 16);
    flag_bits_ = type == 5 ? 0 : bits("BitsPerFlag", 8);
    decode_ = numbers_in(source_, "Decode");
    if (coordinate_bits_ == 0 || component_bits_ == 0 || (type != 5 && flag_bits_ == 0) ||
        decode_.size() < 4 + 2 * colors_.inputs())
      return Error(ErrorCode::malformed, "a mesh that does not say what its numbers mean");
    if (colors_.function) mesh_.ramp.emplace(colors_, decode_[4], decode_[5]);
    MeshData data(bytes_.view());
    switch (type) {
      case 4: read_triangles(data); break;
      case 5: return read_lattice(data);
      default: read_patches(data, type); break;
    }
    return Done{};
  }

 private:
  unsigned bits(std::string_view key, std::int64_t most) const {
    const std::int64_t stated = source_.resolver.get(source_.dict, key).as_integer();
    return stated >= 1 && stated <= most ? static_cast<unsigned>(stated) : 0;
  }

  std::uint64_t point_bits() const { return 2 * std::uint64_t{coordinate_bits_}; }
  std::uint64_t shade_bits() const { return colors_.inputs() * std::uint64_t{component_bits_}; }

  double decoded(MeshData& data, unsigned width, std::size_t at) const {
    const double most = std::pow(2.0, width) - 1;
    return decode_[at] + data.next(width) / most * (decode_[at + 1] - decode_[at]);
  }
  Point point(MeshData& data) const {
    const double x = decoded(data, coordinate_bits_, 0);
    return {x, decoded(data, coordinate_bits_, 2)};
  }
  Shade shade(MeshData& data) const {
    std::vector<double> values;
    for (std::size_t i = 0; i < colors_.inputs(); ++i)
      values.push_back(decoded(data, component_bits_, 4 + 2 * i));
    if (colors_.function) {
      const double range = decode_[5] - decode_[4];
      return {range == 0 ? 0 : (values[0] - decode_[4]) / range, 0, 0};
    }
    const Rgb rgb = colors_.space->to_rgb(values);
    return {rgb.red, rgb.green, rgb.blue};
  }
  Vertex vertex(MeshData& data) const {
    const Point at = point(data);
    const Vertex vertex{at, shade(data)};
    data.to_byte();
    return vertex;
  }

  template <typename Part>
  static bool keep(std::vector<Part>& parts, const Part& part) {
    constexpr std::uint64_t kGrowing = 2;  // a list that grows is there twice
    if (!Allowance::take(kGrowing * sizeof(Part))) return false;
    parts.push_back(part);
    return true;
  }

  // Type 4: each flag says which two corners of the triangle before the new one joins.
  void read_triangles(MeshData& data) {
    const std::uint64_t size = flag_bits_ + point_bits() + shade_bits();
    std::array<Vertex, 3> corners;
    bool has_triangle = false;
    while (data.has(size) && goes_on()) {
      const std::uint32_t flag = data.next(flag_bits_) & 3;
      const Vertex first = vertex(data);
      if (flag == 0 || !has_triangle) {
        if (!data.has(2 * ((size + 7) / 8 * 8) - 7)) return;
        corners[0] = first;
        for (std::size_t i = 1; i < 3; ++i) {
          data.next(flag_bits_);
          corners[i] = vertex(data);
        }
      } else {
        corners = {flag == 1 ? corners[1] : corners[0], corners[2], first};
      }
      has_triangle = true;
      if (!keep(mesh_.triangles, {corners})) return;
    }
  }

  // Type 5: rows of corners.
  Status read_lattice(MeshData& data) {
    const std::int64_t stated = source_.resolver.get(source_.dict, "VerticesPerRow").as_integer();
    if (stated < 2 || static_cast<std::uint64_t>(stated) > bytes_.size() * 8)
      return Error(ErrorCode::malformed, "a lattice with an impossible number of columns");
    const auto columns = static_cast<std::size_t>(stated);
    std::vector<Vertex> before;
    for (;;) {
      std::vector<Vertex> row;
      while (row.size() < columns && data.has(point_bits() + shade_bits()) && goes_on())
        row.push_back(vertex(data));
      if (row.size() < columns) return Done{};
      for (std::size_t i = 0; !before.empty() && i + 1 < columns; ++i) {
        if (!keep(mesh_.triangles, {{before[i], before[i + 1], row[i]}}) ||
            !keep(mesh_.triangles, {{before[i + 1], row[i + 1], row[i]}}))
          return Done{};
      }
      before = std::move(row);
    }
  }

  // Types 6 and 7: the points go round the patch, those of type 7 then into its middle.
  void read_patches(MeshData& data, int type) {
    using Place = std::pair<std::size_t, std::size_t>;
    static constexpr std::array<Place, 16> kOrder = {{{0, 0},
                                                      {0, 1},
                                                      {0, 2},
                                                      {0, 3},
                                                      {1, 3},
                                                      {2, 3},
                                                      {3, 3},
                                                      {3, 2},
                                                      {3, 1},
                                                      {3, 0},
                                                      {2, 0},
                                                      {1, 0},
                                                      {1, 1},
                                                      {1, 2},
                                                      {2, 2},
                                                      {2, 1}}};
    const std::size_t points = type == 6 ? 12 : 16;
    while (data.has(flag_bits_) && goes_on()) {
      const std::uint32_t flag = data.next(flag_bits_) & 3;
      const bool joins = flag != 0 && !mesh_.patches.empty();
      const std::size_t known = joins ? 4 : 0;
      const std::size_t shades = joins ? 2 : 4;
      if (!data.has((points - known) * point_bits() + shades * shade_bits())) return;
      Patch patch;
      if (joins) join(mesh_.patches.back(), flag, patch);
      for (std::size_t i = known; i < points; ++i)
        patch.net[kOrder[i].first][kOrder[i].second] = point(data);
      for (std::size_t i = 4 - shades; i < 4; ++i) patch.shades[i] = shade(data);
      data.to_byte();
      if (type == 6) fill_middle(patch.net);
      if (!keep(mesh_.patches, patch)) return;
    }
  }

  // The first side of a patch is the one of the patch before that the flag names (table 83).
  static void join(const Patch& before, std::uint32_t flag, Patch& patch) {
    const auto& n = before.net;
    const std::array<Point, 4> sides[] = {{n[0][3], n[1][3], n[2][3], n[3][3]},
                                          {n[3][3], n[3][2], n[3][1], n[3][0]},
                                          {n[3][0], n[2][0], n[1][0], n[0][0]}};
    patch.net[0] = sides[flag - 1];
    patch.shades[0] = before.shades[flag];
    patch.shades[1] = before.shades[(flag + 1) % 4];
  }

  // The control points in the middle of a Coons patch (8.7.4.5.8).
  static void fill_middle(std::array<std::array<Point, 4>, 4>& n) {
    const auto middle = [&n](std::size_t i, std::size_t j) {
      const std::size_t ni = i == 1 ? 0 : 3;  // the corner that is near, and the one far off
      const std::size_t nj = j == 1 ? 0 : 3;
      const std::size_t fi = 3 - ni;
      const std::size_t fj = 3 - nj;
      const auto of = [&](double Point::*axis) {
        return (-4 * (n[ni][nj].*axis) + 6 * (n[ni][j].*axis + n[i][nj].*axis) -
                2 * (n[ni][fj].*axis + n[fi][nj].*axis) + 3 * (n[fi][j].*axis + n[i][fj].*axis) -
                n[fi][fj].*axis) /
               9;
      };
      return Point{of(&Point::x), of(&Point::y)};
    };
    n[1][1] = middle(1, 1);
    n[1][2] = middle(1, 2);
    n[2][1] = middle(2, 1);
    n[2][2] = middle(2, 2);
  }

  const ShadingSource& source_;
  ShadingColors colors_;
  MeshShading& mesh_;
  ByteSlice bytes_;
  unsigned coordinate_bits_ = 0;
  unsigned component_bits_ = 0;
  unsigned flag_bits_ = 0;
  std::vector<double> decode_;
};

}  // namespace

MadeShading make_mesh_shading(const ShadingSource& source, ShadingColors colors, int type) {
  if (source.stream == nullptr) return Error(ErrorCode::malformed, "a mesh without its numbers");
  auto mesh = std::make_shared<MeshShading>();
  LUMVET_RETURN_IF_ERROR(MeshReader(source, std::move(colors), *mesh).read(type));
  return std::shared_ptr<Shading>(std::move(mesh));
}

}  // namespace lumvet::color
