// SPDX-License-Identifier: Apache-2.0
// What is different about a page in the new document: turned, cut, resized, drawn upon, or laid
// onto a sheet.
//
// Threads: values.
#pragma once

#include <optional>
#include <vector>

#include "lumvet/assemble/paper.h"
#include "lumvet/document/document.h"

namespace lumvet::assemble {

// Another document's page, drawn onto this one.
struct Guest {
  Document document;
  int page = 0;
  Matrix placed;  // from its own space to this page's, as it is after the change
  double opacity = 1;
  bool behind = false;
  std::optional<Rect> clip = {};  // in this page's space
};

// A page that is part of a larger one, a sheet.
struct OnSheet {
  std::size_t sheet = 0;  // its place among all pages of all parts
  Matrix placed;          // from the page's space after the change to the sheet's
  bool framed = false;
};

struct PageChange {
  int turn = 0;                   // degrees to the right, 0 to 270
  std::optional<Rect> crop = {};  // in the page's space after the change
  // From the page's own space to that after the change, of which `media` is the extent then; what
  // lies outside of `seen`, in the page's own space, stays hidden.
  Matrix moved = {};
  std::optional<Rect> media = {};
  std::optional<Rect> seen = {};
  std::vector<Guest> guests = {};
  std::optional<OnSheet> on_sheet = {};
};

// How a page is seen after a change.
struct Shape {
  Rect crop;         // in its space after the change
  int rotation = 0;  // degrees to the right
  double user_unit = 1;

  double width() const {  // points
    return (rotation % 180 == 0 ? crop.width() : crop.height()) * user_unit;
  }
  double height() const { return (rotation % 180 == 0 ? crop.height() : crop.width()) * user_unit; }
  // To points from the lower left corner of the page as it is seen, y upward.
  Matrix to_shown() const;
};

Shape shape_of(const Page& page, const PageChange& change);

// Its crop box without what is cut off where it is shown.
Rect cropped(const Shape& shape, const Margins& margins);

}  // namespace lumvet::assemble
