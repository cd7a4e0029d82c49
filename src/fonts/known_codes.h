// SPDX-License-Identifier: Apache-2.0
// What the codes of a font show, kept once it is known: texts repeat a few hundred of them.
//
// Threads: const methods may run concurrently.
#pragma once

#include <array>
#include <atomic>
#include <memory>
#include <string>

#include "fonts/code_map.h"
#include "fonts/font.h"

namespace lumvet::fonts {

struct KnownCode {
  Glyph glyph;
  std::string text;  // that the glyph refers to
};

class KnownCodes {
 public:
  KnownCodes() = default;
  ~KnownCodes() {
    for (const auto& block : blocks_) delete block.load(std::memory_order_relaxed);
  }
  KnownCodes(const KnownCodes&) = delete;
  KnownCodes& operator=(const KnownCodes&) = delete;

  // Null for one that is not kept.
  const Glyph* find(const CodeRead& read) const {
    const std::atomic<Block*>* const place = at(read);
    const Block* block = place != nullptr ? place->load(std::memory_order_acquire) : nullptr;
    if (block == nullptr) return nullptr;
    const KnownCode* known = block->codes[read.code & 0xFF].load(std::memory_order_acquire);
    return known != nullptr ? &known->glyph : nullptr;
  }
  // Codes of one or two bytes, unless there are enough.
  void keep(const CodeRead& read, std::unique_ptr<const KnownCode> code) const {
    std::atomic<Block*>* const place = at(read);
    if (place == nullptr || count_.fetch_add(1, std::memory_order_relaxed) >= kMost) return;
    Block* block = place->load(std::memory_order_acquire);
    if (block == nullptr) {
      auto made = std::make_unique<Block>();
      if (place->compare_exchange_strong(block, made.get(), std::memory_order_acq_rel))
        block = made.release();
    }
    const KnownCode* none = nullptr;
    if (block->codes[read.code & 0xFF].compare_exchange_strong(none, code.get(),
                                                               std::memory_order_acq_rel))
      static_cast<void>(code.release());
  }

 private:
  static constexpr std::size_t kMost = 4096;
  struct Block {
    ~Block() {
      for (const auto& code : codes) delete code.load(std::memory_order_relaxed);
    }
    std::array<std::atomic<const KnownCode*>, 256> codes{};
  };

  // By the first of two bytes, and all of one byte together; null for longer ones.
  std::atomic<Block*>* at(const CodeRead& read) const {
    if (read.bytes == 1) return &blocks_[256];
    return read.bytes == 2 ? &blocks_[read.code >> 8 & 0xFF] : nullptr;
  }

  mutable std::array<std::atomic<Block*>, 257> blocks_{};
  mutable std::atomic<std::size_t> count_{0};
};

}  // namespace lumvet::fonts
