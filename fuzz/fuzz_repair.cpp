// SPDX-License-Identifier: Apache-2.0
// Any bytes behind a header as a file whose cross references are lost: no crash, no hang, and what
// is mended opens without a finding that it is broken.
#include "fuzz/small_limits.h"
#include "lumvet/lumvet.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  std::string bytes = "%PDF-1.7\n";
  bytes.append(reinterpret_cast<const char*>(data), size);
  const auto document = lumvet::Document::open(lumvet::Bytes(bytes.begin(), bytes.end()),
                                               {.limits = fuzz::kSmallLimits});
  if (!document.ok()) return 0;
  document->revisions().ok();
  lumvet::BufferSink sink;
  const auto saved = lumvet::repair(*document, sink);
  if (!saved.ok()) return 0;
  const auto again = lumvet::Document::open(sink.take());
  if (!again.ok() || again->page_count() != saved->pages || again->was_repaired()) __builtin_trap();
  return 0;
}
