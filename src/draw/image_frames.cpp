// SPDX-License-Identifier: Apache-2.0
#include "draw/image_frames.h"

#include <algorithm>
#include <array>
#include <cstdlib>

#include "draw/fax_rows.h"
#include "filters/deflate.h"

namespace lumvet::draw {
namespace {

bool begins_with(ByteView bytes, std::string_view text) {
  return as_text(bytes.first(std::min(bytes.size(), text.size()))) == text;
}

bool is_jpeg(ByteView head) { return begins_with(head, "\xFF\xD8\xFF"); }
bool is_png(ByteView head) { return begins_with(head, "\x89PNG\r\n\x1A\n"); }
bool is_tiff(ByteView head) {
  return begins_with(head, std::string_view("II*\0", 4)) ||
         begins_with(head, std::string_view("MM\0*", 4)) ||
         begins_with(head, std::string_view("II+\0", 4)) ||
         begins_with(head, std::string_view("MM\0+", 4));
}

// Each row by the predictor of PNG that leaves the smallest differences: none, the left neighbor
// or the one above.
Bytes predicted(const Bytes& rows, std::size_t row_bytes, std::size_t pixel_bytes) {
  Bytes out;
  out.reserve(rows.size() + rows.size() / row_bytes);
  Bytes above(row_bytes);
  std::array<Bytes, 3> tried;
  for (std::size_t at = 0; at + row_bytes <= rows.size(); at += row_bytes) {
    const ByteView row = ByteView(rows).subspan(at, row_bytes);
    std::array<std::uint64_t, 3> sizes{};
    for (Bytes& bytes : tried) bytes.resize(row_bytes);
    for (std::size_t i = 0; i < row_bytes; ++i) {
      const std::uint8_t left = i >= pixel_bytes ? row[i - pixel_bytes] : std::uint8_t{0};
      tried[0][i] = row[i];
      tried[1][i] = static_cast<std::uint8_t>(row[i] - left);
      tried[2][i] = static_cast<std::uint8_t>(row[i] - above[i]);
      for (std::size_t k = 0; k < tried.size(); ++k)
        sizes[k] += static_cast<std::uint64_t>(std::abs(static_cast<std::int8_t>(tried[k][i])));
    }
    const auto best =
        static_cast<std::size_t>(std::min_element(sizes.begin(), sizes.end()) - sizes.begin());
    out.push_back(static_cast<std::uint8_t>(best));
    out.insert(out.end(), tried[best].begin(), tried[best].end());
    above.assign(row.begin(), row.end());
  }
  return out;
}

}  // namespace

bool begins_as_image(ByteView head) {
  return is_jpeg(head) || is_jpeg2000(head) || is_png(head) || is_tiff(head);
}

Result<std::vector<ImageFrame>> read_image_file(const Bytes& file, const Limits& limits) {
  if (is_jpeg(file)) return read_jpeg(file, limits);
  if (is_jpeg2000(file)) return read_jpeg2000(file, limits);
  if (is_png(file)) return read_png(file, limits);
  if (is_tiff(file)) return read_tiff(file, limits);
  return Error(ErrorCode::unsupported, "not a JPEG, JPEG 2000, PNG or TIFF image");
}

Object packed_image(const Bytes& rows, int width, int height, int colors, int bits, Object space) {
  const auto row_bits = static_cast<std::size_t>(width) * static_cast<std::size_t>(colors * bits);
  const auto pixel_bytes = static_cast<std::size_t>(std::max(1, colors * bits / 8));
  Dict dict{{"Type", Object::name("XObject")},
            {"Subtype", Object::name("Image")},
            {"Width", width},
            {"Height", height},
            {"BitsPerComponent", bits},
            {"ColorSpace", std::move(space)}};
  Bytes packed = filters::deflate(predicted(rows, (row_bits + 7) / 8, pixel_bytes));
  if (colors == 1 && bits == 1) {
    Bytes blacks = rows;
    for (std::uint8_t& byte : blacks) byte = static_cast<std::uint8_t>(~byte);
    Bytes faxed = group4_of(blacks, width, height);
    if (!faxed.empty() && faxed.size() <= packed.size()) {
      dict.set("Filter", Object::name("CCITTFaxDecode"));
      dict.set("DecodeParms", Dict{{"K", -1}, {"Columns", width}, {"Rows", height}});
      return Stream::of(std::move(dict), std::move(faxed));
    }
  }
  dict.set("Filter", Object::name("FlateDecode"));
  dict.set(
      "DecodeParms",
      Dict{{"Predictor", 15}, {"Colors", colors}, {"BitsPerComponent", bits}, {"Columns", width}});
  return Stream::of(std::move(dict), std::move(packed));
}

Object packed_mask(const Bytes& alphas, int width, int height) {
  return packed_image(alphas, width, height, 1, 8, Object::name("DeviceGray"));
}

int turn_of(int orientation) {
  switch (orientation) {
    case 3:
    case 4: return 180;
    case 5:
    case 6: return 90;
    case 7:
    case 8: return 270;
    default: return 0;
  }
}

}  // namespace lumvet::draw
