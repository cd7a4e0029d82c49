// SPDX-License-Identifier: Apache-2.0
#include "appearance/field_look.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "appearance/shapes.h"
#include "document/appearance.h"
#include "lumvet/document/field_format.h"
#include "objects/text_string.h"

namespace lumvet::appearance {
namespace {

using FieldKind = FormField::Kind;

constexpr double kUsualSize = 12;  // points
constexpr double kLeastSize = 4;

Rect inset(const Rect& r, double by) {
  return {r.left + by, r.bottom + by, r.right - by, r.top - by};
}

// What letters of ZapfDingbats stand for, as paths in a square from -1 to 1.
Path sign(char letter) {
  switch (letter) {
    case '8': {  // a cross
      Path path = polygon({{-0.9, -0.7}, {-0.7, -0.9}, {0.9, 0.7}, {0.7, 0.9}}, true);
      path.append(polygon({{-0.7, 0.9}, {-0.9, 0.7}, {0.7, -0.9}, {0.9, -0.7}}, true), Matrix());
      return path;
    }
    case 'l': return ellipse({-0.8, -0.8, 1.6, 1.6});
    case 'n': return polygon({{-0.75, -0.75}, {0.75, -0.75}, {0.75, 0.75}, {-0.75, 0.75}}, true);
    case 'u': return polygon({{0, -0.95}, {0.95, 0}, {0, 0.95}, {-0.95, 0}}, true);
    case 'H': {
      std::vector<Point> corners;
      constexpr double kTenth = 0.6283185307;
      for (int i = 0; i < 10; ++i) {
        const double far = i % 2 == 0 ? 1 : 0.4;
        corners.push_back({far * std::sin(i * kTenth), far * std::cos(i * kTenth)});
      }
      return polygon(corners, true);
    }
    default:
      return polygon({{-0.9, -0.05},
                      {-0.65, 0.2},
                      {-0.3, -0.25},
                      {0.65, 0.85},
                      {0.95, 0.7},
                      {-0.2, -0.85},
                      {-0.4, -0.85}},
                     true);
  }
}

// Whole characters of UTF-8.
std::vector<std::string> characters_of(const std::string& text) {
  std::vector<std::string> characters;
  for (const char byte : text)
    if ((static_cast<unsigned char>(byte) & 0xC0) == 0x80 && !characters.empty())
      characters.back() += byte;
    else
      characters.emplace_back(1, byte);
  return characters;
}

class FieldPainter {
 public:
  FieldPainter(const FormField& field, const WidgetLook& widget, const Fonts& fonts,
               Drawing& drawing)
      : field_(field), widget_(widget), fonts_(fonts), drawing_(drawing) {
    look_ = read_text_look(field.default_appearance);
    if (!widget.border_color.empty()) line_ = std::clamp(widget.border.width, 0.0, 50.0);
    room_ = {0, 0, widget.rect.width(), widget.rect.height()};
    if (widget.rotation % 180 != 0) std::swap(room_.right, room_.top);
  }

  void paint() {
    turn();
    const bool is_round = field_.kind == FieldKind::radio_buttons &&
                          (widget_.caption.empty() || widget_.caption == "l");
    ground(is_round);
    const double raised = widget_.border.style == "B" || widget_.border.style == "I" ? 2 : 1;
    inner_ = inset(room_, std::max(line_ * raised, 0.0));
    if (inner_.width() <= 0 || inner_.height() <= 0) return;
    switch (field_.kind) {
      case FieldKind::text: text(); break;
      case FieldKind::combo_box: single_line(formatted(shown(field_.value()))); break;
      case FieldKind::list_box: list(); break;
      case FieldKind::check_box:
      case FieldKind::radio_buttons:
        if (widget_.is_on) mark();
        break;
      case FieldKind::push_button: caption(); break;
      default: break;
    }
  }

 private:
  // So that what is drawn from now on is upright where the widget is turned.
  void turn() {
    if (widget_.rotation != 0)
      drawing_.transform(
          document::turned_left(widget_.rotation, widget_.rect.width(), widget_.rect.height()));
  }

  void ground(bool is_round) {
    const Rect middle = inset(room_, line_ / 2);
    const auto path = [&](const Rect& r) {
      return is_round ? ellipse({r.left, r.bottom, r.width(), r.height()})
                      : polygon(corners_of(r), true);
    };
    if (const auto color = color_of(widget_.background)) drawing_.fill(path(room_), *color);
    const auto color = color_of(widget_.border_color);
    if (!color || line_ <= 0 || middle.width() <= 0 || middle.height() <= 0) return;
    const std::string& style = widget_.border.style;
    if (!is_round && (style == "B" || style == "I")) edges(style == "B");
    StrokeStyle stroke{.width = line_};
    if (style == "D") stroke.dashes = widget_.border.dash;
    if (style == "U")
      drawing_.line({0, line_ / 2}, {room_.right, line_ / 2}, *color, stroke);
    else
      drawing_.stroke(path(middle), *color, stroke);
  }

