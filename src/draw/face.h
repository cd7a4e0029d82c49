// SPDX-License-Identifier: Apache-2.0
// One font to write with, as HarfBuzz and as a program of glyphs; and the chain of them that a
// Typeface is.
//
// Threads: immutable, share freely.
#pragma once

#include <hb.h>

#include <map>
#include <memory>
#include <string>
#include <vector>

#include "fonts/font_matcher.h"
#include "fonts/font_program.h"
#include "lumvet/draw/typeface.h"

namespace lumvet::draw {

struct Release {
  void operator()(hb_blob_t* blob) const { hb_blob_destroy(blob); }
  void operator()(hb_face_t* face) const { hb_face_destroy(face); }
  void operator()(hb_font_t* font) const { hb_font_destroy(font); }
  void operator()(hb_buffer_t* buffer) const { hb_buffer_destroy(buffer); }
};

// Where a variable font is on its axes, by their tags.
using Axes = std::map<std::string, double>;

// A font as it is, whatever documents make of it.
struct Face {
  std::shared_ptr<const fonts::FontProgram> program;
  std::unique_ptr<hb_face_t, Release> face;
  std::unique_ptr<hb_font_t, Release> font;
  double units = 1000;
  Axes axes;

  // Of the em.
  double ascent = 0;
  double descent = 0;
  double cap_height = 0;
  double x_height = 0;
  double underline = 0;       // middle of the line, below the base line
  double thickness = 0;       // of such lines
  bool has_pictures = false;  // in place of outlines
  bool has_layers = false;    // glyphs made of others, each in a color

  // The code by which documents show a glyph: CIDs where the font is keyed by them (9.7.4.2).
  unsigned code_of(unsigned glyph) const {
    return program->is_cid_keyed() ? program->cid_of_glyph(glyph) : glyph;
  }

  // Errors: unsupported, as Typeface::named's.
  static Result<std::shared_ptr<const Face>> of(std::shared_ptr<const fonts::FontProgram> program,
                                                const Axes& axes = {});
};
using FacePtr = std::shared_ptr<const Face>;

struct TypefaceData {
  std::vector<FacePtr> faces;  // none for any plain font
  std::vector<hb_feature_t> features;
  // In which letters are looked for that none of them has; none for nowhere.
  std::shared_ptr<const fonts::FontMatcher> others;
};

const TypefaceData& data_of(const Typeface& typeface);
// The fonts that are tried one after the other: those that it has, or a plain one of the system.
// Errors: invalid_argument when there is none at all.
Result<std::vector<FacePtr>> faces_of(const Typeface& typeface);
// A font that has a character which those lack, of a style like the first one's; null where there
// is none.
FacePtr face_with(char32_t character, const Face& like, const TypefaceData& typeface);

}  // namespace lumvet::draw
