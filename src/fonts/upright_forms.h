// SPDX-License-Identifier: Apache-2.0
// The glyphs that a font file keeps for lines that run downward: the feature 'vert' of its OpenType
// tables, through HarfBuzz.
//
// Threads: const methods may run concurrently.
#pragma once

#include <cstdint>
#include <memory>

#include "lumvet/base/bytes.h"

struct hb_font_t;

namespace lumvet::fonts {

class UprightForms {
 public:
  // `file` must outlive the object.
  UprightForms(ByteView file, int face_index);
  // The usual glyph where the character has no other; 0 for a character that is not there.
  unsigned of(std::uint32_t character) const;

 private:
  struct Closer {
    void operator()(hb_font_t* font) const;
  };
  std::unique_ptr<hb_font_t, Closer> font_;
};

}  // namespace lumvet::fonts