  // Light and shadow along the inner side of the border.
  void edges(bool is_raised) {
    const Rect outer = inset(room_, line_);
    const Rect inner = inset(room_, 2 * line_);
    if (inner.width() <= 0 || inner.height() <= 0) return;
    const Color light = Color::gray(is_raised ? 1 : 0.5);
    const Color shadow = Color::gray(is_raised ? 0.6 : 0.8);
    drawing_.fill(polygon({{outer.left, outer.bottom},
                           {outer.left, outer.top},
                           {outer.right, outer.top},
                           {inner.right, inner.top},
                           {inner.left, inner.top},
                           {inner.left, inner.bottom}},
                          true),
                  light);
    drawing_.fill(polygon({{outer.right, outer.top},
                           {outer.right, outer.bottom},
                           {outer.left, outer.bottom},
                           {inner.left, inner.bottom},
                           {inner.right, inner.bottom},
                           {inner.right, inner.top}},
                          true),
                  shadow);
  }

  // What people read for an exported value.
  std::string shown(const std::string& value) const {
    for (const FormField::Kind kind : {FieldKind::combo_box, FieldKind::list_box})
      if (field_.kind == kind)
        for (const FieldOption& option : field_.options)
          if (option.exported == value) return option.shown;
    return value;
  }

  // As the field's format shows it.
  std::string formatted(const std::string& value) {
    const auto format = format_of(field_);
    if (!format) return seen_part(value);
    if (is_shown_red(*format, value)) look_.color = {0.8, 0, 0};
    return seen_part(shown_value(*format, value));
  }

  void text() {
    std::string value = formatted(field_.value());
    if (field_.is_password()) value = std::string(characters_of(value).size(), '*');
    if (field_.has_cells() && field_.longest && *field_.longest > 0)
      cells(value);
    else if (field_.is_multiline())
      lines(value);
    else
      single_line(value);
  }

  TextStyle style(double size) const { return style_of(look_, size, fonts_); }

  // On the middle of the box, cut at its edges.
  void single_line(const std::string& value) {
    if (value.empty()) return;
    std::string line = value;
    std::replace_if(
        line.begin(), line.end(), [](char c) { return c == '\n' || c == '\r' || c == '\t'; }, ' ');
    const double beside = std::max(2.0, line_);
    const Rect box = inset(inner_, 0);
    const double size = look_.size > 0 ? look_.size
                                       : size_in(line, look_, box.width() - 2 * beside,
                                                 box.height(), false, fonts_);
    const TextStyle looks = style(size);
    const auto scope = drawing_.scope();
    drawing_.clip(polygon(corners_of(box), true));
    const double base = base_line(looks, box);
    using Alignment = FormField::Alignment;
    if (field_.alignment == Alignment::centered)
      drawing_.write(line, {(box.left + box.right) / 2, base}, looks, Drawing::Side::middle);
    else if (field_.alignment == Alignment::right)
      drawing_.write(line, {box.right - beside, base}, looks, Drawing::Side::right);
    else
      drawing_.write(line, {box.left + beside, base}, looks);
  }

  // Letters between their ascent and descent in the middle.
  static double base_line(const TextStyle& looks, const Rect& box) {
    const double up = looks.face.ascent();
    const double down = looks.face.descent();
    return (box.bottom + box.top) / 2 - looks.size * (up + down) / 2;
  }

  ParagraphStyle::Align align() const {
    using Align = ParagraphStyle::Align;
    using Alignment = FormField::Alignment;
    if (field_.alignment == Alignment::centered) return Align::center;
    return field_.alignment == Alignment::right ? Align::right : Align::start;
  }

  void lines(const std::string& value) {
    if (value.empty()) return;
    const Rect box = inset(inner_, std::max(2.0, line_));
    if (box.width() <= 0 || box.height() <= 0) return;
    const double size = look_.size > 0
                            ? look_.size
                            : size_in(value, look_, box.width(), box.height(), true, fonts_);
    const auto set =
        Paragraph(value, style(size), {.align = align(), .line_height = 1.15}).set(box.width());
    if (!set.ok()) return;
    const auto scope = drawing_.scope();
    drawing_.clip(polygon(corners_of(inner_), true));
    drawing_.write(*set, {box.left, box.top});
  }

