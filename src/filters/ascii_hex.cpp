// SPDX-License-Identifier: Apache-2.0
// ASCIIHexDecode (ISO 32000-2, 7.4.2).
#include "filters/byte_feed.h"
#include "objects/lexer.h"

namespace lumvet::filters {
namespace {

class AsciiHex final : public BytewiseDecoding {
 public:
  using BytewiseDecoding::BytewiseDecoding;

 protected:
  bool produce(Bytes& out) override {
    int high = -1;
    for (;;) {
      const auto byte = feed().next();
      if (!byte) note_damage("the ASCIIHex data has no '>' at its end", feed().position());
      if (!byte || *byte == '>') {
        if (high >= 0) out.push_back(static_cast<std::uint8_t>(high << 4));
        return false;
      }
      const int digit = objects::hex_digit(*byte);
      if (digit >= 0 && high >= 0) {
        out.push_back(static_cast<std::uint8_t>(high << 4 | digit));
        return true;
      }
      if (digit >= 0)
        high = digit;
      else if (!objects::is_white(*byte))
        note_damage("a byte that is no hexadecimal digit was passed over", feed().position() - 1);
    }
  }
};

}  // namespace

Result<DecodingPtr> start_ascii_hex(DecodingPtr input, const Dict&) {
  return DecodingPtr(std::make_unique<AsciiHex>(std::move(input)));
}

}  // namespace lumvet::filters
