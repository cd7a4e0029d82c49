// SPDX-License-Identifier: Apache-2.0
#include "appearance/default_appearance.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

#include "appearance/look.h"
#include "objects/content_numbers.h"
#include "objects/lexer.h"

namespace lumvet::appearance {
namespace {

constexpr double kLargest = 1000;  // points

std::string_view trimmed(std::string_view text) {
  const std::size_t begin = text.find_first_not_of(" \t\r\n'\"");
  if (begin == std::string_view::npos) return {};
  return text.substr(begin, text.find_last_not_of(" \t\r\n'\"") - begin + 1);
}

// "12pt", "12.5": a length in points.
std::optional<double> points_in(std::string_view text) {
  double value = 0;
  const auto read = std::from_chars(text.data(), text.data() + text.size(), value);
  if (read.ec != std::errc() || value <= 0 || value > kLargest) return std::nullopt;
  const std::string_view unit(read.ptr,
                              static_cast<std::size_t>(text.data() + text.size() - read.ptr));
  if (unit == "px") return value * 0.75;
  return unit.empty() || unit == "pt" ? std::optional(value) : std::nullopt;
}

void read_font(std::string_view value, TextLook& look) {
  std::string family;
  std::string style;
  while (!(value = trimmed(value)).empty()) {
    const std::size_t end = std::min(value.find_first_of(" ,"), value.size());
    const std::string_view word = trimmed(value.substr(0, end));
    value.remove_prefix(std::min(end + 1, value.size()));
    if (const auto size = points_in(word.substr(0, word.find('/')))) {
      look.size = *size;
    } else if (word == "bold" || word == "italic") {
      style += word == "bold" ? "Bold" : "Italic";
    } else if (family.empty() && word != "normal") {
      family = word;
    }
  }
  if (!family.empty()) look.font = family + (style.empty() ? "" : "-" + style);
}

}  // namespace

TextLook read_text_look(std::string_view operators) {
  TextLook look;
  objects::Lexer lexer(as_bytes(operators));
  std::vector<objects::Damage> ignored;
  lexer.tolerate(ignored);
  std::vector<double> numbers;
  std::string name;
  for (;;) {
    const Result<objects::Token> token = lexer.next();
    if (!token.ok() || token->kind == objects::TokenKind::end) break;
    switch (token->kind) {
      case objects::TokenKind::name: name = token->text; break;
      case objects::TokenKind::integer:
        numbers.push_back(static_cast<double>(token->integer));
        break;
      case objects::TokenKind::real: numbers.push_back(token->real); break;
      case objects::TokenKind::keyword: {
        const std::string_view what = token->text;
        if (what == "Tf" && !numbers.empty()) {
          look.font = name;
          look.size = std::isfinite(numbers.back()) ? std::clamp(numbers.back(), 0.0, kLargest) : 0;
        }
        const std::size_t parts = what == "g" ? 1 : what == "rg" ? 3 : what == "k" ? 4 : 0;
        if (parts > 0 && numbers.size() >= parts)
          look.color.assign(numbers.end() - static_cast<std::ptrdiff_t>(parts), numbers.end());
        numbers.clear();
        break;
      }
      default: break;
    }
  }
  return look;
}

void read_style(std::string_view css, TextLook& look) {
  while (!css.empty()) {
    const std::size_t end = std::min(css.find(';'), css.size());
    const std::string_view one = css.substr(0, end);
    css.remove_prefix(std::min(end + 1, css.size()));
    const std::size_t colon = one.find(':');
    if (colon == std::string_view::npos) continue;
    const std::string_view key = trimmed(one.substr(0, colon));
    const std::string_view value = trimmed(one.substr(colon + 1));
    if (key == "font" || key == "font-family") read_font(value, look);
    if (key == "font-size")
      if (const auto size = points_in(value)) look.size = *size;
    if (key == "color")
      if (const auto color = Color::parse(value); color.ok()) look.color = color->parts();
  }
}

std::string operators_of(const TextLook& look) {
  std::string out = "/" + (look.font.empty() ? "Helv" : look.font) + " ";
  objects::append_rounded({look.size}, out);
  out += "Tf ";
  const std::vector<double> color = look.color.empty() ? std::vector<double>{0} : look.color;
  for (const double part : color) objects::append_rounded({part}, out);
  return out + (color.size() == 1 ? "g" : color.size() == 3 ? "rg" : "k");
}

std::string Fonts::base_font(const std::string& name) const {
  if (const auto known = base_fonts.find(name); known != base_fonts.end()) return known->second;
  static constexpr std::array<std::pair<std::string_view, std::string_view>, 10> kUsual = {
      {{"Helv", "Helvetica"},
       {"HeBo", "Helvetica-Bold"},
       {"HeOb", "Helvetica-Oblique"},
       {"TiRo", "Times-Roman"},
       {"TiBo", "Times-Bold"},
       {"TiIt", "Times-Italic"},
       {"Cour", "Courier"},
       {"CoBo", "Courier-Bold"},
       {"Symb", "Symbol"},
       {"ZaDb", "ZapfDingbats"}}};
  for (const auto& [usual, font] : kUsual)
    if (name == usual) return std::string(font);
  return name.empty() ? "Helvetica" : name;
}

TextStyle style_of(const TextLook& look, double size, const Fonts& fonts) {
  const Typeface nearest = Typeface::nearest(fonts.base_font(look.font), fonts.supply);
  const auto own = fonts.embedded ? fonts.embedded(look.font) : std::nullopt;
  return {.face = own ? own->or_else(nearest) : nearest,
          .size = size,
          .color = color_of(look.color).value_or(Color()),
          .shows_missing = true};
}

}  // namespace lumvet::appearance
