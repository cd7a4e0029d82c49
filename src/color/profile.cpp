// SPDX-License-Identifier: Apache-2.0
#include "color/profile.h"
#include "base/findings_list.h"

#include <lcms2.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <list>
#include <mutex>
#include <string_view>

#include "filters/stream_decoder.h"

namespace lumvet::color {
namespace {

using SpacePtr = std::shared_ptr<const ColorSpace>;

struct DeleteContext {
  void operator()(cmsContext context) const { cmsDeleteContext(context); }
};
struct CloseProfile {
  void operator()(cmsHPROFILE profile) const { cmsCloseProfile(profile); }
};
struct DeleteTransform {
  void operator()(cmsHTRANSFORM transform) const { cmsDeleteTransform(transform); }
};
using Context = std::shared_ptr<std::remove_pointer_t<cmsContext>>;
using Profile = std::unique_ptr<void, CloseProfile>;
using Transform = std::unique_ptr<void, DeleteTransform>;

constexpr std::size_t kMostComponents = 4;

class Profiled final : public ColorSpace {
 public:
  // Nothing when the bytes are no profile of so many components.
  static std::shared_ptr<const Profiled> make(ByteView bytes, std::size_t components) {
    // The kind of colors by the header's bytes (ICC.1, 7.2.6), which a broken file may have any of.
    static constexpr std::array<std::string_view, kMostComponents + 1> kKinds = {"", "GRAY", "",
                                                                                 "RGB ", "CMYK"};
    constexpr std::size_t kAt = 16;
    constexpr std::size_t kLength = 4;
    const bool is_known = components <= kMostComponents && !kKinds[components].empty() &&
                          bytes.size() >= kAt + kLength &&
                          as_text(bytes).substr(kAt, kLength) == kKinds[components];
    if (!is_known) return nullptr;
    auto space = std::shared_ptr<Profiled>(new Profiled(components));
    space->context_ = Context(cmsCreateContext(nullptr, nullptr), DeleteContext());
    cmsContext context = space->context_.get();
    if (context == nullptr) return nullptr;
    cmsSetLogErrorHandlerTHR(context, [](cmsContext, cmsUInt32Number, const char*) {});
    auto profile = std::make_shared<const Profile>(cmsOpenProfileFromMemTHR(
        context, bytes.data(), static_cast<cmsUInt32Number>(bytes.size())));
    if (!*profile) return nullptr;
    space->profile_ = std::move(profile);
    return space->make_transforms(Intent::relative) ? space : nullptr;
  }

  SpacePtr by_intent(Intent intent) const override {
    const auto i = static_cast<std::size_t>(intent);
    std::call_once(others_->made[i], [&] {
      auto space = std::shared_ptr<Profiled>(new Profiled(components_));
      space->context_ = context_;
      space->profile_ = profile_;
      if (space->make_transforms(intent)) others_->spaces[i] = std::move(space);
    });
    return others_->spaces[i];
  }

  std::size_t components() const override { return components_; }
  std::vector<double> initial() const override {
    return std::vector<double>(components_);  // whatever they stand for (8.6.5.5)
  }
  Rgb to_rgb(std::span<const double> values) const override {
    std::array<std::uint16_t, kMostComponents> in{};
    std::array<std::uint16_t, 3> out{};
    constexpr double kMost = 65535;
    for (std::size_t i = 0; i < components_; ++i)
      in[i] = static_cast<std::uint16_t>(std::lround(std::clamp(values[i], 0.0, 1.0) * kMost));
    cmsDoTransform(of_words_.get(), in.data(), out.data(), 1);
    return {out[0] / kMost, out[1] / kMost, out[2] / kMost};
  }
  void row_to_rgb(const std::uint8_t* samples, std::size_t pixels,
                  std::uint8_t* rgb) const override {
    cmsDoTransform(of_bytes_.get(), samples, rgb, static_cast<cmsUInt32Number>(pixels));
  }

 private:
  explicit Profiled(std::size_t components) : components_(components) {}

