// SPDX-License-Identifier: Apache-2.0
// Color spaces (ISO 32000-2, 8.6) and their way to the screen's red, green and blue.
// CMYK without a profile is in color/inks.h.
//
// Threads: immutable, share freely.
#pragma once

#include <algorithm>
#include <memory>
#include <span>
#include <string>
#include <vector>

#include "base/budget.h"
#include "base/findings_list.h"
#include "objects/resolver.h"

namespace lumvet::color {

// 0 to 1 each.
struct Rgb {
  double red = 0;
  double green = 0;
  double blue = 0;
};

// As much of a component as counts.
inline double unit(double value) { return std::clamp(value, 0.0, 1.0); }

// What matters when colors are brought from one device to another (8.6.5.8).
enum class Intent { relative, absolute, perceptual, saturation };

// By its name in the standard; what is unknown is relative.
Intent intent_named(std::string_view name);

class ColorSpace {
 public:
  virtual ~ColorSpace() = default;
  virtual std::size_t components() const = 0;
  // Takes components() numbers, clamped as the space says.
  virtual Rgb to_rgb(std::span<const double> values) const = 0;
  // The color that is current when the space is chosen (8.6.5 and on).
  virtual std::vector<double> initial() const { return std::vector<double>(components()); }
  // The /Decode that an image of `bits` bits has by default (table 88), low and high in turn.
  virtual std::vector<double> default_decode(unsigned bits) const;
  // A row of an image of 8 bits a component with the default /Decode, to bytes of red, green,
  // blue.
  virtual void row_to_rgb(const std::uint8_t* samples, std::size_t pixels, std::uint8_t* rgb) const;
  // The space by another intent than the relative one; null where that makes no difference.
  virtual std::shared_ptr<const ColorSpace> by_intent(Intent) const { return nullptr; }
  virtual bool is_pattern() const { return false; }
  virtual bool paints_nothing() const { return false; }  // no ink at all (8.6.6.4)
  // Whether a color that overprints leaves some inks as they are below it (8.6.7): in mode 1 a
  // device's inks of tint 0 too.
  virtual bool leaves_inks(std::span<const double>, int /*mode*/) const { return false; }

  static std::shared_ptr<const ColorSpace> gray();
  static std::shared_ptr<const ColorSpace> rgb();
  static std::shared_ptr<const ColorSpace> cmyk();

  // From a name or array; names that are not the standard's are looked up in `resources`. What is
  // unknown gives an error: malformed, unsupported, limit.
  static Result<std::shared_ptr<const ColorSpace>> make(const Object& object, const Dict& resources,
                                                        const objects::Resolver& resolver,
                                                        Budget& budget, Findings& findings);
};

// The space by an intent, which may be the space itself.
std::shared_ptr<const ColorSpace> by_intent(std::shared_ptr<const ColorSpace> space, Intent intent);

}  // namespace lumvet::color
