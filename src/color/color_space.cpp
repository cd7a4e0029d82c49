// SPDX-License-Identifier: Apache-2.0
#include "color/color_space.h"
#include "base/findings_list.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/attempt.h"
#include "color/calibrated.h"
#include "color/function.h"
#include "color/inks.h"
#include "color/profile.h"
#include "filters/stream_decoder.h"

namespace lumvet::color {
namespace {

using SpacePtr = std::shared_ptr<const ColorSpace>;
using Made = Result<SpacePtr>;

class Gray final : public ColorSpace {
 public:
  std::size_t components() const override { return 1; }
  Rgb to_rgb(std::span<const double> v) const override {
    const double g = unit(v[0]);
    return {g, g, g};
  }
};

class DeviceRgb final : public ColorSpace {
 public:
  std::size_t components() const override { return 3; }
  Rgb to_rgb(std::span<const double> v) const override {
    return {unit(v[0]), unit(v[1]), unit(v[2])};
  }
};

class Cmyk final : public ColorSpace {
 public:
  std::size_t components() const override { return 4; }
  std::vector<double> initial() const override { return {0, 0, 0, 1}; }
  bool leaves_inks(std::span<const double> v, int mode) const override {
    return mode == 1 && std::find(v.begin(), v.end(), 0.0) != v.end();
  }

  Rgb to_rgb(std::span<const double> v) const override {
    const auto [red, green, blue] =
        screen_color({static_cast<float>(unit(v[0])), static_cast<float>(unit(v[1])),
                      static_cast<float>(unit(v[2])), static_cast<float>(unit(v[3]))});
    return {red, green, blue};
  }

  void row_to_rgb(const std::uint8_t* samples, std::size_t pixels,
                  std::uint8_t* rgb) const override {
    for (std::size_t i = 0; i < pixels; ++i, samples += 4, rgb += 3) {
      if (i > 0 && std::equal(samples, samples + 4, samples - 4)) {
        std::copy_n(rgb - 3, 3, rgb);
        continue;
      }
      constexpr float kMost = 255;
      const std::array<float, 3> color = screen_color(
          {samples[0] / kMost, samples[1] / kMost, samples[2] / kMost, samples[3] / kMost});
      for (std::size_t k = 0; k < 3; ++k)
        rgb[k] = static_cast<std::uint8_t>(double{color[k]} * 255 + 0.5);
    }
  }
};

class Indexed final : public ColorSpace {
 public:
  SpacePtr base;
  std::vector<std::vector<double>> values;  // of the base, one after the other
  std::vector<Rgb> table;

  static SpacePtr make(SpacePtr base, std::vector<std::vector<double>> values) {
    auto space = std::make_shared<Indexed>();
    for (const std::vector<double>& color : values) space->table.push_back(base->to_rgb(color));
    space->base = std::move(base);
    space->values = std::move(values);
    return space;
  }

  std::size_t components() const override { return 1; }
  SpacePtr by_intent(Intent intent) const override {
    SpacePtr other = base->by_intent(intent);
    return other ? make(std::move(other), values) : nullptr;
  }
  std::vector<double> default_decode(unsigned bits) const override {
    return {0, std::pow(2.0, bits) - 1};
  }
  Rgb to_rgb(std::span<const double> v) const override {
    const double last = static_cast<double>(table.size() - 1);
    return table[static_cast<std::size_t>(std::clamp(v[0] + 0.5, 0.0, last))];
  }
};

// Separation and DeviceN: the tints' equivalent in another space (8.6.6.4 and 8.6.6.5).
class Tinted final : public ColorSpace {
 public:
  std::size_t inks = 1;
  bool paints_all = false;  // of /All
  bool is_none = false;     // of /None
  SpacePtr alternate;
  std::shared_ptr<const Function> transform;

