// SPDX-License-Identifier: Apache-2.0
// FlateDecode (ISO 32000-2, 7.4.4): whole buffers through libdeflate; what that refuses is salvaged
// as far as it goes through zlib.
#include <libdeflate.h>
#include <zlib.h>

#include <algorithm>
#include <array>
#include <memory>

#include "filters/decoder.h"

#include "base/attempt.h"
#include "filters/predictor.h"

namespace lumvet::filters {
namespace {

struct FreeDecompressor {
  void operator()(libdeflate_decompressor* d) const { libdeflate_free_decompressor(d); }
};

// Room for what most streams unpack to, so that memory is taken once and in the right size.
struct Scratch {
  static constexpr std::size_t kSize = 256 * 1024;
  const std::unique_ptr<std::uint8_t[]> bytes =
      std::make_unique_for_overwrite<std::uint8_t[]>(kSize);
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

// Piece by piece, and as far as it goes in damaged data. Some writers damage or leave out the two
// bytes in front; the data behind them may be fine.
class Inflating final : public Decoding {
 public:
  explicit Inflating(DecodingPtr input) : input_(std::move(input)) {}
  ~Inflating() override {
    if (is_open_) inflateEnd(&stream_);
  }

  Result<std::size_t> read(std::span<std::uint8_t> out) override {
    if (!is_open_ && !ended_) LUMVET_RETURN_IF_ERROR(open());
    std::size_t filled = 0;
    while (filled < out.size() && !ended_) {
      if (stream_.avail_in == 0 && !input_ended_) LUMVET_RETURN_IF_ERROR(refill());
      constexpr std::size_t kMost = 1u << 30;
      const std::size_t room = std::min(out.size() - filled, kMost);
      stream_.next_out = out.data() + filled;
      stream_.avail_out = static_cast<uInt>(room);
      const int state = inflate(&stream_, Z_NO_FLUSH);
      const std::size_t made = room - stream_.avail_out;
      filled += made;
      any_ = any_ || made > 0;
      if (state == Z_STREAM_END) {
        ended_ = true;
      } else if (state != Z_OK && state != Z_BUF_ERROR) {
        if (!any_ && !is_bare_ && taken_ <= kChunk) {
          LUMVET_RETURN_IF_ERROR(open_bare());
          continue;
        }
        stop("the Flate data is damaged");
      } else if (made == 0 && stream_.avail_in == 0 && input_ended_) {
        stop("the Flate data is cut off");
      }
    }
    return filled;
  }

 private:
  static constexpr std::size_t kChunk = 64 * 1024;

  Status open() {
    if (inflateInit2(&stream_, 15) != Z_OK) return met_limit("no memory for inflating");
    is_open_ = true;
    return Done{};
  }

  // Once more from the first chunk, as data without its header.
  Status open_bare() {
    is_bare_ = true;
    inflateEnd(&stream_);
    is_open_ = false;
    constexpr std::size_t kHeader = 2;
    stream_ = {};
    if (inflateInit2(&stream_, -15) != Z_OK) return met_limit("no memory for inflating");
    is_open_ = true;
    const std::size_t skipped = std::min(kHeader, chunk_.size());
    stream_.next_in = chunk_.data() + skipped;
    stream_.avail_in = static_cast<uInt>(chunk_.size() - skipped);
    note_damage("the Flate data has a wrong header", 0);
    return Done{};
  }

  Status refill() {
    chunk_.resize(kChunk);
    LUMVET_TRY(const std::size_t there, input_->read(chunk_));
    chunk_.resize(there);
    taken_ += there;
    input_ended_ = there < kChunk;
    stream_.next_in = chunk_.data();
    stream_.avail_in = static_cast<uInt>(there);
    return Done{};
  }

  void stop(const char* why) {
    ended_ = true;
    // Nothing at all has nothing to miss.
    if (taken_ > 0) note_damage(why, taken_ - stream_.avail_in);
  }

  DecodingPtr input_;
  Bytes chunk_;
  z_stream stream_{};
  std::uint64_t taken_ = 0;  // bytes of input
  bool is_open_ = false;
  bool is_bare_ = false;
  bool input_ended_ = false;
  bool ended_ = false;
  bool any_ = false;
};

}  // namespace

Result<DecodingPtr> start_flate(DecodingPtr input, const Dict& parameters) {
  return predicted(std::make_unique<Inflating>(std::move(input)), parameters);
}

Result<Decoded> decode_flate(const DecodeRequest& request) {
  LUMVET_TRY(std::optional<Bytes> whole, inflate_whole(request));
  Decoded decoded;
  if (whole) {
    decoded.bytes = *std::move(whole);
  } else {
    Inflating inflating(decoding_of(request.input));
    LUMVET_TRY(decoded, read_all(inflating, "Flate", request.most_bytes));
  }
  LUMVET_RETURN_IF_ERROR(undo_predictor(request.parameters, decoded.bytes));
  return decoded;
}

}  // namespace lumvet::filters
