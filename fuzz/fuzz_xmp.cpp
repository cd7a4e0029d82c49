// SPDX-License-Identifier: Apache-2.0
// Any bytes as an XMP packet: no crash, no hang.
#include "document/metadata.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  static_cast<void>(lumvet::document::parse_xmp({data, size}));
  return 0;
}