  std::size_t components() const override { return inks; }
  std::vector<double> initial() const override { return std::vector<double>(inks, 1.0); }
  bool leaves_inks(std::span<const double>, int) const override { return !paints_all; }
  bool paints_nothing() const override { return is_none; }
  SpacePtr by_intent(Intent intent) const override {
    SpacePtr other = alternate->by_intent(intent);
    if (!other) return nullptr;
    auto space = std::make_shared<Tinted>(*this);
    space->alternate = std::move(other);
    return space;
  }
  Rgb to_rgb(std::span<const double> v) const override {
    if (!transform) {  // it could not be read: more ink is darker
      const double g = 1 - unit(*std::max_element(v.begin(), v.end()));
      return {g, g, g};
    }
    std::vector<double> values;
    transform->evaluate(v, values);
    values.resize(alternate->components());
    return alternate->to_rgb(values);
  }
};

class Pattern final : public ColorSpace {
 public:
  SpacePtr underlying;  // of uncolored patterns
  std::size_t components() const override { return underlying ? underlying->components() : 0; }
  Rgb to_rgb(std::span<const double> v) const override {
    return underlying ? underlying->to_rgb(v) : Rgb{};
  }
  bool is_pattern() const override { return true; }
  SpacePtr by_intent(Intent intent) const override {
    SpacePtr other = underlying ? underlying->by_intent(intent) : nullptr;
    if (!other) return nullptr;
    auto space = std::make_shared<Pattern>();
    space->underlying = std::move(other);
    return space;
  }
};

SpacePtr device_space(std::string_view name) {
  if (name == "DeviceGray" || name == "G") return ColorSpace::gray();
  if (name == "DeviceRGB" || name == "RGB") return ColorSpace::rgb();
  if (name == "DeviceCMYK" || name == "CMYK") return ColorSpace::cmyk();
  if (name == "Pattern") return std::make_shared<Pattern>();
  return nullptr;
}

SpacePtr space_of(std::int64_t components) {
  if (components == 1) return ColorSpace::gray();
  if (components == 3) return ColorSpace::rgb();
  if (components == 4) return ColorSpace::cmyk();
  return nullptr;
}

class Maker {
 public:
  Maker(const Dict& resources, const objects::Resolver& resolver, Budget& budget,
        Findings& findings)
      : resources_(resources), resolver_(resolver), budget_(budget), findings_(findings) {}

  Made make(const Object& object) {
    const Budget::Depth depth(budget_);
    if (!depth.ok()) return met_limit("color spaces are nested deeper than Limits::nesting");
    const Object space = resolver_.resolve(object);
    if (space.is_name()) return named(space.as_name());
    const Array& parts = space.as_array();
    if (parts.empty())
      return Error(ErrorCode::malformed, "a color space that is neither a name nor an array");
    const Object family_object = resolver_.resolve(parts[0]);
    const std::string_view family = family_object.as_name();
    const auto part = [&](std::size_t i) { return i < parts.size() ? parts[i] : Object(); };
    if (family == "ICCBased") return icc_based(part(1));
    if (family == "Indexed" || family == "I") return indexed(part(1), part(2), part(3));
    if (family == "Separation") return tinted(1, resolver_.resolve(part(1)), part(2), part(3));
    if (family == "DeviceN") {
      const Object names = resolver_.resolve(part(1));
      const Array& inks = names.as_array();
      const bool is_none = std::all_of(inks.begin(), inks.end(), [&](const Object& ink) {
        return resolver_.resolve(ink).is_name("None");
      });
      return tinted(inks.size(), is_none ? Object::name("None") : Object(), part(2), part(3));
    }
    if (family == "CalGray") return make_calibrated_gray(dict(part(1)), resolver_);
    if (family == "CalRGB") return make_calibrated_rgb(dict(part(1)), resolver_);
    if (family == "Lab") return make_lab(dict(part(1)), resolver_);
    if (family == "Pattern" && parts.size() > 1) {
      auto pattern = std::make_shared<Pattern>();
      LUMVET_TRY(pattern->underlying, make(parts[1]));
      return SpacePtr(std::move(pattern));
    }
    return named(family);
  }

