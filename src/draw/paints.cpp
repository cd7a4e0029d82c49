// SPDX-License-Identifier: Apache-2.0
// Colors and patterns as operators (ISO 32000-2, 8.6.8).
#include <algorithm>
#include <cmath>

#include "draw/color_space.h"
#include "draw/drawing_data.h"

namespace lumvet::draw {
namespace {

template <typename List, typename Value, typename Alike>
std::size_t place_in(List& list, Value value, const Alike& alike) {
  const auto known = std::find_if(list.begin(), list.end(), alike);
  if (known != list.end()) return static_cast<std::size_t>(known - list.begin());
  list.push_back(std::move(value));
  return list.size() - 1;
}

std::string color_operators(DrawingData& drawing, const Color& color, bool is_stroke) {
  std::string out;
  const auto finish = [&](const char* fill, const char* stroke) {
    for (const double part : color.parts()) objects::append_rounded({part}, out);
    out += is_stroke ? stroke : fill;
    out += '\n';
    return out;
  };
  switch (color.kind()) {
    case Color::Kind::gray: return finish("g", "G");
    case Color::Kind::rgb: return finish("rg", "RG");
    case Color::Kind::cmyk: return finish("k", "K");
    case Color::Kind::lab:
    case Color::Kind::ink:
    case Color::Kind::inks:
    case Color::Kind::profile: break;
  }
  const std::size_t space =
      place_in(drawing.spaces, color, [&](const Color& other) { return are_beside(other, color); });
  out = "/C" + std::to_string(space) + (is_stroke ? " CS\n" : " cs\n");
  return finish("scn", "SCN");
}

// Grays beside other colors of screens or presses become such colors.
Gradient in_one_space(Gradient gradient) {
  const auto other =
      std::find_if(gradient.stops.begin(), gradient.stops.end(),
                   [](const ColorStop& stop) { return stop.color.kind() != Color::Kind::gray; });
  if (other == gradient.stops.end()) return gradient;
  const Color::Kind kind = other->color.kind();
  for (ColorStop& stop : gradient.stops) {
    if (stop.color.kind() != Color::Kind::gray) continue;
    const double light = stop.color.parts().front();
    if (kind == Color::Kind::rgb) stop.color = Color::rgb(light, light, light);
    if (kind == Color::Kind::cmyk) stop.color = Color::cmyk(0, 0, 0, 1 - light);
  }
  return gradient;
}

std::optional<Error> wrong_with(const Gradient& gradient) {
  if (gradient.stops.empty())
    return Error(ErrorCode::invalid_argument, "a gradient has one color at least");
  double before = 0;
  for (const ColorStop& stop : gradient.stops) {
    if (!(stop.at >= before && stop.at <= 1))
      return Error(ErrorCode::invalid_argument,
                   "the colors of a gradient stand in order, from 0 to 1");
    before = stop.at;
    if (!are_beside(stop.color, gradient.stops.front().color))
      return Error(ErrorCode::invalid_argument, "the colors of a gradient are of one color space");
  }
  return std::nullopt;
}

std::string pattern_operators(DrawingData& drawing, UsedPattern pattern, bool is_stroke) {
  drawing.patterns.push_back(std::move(pattern));
  return std::string("/Pattern ") + (is_stroke ? "CS" : "cs") + "\n/P" +
         std::to_string(drawing.patterns.size() - 1) + (is_stroke ? " SCN\n" : " scn\n");
}

}  // namespace

std::string font_name(DrawingData& drawing, const FacePtr& face, bool runs_down,
                      std::size_t& place) {
  place = place_in(drawing.fonts, UsedFont{face, runs_down, {}}, [&](const UsedFont& other) {
    return other.face == face && other.runs_down == runs_down;
  });
  return "F" + std::to_string(place);
}

std::string picture_name(DrawingData& drawing, const std::shared_ptr<const PictureData>& picture) {
  const std::size_t place =
      place_in(drawing.pictures, picture, [&](const auto& other) { return other == picture; });
  return "I" + std::to_string(place);
}

void set_paint(DrawingData& drawing, const Paint& paint, bool is_stroke) {
  std::string wanted;
  if (const Color* color = std::get_if<Color>(&paint)) {
    wanted = color_operators(drawing, *color, is_stroke);
  } else if (const Gradient* given = std::get_if<Gradient>(&paint)) {
    const Gradient gradient = in_one_space(*given);
    if (auto wrong = wrong_with(gradient)) return drawing.fail(*std::move(wrong));
    if (gradient.stops.front().color.kind() == Color::Kind::lab)
      return drawing.fail(Error(ErrorCode::invalid_argument,
                                "gradients of Lab colors are not made; take red, green and blue"));
    wanted =
        pattern_operators(drawing, {gradient, nullptr, 0, 0, drawing.state.current}, is_stroke);
  } else {
    const Tiling& tiling = std::get<Tiling>(paint);
    if (!tiling.tile)
      return drawing.fail(Error(ErrorCode::invalid_argument, "a tiling has a drawing"));
    const DrawingPtr tile = data_of(*tiling.tile);
    if (tile->error) drawing.fail(*tile->error);
    // The tile's content has y upward; its top left corner is what is placed.
    const Matrix upright = drawing.is_upward() ? Matrix{1, 0, 0, 1, 0, -tile->height}
                                               : Matrix{1, 0, 0, -1, 0, tile->height};
    wanted = pattern_operators(drawing,
                               {std::nullopt, tile, tiling.across, tiling.down,
                                upright.then(tiling.placed).then(drawing.state.current)},
                               is_stroke);
  }
  std::string& last = is_stroke ? drawing.state.stroke_color : drawing.state.fill_color;
  if (wanted == last) return;
  drawing.painting() += wanted;
  last = std::move(wanted);
}

}  // namespace lumvet::draw
