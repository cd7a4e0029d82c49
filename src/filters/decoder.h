// SPDX-License-Identifier: Apache-2.0
// What every stream filter looks like from outside (ISO 32000-2, 7.4). One file per filter, one
// list of them all in registry.cpp. Each can be undone in one go or piece by piece, so that a large
// image need not be held whole.
//
// Threads: a Decoding one thread at a time; everything else keeps no state.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <string_view>

#include "lumvet/objects/object.h"

namespace lumvet::filters {

struct Damage {
  std::string what;          // "the Flate data is cut off"
  std::uint64_t offset = 0;  // in the filter's input
};

// Bytes that come piece by piece: of a source, or through a filter from another Decoding.
class Decoding {
 public:
  virtual ~Decoding() = default;

  // Fills `out` from its front and says how far; less than asked for means that this was the end.
  // Errors: io, need_more_data; limit and malformed as the filters below meet them.
  virtual Result<std::size_t> read(std::span<std::uint8_t> out) = 0;

  // Met so far; what came before it was given.
  const std::optional<Damage>& damage() const { return damage_; }

 protected:
  void note_damage(std::string what, std::uint64_t offset) {
    if (!damage_) damage_ = Damage{std::move(what), offset};
  }

 private:
  std::optional<Damage> damage_;
};
using DecodingPtr = std::unique_ptr<Decoding>;

// A filter on top of its input. Errors: malformed for parameters that make no sense.
using StartDecoding = Result<DecodingPtr> (*)(DecodingPtr input, const Dict& parameters);

struct DecodeRequest {
  ByteView input;
  const Dict& parameters;    // of /DecodeParms, references already followed
  std::uint64_t most_bytes;  // output beyond this is a limit error
};

// What could be decoded. Damage does not lose what came before it.
struct Decoded {
  Bytes bytes;
  std::optional<Damage> damage;
};

// Errors: limit; malformed for parameters that make no sense.
using DecodeWhole = Result<Decoded> (*)(const DecodeRequest&);

struct Filter {
  std::string_view name;
  std::string_view short_name;  // of inline images (8.9.7)
  StartDecoding start = nullptr;
  DecodeWhole whole = nullptr;  // where there is a quicker way than piece by piece
};

Result<DecodingPtr> start_flate(DecodingPtr input, const Dict& parameters);
Result<DecodingPtr> start_lzw(DecodingPtr input, const Dict& parameters);
Result<DecodingPtr> start_ascii85(DecodingPtr input, const Dict& parameters);
Result<DecodingPtr> start_ascii_hex(DecodingPtr input, const Dict& parameters);
Result<DecodingPtr> start_run_length(DecodingPtr input, const Dict& parameters);
Result<Decoded> decode_flate(const DecodeRequest& request);

// By full or abbreviated name ("FlateDecode", "Fl"); nullptr for image codecs and unknown names.
const Filter* find_filter(std::string_view name);

// The full name for an abbreviation of inline images (8.9.7), otherwise the name itself.
std::string_view full_filter_name(std::string_view name);

// In one go, in the quickest way there is.
Result<Decoded> decode(const Filter& filter, const DecodeRequest& request);

// Bytes that are there already, which have to outlive it.
DecodingPtr decoding_of(ByteView bytes);

// All that comes. Errors: limit beyond `most_bytes`.
Result<Decoded> read_all(Decoding& decoding, std::string_view filter, std::uint64_t most_bytes);

Error output_limit(std::string_view filter, std::uint64_t most_bytes);

}  // namespace lumvet::filters
