// SPDX-License-Identifier: Apache-2.0
// LZWDecode (ISO 32000-2, 7.4.4.2): codes of 9 to 12 bits, 256 clears the table, 257 ends.
#include <array>

#include "filters/byte_feed.h"
#include "filters/predictor.h"

namespace lumvet::filters {
namespace {

constexpr unsigned kClear = 256;
constexpr unsigned kEnd = 257;
constexpr unsigned kTableSize = 4096;

struct Table {
  std::array<std::uint16_t, kTableSize> prefix{};
  std::array<std::uint8_t, kTableSize> last{};
  std::array<std::uint16_t, kTableSize> length{};
  unsigned next_code = kEnd + 1;

  Table() {
    for (unsigned code = 0; code < kClear; ++code) {
      last[code] = static_cast<std::uint8_t>(code);
      length[code] = 1;
    }
  }

  void append_sequence(unsigned code, Bytes& out) const {
    const std::size_t end = out.size() + length[code];
    out.resize(end);
    for (std::size_t at = end; length[code] > 0; code = prefix[code]) {
      out[--at] = last[code];
      if (length[code] == 1) break;
    }
  }

  std::uint8_t first_of(unsigned code) const {
    while (length[code] > 1) code = prefix[code];
    return last[code];
  }
};

class Lzw final : public BytewiseDecoding {
 public:
  Lzw(DecodingPtr input, bool early) : BytewiseDecoding(std::move(input)), early_(early ? 1 : 0) {}

 protected:
  bool produce(Bytes& out) override {
    const auto code = next_code();
    if (!code) {
      note_damage("the LZW data is cut off", feed().position());
      return false;
    }
    if (*code == kEnd) return false;
    if (*code == kClear) {
      table_.next_code = kEnd + 1;
      width_ = 9;
      previous_.reset();
      return true;
    }
    if (*code > table_.next_code || (*code == table_.next_code && !previous_)) {
      note_damage("an LZW code beyond the table", feed().position());
      return false;
    }
    if (previous_ && table_.next_code < kTableSize) {
      const unsigned added = table_.next_code++;
      table_.prefix[added] = static_cast<std::uint16_t>(*previous_);
      table_.length[added] = static_cast<std::uint16_t>(table_.length[*previous_] + 1);
      table_.last[added] = table_.first_of(*code == added ? *previous_ : *code);
    }
    table_.append_sequence(*code, out);
    previous_ = *code;
    if (table_.next_code + early_ >= 2048)
      width_ = 12;
    else if (table_.next_code + early_ >= 1024)
      width_ = 11;
    else if (table_.next_code + early_ >= 512)
      width_ = 10;
    return true;
  }

 private:
  std::optional<unsigned> next_code() {
    while (bit_count_ < width_) {
      const auto byte = feed().next();
      if (!byte) return std::nullopt;
      bits_ = bits_ << 8 | *byte;
      bit_count_ += 8;
    }
    bit_count_ -= width_;
    return bits_ >> bit_count_ & ((1u << width_) - 1);
  }

  Table table_;
  unsigned early_;  // how many codes sooner than necessary the width grows
  unsigned width_ = 9;
  std::optional<unsigned> previous_;
  std::uint32_t bits_ = 0;
  unsigned bit_count_ = 0;
};

}  // namespace

Result<DecodingPtr> start_lzw(DecodingPtr input, const Dict& parameters) {
  const bool early = parameters["EarlyChange"].as_integer(1) != 0;
  return predicted(std::make_unique<Lzw>(std::move(input), early), parameters);
}

}  // namespace lumvet::filters
