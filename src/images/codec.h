// SPDX-License-Identifier: Apache-2.0
// What every image codec looks like from outside (ISO 32000-2, 7.4.6 to 7.4.9). One file per
// codec, one list of them all in codec.cpp.
//
// Threads: codecs keep no state; share freely.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "filters/decoder.h"

namespace lumvet::images {

struct CodecRequest {
  ByteView input;
  const Dict& parameters;     // of /DecodeParms, references already followed
  ByteView globals = {};      // of JBIG2: what several images share
  int width = 0;              // pixels, as the image's dictionary states them
  int height = 0;             // pixels
  bool keep_values = false;   // of JPEG 2000: samples are indices, not to be spread over 8 bits
  std::uint64_t most_pixels;  // beyond this is a limit error
  int reduction = 1;          // 1, 2, 4 or 8: of JPEG 2000, so many samples may become one each way
};

// Rows from the top, each beginning at a byte. Damage does not lose what came before it.
struct Samples {
  int width = 0;       // pixels
  int height = 0;      // pixels
  int components = 0;  // 1, 3 or 4
  int bits = 8;        // a component
  Bytes bytes = {};
  Bytes alpha = {};    // of JPEG 2000: one byte a pixel, empty when all is opaque
  Bytes profile = {};  // of JPEG 2000: the ICC profile of its colors; empty without one
  std::optional<std::string> damage = {};
  std::uint64_t damage_offset = 0;  // in the input
  int reduction = 1;                // what was done of the one asked for; if it is more than 1:
  int whole_width = 0;              // pixels, before it
  int whole_height = 0;             // pixels
  double shift = 0;                 // samples by which they lie left of and above means
};

// Ends early where goes_on() says no. Errors: malformed when nothing can be decoded, limit,
// cancelled.
using Codec = Result<Samples> (*)(const CodecRequest&);

// The same decoded as they are asked for.
struct SampleRows {
  int width = 0;       // pixels, as the rows come
  int height = 0;      // pixels, as the rows come
  int components = 0;  // 1, 3 or 4
  int bits = 8;        // a component
  filters::DecodingPtr bytes = nullptr;
  int whole_width = 0;   // pixels, before they are reduced
  int whole_height = 0;  // pixels
};

// A large photograph need not be held whole; of `reduction` samples (1, 2, 4 or 8) each way one is
// made without decoding them all. Errors: as a Codec's.
Result<SampleRows> start_dct(ByteSlice input, const Dict& parameters, std::uint64_t most_pixels,
                             int reduction = 1);

// The same of facsimile rows, a bit a sample. `height`, of the image's dictionary, says how many
// rows there are where the parameters do not.
Result<SampleRows> start_ccitt(ByteSlice input, const Dict& parameters, int height,
                               std::uint64_t most_pixels);

Result<Samples> decode_dct(const CodecRequest& request);
Result<Samples> decode_ccitt(const CodecRequest& request);
Result<Samples> decode_jbig2(const CodecRequest& request);
Result<Samples> decode_jpx(const CodecRequest& request);

// By full name ("DCTDecode"); nullptr for everything else.
Codec find_codec(std::string_view name);

Error too_many_pixels(std::string_view codec, std::uint64_t width, std::uint64_t height);

}  // namespace lumvet::images
