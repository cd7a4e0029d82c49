// SPDX-License-Identifier: Apache-2.0
// Glyphs as operators (ISO 32000-2, 9.4), with the way back to what they stand for: by the font
// where a glyph always says the same, by replacement text (14.9.4) where several glyphs say
// something together.
#include <algorithm>
#include <cmath>

#include "draw/drawing_data.h"
#include "draw/font_subset.h"
#include "draw/set_lines.h"
#include "objects/text_string.h"

namespace lumvet::draw {
namespace {

constexpr double kThousand = 1000;

std::string utf16_hex(std::u16string_view text) {
  std::string hex = "<FEFF";
  for (const char16_t unit : text) append_digits(unit, hex);
  return hex + ">";
}

class Showing {
 public:
  Showing(DrawingData& drawing, std::string& out) : drawing_(drawing), out_(out) {}

  void show(const PlacedRun& run, Point at) {
    if (run.glyphs.glyphs.empty()) return;
    std::size_t place = 0;
    const std::string name = font_name(drawing_, run.glyphs.face, place);
    font_ = place;
    if (name != last_font_ || run.style.size != size_) {
      last_font_ = name;
      size_ = run.style.size;
      out_ += '/' + name + ' ';
      objects::append_rounded({size_}, out_);
      out_ += "Tf\n";
    }
    const double up = drawing_.is_upward() ? 1 : -1;
    objects::append_rounded({1, 0, 0, up, at.x, at.y + up * run.style.rise}, out_);
    out_ += "Tm\n";
    clusters(run);
    finish();
    if (rise_ != 0) out_ += "0 Ts\n";
    rise_ = 0;
    owed_ = 0;
  }

 private:
  void clusters(const PlacedRun& run) {
    const std::vector<ShapedGlyph>& glyphs = run.glyphs.glyphs;
    for (std::size_t i = 0; i < glyphs.size();) {
      std::size_t end = i + 1;
      while (end < glyphs.size() && glyphs[end].cluster == glyphs[i].cluster) ++end;
      const auto begin = static_cast<std::size_t>(glyphs[i].cluster);
      const auto after = static_cast<std::size_t>(after_cluster(run.glyphs, i, end));
      const auto whole = std::u16string_view(*run.text).substr(begin, after - begin);
      const bool is_plain =
          end == i + 1 && whole.size() == 1 && is_known(glyphs[i].glyph, whole[0]);
      const std::u16string text = is_plain ? std::u16string() : seen(whole);
      const bool says_it = is_plain || (end == i + 1 && font_says(glyphs[i].glyph, text));
      if (!says_it) {
        finish();
        out_ += "/Span <</ActualText " + utf16_hex(text) + ">> BDC\n";
      }
      for (; i < end; ++i) put(*run.glyphs.face, glyphs[i]);
      if (!says_it) {
        finish();
        out_ += "EMC\n";
      }
    }
  }

  // Where a cluster's text ends: its neighbor begins there, on the side where the text goes on.
  static int after_cluster(const ShapedRun& run, std::size_t first, std::size_t end) {
    if (run.leftward) return first > 0 ? run.glyphs[first - 1].cluster : run.end;
    return end < run.glyphs.size() ? run.glyphs[end].cluster : run.end;
  }

  bool is_known(unsigned glyph, char16_t unit) const {
    const std::vector<char16_t>& units = drawing_.fonts[font_].units;
    return glyph < units.size() && units[glyph] == unit && !is_unseen(unit);
  }

  // Whether the font can say it: what a glyph stood for first is what it stands for.
  bool font_says(unsigned glyph, std::u16string_view text) {
    const std::string utf8 = objects::utf16_to_utf8(text);
    UsedFont& font = drawing_.fonts[font_];
    const auto known = font.texts.find(glyph);
    if (known == font.texts.end() || known->second.empty()) {
      font.texts[glyph] = utf8;
      if (text.size() == 1) {
        if (font.units.size() <= glyph) font.units.resize(glyph + 1);
        font.units[glyph] = text[0];
      }
      return true;
    }
    return known->second == utf8;
  }

