// SPDX-License-Identifier: Apache-2.0
// RunLengthDecode (ISO 32000-2, 7.4.5).
#include <algorithm>

#include "filters/decoder.h"

namespace lumvet::filters {

Result<Decoded> decode_run_length(const DecodeRequest& request) {
  constexpr unsigned kEnd = 128;
  Decoded decoded;
  const ByteView in = request.input;
  std::size_t i = 0;
  while (i < in.size() && in[i] != kEnd) {
    const unsigned code = in[i++];
    const std::size_t wanted = code < kEnd ? code + 1u : 257u - code;
    if (wanted > request.most_bytes - decoded.bytes.size())
      return output_limit("RunLength", request.most_bytes);
    if (code < kEnd) {
      const std::size_t there = std::min(wanted, in.size() - i);
      decoded.bytes.insert(decoded.bytes.end(), in.begin() + static_cast<std::ptrdiff_t>(i),
                           in.begin() + static_cast<std::ptrdiff_t>(i + there));
      i += there;
    } else if (i < in.size()) {
      decoded.bytes.insert(decoded.bytes.end(), wanted, in[i++]);
    }
  }
  if (i >= in.size()) {
    decoded.damage = "the RunLength data has no end mark";
    decoded.damage_offset = in.size();
  }
  return decoded;
}

}  // namespace lumvet::filters
