// SPDX-License-Identifier: Apache-2.0
// A font to write with: texts become rows of glyphs (HarfBuzz), and what was written is embedded as
// a subset (ISO 32000-2, 9.7 and 9.9), with the way back from glyphs to characters.
//
//   LUMVET_TRY(TextFont font, TextFont::of(program));
//   LUMVET_TRY(const ShapedLine line, font.shape("Page 3"));
//   LUMVET_TRY(const EmbeddedFont embedded, font.embed(ledger));     // once all is shaped
//   content += embedded.show(line);                                  // "[<0003…>] TJ"
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "file/ledger.h"
#include "fonts/font_program.h"

namespace lumvet::compose {

struct ShapedGlyph {
  unsigned glyph = 0;
  double advance = 0;  // of the em, as all of these
  double own_advance = 0;
  double shift = 0;  // to the right
  double rise = 0;
};

struct ShapedLine {
  std::vector<ShapedGlyph> glyphs;  // from left to right
  double width = 0;                 // of the em
};

struct EmbeddedFont {
  ObjectId font;
  std::map<unsigned, unsigned> codes;  // by glyph

  // The operators that show a line, in a text object whose font this is.
  std::string show(const ShapedLine& line, double size) const;
};

class TextFont {
 public:
  // Errors: unsupported for a font of another format than TrueType or OpenType, or one that its
  // maker does not let be embedded.
  static Result<TextFont> of(std::shared_ptr<const fonts::FontProgram> program);
  TextFont(TextFont&&) noexcept;
  TextFont& operator=(TextFont&&) noexcept;
  ~TextFont();

  // One line of UTF-8, in either direction. Errors: invalid_argument for a character that the font
  // has no glyph for.
  Result<ShapedLine> shape(const std::string& text);

  double ascent() const;      // of the em, above the line
  double descent() const;     // below it, negative
  double cap_height() const;  // of capitals

  // With the glyphs shaped so far. Errors: unsupported when it cannot be cut down to them.
  Result<EmbeddedFont> embed(file::Ledger& ledger) const;

 private:
  struct Impl;
  explicit TextFont(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet::compose