  // One character in the middle of each.
  void cells(const std::string& value) {
    const std::vector<std::string> characters = characters_of(value);
    constexpr std::int64_t kMostCells = 1000;
    if (*field_.longest > kMostCells) return single_line(value);
    const auto count = static_cast<std::size_t>(*field_.longest);
    const double wide = room_.width() / static_cast<double>(count);
    const double size = look_.size > 0 ? look_.size : std::min(kUsualSize, inner_.height() * 0.8);
    const TextStyle looks = style(size);
    const double base = base_line(looks, inner_);
    const auto scope = drawing_.scope();
    drawing_.clip(polygon(corners_of(inner_), true));
    for (std::size_t i = 0; i < characters.size() && i < count; ++i)
      drawing_.write(characters[i], {wide * (static_cast<double>(i) + 0.5), base}, looks,
                     Drawing::Side::middle);
    if (const auto color = color_of(widget_.border_color); color && line_ > 0)
      for (std::size_t i = 1; i < count; ++i) {
        const double x = wide * static_cast<double>(i);
        drawing_.line({x, 0}, {x, room_.top}, *color, {.width = line_});
      }
  }

  void list() {
    const double size = look_.size > 0 ? look_.size : kUsualSize;
    const TextStyle looks = style(size);
    const double high = size * 1.2;
    const std::set<std::string> chosen(field_.values.begin(), field_.values.end());
    const auto scope = drawing_.scope();
    drawing_.clip(polygon(corners_of(inner_), true));
    double top = inner_.top;
    const auto first = static_cast<std::size_t>(std::max<std::int64_t>(widget_.first_option, 0));
    static const Color kChosen = Color::rgb(0.72, 0.82, 0.9);
    for (std::size_t i = first; i < field_.options.size() && top > inner_.bottom;
         ++i, top -= high) {
      const FieldOption& option = field_.options[i];
      const Rect line{inner_.left, top - high, inner_.right, top};
      if (chosen.contains(option.exported) || chosen.contains(option.shown))
        drawing_.fill(polygon(corners_of(line), true), kChosen);
      drawing_.write(seen_part(option.shown), {inner_.left + 2, base_line(looks, line)}, looks);
    }
  }

  void mark() {
    const char letter = widget_.caption.empty()
                            ? (field_.kind == FieldKind::radio_buttons ? 'l' : '4')
                            : widget_.caption.front();
    const double most = std::min(inner_.width(), inner_.height()) / 2;
    const double half = look_.size > 0 ? std::min(look_.size * 0.42, most) : most * 0.72;
    const Color color = color_of(look_.color).value_or(Color());
    const Matrix placed{
        half, 0, 0, half, (inner_.left + inner_.right) / 2, (inner_.bottom + inner_.top) / 2};
    drawing_.fill(sign(letter).transformed(placed), color);
  }

  void caption() {
    if (widget_.caption.empty()) return;
    const std::string text = seen_part(widget_.caption);
    const double size =
        look_.size > 0 ? look_.size
                       : size_in(text, look_, inner_.width() * 0.9, inner_.height(), false, fonts_);
    const TextStyle looks = style(size);
    drawing_.write(text, {(inner_.left + inner_.right) / 2, base_line(looks, inner_)}, looks,
                   Drawing::Side::middle);
  }

  const FormField& field_;
  const WidgetLook& widget_;
  const Fonts& fonts_;
  Drawing& drawing_;
  TextLook look_;
  double line_ = 0;  // how wide the border is
  Rect room_;        // as the widget is turned
  Rect inner_;       // without the border
};

}  // namespace

double size_in(const std::string& text, const TextLook& look, double width, double height,
               bool is_multiline, const Fonts& fonts) {
  const TextStyle unit = style_of(look, 1, fonts);
  if (!is_multiline) {
    const double line = unit.face.ascent() - unit.face.descent();
    const double wide = Drawing::text_width(text, unit).value_or(0);
    const double by_height = line > 0 ? height / line : kUsualSize;
    const double by_width = wide > 0 ? width / wide : by_height;
    return std::max(std::min(by_height, by_width), kLeastSize);
  }
  double size = kUsualSize;
  for (; size > kLeastSize; size = std::max(size * 0.93, kLeastSize)) {
    const auto set = Paragraph(text, style_of(look, size, fonts), {.line_height = 1.15}).set(width);
    if (!set.ok() || set->height() <= height) break;
  }
  return size;
}

std::optional<Look> look_of(const FormField& field, const WidgetLook& widget, const Fonts& fonts) {
  if (!is_place(widget.rect)) return std::nullopt;
  Look look{widget.rect,
            Drawing(widget.rect.width(), widget.rect.height(), Drawing::Space::upward)};
  FieldPainter(field, widget, fonts, look.drawing).paint();
  if (!look.drawing.status().ok()) return std::nullopt;
  return look;
}

}  // namespace lumvet::appearance
