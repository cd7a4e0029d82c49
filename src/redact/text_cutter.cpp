// SPDX-License-Identifier: Apache-2.0
// Text that is being cut, letter by letter (ISO 32000-2, 9.3 and 9.4).
#include <cmath>

#include "base/allowance.h"
#include "fonts/font.h"
#include "objects/content_numbers.h"
#include "redact/stream_cutter.h"

namespace lumvet::redacting {

namespace {

// What a glyph inks, or takes where it is blank, in units of the font size.
struct GlyphBox {
  Rect rect;
  bool is_blank;
};
GlyphBox box_of(const fonts::Glyph& glyph, const fonts::Font& font) {
  constexpr double kLeast = 0.02;
  GlyphBox box{{0, 0, glyph.width, 0.5}, true};
  if (font.type3() != nullptr) {
    box = {{0, font.line_extent().descent, glyph.width, font.line_extent().ascent}, false};
  } else if (glyph.outline && !glyph.outline->is_empty()) {
    const Rect ink = glyph.outline->bounds();
    box = {{ink.left * glyph.stretch, ink.bottom, ink.right * glyph.stretch, ink.top}, false};
  }
  if (glyph.vertical) {
    const Point origin = glyph.vertical->origin;
    box.rect = {box.rect.left - origin.x, box.rect.bottom - origin.y, box.rect.right - origin.x,
                box.rect.top - origin.y};
  }
  if (box.rect.width() < kLeast) box.rect.right = box.rect.left + kLeast;
  if (box.rect.height() < kLeast) box.rect.top = box.rect.bottom + kLeast;
  return box;
}

}  // namespace

bool StreamCutter::place_text(const std::string& name, const Operands& operands) {
  const std::size_t count = operands.size();
  const double last = count == 0 ? 0 : operands.back().as_number();
  const auto next_line = [&](double x, double y) {
    line_ = Matrix::translation(x, y).then(line_);
    text_ = line_;
  };
  if (name == "BT") {
    text_ = line_ = Matrix();
  } else if (name == "Tc") {
    state_.character_spacing = last;
  } else if (name == "Tw") {
    state_.word_spacing = last;
  } else if (name == "Tz") {
    state_.stretch = last / 100;
  } else if (name == "TL") {
    state_.leading = last;
  } else if (name == "Ts") {
    state_.rise = last;
  } else if (name == "Tf" && count >= 2) {
    state_.font_name = operands[count - 2].as_name();
    state_.font = all_.font_of(resource("Font", state_.font_name));
    state_.size = last;
  } else if ((name == "Td" || name == "TD") && count >= 2) {
    if (name == "TD") state_.leading = -last;
    next_line(operands[count - 2].as_number(), last);
  } else if (name == "Tm" && count >= 6) {
    const auto at = [&](std::size_t i) { return operands[count - 6 + i].as_number(); };
    text_ = line_ = {at(0), at(1), at(2), at(3), at(4), at(5)};
  } else if (name == "T*") {
    next_line(0, -state_.leading);
  } else {
    return false;
  }
  return true;
}

bool StreamCutter::is_taken(const fonts::Glyph& glyph, const Matrix& placed) const {
  const GlyphBox box = box_of(glyph, *state_.font);
  Polygon corners = corners_of(box.rect);
  for (Point& p : corners) p = placed.apply(p);
  const double share = all_.areas_.share_of(corners);
  return share > (box.is_blank ? kBlankShare : kLetterShare);
}

Status StreamCutter::show(const std::string& name, const Operands& operands,
                          std::string_view written) {
  if (name == "'" || name == "\"") {
    if (name == "\"" && operands.size() >= 3) {
      state_.word_spacing = operands[operands.size() - 3].as_number();
      state_.character_spacing = operands[operands.size() - 2].as_number();
    }
    place_text("T*", {});
  }
  if (operands.empty() || !state_.font) {
    keep(written);
    return Done{};
  }
  use_tiles(state_.fill);
  use_tiles(state_.stroke);
  const bool is_vertical = state_.font->is_vertical();
  constexpr double kThousand = 1000;
  std::string items;    // what is left, as an array's items
  std::string letters;  // kept, not yet written
  double moved = 0;     // thousandths of the font size, not yet written
  bool is_hit = false;
  const auto write_letters = [&] {
    if (letters.empty()) return;
    objects::serialize(Object::string(letters), items);
    letters.clear();
  };
  const auto write_move = [&] {
    if (moved == 0) return;
    write_letters();
    objects::append_rounded({moved}, items);
    moved = 0;
  };
  const auto move_by = [&](double along) {
    text_ = (is_vertical ? Matrix::translation(0, along)
                         : Matrix::translation(along * state_.stretch, 0))
                .then(text_);
  };
  const fonts::Type3* const type3 = state_.font->type3();
  Status status = Done{};
  const auto show_string = [&](std::string_view text) {
    std::size_t at = 0;
    state_.font->decode(text, [&](const fonts::Glyph& glyph) {
      if (!goes_on() || !status.ok()) return;
      const std::string_view code = text.substr(std::min(at, text.size()), glyph.code_bytes);
      at += glyph.code_bytes;
      const Matrix placed =
          Matrix{state_.size * state_.stretch, 0, 0, state_.size, 0, state_.rise}.then(text_).then(
              state_.ctm);
      constexpr std::uint32_t kSpace = 32;
      const double spacing =
          state_.character_spacing +
          (glyph.code == kSpace && glyph.code_bytes == 1 ? state_.word_spacing : 0);
      const double advance = glyph.vertical ? glyph.vertical->advance : glyph.width;
      const double along = advance * state_.size + spacing;
      const Point begin = placed.apply({0, 0});
      bool goes = is_taken(glyph, placed);
      if (!goes && type3 != nullptr) {
        const Result<bool> touched = is_drawing_touched(*type3, glyph, placed);
        if (!touched.ok()) status = touched.error();
        goes = touched.ok() && *touched;
      }
      note_procedure(glyph, goes);
      if (goes) {
        is_hit = true;
        ++all_.record_.counts.letters;
        const double gap = std::hypot(begin.x - taken_end_.x, begin.y - taken_end_.y);
        const double em = std::hypot(placed.c, placed.d);
        if (!taken_.empty() && gap > 0.15 * em && taken_.back() != ' ') taken_ += ' ';
        taken_ += glyph.text;
        taken_end_ = placed.apply({advance, 0});
        if (state_.size != 0) moved -= kThousand * along / state_.size;
      } else {
        if (glyph.outline) flush_text();
        write_move();
        letters += code;
      }
      move_by(along);
    });
  };
  const Object& shown = operands.back();
  if (shown.is_string()) {
    show_string(shown.as_string());
  } else {
    for (const Object& item : shown.as_array()) {
      if (item.is_string()) {
        show_string(item.as_string());
      } else if (item.is_number()) {
        moved += item.as_number();
        move_by(-item.as_number() / kThousand * state_.size);
      }
    }
  }
  LUMVET_RETURN_IF_ERROR(status);
  LUMVET_RETURN_IF_ERROR(go_on());
  if (!is_hit) {
    keep(written);
    return Done{};
  }
  write_move();
  write_letters();
  hit();
  std::string operators;
  if (name == "\"") {
    objects::append_numbers({state_.word_spacing}, operators);
    operators += "Tw ";
    objects::append_numbers({state_.character_spacing}, operators);
    operators += "Tc ";
  }
  if (name == "'" || name == "\"") operators += "T* ";
  write(operators + "[" + items + "]TJ\n");
  return Done{};
}

void StreamCutter::flush_text() {
  if (taken_.find_first_not_of(' ') != std::string::npos) all_.record_.texts.push_back(taken_);
  taken_.clear();
}

}  // namespace lumvet::redacting
