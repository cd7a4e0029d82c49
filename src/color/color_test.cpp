// SPDX-License-Identifier: Apache-2.0
#include "base/findings_list.h"
#include "color/color_space.h"
#include "color/function.h"
#include "filters/deflate.h"
#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"

using namespace lumvet;
using color::ColorSpace;
using color::Function;
using color::Rgb;
using test::parse;

namespace {

struct Context {
  test::PlainResolver resolver;
  Budget budget{Limits{}};
  Findings findings;

  auto space(const std::string& text, const Dict& resources = {}) {
    return ColorSpace::make(parse(text), resources, resolver, budget, findings);
  }
  std::vector<double> evaluate(const Object& function, std::vector<double> inputs) {
    std::vector<double> out;
    Function::make(function, resolver, budget, findings).value()->evaluate(inputs, out);
    return out;
  }
};

void check(const Rgb& rgb, double red, double green, double blue) {
  CHECK(rgb.red == Approx(red).margin(0.004));
  CHECK(rgb.green == Approx(green).margin(0.004));
  CHECK(rgb.blue == Approx(blue).margin(0.004));
}

Rgb to_rgb(const std::shared_ptr<const ColorSpace>& space, std::vector<double> values) {
  return space->to_rgb(values);
}

}  // namespace

TEST_CASE("device spaces and profiles by their number of components", "[color]") {
  Context c;
  check(to_rgb(c.space("/DeviceGray").value(), {0.25}), 0.25, 0.25, 0.25);
  check(to_rgb(c.space("/DeviceRGB").value(), {0.1, 2, -1}), 0.1, 1, 0);
  check(to_rgb(c.space("/DeviceCMYK").value(), {0, 0, 0, 0}), 1, 1, 1);
  check(to_rgb(c.space("/DeviceCMYK").value(), {1, 1, 1, 1}), 0, 0, 0);
  Stream profile = Stream::of({{"N", 4}}, {});
  const auto icc = ColorSpace::make(Array{Object::name("ICCBased"), Object(profile)}, {},
                                    c.resolver, c.budget, c.findings);
  CHECK(icc.value() == ColorSpace::cmyk());
  CHECK(c.space("/DeviceCMYK").value()->initial() == std::vector<double>{0, 0, 0, 1});
}

TEST_CASE("more ink is never brighter", "[color]") {
  for (int ink = 0; ink < 4; ++ink)
    for (int base = 0; base < 81; ++base) {
      std::vector<double> values = {base % 3 / 2.0, base / 3 % 3 / 2.0, base / 9 % 3 / 2.0,
                                    base / 27 / 2.0};
      double before = 4;
      for (int step = 0; step <= 4; ++step) {
        values[static_cast<std::size_t>(ink)] = step / 4.0;
        const Rgb rgb = to_rgb(ColorSpace::cmyk(), values);
        const double luminance = 0.3 * rgb.red + 0.6 * rgb.green + 0.1 * rgb.blue;
        CHECK(luminance <= before + 0.01);
        before = luminance;
      }
    }
}

TEST_CASE("indexed, tinted and Lab colors", "[color]") {
  Context c;
  const auto indexed = c.space("[/Indexed/DeviceRGB 2<FF0000 00FF00 0000FF>]").value();
  check(to_rgb(indexed, {1}), 0, 1, 0);
  check(to_rgb(indexed, {99}), 0, 0, 1);
  CHECK(indexed->default_decode(4) == std::vector<double>{0, 15});
  const auto tinted =
      c.space(
           "[/Separation/Rust/DeviceRGB<</FunctionType 2/Domain[0 1]/C0[1 1 1]/C1[0.5 0 0]/N 1>>]")
          .value();
  check(to_rgb(tinted, {0.5}), 0.75, 0.5, 0.5);
  const auto lab = c.space("[/Lab<</WhitePoint[0.9505 1 1.089]>>]").value();
  check(to_rgb(lab, {100, 0, 0}), 1, 1, 1);
  check(to_rgb(lab, {53.24, 80.09, 67.2}), 1, 0, 0);  // the red of sRGB
  CHECK(c.findings.list().empty());
}

