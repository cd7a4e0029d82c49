// SPDX-License-Identifier: Apache-2.0
#include "lumvet/draw/color.h"

#include <algorithm>
#include <cmath>

#include "draw/color_space.h"
#include "lumvet/base/assert.h"
#include "objects/lexer.h"

namespace lumvet {

struct Color::Space {
  std::vector<std::string> names;  // of inks
  std::vector<Color> full;         // of each of them
  std::shared_ptr<const Bytes> profile;
};

template <>
struct Inside<Color> {
  static const Color::Space& space(const Color& color) { return *color.space_; }
  static bool are_beside(const Color& one, const Color& other) {
    if (one.kind_ != other.kind_) return false;
    const auto& own = one.space_;
    const auto& its = other.space_;
    if (own == its) return true;
    return own && its && own->names == its->names && own->full == its->full &&
           (own->profile == its->profile ||
            (own->profile && its->profile && *own->profile == *its->profile));
  }
};

namespace {

double within(double value, double least, double most) {
  return std::isfinite(value) ? std::clamp(value, least, most) : least;
}

std::vector<double> fractions(std::vector<double> parts) {
  for (double& part : parts) part = within(part, 0, 1);
  return parts;
}

// By its header (ISO 15076-1, 7.2); 0 for what is no such profile.
std::size_t profile_components(ByteView profile) {
  constexpr std::size_t kHeader = 128;
  constexpr std::size_t kSpace = 16;
  constexpr std::size_t kSignature = 36;
  if (profile.size() < kHeader || as_text(profile.subspan(kSignature, 4)) != "acsp") return 0;
  const std::string_view space = as_text(profile.subspan(kSpace, 4));
  if (space == "GRAY") return 1;
  if (space == "RGB " || space == "Lab ") return 3;
  return space == "CMYK" ? 4 : 0;
}

}  // namespace

Color Color::gray(double light) {
  Color color;
  color.parts_ = fractions({light});
  return color;
}

Color Color::rgb(double red, double green, double blue) {
  Color color;
  color.kind_ = Kind::rgb;
  color.parts_ = fractions({red, green, blue});
  return color;
}

Color Color::cmyk(double cyan, double magenta, double yellow, double black) {
  Color color;
  color.kind_ = Kind::cmyk;
  color.parts_ = fractions({cyan, magenta, yellow, black});
  return color;
}

Color Color::lab(double lightness, double a, double b) {
  Color color;
  color.kind_ = Kind::lab;
  color.parts_ = {within(lightness, 0, 100), within(a, -128, 127), within(b, -128, 127)};
  return color;
}

Color Color::ink(const std::string& name, double tint, const Color& full) {
  Color color;
  color.kind_ = Kind::ink;
  color.parts_ = fractions({tint});
  // What an ink looks like is said without other inks.
  const bool is_ink = full.kind_ == Kind::ink || full.kind_ == Kind::inks;
  color.space_ = std::make_shared<const Space>(
      Space{{name}, {is_ink ? full.space_->full.front() : full}, nullptr});
  return color;
}

Result<Color> Color::inks(const std::vector<InkTint>& tints) {
  constexpr std::size_t kMost = 32;
  if (tints.empty() || tints.size() > kMost)
    return Error(ErrorCode::invalid_argument,
                 "1 to 32 inks are mixed, not " + std::to_string(tints.size()));
  Color color;
  color.kind_ = Kind::inks;
  color.parts_.clear();
  Space space;
  for (const InkTint& tint : tints) {
    if (std::find(space.names.begin(), space.names.end(), tint.ink) != space.names.end())
      return Error(ErrorCode::invalid_argument, "the ink '" + tint.ink + "' comes twice");
    const Kind kind = tint.full.kind_;
    if (kind != Kind::gray && kind != Kind::rgb && kind != Kind::cmyk)
      return Error(ErrorCode::invalid_argument,
                   "the ink '" + tint.ink +
                       "' can be mixed when it looks like a gray, an RGB or a "
                       "CMYK color");
    space.names.push_back(tint.ink);
    space.full.push_back(tint.full);
    color.parts_.push_back(tint.tint);
  }
  color.parts_ = fractions(std::move(color.parts_));
  color.space_ = std::make_shared<const Space>(std::move(space));
  return color;
}

Result<Color> Color::of_profile(std::shared_ptr<const Bytes> profile, std::vector<double> parts) {
  const std::size_t wanted = profile ? profile_components(*profile) : 0;
  if (wanted == 0)
    return Error(ErrorCode::invalid_argument, "the profile is none of gray, RGB or CMYK colors");
  if (parts.size() != wanted)
    return Error(ErrorCode::invalid_argument, "a color of the profile has " +
                                                  std::to_string(wanted) + " parts, not " +
                                                  std::to_string(parts.size()));
  Color color;
  color.kind_ = Kind::profile;
  color.parts_ = fractions(std::move(parts));
  color.space_ = std::make_shared<const Space>(Space{{}, {}, std::move(profile)});
  return color;
}

Result<Color> Color::parse(std::string_view text) {
  const Error wrong(ErrorCode::invalid_argument,
                    "'" + std::string(text) + "' is no color; write it as #B8552A");
  constexpr double kMost = 255;
  if (text.empty() || text[0] != '#' || (text.size() != 4 && text.size() != 7)) return wrong;
  std::array<double, 3> parts{};
  const std::size_t digits = (text.size() - 1) / 3;
  for (std::size_t i = 0; i < 3; ++i) {
    const int first = objects::hex_digit(static_cast<std::uint8_t>(text[1 + i * digits]));
    const int second = objects::hex_digit(static_cast<std::uint8_t>(text[i * digits + digits]));
    if (first < 0 || second < 0) return wrong;
    parts[i] = (first * 16 + second) / kMost;
  }
  return rgb(parts[0], parts[1], parts[2]);
}

bool Color::operator==(const Color& other) const {
  return parts_ == other.parts_ && draw::are_beside(*this, other);
}

namespace draw {

bool are_beside(const Color& one, const Color& other) {
  return Inside<Color>::are_beside(one, other);
}

const std::vector<std::string>& ink_names(const Color& color) {
  LUMVET_ASSERT(color.kind() == Color::Kind::ink || color.kind() == Color::Kind::inks,
                "only inks have names");
  return Inside<Color>::space(color).names;
}
const std::vector<Color>& full_inks(const Color& color) {
  LUMVET_ASSERT(color.kind() == Color::Kind::ink || color.kind() == Color::Kind::inks,
                "only inks are full");
  return Inside<Color>::space(color).full;
}
const Bytes& profile_of(const Color& color) {
  LUMVET_ASSERT(color.kind() == Color::Kind::profile, "the color has no profile");
  return *Inside<Color>::space(color).profile;
}

}  // namespace draw

}  // namespace lumvet
