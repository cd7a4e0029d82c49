// SPDX-License-Identifier: Apache-2.0
#include "filters/deflate.h"

#include <libdeflate.h>

#include <memory>
#include <new>

namespace lumvet::filters {

namespace {

struct Free {
  void operator()(libdeflate_compressor* c) const { libdeflate_free_compressor(c); }
};
using Compressor = std::unique_ptr<libdeflate_compressor, Free>;

libdeflate_compressor* compressor_of(Effort effort) {
  constexpr int kUsual = 7;
  constexpr int kMost = 12;
  thread_local Compressor usual;
  thread_local Compressor most;
  Compressor& compressor = effort == Effort::most ? most : usual;
  if (!compressor)
    compressor.reset(libdeflate_alloc_compressor(effort == Effort::most ? kMost : kUsual));
  if (!compressor) throw std::bad_alloc();
  return compressor.get();
}

}  // namespace

Bytes deflate(ByteView bytes, Effort effort) {
  libdeflate_compressor* compressor = compressor_of(effort);
  Bytes out(libdeflate_zlib_compress_bound(compressor, bytes.size()));
  out.resize(
      libdeflate_zlib_compress(compressor, bytes.data(), bytes.size(), out.data(), out.size()));
  return out;
}

std::uint64_t checksum(ByteView first, ByteView second) {
  const auto both = [&](auto* sum, std::uint32_t value) -> std::uint64_t {
    for (const ByteView piece : {first, second})
      if (!piece.empty()) value = sum(value, piece.data(), piece.size());
    return value;
  };
  return both(libdeflate_crc32, 0) << 32 | both(libdeflate_adler32, 1);
}

}  // namespace lumvet::filters
