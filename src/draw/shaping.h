// SPDX-License-Identifier: Apache-2.0
// Texts to glyphs: each stretch of one direction, script, style and font by HarfBuzz, directions by
// ICU (UAX #9), letters that a font lacks from the next that has them.
//
// Threads: immutable once made.
#pragma once

#include <unicode/ubidi.h>

#include <memory>
#include <string>
#include <vector>

#include "draw/face.h"
#include "lumvet/draw/text_style.h"

namespace lumvet::draw {

// Which way the letters of a run go.
struct Course {
  bool leftward = false;
  bool is_upright = false;  // downward, in a line that runs so
};

// Lengths are parts of the size, along the line and across it.
struct ShapedGlyph {
  unsigned glyph = 0;
  int cluster = 0;         // unit of the text at which its characters begin
  double advance = 0;      // to the next one
  double own_advance = 0;  // as the font has it
  double shift = 0;        // along the line
  double rise = 0;
  bool is_joined = false;  // the text cannot be cut before it without shaping anew
};

// Glyphs of one font, from left to right.
struct ShapedRun {
  FacePtr face;
  std::size_t style = 0;
  int begin = 0;  // units of the text
  int end = 0;
  Course course;
  std::vector<ShapedGlyph> glyphs;
};

struct StyledPart {
  std::string text;  // UTF-8
  TextStyle style;
};

class ShapedText {
 public:
  // Errors: invalid_argument for a letter that no font has, and when there is no font at all.
  // Of lines that run downward, letters are upright or turned as UAX #50 says.
  static Result<ShapedText> of(const std::vector<StyledPart>& parts, bool runs_down = false);

  const std::u16string& text() const { return text_; }
  const std::vector<TextStyle>& styles() const { return styles_; }
  const std::vector<ShapedRun>& runs() const { return runs_; }  // in the order of the text
  bool is_leftward() const;                                     // as a whole
  std::size_t style_at(int unit) const;

  // A part of it as it is seen, from left to right, with the words' blanks in it.
  Result<std::vector<ShapedRun>> line(int begin, int end) const;

 private:
  struct CloseBidi {
    void operator()(UBiDi* bidi) const { ubidi_close(bidi); }
  };

  Status shape_all();
  Status shape(int begin, int end, std::size_t style, Course course, int script,
               std::vector<ShapedRun>& runs) const;
  Status shape_with(std::size_t choice, const std::vector<FacePtr>& faces, int begin, int end,
                    std::size_t style, Course course, int script,
                    std::vector<ShapedRun>& runs) const;
  Result<ShapedRun> cut(const ShapedRun& run, int begin, int end) const;

  std::u16string text_;
  bool runs_down_ = false;
  std::vector<TextStyle> styles_;
  std::vector<int> style_ends_;              // units
  std::vector<std::vector<FacePtr>> faces_;  // of each style
  std::vector<ShapedRun> runs_;
  std::shared_ptr<UBiDi> bidi_;  // none for a text without letters
};

// What a run's clusters say, for finding them again: the end of one that begins at a unit.
int cluster_end(const ShapedRun& run, int cluster);

double width_of(const std::vector<ShapedGlyph>& glyphs);  // parts of the size

}  // namespace lumvet::draw
