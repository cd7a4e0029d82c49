// SPDX-License-Identifier: Apache-2.0
// Profiles made here by Little CMS, and the CIE's colors by their definition.
#include "color/profile.h"
#include "base/findings_list.h"

#include <lcms2.h>

#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"

using namespace lumvet;
using color::ColorSpace;
using color::Rgb;
using test::parse;

namespace {

struct Context {
  test::PlainResolver resolver;
  Budget budget{Limits{}};
  Findings findings;

  auto space(const Object& object, const Dict& resources = {}) {
    return ColorSpace::make(object, resources, resolver, budget, findings).value();
  }
};

Bytes saved(cmsHPROFILE profile) {
  cmsUInt32Number size = 0;
  cmsSaveProfileToMem(profile, nullptr, &size);
  Bytes bytes(size);
  cmsSaveProfileToMem(profile, bytes.data(), &size);
  cmsCloseProfile(profile);
  return bytes;
}

Bytes gray_profile(double gamma) {
  cmsToneCurve* curve = cmsBuildGamma(nullptr, gamma);
  const Bytes bytes = saved(cmsCreateGrayProfile(cmsD50_xyY(), curve));
  cmsFreeToneCurve(curve);
  return bytes;
}

// The primaries of sRGB, in proportion to light.
Bytes linear_profile() {
  cmsToneCurve* curve = cmsBuildGamma(nullptr, 1.0);
  cmsToneCurve* curves[] = {curve, curve, curve};
  const cmsCIExyY white = {0.3127, 0.3290, 1};
  const cmsCIExyYTRIPLE primaries = {{0.64, 0.33, 1}, {0.30, 0.60, 1}, {0.15, 0.06, 1}};
  const Bytes bytes = saved(cmsCreateRGBProfile(&white, &primaries, curves));
  cmsFreeToneCurve(curve);
  return bytes;
}

Object icc(int components, const Bytes& bytes) {
  return Array{Object::name("ICCBased"), Object(Stream::of({{"N", components}}, bytes))};
}

void check(const Rgb& rgb, double red, double green, double blue) {
  CHECK(rgb.red == Approx(red).margin(0.008));
  CHECK(rgb.green == Approx(green).margin(0.008));
  CHECK(rgb.blue == Approx(blue).margin(0.008));
}

Rgb to_rgb(const std::shared_ptr<const ColorSpace>& space, std::vector<double> values) {
  return space->to_rgb(values);
}

}  // namespace

TEST_CASE("the screen's own profile is the screen's colors", "[color]") {
  Context c;
  CHECK(c.space(icc(3, saved(cmsCreate_sRGBProfile()))) == ColorSpace::rgb());
  CHECK(c.findings.list().empty());
}

TEST_CASE("profiles are followed, in single colors and in rows", "[color]") {
  Context c;
  const auto linear = c.space(icc(3, linear_profile()));
  check(to_rgb(linear, {0.5, 0.5, 0.5}), 0.735, 0.735, 0.735);
  check(to_rgb(linear, {1, 0, 0}), 1, 0, 0);
  check(to_rgb(linear, {0.2, 0, 1}), 0.484, 0, 1);
  const auto gray = c.space(icc(1, gray_profile(1)));
  check(to_rgb(gray, {0.5}), 0.735, 0.735, 0.735);
  const Bytes row = {255, 0, 0, 128, 128, 128, 51, 0, 255};
  Bytes rgb(9);
  linear->row_to_rgb(row.data(), 3, rgb.data());
  const Bytes expected = {255, 0, 0, 188, 188, 188, 124, 0, 255};
  for (std::size_t i = 0; i < rgb.size(); ++i) CHECK(std::abs(rgb[i] - expected[i]) <= 2);
  CHECK(c.findings.list().empty());
}

TEST_CASE("a profile is worked out once", "[color]") {
  Context c;
  const Object object = icc(3, linear_profile());
  CHECK(c.space(object) == c.space(object));
}

TEST_CASE("profiles that cannot be used leave plain colors and a finding", "[color]") {
  const auto [components, bytes] = GENERATE(table<int, Bytes>({
      {3, Bytes{}},
      {3, Bytes(500, 7)},
      {3, gray_profile(2.2)},  // of another number of components
      {1, linear_profile()},
      {4, linear_profile()},
      {3, saved(cmsCreateLab4Profile(nullptr))},
  }));
  Context c;
  const auto space = c.space(icc(components, bytes));
  CHECK(space == (components == 1   ? ColorSpace::gray()
                  : components == 3 ? ColorSpace::rgb()
                                    : ColorSpace::cmyk()));
  CHECK(c.findings.list().size() == 1);
}

TEST_CASE("profiles cut off anywhere do no harm", "[color]") {
  const Bytes whole = linear_profile();
  for (std::size_t size = 0; size < whole.size(); size += 7) {
    Context c;
    c.space(icc(3, Bytes(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(size))));
  }
}

TEST_CASE("calibrated colors are placed between white and black", "[color]") {
  Context c;
  const std::string d65 = "/WhitePoint[0.95047 1 1.08883]";
  const auto gray = c.space(parse("[/CalGray<<" + d65 + "/Gamma 1>>]"));
  check(to_rgb(gray, {0.5}), 0.735, 0.735, 0.735);
  check(to_rgb(gray, {1}), 1, 1, 1);
  const auto rgb = c.space(parse(
      "[/CalRGB<<" + d65 +
      "/Gamma[2.2 2.2 2.2]/Matrix[.4124 .2126 .0193 .3576 .7152 .1192 .1805 .0722 .9505]>>]"));
  check(to_rgb(rgb, {1, 0, 0}), 1, 0, 0);
  check(to_rgb(rgb, {0.5, 0.25, 0.75}), 0.498, 0.243, 0.749);
  // White under any light is white.
  for (const char* white : {"[0.9642 1 0.8249]", "[1.0985 1 0.3558]"}) {
    check(to_rgb(c.space(parse(std::string("[/CalGray<</WhitePoint") + white + ">>]")), {1}), 1, 1,
          1);
    check(to_rgb(c.space(parse(std::string("[/Lab<</WhitePoint") + white + ">>]")), {100, 0, 0}), 1,
          1, 1);
  }
  CHECK_FALSE(
      ColorSpace::make(parse("[/CalGray<</Gamma -1>>]"), {}, c.resolver, c.budget, c.findings)
          .ok());
}

TEST_CASE("the resources may put a space in place of a device's", "[color]") {
  Context c;
  const Dict resources{
      {"ColorSpace",
       Dict{{"DefaultGray", parse("[/CalGray<</WhitePoint[.95047 1 1.08883]/Gamma 1>>]")},
            {"DefaultRGB", parse("[/CalGray<</WhitePoint[.95047 1 1.08883]/Gamma 1>>]")},
            {"DefaultCMYK", Object::name("DeviceCMYK")}}}};
  check(to_rgb(c.space(Object::name("DeviceGray"), resources), {0.5}), 0.735, 0.735, 0.735);
  CHECK(c.space(Object::name("DeviceRGB"), resources) == ColorSpace::rgb());  // it does not fit
  CHECK(c.space(Object::name("DeviceCMYK"), resources) == ColorSpace::cmyk());
  CHECK(c.findings.list().size() == 1);
}
