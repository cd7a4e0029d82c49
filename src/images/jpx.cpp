// SPDX-License-Identifier: Apache-2.0
// JPXDecode (ISO 32000-2, 7.4.9; ISO/IEC 15444-1), through OpenJPEG: boxed files and bare
// codestreams, subsampled and signed components, an opacity channel, a profile.
#include <openjpeg.h>

#include <algorithm>
#include <array>
#include <bit>
#include <cstring>
#include <memory>

#include "images/codec.h"

#include "base/allowance.h"

namespace lumvet::images {
namespace {

struct Input {
  ByteView bytes;
  std::size_t at = 0;
};

OPJ_SIZE_T read_some(void* into, OPJ_SIZE_T wanted, void* user) {
  auto* input = static_cast<Input*>(user);
  const std::size_t there = std::min<std::size_t>(wanted, input->bytes.size() - input->at);
  if (there == 0 || !Allowance::goes_on_now()) return static_cast<OPJ_SIZE_T>(-1);
  std::memcpy(into, input->bytes.data() + input->at, there);
  input->at += there;
  return there;
}

OPJ_OFF_T skip_some(OPJ_OFF_T wanted, void* user) {
  auto* input = static_cast<Input*>(user);
  if (wanted < 0) return -1;
  const std::size_t there =
      std::min<std::size_t>(static_cast<std::size_t>(wanted), input->bytes.size() - input->at);
  input->at += there;
  return static_cast<OPJ_OFF_T>(there);
}

OPJ_BOOL seek_to(OPJ_OFF_T place, void* user) {
  auto* input = static_cast<Input*>(user);
  if (place < 0 || static_cast<std::size_t>(place) > input->bytes.size()) return OPJ_FALSE;
  input->at = static_cast<std::size_t>(place);
  return OPJ_TRUE;
}

void keep_first(const char* message, void* user) {
  auto* first = static_cast<std::string*>(user);
  if (!first->empty()) return;
  *first = message;
  while (!first->empty() && first->back() == '\n') first->pop_back();
}

void stay_silent(const char*, void*) {}

// Streams and codecs are one and the same type to the compiler.
struct FreeStream {
  void operator()(opj_stream_t* stream) const { opj_stream_destroy(stream); }
};
struct FreeCodec {
  void operator()(opj_codec_t* codec) const { opj_destroy_codec(codec); }
};
struct FreeImage {
  void operator()(opj_image_t* image) const { opj_image_destroy(image); }
};

// One component's value at a pixel of the whole image, from 0 up.
std::uint32_t value_at(const opj_image_comp_t& component, std::uint32_t x, std::uint32_t y) {
  const std::uint32_t cx = std::min(x / component.dx, component.w - 1);
  const std::uint32_t cy = std::min(y / component.dy, component.h - 1);
  const std::int64_t most = (std::int64_t{1} << component.prec) - 1;
  std::int64_t value = component.data[std::size_t{cy} * component.w + cx];
  if (component.sgnd != 0) value += std::int64_t{1} << (component.prec - 1);
  return static_cast<std::uint32_t>(std::clamp<std::int64_t>(value, 0, most));
}

std::uint8_t as_byte(std::uint32_t value, std::uint32_t precision) {
  if (precision == 8) return static_cast<std::uint8_t>(value);
  if (precision > 8) return static_cast<std::uint8_t>(value >> (precision - 8));
  return static_cast<std::uint8_t>(value * 255 / ((1u << precision) - 1));
}

// ITU-R BT.601, full range, as ISO/IEC 15444-1 (G.2) writes sYCC.
void ycc_to_rgb(std::uint8_t* pixel) {
  const double y = pixel[0];
  const double cb = pixel[1] - 128.0;
  const double cr = pixel[2] - 128.0;
  const auto byte = [](double v) {
    return static_cast<std::uint8_t>(std::clamp(v + 0.5, 0.0, 255.0));
  };
  pixel[0] = byte(y + 1.402 * cr);
  pixel[1] = byte(y - 0.344136 * cb - 0.714136 * cr);
  pixel[2] = byte(y + 1.772 * cb);
}

bool is_usable(const opj_image_t& image) {
  for (std::uint32_t i = 0; i < image.numcomps; ++i) {
    const opj_image_comp_t& c = image.comps[i];
    if (c.data == nullptr || c.w == 0 || c.h == 0 || c.dx == 0 || c.dy == 0 || c.prec == 0 ||
        c.prec > 31)
      return false;
  }
  return image.numcomps > 0;
}

Samples samples_of(const opj_image_t& image, bool keep_values, int reduction) {
  std::vector<const opj_image_comp_t*> colors;
  const opj_image_comp_t* opacity = nullptr;
  for (std::uint32_t i = 0; i < image.numcomps; ++i) {
    if (image.comps[i].alpha != 0)
      opacity = &image.comps[i];
    else
      colors.push_back(&image.comps[i]);
  }
  // Two or five channels without a word about it: the last is an opacity that nobody named.
  if (opacity == nullptr && (colors.size() == 2 || colors.size() > 4)) {
    opacity = colors.back();
    colors.pop_back();
  }
  if (colors.size() == 2 || colors.empty()) colors.assign(1, &image.comps[0]);
  if (colors.size() > 4) colors.resize(4);
  // Of reduced images the components say how large they are, of whole ones the image does. Each
  // reduced sample stands around the first of those it was made of.
  const bool is_reduced = reduction > 1;
  const std::uint32_t width = is_reduced ? colors[0]->w * colors[0]->dx : image.x1 - image.x0;
  const std::uint32_t height = is_reduced ? colors[0]->h * colors[0]->dy : image.y1 - image.y0;
  Samples samples{.width = static_cast<int>(width),
                  .height = static_cast<int>(height),
                  .components = static_cast<int>(colors.size()),
                  .bits = 8,
                  .reduction = reduction,
                  .whole_width = static_cast<int>(image.x1 - image.x0),
                  .whole_height = static_cast<int>(image.y1 - image.y0),
                  .shift = 0.5 - 0.5 / reduction};
  samples.bytes.resize(std::size_t{width} * height * colors.size());
  if (opacity != nullptr) samples.alpha.resize(std::size_t{width} * height);
  std::uint8_t* out = samples.bytes.data();
  for (std::uint32_t y = 0; y < height; ++y)
    for (std::uint32_t x = 0; x < width; ++x, out += colors.size()) {
      for (std::size_t k = 0; k < colors.size(); ++k) {
        const std::uint32_t value = value_at(*colors[k], x, y);
        out[k] = keep_values ? static_cast<std::uint8_t>(std::min(value, 255u))
                             : as_byte(value, colors[k]->prec);
      }
      if (opacity != nullptr)
        samples.alpha[std::size_t{y} * width + x] =
            as_byte(value_at(*opacity, x, y), opacity->prec);
      if (image.color_space == OPJ_CLRSPC_SYCC && colors.size() == 3) ycc_to_rgb(out);
    }
  return samples;
}

}  // namespace

namespace {

Result<Samples> decode(const CodecRequest& request, int reduction) {
  constexpr std::array<std::uint8_t, 4> kCodestream = {0xFF, 0x4F, 0xFF, 0x51};
  const bool bare = request.input.size() >= kCodestream.size() &&
                    std::equal(kCodestream.begin(), kCodestream.end(), request.input.begin());
  const std::unique_ptr<opj_codec_t, FreeCodec> codec(
      opj_create_decompress(bare ? OPJ_CODEC_J2K : OPJ_CODEC_JP2));
  const std::unique_ptr<opj_stream_t, FreeStream> stream(opj_stream_default_create(OPJ_TRUE));
  if (!codec || !stream) return met_limit("no memory for a JPEG 2000 image");
  std::string trouble;
  opj_set_error_handler(codec.get(), keep_first, &trouble);
  opj_set_warning_handler(codec.get(), stay_silent, nullptr);
  opj_set_info_handler(codec.get(), stay_silent, nullptr);
  Input input{request.input};
  opj_stream_set_user_data(stream.get(), &input, nullptr);
  opj_stream_set_user_data_length(stream.get(), request.input.size());
  opj_stream_set_read_function(stream.get(), read_some);
  opj_stream_set_skip_function(stream.get(), skip_some);
  opj_stream_set_seek_function(stream.get(), seek_to);
  opj_dparameters_t parameters;
  opj_set_default_decoder_parameters(&parameters);
  parameters.cp_reduce =
      static_cast<OPJ_UINT32>(std::countr_zero(static_cast<unsigned>(reduction)));
  // The palette stays where the dictionary's own color space wants indices.
  if (request.keep_values) parameters.flags |= OPJ_DPARAMETERS_IGNORE_PCLR_CMAP_CDEF_FLAG;
  const auto malformed = [&] {
    return Error(ErrorCode::malformed,
                 "a JPEG 2000 image cannot be read" + (trouble.empty() ? "" : ": " + trouble));
  };
  if (opj_setup_decoder(codec.get(), &parameters) == OPJ_FALSE) return malformed();
  // What there is of an image that was cut off.
  opj_decoder_set_strict_mode(codec.get(), OPJ_FALSE);
  opj_image_t* header = nullptr;
  const bool has_header = opj_read_header(stream.get(), codec.get(), &header) == OPJ_TRUE;
  const std::unique_ptr<opj_image_t, FreeImage> image(header);
  LUMVET_RETURN_IF_ERROR(go_on_now());
  if (!has_header || !image || image->x1 <= image->x0 || image->y1 <= image->y0) return malformed();
  const std::uint64_t width = image->x1 - image->x0;
  const std::uint64_t height = image->y1 - image->y0;
  constexpr std::uint32_t kMostComponents = 32;
  if (width * height > request.most_pixels) return too_many_pixels("JPEG 2000", width, height);
  if (image->numcomps > kMostComponents) return malformed();
  // Each sample is kept in four bytes, for as long as it is decoded.
  constexpr std::uint64_t kSample = 4;
  const auto by = static_cast<std::uint64_t>(reduction);
  const TakenMemory taken(width / by * (height / by) * image->numcomps * kSample);
  LUMVET_RETURN_IF_ERROR(taken.status());
  const bool whole = opj_decode(codec.get(), stream.get(), image.get()) == OPJ_TRUE;
  LUMVET_RETURN_IF_ERROR(go_on_now());
  if (!is_usable(*image)) return malformed();
  Samples samples = samples_of(*image, request.keep_values, reduction);
  if (image->icc_profile_buf != nullptr)
    samples.profile.assign(image->icc_profile_buf, image->icc_profile_buf + image->icc_profile_len);
  if (!whole || !trouble.empty())
    samples.damage = "a JPEG 2000 image is damaged" + (trouble.empty() ? "" : ": " + trouble);
  return samples;
}

}  // namespace

// An image may have fewer resolutions than would be wanted; then it is decoded whole.
Result<Samples> decode_jpx(const CodecRequest& request) {
  if (request.reduction > 1)
    if (Result<Samples> reduced = decode(request, request.reduction); reduced.ok()) return reduced;
  return decode(request, 1);
}

}  // namespace lumvet::images
