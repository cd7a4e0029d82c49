// SPDX-License-Identifier: Apache-2.0
// Fonts to write with: one, and those that have the letters which it lacks.
//
//   const auto face = lumvet::Typeface::named("Liberation Serif:bold").value();
//   const auto brand = lumvet::Typeface::of_file("Valley.ttf").value().with_axis("wght", 620);
//   drawing.write("Ostrel", {64, 90}, {.face = brand.or_else(face), .size = 24});
//
// What is written goes into documents as a subset of the letters used, with the way back to
// characters. Fonts whose maker forbids that are refused.
//
// Copies share the fonts. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <filesystem>
#include <memory>
#include <string>

#include "lumvet/base/inside.h"
#include "lumvet/fonts/font_supply.h"

namespace lumvet {

namespace draw {
struct TypefaceData;
}

class LUMVET_EXPORT Typeface {
 public:
  // Any plain font there is. Without one, what is written with it is an error.
  Typeface();

  // By its family, with ":bold", ":italic" behind it. Letters that it lacks are looked for in the
  // other fonts of the supply, and in the system's where that uses them. Errors: invalid_argument
  // when there is none of that name; unsupported for one that is neither TrueType nor OpenType, or
  // must not be embedded.
  static Result<Typeface> named(const std::string& name, const FontSupply& fonts = FontSupply());
  // The nearest to what documents name in their own way: "Helvetica-Bold", "ArialMT". The plain one
  // where nothing is near that could be embedded.
  static Typeface nearest(const std::string& base_font, const FontSupply& fonts = FontSupply());
  // Alone, without any other font. Errors: io; malformed for what is no font; unsupported as above.
  static Result<Typeface> of_file(const std::filesystem::path& path, int face = 0);
  static Result<Typeface> of(Bytes font, int face = 0);

  // With another behind all that it has already.
  Typeface or_else(const Typeface& other) const;
  // A feature of OpenType by its tag, for all its fonts: "smcp", "onum"; 0 turns it off.
  Typeface with_feature(const std::string& tag, int value = 1) const;
  // A variable font at a place of one of its axes: "wght", 620. Others stay as they are.
  Typeface with_axis(const std::string& tag, double value) const;

  // Of its first font, in parts of the size.
  double ascent() const;      // above the line
  double descent() const;     // below it, negative
  double cap_height() const;  // of capitals
  std::string family() const;

 private:
  friend struct Inside<Typeface>;
  explicit Typeface(std::shared_ptr<const draw::TypefaceData> data) : data_(std::move(data)) {}
  std::shared_ptr<const draw::TypefaceData> data_;
};

}  // namespace lumvet
