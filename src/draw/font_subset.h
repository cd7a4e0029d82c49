// SPDX-License-Identifier: Apache-2.0
// Fonts cut down to the glyphs that are used, as font dictionaries (ISO 32000-2, 9.7.4, 9.8, 9.9
// and 9.10.3). Glyphs keep their numbers, so that pages can show them before all are known.
//
// Threads: free functions.
#pragma once

#include <map>
#include <string>

#include "draw/face.h"
#include "file/ledger.h"

namespace lumvet::draw {

void append_digits(unsigned code, std::string& out);  // "004F"

// Which lends the program's bytes. Errors: unsupported, as Typeface::named's.
Result<std::unique_ptr<hb_face_t, Release>> face_to_embed(const fonts::FontProgram& program);
bool has_outlines(hb_face_t* face);

// `texts` are the glyphs to keep, with what each stands for in UTF-8. Errors: unsupported when the
// font cannot be cut down to them.
Result<Object> font_of(const Face& face, bool runs_down,
                       const std::map<unsigned, std::string>& texts, file::Ledger& ledger);

}  // namespace lumvet::draw
