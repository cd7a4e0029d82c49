// SPDX-License-Identifier: Apache-2.0
// Text of six families: plain, turned, tiny, large, as outlines and in gradients.
#include "tests/scenes/scene.h"

namespace test {
namespace {

void choose(cairo_t* c, const char* family, bool italic, bool bold, double size) {
  cairo_font_options_t* options = cairo_font_options_create();
  cairo_font_options_set_hint_style(options, CAIRO_HINT_STYLE_NONE);
  cairo_font_options_set_hint_metrics(options, CAIRO_HINT_METRICS_OFF);
  cairo_font_options_set_antialias(options, CAIRO_ANTIALIAS_GRAY);
  cairo_set_font_options(c, options);
  cairo_font_options_destroy(options);
  cairo_select_font_face(c, family, italic ? CAIRO_FONT_SLANT_ITALIC : CAIRO_FONT_SLANT_NORMAL,
                         bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
  cairo_set_font_size(c, size);
}

// Letter by letter at advances of our own, since those of the drawing library are rounded to the
// surface at hand; and as outlines where it draws pixels, since it would move every glyph to a
// whole pixel there.
void write(cairo_t* c, const std::string& text, double x, double y, double advance) {
  const bool is_document = cairo_surface_get_type(cairo_get_target(c)) == CAIRO_SURFACE_TYPE_PDF;
  for (std::size_t i = 0; i < text.size();) {
    std::size_t end = i + 1;
    while (end < text.size() && (text[end] & 0xC0) == 0x80) ++end;
    const std::string letter = text.substr(i, end - i);
    i = end;
    cairo_move_to(c, x, y);
    x += advance;
    if (letter == " ") continue;
    if (is_document) {
      cairo_show_text(c, letter.c_str());
    } else {
      cairo_text_path(c, letter.c_str());
      cairo_fill(c);
    }
  }
}

const char* const kLines[] = {"Ostrel Valley", "Bearing no. 47", "ßöÅ½ & Łąka", "span 12.40 m"};

Draw plain(const char* family) {
  return [=](cairo_t* c) {
    for (int i = 0; i < 8; ++i) {
      choose(c, family, i % 2 == 1, i >= 4, 13 + i);
      cairo_set_source_rgb(c, 0, 0.08 * i, 0.2);
      write(c, kLines[i % 4], 8.3, 26.7 + 27.3 * i, 9.5 + 0.9 * i);
    }
  };
}

Draw turned(const char* family) {
  return [=](cairo_t* c) {
    for (int i = 0; i < 12; ++i) {
      cairo_save(c);
      cairo_translate(c, 120, 120);
      cairo_rotate(c, i * M_PI / 6);
      choose(c, family, false, i % 2 == 0, 12);
      write(c, "Ostrel 47", 22, 4, 9.3);
      cairo_restore(c);
    }
  };
}

Draw tiny(const char* family) {
  return [=](cairo_t* c) {
    choose(c, family, false, false, 5);
    for (int i = 0; i < 34; ++i)
      write(c, std::string(kLines[i % 4]) + " " + kLines[(i + 1) % 4] + " " + kLines[(i + 2) % 4],
            6.2, 10.1 + 6.7 * i, 4.1);
  };
}

Draw large(const char* family) {
  return [=](cairo_t* c) {
    choose(c, family, false, true, 120);
    cairo_set_source_rgb(c, 0.2, 0.3, 0.5);
    write(c, "Qg", 6, 110, 110);
    cairo_set_source_rgb(c, 0.6, 0.2, 0.1);
    write(c, "&8", 6, 222, 110);
  };
}

void outlines(cairo_t* c) {
  choose(c, "DejaVu Serif", false, true, 64);
  cairo_set_line_width(c, 2);
  for (int i = 0; i < 3; ++i) {
    cairo_move_to(c, 10, 70 + 70 * i);
    cairo_text_path(c, "Weir");
    cairo_set_source_rgb(c, 0.9, 0.8 - 0.2 * i, 0.3);
    cairo_fill_preserve(c);
    cairo_set_source_rgb(c, 0.2, 0.1, 0.3);
    cairo_stroke(c);
  }
}

void gradient_text(cairo_t* c) {
  choose(c, "Liberation Sans", false, true, 70);
  cairo_pattern_t* pattern = cairo_pattern_create_linear(0, 0, 240, 240);
  cairo_pattern_add_color_stop_rgb(pattern, 0, 0.9, 0.2, 0.1);
  cairo_pattern_add_color_stop_rgb(pattern, 1, 0.1, 0.3, 0.8);
  cairo_set_source(c, pattern);
  cairo_pattern_destroy(pattern);
  for (int i = 0; i < 3; ++i) {
    cairo_move_to(c, 8, 70 + 72 * i);
    cairo_text_path(c, "Bridge");
    cairo_fill(c);
  }
}

void text_clip(cairo_t* c) {
  choose(c, "Nimbus Roman", false, true, 110);
  cairo_move_to(c, 10, 150);
  cairo_text_path(c, "Ford");
  cairo_clip(c);
  for (int i = 0; i < 30; ++i) {
    cairo_set_source_rgb(c, i % 2, i / 30.0, 0.5);
    cairo_rectangle(c, 8 * i, 0, 8, 240);
    cairo_fill(c);
  }
}

}  // namespace

std::vector<OracleScene> text_scenes() {
  std::vector<OracleScene> all = {
      {"outlined text", outlines}, {"text in a gradient", gradient_text}, {"text clip", text_clip}};
  for (const char* family : {"DejaVu Sans", "DejaVu Serif", "Liberation Sans", "Liberation Serif",
                             "Liberation Mono", "Nimbus Sans"}) {
    const std::string name = family;
    all.push_back({name, plain(family)});
    all.push_back({name + ", turned", turned(family)});
    all.push_back({name + ", tiny", tiny(family)});
    all.push_back({name + ", large", large(family)});
  }
  return all;
}

}  // namespace test
