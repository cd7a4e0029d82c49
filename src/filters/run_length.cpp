// SPDX-License-Identifier: Apache-2.0
// RunLengthDecode (ISO 32000-2, 7.4.5).
#include "filters/byte_feed.h"

namespace lumvet::filters {
namespace {

class RunLength final : public BytewiseDecoding {
 public:
  using BytewiseDecoding::BytewiseDecoding;

 protected:
  bool produce(Bytes& out) override {
    constexpr unsigned kEnd = 128;
    const auto code = feed().next();
    if (code && *code == kEnd) return false;
    if (code && *code < kEnd) {
      for (unsigned i = 0; i <= *code; ++i) {
        const auto byte = feed().next();
        if (!byte) return cut_off();
        out.push_back(*byte);
      }
      return true;
    }
    const auto byte = code ? feed().next() : std::nullopt;
    if (!byte) return cut_off();
    out.insert(out.end(), 257u - *code, *byte);
    return true;
  }

 private:
  bool cut_off() {
    note_damage("the RunLength data has no end mark", feed().position());
    return false;
  }
};

}  // namespace

Result<DecodingPtr> start_run_length(DecodingPtr input, const Dict&) {
  return DecodingPtr(std::make_unique<RunLength>(std::move(input)));
}

}  // namespace lumvet::filters
