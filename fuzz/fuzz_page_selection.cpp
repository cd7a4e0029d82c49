// SPDX-License-Identifier: Apache-2.0
// Any text as a page selection: only pages that exist come out.
#include "lumvet/assemble/page_selection.h"
#include "lumvet/base/bytes.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size == 0 || size > 2000) return 0;
  const auto selection = lumvet::PageSelection::parse(lumvet::as_text({data + 1, size - 1}));
  if (!selection.ok()) return 0;
  const int count = data[0];
  const auto pages = selection->in(count);
  if (!pages.ok()) return 0;
  for (const int page : *pages)
    if (page < 0 || page >= count) __builtin_trap();
  return 0;
}