  bool make_transforms(Intent intent) {
    static constexpr cmsUInt32Number kIntents[] = {INTENT_RELATIVE_COLORIMETRIC,
                                                   INTENT_ABSOLUTE_COLORIMETRIC, INTENT_PERCEPTUAL,
                                                   INTENT_SATURATION};
    const Profile screen(cmsCreate_sRGBProfileTHR(context_.get()));
    if (!screen) return false;
    const auto transform = [&](cmsUInt32Number bytes_each, cmsUInt32Number to) {
      return Transform(
          cmsCreateTransformTHR(context_.get(), profile_->get(),
                                cmsFormatterForColorspaceOfProfile(profile_->get(), bytes_each, 0),
                                screen.get(), to, kIntents[static_cast<std::size_t>(intent)],
                                cmsFLAGS_NOCACHE | cmsFLAGS_BLACKPOINTCOMPENSATION));
    };
    of_bytes_ = transform(1, TYPE_RGB_8);
    of_words_ = transform(2, TYPE_RGB_16);
    return of_bytes_ && of_words_;
  }

  // The same profile by other intents, made when they are first asked for.
  struct Others {
    std::array<std::once_flag, 4> made;
    std::array<SpacePtr, 4> spaces;
  };

  std::size_t components_;
  Context context_;  // outlives what was made in it
  std::shared_ptr<const Profile> profile_;
  std::unique_ptr<Others> others_ = std::make_unique<Others>();
  Transform of_bytes_;
  Transform of_words_;
};

// Whether colors come out as they went in, to less than anybody can see.
bool is_of_the_screen(const ColorSpace& space) {
  if (space.components() == 4) return false;
  constexpr int kSteps = 6;
  constexpr double kUnseen = 1.5 / 255;
  for (int r = 0; r <= kSteps; ++r)
    for (int g = 0; g <= (space.components() == 1 ? 0 : kSteps); ++g)
      for (int b = 0; b <= (space.components() == 1 ? 0 : kSteps); ++b) {
        const auto unit = [](int step) { return static_cast<double>(step) / kSteps; };
        const double in[] = {unit(r), unit(g), unit(b)};
        const Rgb out = space.to_rgb({in, space.components()});
        const Rgb same =
            space.components() == 1 ? Rgb{in[0], in[0], in[0]} : Rgb{in[0], in[1], in[2]};
        if (std::abs(out.red - same.red) > kUnseen || std::abs(out.green - same.green) > kUnseen ||
            std::abs(out.blue - same.blue) > kUnseen)
          return false;
      }
  return true;
}

// What was made of the profiles met lately, by where their bytes are.
class ProfileCache {
 public:
  SpacePtr find(const Stream& stream, std::size_t components) {
    const std::lock_guard lock(mutex_);
    kept_.remove_if([](const Kept& kept) { return kept.source.expired(); });
    const auto found = std::find_if(kept_.begin(), kept_.end(), [&](const Kept& kept) {
      return kept.source.lock() == stream.source && kept.offset == stream.offset &&
             kept.components == components;
    });
    if (found == kept_.end()) return nullptr;
    kept_.splice(kept_.begin(), kept_, found);
    return kept_.front().space;
  }
  void keep(const Stream& stream, std::size_t components, SpacePtr space) {
    const std::lock_guard lock(mutex_);
    kept_.push_front({stream.source, stream.offset, components, std::move(space)});
    constexpr std::size_t kMost = 32;
    if (kept_.size() > kMost) kept_.pop_back();
  }

 private:
  struct Kept {
    std::weak_ptr<const ByteSource> source;
    std::uint64_t offset;
    std::size_t components;
    SpacePtr space;
  };
  std::mutex mutex_;
  std::list<Kept> kept_;
};

}  // namespace

Result<SpacePtr> space_of_profile(const Stream& stream, std::size_t components,
                                  const objects::Resolver& resolver, Budget& budget,
                                  Findings& findings) {
  static ProfileCache cache;
  if (SpacePtr known = cache.find(stream, components)) return known;
  LUMVET_TRY(const ByteSlice bytes, filters::decode_whole(stream, resolver, budget, findings));
  SpacePtr space = Profiled::make(bytes.view(), components);
  if (!space)
    return Error(ErrorCode::malformed, "a color profile that cannot be used")
        .at_offset(stream.offset);
  if (is_of_the_screen(*space)) space = components == 1 ? ColorSpace::gray() : ColorSpace::rgb();
  cache.keep(stream, components, space);
  return space;
}

}  // namespace lumvet::color
