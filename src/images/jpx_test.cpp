// SPDX-License-Identifier: Apache-2.0
// What JPEG 2000 images say of themselves: opacity, and the profile of their colors.
#include <lcms2.h>

#include "images/image_reader.h"
#include "tests/support/catch.h"
#include "tests/support/jpx.h"
#include "tests/support/plain_resolver.h"

using namespace lumvet;

namespace {

struct Read {
  std::shared_ptr<const images::Image> image;
  std::size_t findings = 0;
};

Read read(const Bytes& jpx, const std::string& entries) {
  const Object dict = test::parse("<</Width 8/Height 8/Filter/JPXDecode" + entries + ">>");
  Budget budget(Limits{});
  Findings findings;
  auto image =
      images::read_image(Stream::of(dict.as_dict(), Bytes(jpx)), {.resources = Dict(),
                                                                  .resolver = test::PlainResolver(),
                                                                  .budget = budget,
                                                                  .findings = findings})
          .value();
  return {std::move(image), findings.list().size()};
}

// A profile in which red and green have changed places.
Bytes turned_profile() {
  cmsToneCurve* curve = cmsBuildGamma(nullptr, 2.2);
  cmsToneCurve* curves[] = {curve, curve, curve};
  const cmsCIExyY white = {0.3127, 0.3290, 1};
  const cmsCIExyYTRIPLE primaries = {{0.30, 0.60, 1}, {0.64, 0.33, 1}, {0.15, 0.06, 1}};
  cmsHPROFILE profile = cmsCreateRGBProfile(&white, &primaries, curves);
  cmsUInt32Number size = 0;
  cmsSaveProfileToMem(profile, nullptr, &size);
  Bytes bytes(size);
  cmsSaveProfileToMem(profile, bytes.data(), &size);
  cmsCloseProfile(profile);
  cmsFreeToneCurve(curve);
  return bytes;
}

std::string number(std::size_t value) {
  std::string out;
  for (int shift = 24; shift >= 0; shift -= 8) out += static_cast<char>(value >> shift & 0xFF);
  return out;
}

// The box 'colr' of a file replaced by one with a profile (ISO/IEC 15444-1, I.5.3.3).
Bytes with_profile(const Bytes& jpx, const Bytes& profile) {
  std::string text(jpx.begin(), jpx.end());
  const std::size_t colors = text.find("colr") - 4;
  const std::size_t header = text.find("jp2h") - 4;
  constexpr std::size_t kOld = 15;  // bytes, of a space that is numbered
  REQUIRE(text.substr(colors, 4) == number(kOld));
  const std::string box = number(11 + profile.size()) + "colr" + std::string("\x02\x00\x00", 3) +
                          std::string(profile.begin(), profile.end());
  std::size_t size = 0;
  for (std::size_t i = 0; i < 4; ++i)
    size = size << 8 | static_cast<std::uint8_t>(text[header + i]);
  text.replace(colors, kOld, box);
  text.replace(header, 4, number(size - kOld + box.size()));
  return {text.begin(), text.end()};
}

}  // namespace

TEST_CASE("colors that JPEG 2000 multiplied by their opacity are divided again", "[images]") {
  std::vector<int> values;
  for (int opacity = 255; opacity > 255 - 3 * 64; opacity -= 3)
    values.insert(values.end(), {200 * opacity / 255, 100 * opacity / 255, 0, opacity});
  const Bytes jpx = test::make_jpx(8, 8, 4, 8, true, true, values);
  for (const int kind : {1, 2}) {
    const auto image = read(jpx, "/SMaskInData " + std::to_string(kind)).image;
    REQUIRE(image->mask);
    for (std::size_t i = 0; i < 64; ++i) {
      CHECK(image->mask->samples[i] == 255 - 3 * i);
      CHECK(image->samples[3 * i] == Approx(kind == 2 ? 200 : values[4 * i]).margin(3));
    }
  }
}

TEST_CASE("the profile within a JPEG 2000 image counts where its dictionary names no color space",
          "[images]") {
  std::vector<int> values;
  for (int i = 0; i < 64; ++i) values.insert(values.end(), {255, 0, 0});
  const Bytes plain = test::make_jpx(8, 8, 3, 8, false, true, values);
  const auto first = [](const Read& read) {
    return std::vector<int>(read.image->samples.begin(), read.image->samples.begin() + 3);
  };
  using Color = std::vector<int>;
  CHECK(first(read(plain, "")) == Color{255, 0, 0});
  const Bytes turned = with_profile(plain, turned_profile());
  CHECK(first(read(turned, "/ColorSpace/DeviceRGB")) == Color{255, 0, 0});
  const Read own = read(turned, "");
  CHECK(own.findings == 0);
  CHECK(first(own)[0] < 40);
  CHECK(first(own)[1] > 240);
  // One that cannot be used leaves what the number of colors stands for.
  const Read unusable = read(with_profile(plain, Bytes(200, 7)), "");
  CHECK(first(unusable) == Color{255, 0, 0});
  CHECK(unusable.findings == 1);
}
