// SPDX-License-Identifier: Apache-2.0
// Any bytes as cross references, a table or a stream: no crash, no entry beyond the limit, and the
// same answer to the same question.
#include "base/findings_list.h"
#include "file/xref.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace lumvet;
  if (size < 2) return 0;
  constexpr std::uint64_t kMostObjects = 5'000;
  const Limits limits{.objects = kMostObjects, .decoded_bytes = 1 << 20};
  const std::size_t start = data[0] | (data[1] & 3u) << 8;
  Bytes bytes(data + 2, data + size);
  const std::string end = "\nstartxref\n" + std::to_string(start) + "\n%%EOF";
  bytes.insert(bytes.end(), end.begin(), end.end());
  Findings findings;
  const auto source = make_buffer_source(std::move(bytes));
  const auto table = file::XrefTable::read(*source, 0, limits, findings);
  if (!table.ok()) return 0;
  if (table->size() > kMostObjects) __builtin_trap();
  for (std::uint64_t number = 0; number <= kMostObjects; ++number) {
    const file::XrefEntry entry = table->find(number);
    if (number >= table->size() && entry.kind != file::XrefEntry::Kind::missing) __builtin_trap();
    if (entry.where != table->find(number).where) __builtin_trap();
  }
  return 0;
}