TEST_CASE("named spaces come from the resources, and circles end", "[color]") {
  Context c;
  const Dict resources{{"ColorSpace", Dict{{"Own", Object::name("DeviceRGB")},
                                           {"A", Object::name("B")},
                                           {"B", Object::name("A")}}}};
  CHECK(c.space("/Own", resources).value()->components() == 3);
  CHECK(c.space("/A", resources).error().code() == ErrorCode::limit);
  CHECK(c.space("/Nowhere", resources).error().code() == ErrorCode::malformed);
  CHECK(c.space("[/Indexed/DeviceRGB -1<00>]").error().code() == ErrorCode::malformed);
}

TEST_CASE("a tint whose function cannot be read is shown as gray, with a finding", "[color]") {
  Context c;
  const auto space = c.space("[/Separation/Rust/DeviceRGB<</FunctionType 9>>]").value();
  check(to_rgb(space, {1}), 0, 0, 0);
  CHECK(c.findings.list().size() == 1);
}

TEST_CASE("sampled functions meet their samples and lie between them", "[color]") {
  Context c;
  const Stream stream = Stream::of({{"FunctionType", 0},
                                    {"Domain", Array{0, 1, 0, 1}},
                                    {"Range", Array{0, 10}},
                                    {"Size", Array{2, 2}},
                                    {"BitsPerSample", 8}},
                                   {0, 255, 51, 204});
  CHECK(c.evaluate(stream, {0, 0})[0] == Approx(0));
  CHECK(c.evaluate(stream, {1, 0})[0] == Approx(10));
  CHECK(c.evaluate(stream, {0, 1})[0] == Approx(2));
  CHECK(c.evaluate(stream, {1, 1})[0] == Approx(8));
  CHECK(c.evaluate(stream, {0.5, 0.5})[0] == Approx(5));
  CHECK(c.evaluate(stream, {7, -3})[0] == Approx(10));
}

TEST_CASE("exponential and stitched functions", "[color]") {
  Context c;
  CHECK(c.evaluate(parse("<</FunctionType 2/Domain[0 1]/N 2/C0[0 1]/C1[4 3]>>"), {0.5}) ==
        std::vector<double>{1, 1.5});
  const Object stitched = parse(
      "<</FunctionType 3/Domain[0 1]/Bounds[0.5]/Encode[0 1 1 0]/Functions["
      "<</FunctionType 2/Domain[0 1]/N 1>><</FunctionType 2/Domain[0 1]/N 1/C1[3]>>]>>");
  CHECK(c.evaluate(stitched, {0.25})[0] == Approx(0.5));
  CHECK(c.evaluate(stitched, {0.5})[0] == Approx(3));
  CHECK(c.evaluate(stitched, {1})[0] == Approx(0));
}

TEST_CASE("functions that do not fit together are refused", "[color]") {
  Context c;
  for (const char* text : {"<</FunctionType 3/Domain[0 1]/Bounds[]/Encode[]/Functions[]>>",
                           "<</FunctionType 2/C0[1 2]/C1[1]>>", "<</FunctionType 7>>", "(x)"})
    CHECK(Function::make(parse(text), c.resolver, c.budget, c.findings).error().code() ==
          ErrorCode::malformed);
  const Stream short_of_samples = Stream::of({{"FunctionType", 0},
                                              {"Domain", Array{0, 1}},
                                              {"Range", Array{0, 1}},
                                              {"Size", Array{900000}},
                                              {"BitsPerSample", 32}},
                                             {1, 2});
  CHECK(Function::make(short_of_samples, c.resolver, c.budget, c.findings).error().code() ==
        ErrorCode::malformed);
}
