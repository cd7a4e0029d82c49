// SPDX-License-Identifier: Apache-2.0
// Any bytes as a code map, then as text read through it: no crash, and reading always goes on.
#include "fonts/cmap.h"
#include "fonts/predefined_encoding.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using lumvet::fonts::CMap;
  using lumvet::fonts::CodeMap;
  std::shared_ptr<const CodeMap> base =
      lumvet::fonts::PredefinedEncoding::named(CMap::base_name({data, size}));
  if (!base && size % 2 == 0) base = std::make_shared<const CMap>(CMap::identity(false));
  const auto cmap = CMap::parse({data, size}, base);
  if (!cmap.ok()) return 0;
  std::string_view text = lumvet::as_text({data, size});
  while (!text.empty()) {
    const auto read = cmap->next(text);
    if (read.bytes == 0 || read.bytes > text.size()) __builtin_trap();
    static_cast<void>(cmap->cid(read));
    static_cast<void>(cmap->unicode(read.code));
    static_cast<void>(cmap->character(read));
    text.remove_prefix(read.bytes);
  }
  return 0;
}
