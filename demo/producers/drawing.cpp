// SPDX-License-Identifier: Apache-2.0
// A bearing of the Alder Weir footbridge, drawn by the library cairo.
#include <cairo-pdf.h>
#include <cairo.h>

#include <cmath>

int main(int argc, char** argv) {
  if (argc != 2) return 2;
  cairo_surface_t* surface = cairo_pdf_surface_create(argv[1], 420, 300);
  cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_TITLE, "Northern bearing");
  cairo_t* c = cairo_create(surface);
  cairo_set_source_rgb(c, 0.95, 0.93, 0.88);
  cairo_paint(c);
  cairo_set_source_rgb(c, 0.3, 0.33, 0.36);
  cairo_rectangle(c, 60, 220, 300, 30);
  cairo_fill(c);
  cairo_set_source_rgba(c, 0.7, 0.3, 0.15, 0.8);
  for (int i = 0; i < 5; ++i) {
    cairo_arc(c, 110 + 50 * i, 195, 24, 0, 2 * M_PI);
    cairo_fill(c);
  }
  cairo_set_source_rgb(c, 0.1, 0.12, 0.15);
  cairo_set_line_width(c, 3);
  cairo_set_line_join(c, CAIRO_LINE_JOIN_ROUND);
  cairo_rectangle(c, 60, 130, 300, 40);
  cairo_stroke(c);
  const double dashes[] = {9, 5};
  cairo_set_dash(c, dashes, 2, 0);
  cairo_move_to(c, 210, 40);
  cairo_line_to(c, 210, 270);
  cairo_stroke(c);
  cairo_select_font_face(c, "DejaVu Sans", CAIRO_FONT_SLANT_NORMAL, CAIRO_FONT_WEIGHT_NORMAL);
  cairo_set_font_size(c, 16);
  cairo_move_to(c, 60, 60);
  cairo_show_text(c, "Northern bearing, 5 rollers");
  cairo_show_page(c);
  cairo_set_source_rgb(c, 0.1, 0.3, 0.5);
  cairo_move_to(c, 40, 150);
  cairo_curve_to(c, 140, 10, 280, 290, 380, 150);
  cairo_set_dash(c, nullptr, 0, 0);
  cairo_set_line_width(c, 8);
  cairo_set_line_cap(c, CAIRO_LINE_CAP_ROUND);
  cairo_stroke(c);
  cairo_show_page(c);
  cairo_destroy(c);
  cairo_surface_destroy(surface);
  return 0;
}
