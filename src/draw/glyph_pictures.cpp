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

std::optional<Color> color_of(const Face& face, unsigned index) {
  constexpr unsigned kOfText = 0xFFFF;
  if (index == kOfText) return std::nullopt;
  hb_color_t color = 0;
  unsigned count = 1;
  hb_ot_color_palette_get_colors(face.face.get(), 0, index, &count, &color);
  if (count == 0) return std::nullopt;
  constexpr double kMost = 255;
  const double opacity = hb_color_get_alpha(color) / kMost;
  const auto on_white = [&](unsigned part) { return 1 - opacity + opacity * part / kMost; };
  return Color::rgb(on_white(hb_color_get_red(color)), on_white(hb_color_get_green(color)),
                    on_white(hb_color_get_blue(color)));
}

}  // namespace

std::vector<GlyphLayer> layers_of_glyph(const Face& face, unsigned glyph) {
  unsigned count = hb_ot_color_glyph_get_layers(face.face.get(), glyph, 0, nullptr, nullptr);
  std::vector<hb_ot_color_layer_t> stated(count);
  hb_ot_color_glyph_get_layers(face.face.get(), glyph, 0, &count, stated.data());
  std::vector<GlyphLayer> layers;
  for (const hb_ot_color_layer_t& layer : stated)
    layers.push_back({layer.glyph, color_of(face, layer.color_index)});
  return layers;
}

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
