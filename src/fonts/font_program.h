// SPDX-License-Identifier: Apache-2.0
// A font file: glyphs by number with their outlines, through FreeType. Hinting is never applied.
//
// Threads: internally synchronized.
#pragma once

#include <memory>
#include <optional>
#include <string>

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"
#include "lumvet/geometry/path.h"

namespace lumvet::fonts {

class FontProgram {
 public:
  // Errors: malformed when FreeType cannot read it, and when it has no outlines, unless these are
  // not needed: of letters that are pictures.
  static Result<std::shared_ptr<const FontProgram>> load(Bytes bytes, int face_index = 0,
                                                         bool needs_outlines = true);
  ~FontProgram();
  FontProgram(const FontProgram&) = delete;
  FontProgram& operator=(const FontProgram&) = delete;

  // In units of the em, y upward; nullptr for a glyph that is missing or empty. Each outline is
  // made once.
  std::shared_ptr<const Path> outline(unsigned glyph) const;
  double advance(unsigned glyph) const;  // in units of the em
  unsigned glyph_count() const;

  // Each gives 0, the "not defined" glyph, for what is not there.
  unsigned glyph_named(const std::string& name) const;
  unsigned glyph_for_unicode(std::uint32_t code) const;
  unsigned glyph_for_symbol(std::uint32_t code) const;  // TrueType's (3,0) table, and its 0xF0 page
  unsigned glyph_for_mac_code(std::uint32_t code) const;  // TrueType's (1,0) table
  unsigned glyph_for_built_in(std::uint32_t code) const;  // the font's own encoding
  // Of CID-keyed fonts; otherwise CIDs are glyph numbers already.
  unsigned glyph_for_cid(unsigned cid) const;
  unsigned upright_glyph(std::uint32_t code) const;  // of Unicode, in lines that run downward
  // As those of TrueType fonts, in an OpenType file too (table 124).
  bool has_truetype_outlines() const;
  bool is_cid_keyed() const;
  unsigned cid_of_glyph(unsigned glyph) const;

  // What a glyph stands for in UTF-8, by its name or the character that leads to it; empty where
  // neither says it.
  std::string text_of(unsigned glyph) const;

  bool is_bold() const;
  bool is_italic() const;
  bool is_fixed_pitch() const;
  std::string family() const;
  int face_count() const;    // of the file that this one is of
  int face_index() const;    // of this one in it
  ByteView bytes() const;    // of the whole file
  std::size_t size() const;  // bytes

 private:
  struct Impl;
  explicit FontProgram(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet::fonts
