// SPDX-License-Identifier: Apache-2.0
// ASCII85Decode (ISO 32000-2, 7.4.3).
#include "filters/byte_feed.h"
#include "objects/lexer.h"

namespace lumvet::filters {
namespace {

class Ascii85 final : public BytewiseDecoding {
 public:
  using BytewiseDecoding::BytewiseDecoding;

 protected:
  // One group of five digits.
  bool produce(Bytes& out) override {
    if (!begun_) pass_opening();
    std::uint32_t group = 0;
    int count = 0;
    for (;;) {
      const auto byte = feed().next();
      if (!byte) note_damage("the ASCII85 data has no '~>' at its end", feed().position());
      if (!byte || *byte == '~') {
        if (count < 2) return false;
        for (int missing = count; missing < 5; ++missing) group = group * 85 + 84;
        give(group, count - 1, out);
        return false;
      }
      if (*byte == 'z' && count == 0) {
        give(0, 4, out);
        return true;
      }
      if (*byte >= '!' && *byte <= 'u') {
        group = group * 85 + (*byte - static_cast<std::uint32_t>('!'));
        if (++count < 5) continue;
        give(group, 4, out);
        return true;
      }
      if (!objects::is_white(*byte))
        note_damage("a byte outside the ASCII85 alphabet was passed over", feed().position() - 1);
    }
  }

 private:
  // Some writers put the "<~" of other uses of this code in front.
  void pass_opening() {
    begun_ = true;
    while (feed().peek() && objects::is_white(*feed().peek())) feed().next();
    if (feed().peek() != '<') return;
    feed().next();
    if (feed().peek() == '~') feed().next();
  }

  static void give(std::uint32_t group, int bytes, Bytes& out) {
    for (int i = 0; i < bytes; ++i) out.push_back(static_cast<std::uint8_t>(group >> (24 - 8 * i)));
  }

  bool begun_ = false;
};

}  // namespace

Result<DecodingPtr> start_ascii85(DecodingPtr input, const Dict&) {
  return DecodingPtr(std::make_unique<Ascii85>(std::move(input)));
}

}  // namespace lumvet::filters
