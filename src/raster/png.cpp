// SPDX-License-Identifier: Apache-2.0
#include <png.h>

#include <cmath>
#include <csetjmp>

#include "lumvet/raster/raster.h"

namespace lumvet {
namespace {

void append(png_structp png, png_bytep data, png_size_t size) {
  auto* out = static_cast<Bytes*>(png_get_io_ptr(png));
  out->insert(out->end(), data, data + size);
}

bool is_opaque(const Raster& raster) {
  const Bytes& bytes = raster.bytes();
  for (std::size_t i = 3; i < bytes.size(); i += 4)
    if (bytes[i] != 255) return false;
  return true;
}

// PNG wants colours that are not multiplied by alpha.
void plain_row(const Raster& raster, int y, bool opaque, Bytes& out) {
  out.clear();
  const std::uint8_t* row = raster.row(y);
  for (int x = 0; x < raster.width(); ++x, row += 4) {
    if (opaque) {
      out.insert(out.end(), row, row + 3);
    } else {
      const Color color = raster.at(x, y);
      out.insert(out.end(), {color.red, color.green, color.blue, color.alpha});
    }
  }
}

// Everything with a destructor lives in the caller, since libpng leaves by longjmp.
bool encode(png_structp png, png_infop info, const Raster& raster, double dpi, Bytes& out,
            Bytes& row) {
  if (setjmp(png_jmpbuf(png)) != 0) return false;
  const bool opaque = is_opaque(raster);
  png_set_write_fn(png, &out, append, nullptr);
  constexpr int kLevel = 4;
  png_set_compression_level(png, kLevel);
  png_set_IHDR(png, info, static_cast<png_uint_32>(raster.width()),
               static_cast<png_uint_32>(raster.height()), 8,
               opaque ? PNG_COLOR_TYPE_RGB : PNG_COLOR_TYPE_RGB_ALPHA, PNG_INTERLACE_NONE,
               PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
  if (dpi > 0) {
    constexpr double kInchesPerMetre = 1 / 0.0254;
    const auto per_metre = static_cast<png_uint_32>(std::lround(dpi * kInchesPerMetre));
    png_set_pHYs(png, info, per_metre, per_metre, PNG_RESOLUTION_METER);
  }
  png_write_info(png, info);
  for (int y = 0; y < raster.height(); ++y) {
    plain_row(raster, y, opaque, row);
    png_write_row(png, row.data());
  }
  png_write_end(png, info);
  return true;
}

}  // namespace

Result<Bytes> Raster::png(double dpi) const {
  if (width_ < 1) return Error(ErrorCode::invalid_argument, "an empty raster makes no picture");
  Bytes out;
  Bytes row;
  png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
  png_infop info = png != nullptr ? png_create_info_struct(png) : nullptr;
  const bool done = info != nullptr && encode(png, info, *this, dpi, out, row);
  png_destroy_write_struct(&png, &info);
  if (!done) return Error(ErrorCode::io, "the PNG picture could not be made");
  return out;
}

}  // namespace lumvet
