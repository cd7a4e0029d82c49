// SPDX-License-Identifier: Apache-2.0
// Forms on pages, and pages as forms (form XObjects, ISO 32000-2, 8.10).
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "file/ledger.h"
#include "lumvet/base/limits.h"
#include "lumvet/document/document.h"

namespace lumvet::assemble {

struct Drawn {
  ObjectId form;
  Matrix placed;             // from the form's space to the page's
  bool beneath = false;      // the page's own content
  bool is_artifact = false;  // part of no structure (14.8.2.2)
};

// What becomes of a page's own content, and what is drawn besides.
struct Wrapping {
  Matrix moved = {};              // the page's own content
  std::optional<Rect> seen = {};  // of the page's own content, before it is moved
  std::vector<Drawn> drawn = {};

  bool is_needed() const { return !drawn.empty() || seen || moved != Matrix(); }
};

// Where a page's content takes back a state that it did not save, as offsets, and how many it
// leaves saved at its end (8.4.2).
struct Balance {
  std::vector<std::size_t> stray;
  int left_open = 0;
};
Balance balance_of(ByteView content);

// `page` is a dictionary in the ledger, `content` what it says there, decoded; that is written anew
// where it takes back what it did not save, and stays as it is stored otherwise.
void wrap_page(file::Ledger& ledger, ObjectId page, Bytes content, const Wrapping& wrapping);

// The same for the copy of a page whose content stays where it is. Errors: as reading the page's
// content.
Status draw_onto(file::Ledger& ledger, const Page& page, ObjectId copy, std::vector<Drawn> drawn);

// A page of the ledger as a form in the page's own space, cut at its crop box. Errors: as decoding
// streams.
Result<Stream> form_of_page(const file::Ledger& ledger, ObjectId page, const Limits& limits);

}  // namespace lumvet::assemble