 private:
  Dict dict(const Object& object) const { return resolver_.resolve(object).as_dict(); }

  Made named(std::string_view name) {
    const Object spaces = resolver_.get(resources_, "ColorSpace");
    if (SpacePtr device = device_space(name)) return with_default(spaces.as_dict(), device);
    const Object& own = spaces.as_dict()[name];
    if (own.is_null() || own.is_name(name))
      return Error(ErrorCode::malformed,
                   "the color space '" + std::string(name) + "' is not defined");
    return make(own);
  }

  // What the resources put in place of a device's colors (8.6.5.6), which is not replaced again.
  Made with_default(const Dict& spaces, const SpacePtr& device) {
    const char* key = device == ColorSpace::gray()   ? "DefaultGray"
                      : device == ColorSpace::rgb()  ? "DefaultRGB"
                      : device == ColorSpace::cmyk() ? "DefaultCMYK"
                                                     : "";
    const Object& own = spaces[key];
    if (own.is_null() || replaces_) return device;
    replaces_ = true;
    Made replaced = make(own);
    replaces_ = false;
    if (replaced.ok() && (*replaced)->components() == device->components()) return replaced;
    findings_.add({std::string("/") + key + " is no usable color space; it was ignored", {}, {}});
    return device;
  }

  // A profile that cannot be used leaves what its number of components stands for.
  Made icc_based(const Object& profile) {
    const Object stream = resolver_.resolve(profile);
    const std::int64_t stated = resolver_.get(stream.as_dict(), "N").as_integer();
    if (SpacePtr space = space_of(stated)) {
      if (!stream.is_stream()) return space;
      Made made =
          space_of_profile(*stream.as_stream(), space->components(), resolver_, budget_, findings_);
      if (made.ok() || made.error().code() == ErrorCode::need_more_data) return made;
      const Made instead = alternate_of(stream.as_dict(), space->components());
      findings_.add(
          {made.error().message() +
               (instead.ok() ? "; its alternate was taken" : "; plain colors were taken"),
           made.error().offset(),
           profile.is_reference() ? std::optional(profile.as_reference()) : std::nullopt});
      return instead.ok() ? instead : Made(space);
    }
    const Object alternate = stream.as_dict()["Alternate"];
    if (!alternate.is_null()) return make(alternate);
    return Error(ErrorCode::malformed, "a color profile without its number of components");
  }

  // What a profile names to be used in its place (8.6.5.5).
  Made alternate_of(const Dict& profile, std::size_t components) {
    const Object& alternate = profile["Alternate"];
    if (alternate.is_null()) return Error(ErrorCode::malformed, "no alternate");
    LUMVET_TRY(SpacePtr space, make(alternate));
    if (space->components() != components || space->is_pattern())
      return Error(ErrorCode::malformed, "an alternate of another number of components");
    return space;
  }

  Made indexed(const Object& base_object, const Object& highest, const Object& lookup) {
    LUMVET_TRY(const SpacePtr base, make(base_object));
    constexpr std::int64_t kHighest = 255;
    std::int64_t high = resolver_.resolve(highest).as_integer(-1);
    const std::size_t n = base->components();
    if (high < 0 || n == 0)
      return Error(ErrorCode::malformed, "an indexed color space with an impossible size");
    if (high > kHighest) {
      findings_.add(
          {"an indexed color space has more than 256 colors; the first of them count", {}, {}});
      high = kHighest;
    }
    const Object table = resolver_.resolve(lookup);
    Bytes bytes(as_bytes(table.as_string()).begin(), as_bytes(table.as_string()).end());
    if (const Stream* stream = table.as_stream()) {
      LUMVET_TRY(const ByteSlice content,
                 filters::decode_whole(*stream, resolver_, budget_, findings_));
      bytes.assign(content.view().begin(), content.view().end());
    }
    const auto count = static_cast<std::size_t>(high) + 1;
    if (bytes.size() < count * n) {
      findings_.add({"the table of an indexed color space is too short; black was added", {}, {}});
      bytes.resize(count * n);
    }
    const std::vector<double> decode = base->default_decode(8);
    std::vector<std::vector<double>> colors(count, std::vector<double>(n));
    for (std::size_t i = 0; i < count; ++i)
      for (std::size_t k = 0; k < n; ++k)
        colors[i][k] =
            decode[2 * k] + bytes[i * n + k] / 255.0 * (decode[2 * k + 1] - decode[2 * k]);
    return Indexed::make(base, std::move(colors));
  }

