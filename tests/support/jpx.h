// SPDX-License-Identifier: Apache-2.0
// Images that OpenJPEG packs.
#pragma once

#include <openjpeg.h>

#include <vector>

#include "lumvet/base/bytes.h"
#include "tests/support/temporary_folder.h"

namespace test {

// JPEG 2000 without loss; the last of `channels` is an opacity when `alpha`.
inline lumvet::Bytes make_jpx(int width, int height, unsigned channels, unsigned bits, bool alpha,
                              bool boxed, const std::vector<int>& values) {
  std::vector<opj_image_cmptparm_t> parameters(channels);
  for (opj_image_cmptparm_t& p : parameters) {
    p.dx = p.dy = 1;
    p.w = static_cast<OPJ_UINT32>(width);
    p.h = static_cast<OPJ_UINT32>(height);
    p.prec = bits;
  }
  const unsigned colors = channels - (alpha ? 1 : 0);
  opj_image_t* image = opj_image_create(channels, parameters.data(),
                                        colors == 3 ? OPJ_CLRSPC_SRGB : OPJ_CLRSPC_GRAY);
  image->x1 = static_cast<OPJ_UINT32>(width);
  image->y1 = static_cast<OPJ_UINT32>(height);
  if (alpha) image->comps[channels - 1].alpha = 1;
  for (unsigned k = 0; k < channels; ++k)
    for (int i = 0; i < width * height; ++i)
      image->comps[k].data[i] = values[static_cast<std::size_t>(i) * channels + k];
  opj_cparameters_t options;
  opj_set_default_encoder_parameters(&options);
  options.numresolution = 3;
  opj_codec_t* codec = opj_create_compress(boxed ? OPJ_CODEC_JP2 : OPJ_CODEC_J2K);
  opj_setup_encoder(codec, &options, image);
  const TemporaryFolder folder;
  const std::string path = (folder / "image").string();
  opj_stream_t* stream = opj_stream_create_default_file_stream(path.c_str(), OPJ_FALSE);
  opj_start_compress(codec, image, stream);
  opj_encode(codec, stream);
  opj_end_compress(codec, stream);
  opj_stream_destroy(stream);
  opj_destroy_codec(codec);
  opj_image_destroy(image);
  const std::string bytes = read_file(path);
  return lumvet::Bytes(bytes.begin(), bytes.end());
}

}  // namespace test
