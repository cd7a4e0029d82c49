// SPDX-License-Identifier: Apache-2.0
// Any bytes as the tables of a hint stream, the first three saying how many pages there are and
// where the second table begins: no crash, and tables that are read can be written and read again.
#include "linear/hint_tables.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  constexpr std::size_t kHead = 3;
  if (size < kHead) return 0;
  const std::uint64_t pages = data[0];
  const std::uint64_t shared = data[1] * 256u + data[2];
  using namespace lumvet::linear;
  const auto tables =
      read_hints({data + kHead, size - kHead}, pages, shared, {{'O', shared / 2}, {'L', 0}});
  if (!tables.ok()) return 0;
  // Sums of what the bytes say may be more than the tables can hold.
  constexpr std::uint64_t kMost = 0xFFFF'FFFF;
  for (const PageHint& page : tables->pages)
    for (const std::uint64_t value :
         {page.objects, page.length, page.content_offset, page.content_length})
      if (value > kMost) return 0;
  for (const SharedHint& group : tables->shared)
    if (group.length > kMost || group.objects > kMost) return 0;
  const HintBytes bytes = written(*tables);
  const auto again = read_hints(bytes.bytes, pages, bytes.shared_table, bytes.ranges);
  if (!again.ok() || !(*again == *tables)) __builtin_trap();
  return 0;
}
