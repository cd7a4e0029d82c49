// SPDX-License-Identifier: Apache-2.0
// Cells of tiling patterns that are being cut (ISO 32000-2, 8.7.3).
#include <cmath>

#include "document/appearance.h"
#include "document/geometry_objects.h"
#include "filters/stream_decoder.h"
#include "redact/stream_cutter.h"

namespace lumvet::redacting {
namespace {

// The tiles that show, by column and row.
struct Range {
  long first = 0;
  long last = -1;

  long count() const { return std::max(last - first + 1, 0L); }
};

// Of those that are so far from each other, each from `low` to `high`.
Range tiles_in(double from, double to, double low, double high, double step) {
  constexpr double kMost = 1e9;
  const double first = std::ceil((from - high) / step);
  const double last = std::floor((to - low) / step);
  if (!(std::abs(first) < kMost) || !(std::abs(last) < kMost)) return {0, std::lround(kMost)};
  return {std::lround(first), std::lround(last)};
}

}  // namespace

// Answers whether the operator chooses a color.
bool StreamCutter::choose_color(const std::string& name, const Operands& operands,
                                std::string_view written) {
  static const std::set<std::string> kFills = {"cs", "sc", "scn", "g", "rg", "k"};
  static const std::set<std::string> kStrokes = {"CS", "SC", "SCN", "G", "RG", "K"};
  const bool is_fill = kFills.contains(name);
  if (!is_fill && !kStrokes.contains(name)) return false;
  CutState::Tiles& tiles = is_fill ? state_.fill : state_.stroke;
  tiles = {};
  const bool is_named =
      (name == "scn" || name == "SCN") && !operands.empty() && !operands.back().as_name().empty();
  if (!is_named) return true;
  const std::string pattern(operands.back().as_name());
  const Object object = store_.resolve(resource(kPattern, pattern));
  const Stream* stream = object.as_stream();
  if (stream == nullptr || store_.get(stream->dict, "PatternType").as_integer() != 1) return true;
  tiles = {pattern, std::string(written.substr(0, written.rfind('/')))};
  return true;
}

// What is painted with the patterns goes on with them.
void StreamCutter::use_tiles(const CutState::Tiles& tiles) {
  if (!tiles.name.empty()) use(kPattern, tiles.name);
}

Result<std::string> StreamCutter::cut_tiles(const CutState::Tiles& tiles, const Rect& seen,
                                            const char* op) {
  const auto as_it_was = [&] {
    use_tiles(tiles);
    return std::string();
  };
  if (tiles.name.empty()) return std::string();
  const Rect painted = seen.intersected(state_.clip);
  const Object entry = resource(kPattern, tiles.name);
  const Object object = store_.resolve(entry);
  const Stream& pattern = *object.as_stream();
  const Matrix to_page = document::matrix_of(store_, pattern.dict).then(base_);
  const auto box = document::rect_of(store_, pattern.dict["BBox"]);
  const double across = std::abs(store_.get(pattern.dict, "XStep").as_number());
  const double up = std::abs(store_.get(pattern.dict, "YStep").as_number());
  if (!box || !(across > 0) || !(up > 0) || !to_page.is_invertible() || painted.is_empty() ||
      all_.depth_ >= store_.limits().nesting)
    return as_it_was();

  constexpr double kSlack = 1e-6;  // tiles that only touch it do not show
  const Rect shown = to_page.inverse().bounds_of(painted).grown(-kSlack);
  const Range columns = tiles_in(shown.left, shown.right, box->left, box->right, across);
  const Range rows = tiles_in(shown.bottom, shown.top, box->bottom, box->top, up);
  constexpr long kMostTiles = 256;
  // So many repeat what they say somewhere.
  if (columns.count() > kMostTiles || rows.count() > kMostTiles ||
      columns.count() * rows.count() > kMostTiles)
    return as_it_was();
  const TileRange key{tiles.name, columns.first, columns.last, rows.first, rows.last};
  const auto chosen = [&](const std::string& name) {
    return tiles.tints + "/" + name + " " + op + "\n";
  };
  if (const auto known = cut_tiles_.find(key); known != cut_tiles_.end())
    return chosen(known->second);

  // The areas as they lie in each of the tiles, all in one.
  std::vector<Polygon> within;
  for (long column = columns.first; column <= columns.last; ++column)
    for (long row = rows.first; row <= rows.last; ++row) {
      const Matrix placed =
          Matrix::translation(static_cast<double>(column) * across, static_cast<double>(row) * up);
      const Rect tile = placed.bounds_of(*box);
      const bool is_touched = all_.areas_.touches(to_page.bounds_of(tile));
      // One that is whole, and seen, says all of it.
      const bool is_whole =
          tile.left >= shown.left - 2 * kSlack && tile.right <= shown.right + 2 * kSlack &&
          tile.bottom >= shown.bottom - 2 * kSlack && tile.top <= shown.top + 2 * kSlack;
      if (!is_touched && is_whole) return as_it_was();
      if (!is_touched) continue;
      const Areas moved =
          all_.areas_.mapped(to_page.inverse().then(placed.inverse()).then(to_page));
      within.insert(within.end(), moved.hulls().begin(), moved.hulls().end());
    }
  const ObjectId id = entry.is_reference() ? entry.as_reference() : ObjectId();
  if (within.empty() || all_.running_.contains(id)) return as_it_was();
  Budget budget(store_.limits());
  const auto content = filters::decode_whole(pattern, store_, budget, store_.findings());
  if (!content.ok()) {
    if (content.error().code() != ErrorCode::malformed &&
        content.error().code() != ErrorCode::unsupported)
      return content.error();
    return as_it_was();
  }
  ContentCutter cell(all_.core_, all_.ledger_, Areas(within), all_.record_);
  cell.depth_ = all_.depth_ + 1;
  cell.operators_ = all_.operators_;
  cell.running_ = all_.running_;
  if (id != ObjectId()) cell.running_.insert(id);
  CutState state;
  state.ctm = to_page;
  state.clip = to_page.bounds_of(*box);
  LUMVET_TRY(auto cut, StreamCutter(cell, store_.get(pattern.dict, "Resources").as_dict(), id,
                                    std::move(state))
                           .cut(content->view()));
  all_.operators_ = cell.operators_;
  if (!cut.is_changed) return as_it_was();
  is_changed_ = true;
  const ObjectId made = all_.ledger_.add(Object(stream_of(pattern.dict, std::move(cut))));
  if (id != ObjectId()) all_.record_.replaced[id].push_back(made);
  replace(kPattern, tiles.name);
  const std::string name = add_resource(kPattern, made);
  cut_tiles_[key] = name;
  return chosen(name);
}

}  // namespace lumvet::redacting
