// SPDX-License-Identifier: Apache-2.0
// Pages whose content was moved, or became part of a sheet: what leads to them leads to where that
// is now, and what stands on them stands there.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <optional>
#include <vector>

#include "file/ledger.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet::assemble {

struct Move {
  ObjectId to;                        // itself, or the sheet it became a part of
  Matrix by;                          // from its own space to that page's
  Rect seen;                          // what there is to be seen of it, in its own space
  std::optional<ObjectId> form = {};  // that its content became
};

class PageMoves {
 public:
  explicit PageMoves(file::Ledger& ledger) : ledger_(ledger) {}

  void add(ObjectId page, const Move& move) { moves_.emplace(page, move); }
  // The annotations of a page that moved, which go to the page that it is on now.
  void move_annotations(ObjectId page);
  // Places, elements of structure and everything else in these objects that leads to those pages.
  void follow(const std::vector<ObjectId>& ids);

 private:
  const Move* move_of(const Object& reference) const;
  void move_annotation(ObjectId id, const Move& move);
  Object turned_appearance(const Object& appearance, const Matrix& turn);
  std::optional<Object> followed(const Object& object, const Move* content_of) const;
  Array place(const Array& old, const Move& move) const;

  file::Ledger& ledger_;
  std::map<ObjectId, Move> moves_;
};

}  // namespace lumvet::assemble
