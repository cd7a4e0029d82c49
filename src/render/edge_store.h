// SPDX-License-Identifier: Apache-2.0
// The edges of very many operations in few pieces of memory, which are soon given back.
//
// Threads: one thread at a time while it is filled.
#pragma once

#include <algorithm>
#include <memory>
#include <span>
#include <utility>
#include <vector>

#include "base/allowance.h"
#include "raster/coverage.h"

namespace lumvet::rendering {

class EdgeStore {
 public:
  // The same edges, for as long as the store is there; it may be moved.
  raster::EdgeView keep(const raster::Edges& edges) {
    return {edges_.keep(edges.all), groups_.keep(edges.groups)};
  }

 private:
  template <typename Item>
  class Pieces {
   public:
    std::span<const Item> keep(const std::vector<Item>& items) {
      if (items.empty()) return {};
      if (items.size() > left_) {
        constexpr std::size_t kPiece = (std::size_t{1} << 17) / sizeof(Item);  // 128 KiB
        left_ = std::max(kPiece, items.size());
        Allowance::take(left_ * sizeof(Item));
        pieces_.push_back(std::make_unique_for_overwrite<Item[]>(left_));
        next_ = pieces_.back().get();
      }
      Item* const kept = std::exchange(next_, next_ + items.size());
      left_ -= items.size();
      std::copy(items.begin(), items.end(), kept);
      return {kept, items.size()};
    }

   private:
    std::vector<std::unique_ptr<Item[]>> pieces_;
    Item* next_ = nullptr;  // in the last piece
    std::size_t left_ = 0;  // of it
  };

  Pieces<raster::Edge> edges_;
  Pieces<raster::Edges::Group> groups_;
};

}  // namespace lumvet::rendering