  void put(const Face& face, const ShapedGlyph& glyph) {
    const UsedFont& font = drawing_.fonts[font_];
    if (glyph.glyph >= font.units.size() || font.units[glyph.glyph] == 0)
      drawing_.fonts[font_].texts.try_emplace(glyph.glyph);
    if (glyph.rise != rise_) {
      finish();
      rise_ = glyph.rise;
      objects::append_rounded({rise_ * size_}, out_);
      out_ += "Ts\n";
    }
    move(owed_ - glyph.shift * kThousand);
    if (!is_in_string_) row_ += '<';
    is_in_string_ = true;
    append_digits(face.code_of(glyph.glyph), row_);
    owed_ = (glyph.own_advance - glyph.advance + glyph.shift) * kThousand;
  }

  void move(double by) {
    if (std::abs(by) < 0.01) return;
    if (is_in_string_) row_ += '>';
    is_in_string_ = false;
    objects::serialize_number(std::round(by * 100) / 100, row_);
  }

  void finish() {
    if (is_in_string_) row_ += '>';
    is_in_string_ = false;
    if (!row_.empty()) out_ += "[" + row_ + "] TJ\n";
    row_.clear();
  }

  DrawingData& drawing_;
  std::string& out_;
  std::string last_font_;
  std::size_t font_ = 0;
  double size_ = 0;
  std::string row_;  // what TJ will show
  bool is_in_string_ = false;
  double owed_ = 0;  // to the left, before the next glyph, in thousandths
  double rise_ = 0;
};

// Lines under letters, or through them.
void rule(DrawingData& drawing, const PlacedRun& run, Point at, double middle, double thickness) {
  const double down = drawing.is_upward() ? -1 : 1;
  const double y = at.y - down * (run.style.rise + middle * run.style.size);
  const double half = thickness * run.style.size / 2;
  std::string& out = drawing.painting();
  set_paint(drawing, run.style.color, false);
  objects::append_rounded({at.x, y - half, run.width(), 2 * half}, out);
  out += "re f\n";
}

}  // namespace

void show_lines(DrawingData& drawing, const SetParagraph& paragraph, Point at, std::size_t first,
                std::size_t end) {
  const double down = drawing.is_upward() ? -1 : 1;
  const SetLines& set = lines_of(paragraph);
  end = std::min(end, set.lines.size());
  if (first >= end) return;
  const auto place_of = [&](const SetLine& line, const PlacedRun& run) {
    return Point{at.x + run.left, at.y + down * line.base_line};
  };
  bool has_leaders = false;
  const auto show = [&](bool leaders) {
    std::string& out = drawing.painting();
    out += "BT\n";
    Showing showing(drawing, out);
    for (std::size_t i = first; i < end; ++i)
      for (const PlacedRun& run : set.lines[i].runs) {
        has_leaders |= run.is_leader;
        if (run.is_leader != leaders) continue;
        set_paint(drawing, run.style.color, false);
        showing.show(run, place_of(set.lines[i], run));
      }
    out += "ET\n";
  };
  show(false);
  if (has_leaders) {
    drawing.open_tags.push_back(Stretch::kArtifact);
    show(true);
    drawing.open_tags.pop_back();
  }
  for (std::size_t i = first; i < end; ++i)
    for (const PlacedRun& run : set.lines[i].runs) {
      const Face& face = *run.glyphs.face;
      const Point place = place_of(set.lines[i], run);
      if (run.style.underlined) rule(drawing, run, place, face.underline, face.thickness);
      if (run.style.struck_out) rule(drawing, run, place, face.x_height / 2, face.thickness);
      if (run.style.link.empty()) continue;
      const double height = (face.ascent - face.descent) * run.style.size;
      const double top = place.y - down * face.ascent * run.style.size;
      drawing.add_link({place.x, top, run.width(), height}, run.style.link);
    }
}

}  // namespace lumvet::draw
