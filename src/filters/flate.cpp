// SPDX-License-Identifier: Apache-2.0
// FlateDecode (ISO 32000-2, 7.4.4): whole buffers through libdeflate; what that refuses is salvaged
// as far as it goes through zlib.
#include <libdeflate.h>
#include <zlib.h>

#include <algorithm>
#include <array>
#include <memory>

#include "filters/decoder.h"
#include "filters/predictor.h"

namespace lumvet::filters {
namespace {

struct FreeDecompressor {
  void operator()(libdeflate_decompressor* d) const { libdeflate_free_decompressor(d); }
};

// Room for what most streams unpack to, so that memory is taken once and in the right size.
struct Scratch {
  static constexpr std::size_t kSize = 256 * 1024;
  const std::unique_ptr<std::uint8_t[]> bytes = std::make_unique_for_overwrite<std::uint8_t[]>(kSize);
};

// The whole of it, or nothing when the data is damaged.
Result<std::optional<Bytes>> inflate_whole(const DecodeRequest& request) {
  thread_local const std::unique_ptr<libdeflate_decompressor, FreeDecompressor> decompressor(
      libdeflate_alloc_decompressor());
  thread_local const Scratch scratch;
  std::size_t written = 0;
  std::size_t read = 0;
  const auto inflate_into = [&](std::uint8_t* out, std::size_t room) {
    return libdeflate_zlib_decompress_ex(decompressor.get(), request.input.data(),
                                         request.input.size(), out, room, &read, &written);
  };
  if (request.input.size() < Scratch::kSize && request.most_bytes >= Scratch::kSize) {
    const libdeflate_result result = inflate_into(scratch.bytes.get(), Scratch::kSize);
    if (result == LIBDEFLATE_SUCCESS)
      return std::optional(Bytes(scratch.bytes.get(), scratch.bytes.get() + written));
    if (result != LIBDEFLATE_INSUFFICIENT_SPACE) return std::optional<Bytes>();
  }
  std::uint64_t room = std::max<std::uint64_t>(request.input.size() * 4, 4 * Scratch::kSize);
  for (;;) {
    room = std::min(room, request.most_bytes);
    Bytes out(room);
    const libdeflate_result result = inflate_into(out.data(), out.size());
    if (result == LIBDEFLATE_SUCCESS) {
      out.resize(written);
      return std::optional(std::move(out));
    }
    if (result != LIBDEFLATE_INSUFFICIENT_SPACE) return std::optional<Bytes>();
    if (room == request.most_bytes) return output_limit("Flate", request.most_bytes);
    // Deflate cannot expand more than 1032 times, so the next room need not be larger than that.
    room = std::min<std::uint64_t>(room * 4, request.input.size() * 1032 + 64);
  }
}

// Inflates until the damage. `window_bits` as zlib wants it: 15 with its header, -15 without.
Result<Decoded> inflate_salvaging(const DecodeRequest& request, ByteView input, int window_bits) {
  z_stream stream{};
  if (inflateInit2(&stream, window_bits) != Z_OK)
    return Error(ErrorCode::limit, "no memory for inflating");
  const std::unique_ptr<z_stream, void (*)(z_stream*)> closer(&stream,
                                                              [](z_stream* s) { inflateEnd(s); });
  Decoded decoded;
  std::array<std::uint8_t, 65536> chunk{};
  std::size_t given = 0;
  int state = Z_OK;
  while (state == Z_OK) {
    if (stream.avail_in == 0 && given < input.size()) {
      const std::size_t part = std::min<std::size_t>(input.size() - given, 1u << 30);
      stream.next_in = const_cast<Bytef*>(input.data() + given);
      stream.avail_in = static_cast<uInt>(part);
      given += part;
    }
    stream.next_out = chunk.data();
    stream.avail_out = static_cast<uInt>(chunk.size());
    state = inflate(&stream, Z_NO_FLUSH);
    const std::size_t made = chunk.size() - stream.avail_out;
    if (made > request.most_bytes - decoded.bytes.size())
      return output_limit("Flate", request.most_bytes);
    decoded.bytes.insert(decoded.bytes.end(), chunk.begin(),
                         chunk.begin() + static_cast<std::ptrdiff_t>(made));
    if (made == 0 && stream.avail_in == 0 && given == input.size()) break;
  }
  if (state != Z_STREAM_END) {
    decoded.damage =
        state == Z_DATA_ERROR ? "the Flate data is damaged" : "the Flate data is cut off";
    decoded.damage_offset = given - stream.avail_in;
  }
  return decoded;
}

}  // namespace

Result<Decoded> decode_flate(const DecodeRequest& request) {
  Decoded decoded;
  LUMVET_TRY(std::optional<Bytes> whole, inflate_whole(request));
  if (whole) {
    decoded.bytes = *std::move(whole);
  } else if (!request.input.empty()) {
    LUMVET_TRY(decoded, inflate_salvaging(request, request.input, 15));
    if (decoded.bytes.empty() && request.input.size() > 2) {
      // Some writers damage or leave out the two-byte header; the data behind it may be fine.
      LUMVET_TRY(Decoded bare, inflate_salvaging(request, request.input.subspan(2), -15));
      if (!bare.bytes.empty()) {
        decoded = std::move(bare);
        if (!decoded.damage) decoded.damage = "the Flate data has a wrong header";
      }
    }
  }
  LUMVET_CHECK(undo_predictor(request.parameters, decoded.bytes));
  return decoded;
}

}  // namespace lumvet::filters
