// SPDX-License-Identifier: Apache-2.0
#include <lcms2.h>

#include "raster/encoder.h"

namespace lumvet::raster {
namespace {

// A profile notes when it was made, which is nobody's business and differs from run to run.
void forget_date(Bytes& profile) {
  constexpr std::size_t kDate = 24;  // ISO 15076-1, 7.2.8
  const std::uint8_t fixed[12] = {0x07, 0xE4, 0, 1, 0, 1, 0, 0, 0, 0, 0, 0};
  if (profile.size() >= kDate + sizeof fixed)
    std::copy(std::begin(fixed), std::end(fixed), profile.begin() + kDate);
}

Bytes saved(cmsHPROFILE profile) {
  Bytes bytes;
  cmsUInt32Number size = 0;
  if (profile != nullptr && cmsSaveProfileToMem(profile, nullptr, &size)) {
    bytes.resize(size);
    if (!cmsSaveProfileToMem(profile, bytes.data(), &size)) bytes.clear();
  }
  if (profile != nullptr) cmsCloseProfile(profile);
  forget_date(bytes);
  return bytes;
}

Bytes gray_profile() {
  // The curve of IEC 61966-2-1.
  const cmsFloat64Number parameters[] = {2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045};
  cmsToneCurve* curve = cmsBuildParametricToneCurve(nullptr, 4, parameters);
  Bytes bytes = saved(cmsCreateGrayProfile(cmsD50_xyY(), curve));
  cmsFreeToneCurve(curve);
  return bytes;
}

}  // namespace

const Bytes& screen_profile(bool gray) {
  static const Bytes kColor = saved(cmsCreate_sRGBProfile());
  static const Bytes kGray = gray_profile();
  return gray ? kGray : kColor;
}

}  // namespace lumvet::raster
