// SPDX-License-Identifier: Apache-2.0
#include "redact/cut_images.h"

#include <algorithm>
#include <cmath>

#include "base/budget.h"
#include "base/findings_list.h"
#include "color/color_space.h"
#include "filters/deflate.h"
#include "filters/stream_decoder.h"
#include "images/image_facts.h"
#include "images/jpeg_blocks.h"
#include "images/sample_reader.h"
#include "images/whole_samples.h"

namespace lumvet::redacting {
namespace {

using images::either;
using images::PixelSet;

// Pixels that touch the areas by more than what numbers are rounded by.
PixelSet pixels_in(const Areas& areas, int width, int height) {
  PixelSet pixels(width, height);
  constexpr double kRounding = 1e-4;  // pixels
  // Rows from the top, in a square that goes up.
  const Areas placed = areas.mapped({static_cast<double>(width), 0, 0, -static_cast<double>(height),
                                     0, static_cast<double>(height)});
  for (const Polygon& hull : placed.hulls()) {
    const Rect bounds = bounds_of(hull);
    const int first = static_cast<int>(std::floor(std::max(bounds.bottom + kRounding, 0.0)));
    const int last =
        static_cast<int>(std::ceil(std::min(bounds.top - kRounding, static_cast<double>(height))));
    for (int y = first; y < last; ++y) {
      Polygon band = left_of(hull, {0, y + kRounding}, {1, y + kRounding});
      band = left_of(band, {1, y + 1 - kRounding}, {0, y + 1 - kRounding});
      if (band.empty()) continue;
      const Rect across = bounds_of(band);
      const double left = std::clamp(across.left + kRounding, 0.0, static_cast<double>(width));
      const double right = std::clamp(across.right - kRounding, 0.0, static_cast<double>(width));
      pixels.add(y, static_cast<int>(std::floor(left)), static_cast<int>(std::ceil(right)));
    }
  }
  return pixels;
}

// Rows of samples, of which some are set to one value for each component.
struct SampleRows {
  int width;
  int height;
  int components;
  unsigned bits;
  Bytes bytes;

  std::size_t row_bytes() const {
    return (static_cast<std::size_t>(width) * static_cast<std::size_t>(components) * bits + 7) / 8;
  }
  void set(const PixelSet& pixels, const std::vector<unsigned>& values) {
    for (int y = 0; y < height; ++y)
      for (const PixelSet::Span& span : pixels.row(y))
        for (int x = span.begin; x < span.end; ++x)
          for (int c = 0; c < components; ++c)
            set(y, x * components + c, values[static_cast<std::size_t>(c)]);
  }

