// SPDX-License-Identifier: Apache-2.0
// Glyphs as operators (ISO 32000-2, 9.4), with the way back to what they stand for: by the font
// where a glyph always says the same, by replacement text (14.9.4) where several glyphs say
// something together.
#include <algorithm>
#include <cmath>

#include "draw/drawing_data.h"
#include "draw/font_subset.h"
#include "draw/glyph_pictures.h"
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

  // From the base line on; of a line that runs downward from the middle of its top.
  void show(const PlacedRun& run, Point at, bool runs_down) {
    if (run.glyphs.glyphs.empty()) return;
    std::size_t place = 0;
    is_upright_ = run.glyphs.course.is_upright;
    const std::string name = font_name(drawing_, run.glyphs.face, is_upright_, place);
    font_ = place;
    if (name != last_font_ || run.style.size != size_) {
      last_font_ = name;
      size_ = run.style.size;
      out_ += '/' + name + ' ';
      objects::append_rounded({size_}, out_);
      out_ += "Tf\n";
    }
    const double up = drawing_.is_upward() ? 1 : -1;
    if (!runs_down) {
      objects::append_rounded({1, 0, 0, up, at.x, at.y + up * run.style.rise}, out_);
    } else if (is_upright_) {
      objects::append_rounded({1, 0, 0, up, at.x + run.style.rise, at.y}, out_);
    } else {
      // Turned to the right, its middle on the line's.
      const double middle = (run.glyphs.face->ascent + run.glyphs.face->descent) / 2 * size_;
      objects::append_rounded({0, -up, 1, 0, at.x - middle + run.style.rise, at.y}, out_);
    }
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
      const bool has_layers =
          run.glyphs.face->has_layers &&
          std::any_of(glyphs.begin() + static_cast<std::ptrdiff_t>(i),
                      glyphs.begin() + static_cast<std::ptrdiff_t>(end),
                      [&](const ShapedGlyph& glyph) {
                        return !layers_of_glyph(*run.glyphs.face, glyph.glyph).empty();
                      });
      const bool says_it =
          !has_layers && (is_plain || (end == i + 1 && font_says(glyphs[i].glyph, text)));
      if (!says_it) {
        finish();
        out_ += "/Span <</ActualText " + utf16_hex(text) + ">> BDC\n";
      }
      for (; i < end; ++i)
        if (has_layers)
          put_layers(run, glyphs[i]);
        else
          put(*run.glyphs.face, glyphs[i]);
      if (!says_it) {
        finish();
        out_ += "EMC\n";
      }
    }
  }

  // Where a cluster's text ends: its neighbor begins there, on the side where the text goes on.
  static int after_cluster(const ShapedRun& run, std::size_t first, std::size_t end) {
    if (run.course.leftward && !run.course.is_upright)
      return first > 0 ? run.glyphs[first - 1].cluster : run.end;
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

  // One over the other, each from where the glyph stands, which is there unseen: it says how wide
  // it is.
  void put_layers(const PlacedRun& run, const ShapedGlyph& glyph) {
    const Face& face = *run.glyphs.face;
    std::vector<GlyphLayer> layers = layers_of_glyph(face, glyph.glyph);
    if (layers.empty()) return put(face, glyph);
    finish();
    out_ += "3 Tr\n";
    ShapedGlyph whole = glyph;
    whole.advance = 0;
    put(face, whole);
    finish();
    out_ += "0 Tr\n";
    for (std::size_t i = 0; i < layers.size(); ++i) {
      finish();
      if (layers[i].color)
        set_paint(drawing_, *layers[i].color, false);
      else
        set_paint(drawing_, run.style.color, false);
      ShapedGlyph layer = glyph;
      layer.glyph = layers[i].glyph;
      layer.own_advance = hb_font_get_glyph_h_advance(face.font.get(), layer.glyph) / face.units;
      if (i + 1 < layers.size()) layer.advance = 0;
      put(face, layer);
    }
    finish();
    set_paint(drawing_, run.style.color, false);
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
    if (is_upright_) by = -by;  // what is taken away goes up (9.4.4)
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
  bool is_upright_ = false;
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

// Something to be selected where a picture of letters is: a blank as wide as it, unseen.
void put_blank(DrawingData& drawing, const TextStyle& style, const PageArea& area) {
  FacePtr plain;
  for (const Typeface& face : {style.face, Typeface()}) {
    const auto faces = faces_of(face);
    if (!faces.ok()) continue;
    const auto found = std::find_if(faces->begin(), faces->end(),
                                    [](const FacePtr& one) { return !one->has_pictures; });
    if (found != faces->end()) plain = *found;
    if (plain) break;
  }
  const unsigned blank = plain ? plain->program->glyph_for_unicode(' ') : 0;
  if (blank == 0) return;
  std::size_t place = 0;
  std::string& out = drawing.painting();
  out += "BT\n/" + font_name(drawing, plain, false, place) + " ";
  drawing.fonts[place].texts.try_emplace(blank, " ");
  const double advance = hb_font_get_glyph_h_advance(plain->font.get(), blank) / plain->units;
  const double up = drawing.is_upward() ? 1 : -1;
  objects::append_rounded({style.size}, out);
  out += "Tf\n3 Tr\n";
  objects::append_rounded({area.width / style.size / std::max(advance, 0.01), 0, 0, up, area.left,
                           area.top - up * area.height * plain->ascent},
                          out);
  out += "Tm\n<";
  append_digits(plain->code_of(blank), out);
  out += "> Tj\nET\n";
}

// Letters that are pictures, with what they say. In lines that run downward they stand in the
// middle.
void show_pictures(DrawingData& drawing, const PlacedRun& run, Point at, bool runs_down) {
  const double size = run.style.size;
  const double down = drawing.is_upward() ? -1 : 1;
  double along = 0;
  const std::vector<ShapedGlyph>& glyphs = run.glyphs.glyphs;
  for (std::size_t i = 0; i < glyphs.size(); ++i) {
    const ShapedGlyph& glyph = glyphs[i];
    const GlyphPicture own = picture_of_glyph(run.glyphs.face, glyph.glyph);
    const double width = own.width * size;
    const double height = own.height * size;
    const double pen = (along + glyph.shift) * size;
    const double free = glyph.advance * size - height;
    const PageArea area =
        runs_down ? PageArea{at.x - width / 2, at.y + down * (pen + free / 2), width, height}
                  : PageArea{at.x + pen + own.left * size,
                             at.y - down * (run.style.rise + own.top * size), width, height};
    along += glyph.advance;
    if (!own.picture) continue;
    const std::string name = picture_name(drawing, own.picture);
    std::string& out = drawing.painting();
    const bool is_first = i == 0 || glyphs[i - 1].cluster != glyph.cluster;
    const auto begin = static_cast<std::size_t>(glyph.cluster);
    const auto end = static_cast<std::size_t>(cluster_end(run.glyphs, glyph.cluster));
    const auto text = std::u16string_view(*run.text).substr(begin, end - begin);
    out += "/Span <</ActualText " + utf16_hex(is_first ? seen(text) : std::u16string()) +
           ">> BDC\nq\n";
    if (is_first) put_blank(drawing, run.style, area);
    append_matrix(Matrix::scaling(width, height).then(drawing.frame(area)), out);
    out += "/" + name + " Do\nQ\nEMC\n";
  }
}

// The same of a line that runs downward, from the middle of its top: beside letters, or through
// them; and where a click on it leads.
void rule_beside(DrawingData& drawing, const PlacedRun& run, Point at) {
  const double down = drawing.is_upward() ? -1 : 1;
  const double size = run.style.size;
  const double thickness = run.glyphs.face->thickness * size;
  const auto rule_at = [&](double x) {
    std::string& out = drawing.painting();
    set_paint(drawing, run.style.color, false);
    objects::append_rounded({x - thickness / 2, at.y, thickness, down * run.width()}, out);
    out += "re f\n";
  };
  constexpr double kBeside = 0.55;  // of the size
  if (run.style.underlined) rule_at(at.x + kBeside * size);
  if (run.style.struck_out) rule_at(at.x);
  if (!run.style.link.empty())
    drawing.add_link({at.x - size / 2, at.y, size, run.width()}, run.style.link);
}

}  // namespace

void show_lines(DrawingData& drawing, const SetParagraph& paragraph, Point at, std::size_t first,
                std::size_t end) {
  const double down = drawing.is_upward() ? -1 : 1;
  const SetLines& set = lines_of(paragraph);
  end = std::min(end, set.lines.size());
  if (first >= end) return;
  const auto place_of = [&](const SetLine& line, const PlacedRun& run) {
    if (set.runs_down) return Point{at.x - line.top - line.height / 2, at.y + down * run.left};
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
        if (run.is_leader != leaders || run.glyphs.face->has_pictures) continue;
        set_paint(drawing, run.style.color, false);
        showing.show(run, place_of(set.lines[i], run), set.runs_down);
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
      if (face.has_pictures) show_pictures(drawing, run, place, set.runs_down);
      if (set.runs_down) {
        rule_beside(drawing, run, place);
        continue;
      }
      if (run.style.underlined) rule(drawing, run, place, face.underline, face.thickness);
      if (run.style.struck_out) rule(drawing, run, place, face.x_height / 2, face.thickness);
      if (run.style.link.empty()) continue;
      const double height = (face.ascent - face.descent) * run.style.size;
      const double top = place.y - down * face.ascent * run.style.size;
      drawing.add_link({place.x, top, run.width(), height}, run.style.link);
    }
}

}  // namespace lumvet::draw
