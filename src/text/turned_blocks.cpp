// SPDX-License-Identifier: Apache-2.0
#include "text/turned_blocks.h"

#include <algorithm>

#include "base/allowance.h"

namespace lumvet::text {
namespace {

// In the frame of the first direction, `top` above `bottom`.
struct Block {
  LinesOf lines;
  double left;
  double right;
  double top;
  double bottom;
};

std::vector<Block> blocks_of(const std::vector<LaidDirection>& laid, std::size_t number) {
  const Direction& frame = *laid.front().direction;
  const LaidDirection& own = laid[number];
  std::vector<Block> blocks;
  const auto include = [&](const Piece& piece) {
    Block& block = blocks.back();
    for (const float along : {piece.begin, piece.end})
      for (const float across : {piece.top, piece.bottom}) {
        const Point corner = own.direction->to_display(along, across);
        block.left = std::min(block.left, frame.place_along(corner));
        block.right = std::max(block.right, frame.place_along(corner));
        block.top = std::min(block.top, frame.place_across(corner));
        block.bottom = std::max(block.bottom, frame.place_across(corner));
      }
  };
  constexpr double kFar = 1e30;
  for (std::size_t i = 0; i < own.lines.size(); ++i) {
    if (own.lines[i].begins_block || blocks.empty())
      blocks.push_back({{number, i, i}, kFar, -kFar, kFar, -kFar});
    blocks.back().lines.end = i + 1;
    for (const auto& cell : own.lines[i].cells)
      for (const std::size_t at : cell) include(own.pieces[at]);
  }
  return blocks;
}

// Before which of the first direction's blocks another one is read; behind all where none tells.
std::size_t place_among(const std::vector<Block>& blocks, const Block& turned) {
  constexpr double kBeside = 0.5;  // of the narrower one, by which it may stand aside
  std::size_t found = blocks.size();
  std::size_t met = 0;
  for (std::size_t i = 0; i < blocks.size(); ++i) {
    const Block& block = blocks[i];
    const double shared = std::min(block.right, turned.right) - std::max(block.left, turned.left);
    met += shared > 0 && block.top < turned.bottom && turned.top < block.bottom ? 1 : 0;
    const double narrower = std::min(block.right - block.left, turned.right - turned.left);
    if (found == blocks.size() && shared >= -kBeside * narrower && block.bottom >= turned.bottom)
      found = i;
  }
  return met > 1 ? blocks.size() : found;
}

}  // namespace

std::vector<LinesOf> in_reading_order(const std::vector<LaidDirection>& laid) {
  constexpr std::size_t kMostPairs = 1'000'000;  // of blocks; more are read by their directions
  if (laid.size() == 1) return {{0, 0, laid.front().lines.size()}};
  const std::vector<Block> blocks = blocks_of(laid, 0);
  std::vector<std::vector<LinesOf>> before(blocks.size() + 1);
  std::size_t pairs = 0;
  for (std::size_t i = 1; i < laid.size() && goes_on(); ++i)
    for (const Block& turned : blocks_of(laid, i)) {
      pairs += blocks.size();
      const std::size_t place = pairs <= kMostPairs ? place_among(blocks, turned) : blocks.size();
      before[place].push_back(turned.lines);
    }
  std::vector<LinesOf> order;
  for (std::size_t i = 0; i <= blocks.size(); ++i) {
    order.insert(order.end(), before[i].begin(), before[i].end());
    if (i < blocks.size()) order.push_back(blocks[i].lines);
  }
  return order;
}

}  // namespace lumvet::text
