// SPDX-License-Identifier: Apache-2.0
#include "filters/deflate.h"

#include <libdeflate.h>

#include <memory>
#include <new>

namespace lumvet::filters {

Bytes deflate(ByteView bytes) {
  struct Free {
    void operator()(libdeflate_compressor* c) const { libdeflate_free_compressor(c); }
  };
  constexpr int kLevel = 7;
  thread_local const std::unique_ptr<libdeflate_compressor, Free> compressor(
      libdeflate_alloc_compressor(kLevel));
  if (!compressor) throw std::bad_alloc();
  Bytes out(libdeflate_zlib_compress_bound(compressor.get(), bytes.size()));
  out.resize(libdeflate_zlib_compress(compressor.get(), bytes.data(), bytes.size(), out.data(),
                                      out.size()));
  return out;
}

}  // namespace lumvet::filters