 private:
  void set(int row, int sample, unsigned value) {
    const std::size_t begin = static_cast<std::size_t>(row) * row_bytes();
    const std::size_t bit = static_cast<std::size_t>(sample) * bits;
    std::uint8_t* at = bytes.data() + begin + bit / 8;
    if (bits == 16) {
      at[0] = static_cast<std::uint8_t>(value >> 8);
      at[1] = static_cast<std::uint8_t>(value & 0xFF);
      return;
    }
    const unsigned shift = 8 - bits - static_cast<unsigned>(bit % 8);
    const unsigned mask = ((1u << bits) - 1) << shift;
    *at = static_cast<std::uint8_t>((*at & ~mask) | (value << shift & mask));
  }
};

double brightness(const color::Rgb& rgb) {
  return 0.3 * rgb.red + 0.59 * rgb.green + 0.11 * rgb.blue;
}

// The samples that are the lightest color of the image's space, of those that are quickly found:
// all least, all most, and each index of a table.
std::vector<unsigned> lightest(const color::ColorSpace& space, const std::vector<double>& decode,
                               unsigned bits, bool is_indexed) {
  const std::size_t count = space.components();
  const unsigned most = (1u << bits) - 1;
  std::vector<std::vector<unsigned>> candidates = {std::vector<unsigned>(count, 0),
                                                   std::vector<unsigned>(count, most)};
  if (count == 3) candidates.push_back({most, (most + 1) / 2, (most + 1) / 2});
  if (is_indexed)
    for (unsigned i = 1; i < most && i < 256; ++i) candidates.push_back({i});
  std::vector<unsigned> best = candidates[0];
  double brightest = -1;
  for (const std::vector<unsigned>& samples : candidates) {
    std::vector<double> values;
    values.reserve(count);
    for (std::size_t i = 0; i < count; ++i)
      values.push_back(decode[2 * i] + samples[i] * (decode[2 * i + 1] - decode[2 * i]) /
                                           static_cast<double>(most));
    const double here = brightness(space.to_rgb(values));
    if (here <= brightest) continue;
    brightest = here;
    best = samples;
  }
  return best;
}

std::vector<double> decode_of(const Dict& dict, const objects::Resolver& resolver,
                              std::vector<double> usual) {
  const Object stated = either(resolver, dict, "Decode", "D");
  if (stated.as_array().size() < usual.size()) return usual;
  for (std::size_t i = 0; i < usual.size(); ++i)
    usual[i] = resolver.resolve(stated.as_array()[i]).as_number();
  return usual;
}

// Under the long keys, without what tells how it was packed and what else tells of its pixels.
Dict plain_dict(const Dict& dict) {
  constexpr std::pair<const char*, const char*> kLong[] = {
      {"W", "Width"},  {"H", "Height"},     {"BPC", "BitsPerComponent"}, {"CS", "ColorSpace"},
      {"D", "Decode"}, {"IM", "ImageMask"}, {"I", "Interpolate"}};
  Dict plain;
  for (const Dict::Entry& entry : dict) {
    const auto known = std::find_if(std::begin(kLong), std::end(kLong),
                                    [&](const auto& one) { return entry.first == one.first; });
    plain.set(known != std::end(kLong) ? known->second : entry.first, entry.second);
  }
  for (const char* key : {"Filter", "F", "DecodeParms", "DP", "Length", "L", "OPI", "Metadata",
                          "Alternates", "PieceInfo", "SMaskInData", "AF", "Measure", "PtData"})
    plain.remove(key);
  plain.set("Type", Object::name("XObject"));
  plain.set("Subtype", Object::name("Image"));
  return plain;
}

// The space by its full name, wherever it is.
Object space_of(const Object& stated, const Dict& resources, const objects::Resolver& resolver) {
  if (stated.is_name("G")) return Object::name("DeviceGray");
  if (stated.is_name("RGB")) return Object::name("DeviceRGB");
  if (stated.is_name("CMYK")) return Object::name("DeviceCMYK");
  if (stated.is_name()) {
    const Object named = resolver.get(resources, "ColorSpace");
    if (named.as_dict().contains(stated.as_name())) return named.as_dict()[stated.as_name()];
  }
  const Array& parts = stated.as_array();
  if (parts.size() != 4 || !resolver.resolve(parts[0]).is_name("I")) return stated;
  return Array{Object::name("Indexed"), space_of(parts[1], resources, resolver), parts[2],
               parts[3]};
}

Stream packed(Dict dict, const SampleRows& rows) {
  dict.set("Width", std::int64_t{rows.width});
  dict.set("Height", std::int64_t{rows.height});
  dict.set("BitsPerComponent", static_cast<std::int64_t>(rows.bits));
  dict.set("Filter", Object::name("FlateDecode"));
  return Stream::of(std::move(dict), filters::deflate(rows.bytes));
}

}  // namespace

Result<std::optional<Stream>> ImageCutter::cut(const Stream& image, const Areas& areas,
                                               const Dict& resources) {
  return cut_samples(image, areas, resources, false);
}

Status ImageCutter::cut_masks(Dict& dict, const Areas& areas, const Dict& resources) {
  for (const char* key : {"SMask", "Mask"}) {
    const Object mask = ledger_.get(dict, key);
    if (mask.as_stream() == nullptr) continue;
    LUMVET_TRY(auto cut, cut_samples(*mask.as_stream(), areas, resources, true));
    if (cut) dict.set(key, ledger_.add(Object(*std::move(cut))));
  }
  return Done{};
}

Result<std::optional<Stream>> ImageCutter::cut_samples(const Stream& image, const Areas& areas,
                                                       const Dict& resources, bool is_mask) {
  Budget budget(limits_);
  Findings unheard;
  const images::ImageContext context{
      .resources = resources, .resolver = ledger_, .budget = budget, .findings = unheard};
  const bool is_stencil = images::is_stencil(image.dict, ledger_);
  const std::int64_t width = either(ledger_, image.dict, "Width", "W").as_integer();
  const std::int64_t height = either(ledger_, image.dict, "Height", "H").as_integer();
  std::int64_t bits =
      is_stencil ? 1 : either(ledger_, image.dict, "BitsPerComponent", "BPC").as_integer(8);
  constexpr std::int64_t kMostSide = 1 << 24;
  if (width < 1 || height < 1 || width > kMostSide || height > kMostSide)
    return Error(ErrorCode::malformed, "an image with impossible dimensions");
  if (static_cast<std::uint64_t>(width * height) > limits_.pixels)
    return met_limit("an image of " + std::to_string(width) + " × " + std::to_string(height) +
                     " is beyond Limits::pixels");
  const PixelSet stated = pixels_in(areas, static_cast<int>(width), static_cast<int>(height));
  if (stated.is_empty()) return std::optional<Stream>();

  Dict dict = plain_dict(image.dict);
  const Object space =
      space_of(either(ledger_, image.dict, "ColorSpace", "CS"), resources, ledger_);
  if (!space.is_null()) dict.set("ColorSpace", space);
  if (!is_mask) LUMVET_RETURN_IF_ERROR(cut_masks(dict, areas, resources));

  std::shared_ptr<const color::ColorSpace> colors;
  if (!is_stencil && !space.is_null()) {
    LUMVET_TRY(colors, color::ColorSpace::make(space, resources, ledger_, budget, unheard));
  }
  const Object parts = ledger_.resolve(space);
  const bool is_indexed =
      !parts.as_array().empty() && ledger_.resolve(parts.as_array()[0]).is_name("Indexed");

  // JPEG, of which only the blocks that are touched are packed anew.
  const auto chain = filters::filter_chain(image.dict, ledger_);
  if (!chain.empty() && chain.back().name == "DCTDecode" && !is_indexed) {
    LUMVET_TRY(const filters::StreamContent content,
               filters::decode_stream(image, ledger_, budget, unheard));
    const std::size_t count = colors ? colors->components() : 0;
    const std::vector<double> decode =
        colors ? decode_of(image.dict, ledger_, colors->default_decode(8)) : std::vector<double>();
    const bool at_most = is_mask || !colors || lightest(*colors, decode, 8, false)[0] != 0;
    const bool is_shown_most = is_mask ? decode.size() > 1 && decode[0] > decode[1] : at_most;
    if (content.left.size() == 1 && (count == 0 || count != 2)) {
      auto written = images::with_blank_pixels(content.bytes.view(), stated, is_shown_most);
      if (written.ok()) {
        dict.set("Filter", Object::name("DCTDecode"));
        if (!chain.back().parameters.is_empty()) dict.set("DecodeParms", chain.back().parameters);
        return std::optional(Stream::of(std::move(dict), *std::move(written)));
      }
    }
  }

  LUMVET_TRY(images::WholeSamples whole, images::whole_samples(image, context,
                                                               {.width = static_cast<int>(width),
                                                                .height = static_cast<int>(height),
                                                                .keep_values = is_indexed}));
  SampleRows rows{
      static_cast<int>(width), static_cast<int>(height), 1, static_cast<unsigned>(bits), {}};
  if (whole.codec.empty()) {
    rows.components = colors ? static_cast<int>(colors->components()) : 1;
    rows.bytes.assign(whole.plain.view().begin(), whole.plain.view().end());
  } else {
    rows.components = whole.decoded.components;
    rows.bits = static_cast<unsigned>(whole.decoded.bits);
    rows.width = whole.decoded.width;
    if (whole.codec != "CCITTFaxDecode") rows.height = whole.decoded.height;
    rows.bytes = std::move(whole.decoded.bytes);
  }
  if (rows.bits != 1 && rows.bits != 2 && rows.bits != 4 && rows.bits != 8 && rows.bits != 16)
    return Error(ErrorCode::malformed, "an image with an impossible number of bits");
  rows.bytes.resize(rows.row_bytes() * static_cast<std::size_t>(rows.height));
  const PixelSet pixels = pixels_in(areas, rows.width, rows.height);

  // JPEG 2000 may bring its own colors and its own opacity.
  if (!is_stencil && (!colors || static_cast<int>(colors->components()) != rows.components)) {
    colors = rows.components == 1   ? color::ColorSpace::gray()
             : rows.components == 3 ? color::ColorSpace::rgb()
                                    : color::ColorSpace::cmyk();
    Object own = Object::name(rows.components == 1   ? "DeviceGray"
                              : rows.components == 3 ? "DeviceRGB"
                                                     : "DeviceCMYK");
    if (!whole.decoded.profile.empty())
      own = Array{Object::name("ICCBased"),
                  ledger_.add(Object(Stream::of({{"N", std::int64_t{rows.components}},
                                                 {"Filter", Object::name("FlateDecode")}},
                                                filters::deflate(whole.decoded.profile))))};
    dict.set("ColorSpace", std::move(own));
  }
  if (!whole.decoded.alpha.empty() && !dict.contains("SMask")) {
    SampleRows opacity{rows.width, rows.height, 1, 8, std::move(whole.decoded.alpha)};
    opacity.bytes.resize(opacity.row_bytes() * static_cast<std::size_t>(rows.height), 255);
    opacity.set(pixels, {0});
    dict.set("SMask", ledger_.add(Object(packed({{"Type", Object::name("XObject")},
                                                 {"Subtype", Object::name("Image")},
                                                 {"ColorSpace", Object::name("DeviceGray")}},
                                                opacity))));
  }

  const unsigned most = (1u << rows.bits) - 1;
  if (is_stencil) {
    // As a mask or by itself it leaves out what its sample 1 is, unless it is turned over.
    const std::vector<double> decode = decode_of(image.dict, ledger_, {0, 1});
    rows.set(pixels, {decode[0] <= decode[1] ? 1u : 0u});
  } else {
    const std::vector<double> decode =
        decode_of(image.dict, ledger_, colors->default_decode(rows.bits));
    std::vector<unsigned> blank = lightest(*colors, decode, rows.bits, is_indexed);
    if (is_mask)
      blank.assign(static_cast<std::size_t>(rows.components), decode[0] <= decode[1] ? 0 : most);
    rows.set(pixels, blank);
  }
  return std::optional(packed(std::move(dict), rows));
}

}  // namespace lumvet::redacting
