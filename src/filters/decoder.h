// SPDX-License-Identifier: Apache-2.0
// What every stream filter looks like from outside (ISO 32000-2, 7.4). One file per filter, one
// list of them all in registry.cpp.
//
// Threads: decoders keep no state; share freely.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "lumvet/objects/object.h"

namespace lumvet::filters {

struct DecodeRequest {
  ByteView input;
  const Dict& parameters;    // of /DecodeParms, references already followed
  std::uint64_t most_bytes;  // output beyond this is a limit error
};

// What could be decoded. Damage does not lose what came before it.
struct Decoded {
  Bytes bytes;
  std::optional<std::string> damage;  // "the Flate data is cut off"
  std::uint64_t damage_offset = 0;    // in the input
};

// Errors: limit; malformed or unsupported for parameters that make no sense.
using Decoder = Result<Decoded> (*)(const DecodeRequest&);

Result<Decoded> decode_flate(const DecodeRequest& request);
Result<Decoded> decode_lzw(const DecodeRequest& request);
Result<Decoded> decode_ascii85(const DecodeRequest& request);
Result<Decoded> decode_ascii_hex(const DecodeRequest& request);
Result<Decoded> decode_run_length(const DecodeRequest& request);

// By full or abbreviated name ("FlateDecode", "Fl"); nullptr for picture codecs and unknown names.
Decoder find_decoder(std::string_view name);

// The full name for an abbreviation of inline images (8.9.7), otherwise the name itself.
std::string_view full_filter_name(std::string_view name);

Error output_limit(std::string_view filter, std::uint64_t most_bytes);

}  // namespace lumvet::filters
