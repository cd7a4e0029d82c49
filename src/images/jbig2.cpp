// SPDX-License-Identifier: Apache-2.0
// JBIG2Decode (ISO 32000-2, 7.4.7; ITU-T T.88), through jbig2dec: segments without the file header,
// one page, and what several images share as globals.
#include <algorithm>
#include <cstddef>
#include <cstdlib>
#include <iterator>
#include <memory>

#include "base/apart.h"
#include "images/codec.h"

// Behind everything it forgets to include.
#include <jbig2.h>

namespace lumvet::images {
namespace {

// Memory for one image, which the numbers inside it must not drive up without end.
struct BoundedMemory {
  Jbig2Allocator base{};
  std::size_t left = 0;
  const std::atomic<bool>* is_unwanted = nullptr;
};

// In front of every block, its size; as wide as the strictest alignment.
constexpr std::size_t kPrefix = alignof(std::max_align_t);

void* take(BoundedMemory& memory, void* old, std::size_t size) {
  auto* block = old == nullptr ? nullptr : static_cast<std::uint8_t*>(old) - kPrefix;
  const std::size_t before = block == nullptr ? 0 : *reinterpret_cast<std::size_t*>(block);
  if (size > before && size - before > memory.left) return nullptr;
  if (*memory.is_unwanted) return nullptr;
  auto* grown = static_cast<std::uint8_t*>(std::realloc(block, size + kPrefix));
  if (grown == nullptr) return nullptr;
  *reinterpret_cast<std::size_t*>(grown) = size;
  memory.left = memory.left + before - size;
  return grown + kPrefix;
}

void* allocate(Jbig2Allocator* allocator, std::size_t size) {
  return take(*reinterpret_cast<BoundedMemory*>(allocator), nullptr, size);
}

void* reallocate(Jbig2Allocator* allocator, void* old, std::size_t size) {
  return take(*reinterpret_cast<BoundedMemory*>(allocator), old, size);
}

void release(Jbig2Allocator* allocator, void* old) {
  if (old == nullptr) return;
  auto* block = static_cast<std::uint8_t*>(old) - kPrefix;
  reinterpret_cast<BoundedMemory*>(allocator)->left += *reinterpret_cast<std::size_t*>(block);
  std::free(block);
}

struct Messages {
  std::string first;
};

void keep_first(void* data, const char* message, Jbig2Severity severity, std::uint32_t) {
  auto* messages = static_cast<Messages*>(data);
  if (severity >= JBIG2_SEVERITY_WARNING && messages->first.empty()) messages->first = message;
}

struct FreeContext {
  void operator()(Jbig2Ctx* context) const { jbig2_ctx_free(context); }
  void operator()(Jbig2GlobalCtx* context) const { jbig2_global_ctx_free(context); }
};

// What is decoded, apart from whoever asked for it.
struct PackedImage {
  Bytes input;
  Bytes globals;
  std::size_t most_memory = 0;
};

Result<Samples> decode_packed(const PackedImage& image, const std::atomic<bool>& is_unwanted) {
  BoundedMemory memory{{allocate, release, reallocate}, image.most_memory, &is_unwanted};
  Messages messages;
  const auto make = [&](Jbig2GlobalCtx* globals) {
    return std::unique_ptr<Jbig2Ctx, FreeContext>(
        jbig2_ctx_new(&memory.base, JBIG2_OPTIONS_EMBEDDED, globals, keep_first, &messages));
  };
  const auto malformed = [&] {
    return Error(ErrorCode::malformed, "a JBIG2 image cannot be read" +
                                           (messages.first.empty() ? "" : ": " + messages.first));
  };
  std::unique_ptr<Jbig2GlobalCtx, FreeContext> globals;
  if (!image.globals.empty()) {
    auto context = make(nullptr);
    if (!context) return malformed();
    jbig2_data_in(context.get(), image.globals.data(), image.globals.size());
    globals.reset(jbig2_make_global_ctx(context.release()));
  }
  const auto context = make(globals.get());
  if (!context) return malformed();
  constexpr std::size_t kPiece = 1 << 9;  // bytes; each may hold segments that take long
  for (std::size_t at = 0; at < image.input.size() && !is_unwanted; at += kPiece)
    jbig2_data_in(context.get(), image.input.data() + at,
                  std::min(kPiece, image.input.size() - at));
  if (is_unwanted) return malformed();
  jbig2_complete_page(context.get());
  Jbig2Image* page = jbig2_page_out(context.get());
  if (page == nullptr) return malformed();
  Samples samples{.width = static_cast<int>(page->width),
                  .height = static_cast<int>(page->height),
                  .components = 1,
                  .bits = 1};
  const std::size_t row_bytes = (static_cast<std::size_t>(page->width) + 7) / 8;
  samples.bytes.reserve(row_bytes * page->height);
  for (std::uint32_t y = 0; y < page->height; ++y) {
    const std::uint8_t* row = page->data + std::size_t{y} * page->stride;
    // There 1 is black; in samples it is white (7.4.7).
    std::transform(row, row + row_bytes, std::back_inserter(samples.bytes),
                   [](std::uint8_t byte) { return static_cast<std::uint8_t>(~byte); });
  }
  jbig2_release_page(context.get(), page);
  if (!messages.first.empty()) samples.damage = "a JBIG2 image is damaged: " + messages.first;
  return samples;
}

}  // namespace

// The decoder asks nobody within a region, of which one may be the whole page.
Result<Samples> decode_jbig2(const CodecRequest& request) {
  const std::uint64_t stated = static_cast<std::uint64_t>(std::max(request.width, 1)) *
                               static_cast<std::uint64_t>(std::max(request.height, 1));
  if (stated > request.most_pixels)
    return too_many_pixels("JBIG2", static_cast<std::uint64_t>(request.width),
                           static_cast<std::uint64_t>(request.height));
  LUMVET_RETURN_IF_ERROR(go_on_now());
  // A page of bits, its symbols and the tables of the decoder.
  constexpr std::size_t kTables = std::size_t{32} << 20;
  PackedImage packed{{request.input.begin(), request.input.end()},
                     {request.globals.begin(), request.globals.end()},
                     std::min<std::uint64_t>(request.most_pixels, stated * 4) / 2 + kTables};
  auto samples = run_apart<Result<Samples>>(
      [packed = std::move(packed)](const std::atomic<bool>& is_unwanted) {
        return decode_packed(packed, is_unwanted);
      });
  if (!samples) return Allowance::reason();
  return *std::move(samples);
}

}  // namespace lumvet::images
