// SPDX-License-Identifier: Apache-2.0
#include "draw/glyph_pictures.h"

#include <hb-ot.h>

#include <map>
#include <mutex>

namespace lumvet::draw {
namespace {

GlyphPicture made(const Face& face, unsigned glyph) {
  const std::unique_ptr<hb_blob_t, Release> png(
      hb_ot_color_glyph_reference_png(face.font.get(), glyph));
  unsigned length = 0;
  const char* data = hb_blob_get_data(png.get(), &length);
  hb_glyph_extents_t extents{};
  if (length == 0 || hb_font_get_glyph_extents(face.font.get(), glyph, &extents) == 0) return {};
  auto frames = read_png(Bytes(data, data + length), Limits());
  if (!frames.ok()) return {};
  return {std::make_shared<const PictureData>(PictureData{std::move(frames->front())}),
          extents.x_bearing / face.units, extents.y_bearing / face.units,
          extents.width / face.units, -extents.height / face.units};
}

}  // namespace

GlyphPicture picture_of_glyph(const FacePtr& face, unsigned glyph) {
  static std::mutex mutex;
  static std::map<std::pair<FacePtr, unsigned>, GlyphPicture> known;
  constexpr std::size_t kMostKept = 256;
  const std::lock_guard lock(mutex);
  if (known.size() > kMostKept) known.clear();
  const auto [picture, is_new] = known.try_emplace({face, glyph});
  if (is_new) picture->second = made(*face, glyph);
  return picture->second;
}

}  // namespace lumvet::draw