  Made tinted(std::size_t inks, const Object& ink, const Object& alternate,
              const Object& transform) {
    constexpr std::size_t kMostInks = 32;
    if (inks == 0 || inks > kMostInks)
      return Error(ErrorCode::malformed, "a color space with an impossible number of inks");
    auto space = std::make_shared<Tinted>();
    space->inks = inks;
    space->paints_all = ink.is_name("All");
    space->is_none = ink.is_name("None");
    LUMVET_TRY(space->alternate, make(alternate));
    auto function = Function::make(transform, resolver_, budget_, findings_);
    if (function.ok())
      space->transform = *std::move(function);
    else
      findings_.add({function.error().message() + "; the tints of '" + std::string(ink.as_name()) +
                         "' are shown as grays",
                     {},
                     {}});
    return SpacePtr(std::move(space));
  }

  const Dict& resources_;
  const objects::Resolver& resolver_;
  Budget& budget_;
  Findings& findings_;
  bool replaces_ = false;  // within a default space
};

}  // namespace

Intent intent_named(std::string_view name) {
  if (name == "AbsoluteColorimetric") return Intent::absolute;
  if (name == "Perceptual") return Intent::perceptual;
  if (name == "Saturation") return Intent::saturation;
  return Intent::relative;
}

SpacePtr by_intent(SpacePtr space, Intent intent) {
  SpacePtr other = intent == Intent::relative ? nullptr : space->by_intent(intent);
  return other ? other : space;
}

std::vector<double> ColorSpace::default_decode(unsigned) const {
  std::vector<double> decode;
  for (std::size_t i = 0; i < components(); ++i) decode.insert(decode.end(), {0.0, 1.0});
  return decode;
}

void ColorSpace::row_to_rgb(const std::uint8_t* samples, std::size_t pixels,
                            std::uint8_t* rgb) const {
  const std::size_t count = components();
  const std::vector<double> decode = default_decode(8);
  std::vector<double> values(count);
  const auto to_byte = [](double value) {
    return static_cast<std::uint8_t>(unit(value) * 255 + 0.5);
  };
  for (std::size_t i = 0; i < pixels; ++i, samples += count, rgb += 3) {
    // Neighbors are often equal.
    if (i > 0 && std::equal(samples, samples + count, samples - count)) {
      std::copy_n(rgb - 3, 3, rgb);
      continue;
    }
    for (std::size_t k = 0; k < count; ++k)
      values[k] = decode[2 * k] + samples[k] / 255.0 * (decode[2 * k + 1] - decode[2 * k]);
    const Rgb color = to_rgb(values);
    rgb[0] = to_byte(color.red);
    rgb[1] = to_byte(color.green);
    rgb[2] = to_byte(color.blue);
  }
}

SpacePtr ColorSpace::gray() {
  static const SpacePtr kSpace = std::make_shared<Gray>();
  return kSpace;
}

SpacePtr ColorSpace::rgb() {
  static const SpacePtr kSpace = std::make_shared<DeviceRgb>();
  return kSpace;
}

SpacePtr ColorSpace::cmyk() {
  static const SpacePtr kSpace = std::make_shared<Cmyk>();
  return kSpace;
}

Made ColorSpace::make(const Object& object, const Dict& resources,
                      const objects::Resolver& resolver, Budget& budget, Findings& findings) {
  return Maker(resources, resolver, budget, findings).make(object);
}

}  // namespace lumvet::color
