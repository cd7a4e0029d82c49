// SPDX-License-Identifier: Apache-2.0
// Fonts cut down to the glyphs that are used, as font dictionaries (ISO 32000-2, 9.7.4, 9.8, 9.9
// and 9.10.3).
//
// Threads: free functions.
#pragma once

#include <hb.h>

#include <map>
#include <memory>
#include <string>

#include "compose/text_font.h"

namespace lumvet::compose {

struct ReleaseFace {
  void operator()(hb_face_t* face) const { hb_face_destroy(face); }
};
using FacePtr = std::unique_ptr<hb_face_t, ReleaseFace>;

std::string four_digits(unsigned code);  // "004F"

// Which lends the program's bytes. Errors: unsupported, as TextFont::of's.
Result<FacePtr> face_to_embed(const fonts::FontProgram& program);

struct FontFacts {
  double ascent = 0;  // of the em
  double descent = 0;
  double cap_height = 0;
};

// `texts` are the glyphs to keep, with what each stands for in UTF-8.
Result<EmbeddedFont> embed_subset(const fonts::FontProgram& program, hb_font_t* font,
                                  const std::map<unsigned, std::string>& texts,
                                  const FontFacts& facts, file::Ledger& ledger);

}  // namespace lumvet::compose
