// SPDX-License-Identifier: Apache-2.0
// What the look of a text field shows around its text: a box, lines, a ground that the field's
// entries do not tell of. New text goes into the marked content /Tx of the look and nowhere else
// (ISO 32000-2, 12.7.4.3).
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>

#include "file/ledger.h"

namespace lumvet::appearance {

struct KeptFrame {
  Dict look;           // of the stream that has it
  std::string before;  // operators
  std::string behind;
  bool changes_state = false;  // what stands before
};

// Nothing where there is none, where the widget's own entries say what its border and ground are,
// and where text cannot simply be put between the rest.
std::optional<KeptFrame> frame_around_text(const file::Ledger& ledger, const Dict& widget);

// The frame with a form of some size in place of its text.
Object with_text(const KeptFrame& frame, const file::Ledger& ledger, ObjectId form, double width,
                 double height);

}  // namespace lumvet::appearance
