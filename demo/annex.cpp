// SPDX-License-Identifier: Apache-2.0
#include <cmath>
#include <numbers>
#include <string>

#include "demo_documents.h"

namespace demo {
namespace {

using lumvet::LineCap;
using lumvet::LineJoin;
using lumvet::Path;
using lumvet::Point;
using lumvet::Rect;

void title_block(Sheet& sheet, const std::string& title, const std::string& number) {
  const Rect frame{28, 28, sheet.width() - 28, sheet.height() - 28};
  sheet.frame(frame, 1.4);
  const Rect block{frame.right - 250, frame.bottom, frame.right, frame.bottom + 78};
  sheet.area(block, {1, 1, 1});
  sheet.frame(block, 1);
  sheet.line(block.left, block.bottom + 26, block.right, block.bottom + 26, 0.5);
  sheet.line(block.left + 160, block.bottom, block.left + 160, block.bottom + 26, 0.5);
  sheet.text(block.left + 8, block.top - 18, 9, "Ostrel Valley bridge office", Face::bold, kPale);
  sheet.text(block.left + 8, block.top - 38, 13, title, Face::bold);
  sheet.text(block.left + 8, block.bottom + 9, 9, "Drawn by T. Achterhuis");
  sheet.text(block.left + 168, block.bottom + 9, 9, "No. " + number);
}

// Arrows at both ends and the measure between.
void dimension(Sheet& sheet, Point a, Point b, const std::string& text) {
  sheet.line(a.x, a.y, b.x, b.y, 0.35, kPale);
  const double length = std::hypot(b.x - a.x, b.y - a.y);
  const Point u{(b.x - a.x) / length, (b.y - a.y) / length};
  for (const int end : {0, 1}) {
    const Point tip = end == 0 ? a : b;
    const double s = end == 0 ? 6 : -6;
    Path arrow;
    arrow.move_to(tip);
    arrow.line_to({tip.x + u.x * s - u.y * 1.8, tip.y + u.y * s + u.x * 1.8});
    arrow.line_to({tip.x + u.x * s + u.y * 1.8, tip.y + u.y * s - u.x * 1.8});
    arrow.close();
    sheet.fill(arrow, kInk);
  }
  sheet.text_centered((a.x + b.x) / 2, (a.y + b.y) / 2 + 3, 8.5, text);
}

void elevation(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page(kA3Height, kA4Height);
  maker.outline("Elevation", 0);
  title_block(sheet, "Quarry suspension bridge, elevation", "Q-01");
  const double deck = 360;
  const auto cable = [](double x) { return 380 + 190 * std::pow((x - 595) / 385, 2); };
  Path line;
  line.move_to({210, cable(210)});
  for (double x = 215; x <= 980; x += 5) line.line_to({x, cable(x)});
  sheet.stroke(line, {.width = 2.4, .join = LineJoin::round}, kRust);
  for (double x = 230; x < 975; x += 15.3) sheet.line(x, deck, x, cable(x), 0.5, kInk);
  for (const double x : {210.0, 980.0}) {
    Path tower;
    tower.move_to({x - 12, 180});
    tower.line_to({x - 7, 585});
    tower.line_to({x + 7, 585});
    tower.line_to({x + 12, 180});
    tower.close();
    sheet.fill(tower, {0.86, 0.84, 0.80});
    sheet.stroke(tower, {.width = 1});
    sheet.line(x, 570, x < 500 ? 90 : 1100, 300, 1.6, kRust);
  }
  sheet.area({200, deck - 8, 990, deck}, {0.55, 0.40, 0.28});
  sheet.frame({200, deck - 8, 990, deck}, 0.7);
  Path ground;
  ground.move_to({50, 300});
  ground.line_to({190, 290});
  ground.curve_to({260, 200}, {300, 150}, {400, 140});
  ground.line_to({800, 140});
  ground.curve_to({900, 150}, {940, 210}, {1000, 290});
  ground.line_to({1140, 300});
  sheet.stroke(ground, {.width = 1.4});
  sheet.line(330, 190, 870, 190, {.width = 0.7, .dashes = {10, 4, 2, 4}}, kRiver);
  sheet.text(600, 196, 9, "mean water level 212.40", Face::regular, kRiver);
  dimension(sheet, {210, 640}, {980, 640}, "36.80 m");
  dimension(sheet, {1128, deck}, {1128, 570}, "");
  sheet.text(1096, 460, 8.5, "9.80 m");
  sheet.text(60, 760, 9, "Scale 1 : 100 – measures in metres", Face::regular, kPale);
}

void section(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Section of the deck", 0);
  title_block(sheet, "Section A–A", "Q-02");
  const Rect deck{110, 420, 485, 450};
  // Hatching, clipped to the outline.
  {
    const auto scope = sheet.drawing().scope();
    Path outline;
    outline.add_rect(deck);
    sheet.drawing().clip(outline);
    for (double x = 60; x < 520; x += 8) sheet.line(x, 410, x + 60, 470, 0.4, kPale);
  }
  sheet.frame(deck, 1.4);
  for (const double x : {130.0, 285.0, 440.0}) {
    Path beam;
    beam.move_to({x, 420});
    for (const Point p : {Point{x + 30, 420}, Point{x + 30, 412}, Point{x + 19, 412},
                          Point{x + 19, 348}, Point{x + 30, 348}, Point{x + 30, 340}, Point{x, 340},
                          Point{x, 348}, Point{x + 11, 348}, Point{x + 11, 412}, Point{x, 412}})
      beam.line_to(p);
    beam.close();
    sheet.fill(beam, {0.80, 0.82, 0.84});
    sheet.stroke(beam, {.width = 1.1, .miter_limit = 4});
  }
  for (const double x : {112.0, 475.0}) {
    sheet.area({x, 450, x + 8, 580}, {0.42, 0.29, 0.20});
    sheet.line(x + 4, 580, x + 4, 586, {.width = 12, .cap = LineCap::round}, {0.42, 0.29, 0.20});
  }
  sheet.ellipse({300, 600}, 26, 26, kPale, false);
  sheet.text_centered(300, 595, 15, "A", Face::bold);
  dimension(sheet, {110, 500}, {485, 500}, "2.20 m clear width");
  dimension(sheet, {520, 450}, {520, 580}, "");
  sheet.text(526, 510, 8.5, "1.10");
}

void plan(DocumentMaker& maker) {
  // Drawn upright on a sheet that is shown turned.
  Sheet& sheet = maker.new_page();
  maker.outline("Site plan", 0);
  sheet.rotate = 90;
  title_block(sheet, "Site plan", "Q-03");
  for (int i = 0; i < 9; ++i) {
    Path contour;
    const double d = i * 38.0;
    contour.move_to({40, 140 + d});
    contour.curve_to({180, 210 + d}, {260, 40 + d * 1.2}, {380, 150 + d});
    contour.curve_to({450, 210 + d}, {500, 190 + d}, {555, 120 + d});
    sheet.stroke(contour, {.width = i % 5 == 0 ? 1.1 : 0.4}, {0.62, 0.48, 0.34});
  }
  Path river;
  river.move_to({40, 560});
  river.curve_to({200, 500}, {350, 640}, {556, 540});
  river.line_to({556, 600});
  river.curve_to({350, 700}, {200, 560}, {40, 622});
  river.close();
  sheet.fill(river, {0.78, 0.88, 0.93});
  sheet.stroke(river, {.width = 0.8}, kRiver);
  sheet.line(300, 80, 300, 790, {.width = 1.2, .dashes = {8, 5}}, kRust);
  sheet.area({292, 555, 308, 668}, kInk);
  sheet.text(318, 700, 10, "Path to Quarry", Face::regular);
  sheet.text(60, 584, 12, "Pell", Face::bold, kRiver);
  for (int i = 0; i < 40; ++i) {
    const double x = 60 + std::fmod(i * 137.5, 480);
    const double y = 690 + std::fmod(i * 61.8, 100);
    sheet.ellipse({x, y}, 5, 5, kMoss);
  }
}

void detail(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Hanger, detail", 0);
  // Cut to a square by the crop box.
  sheet.crop = std::make_unique<Rect>(Rect{60, 200, 540, 680});
  sheet.area({0, 0, kA4Width, kA4Height}, {0.98, 0.97, 0.94});
  const Point c{300, 440};
  for (int ring = 6; ring >= 1; --ring)
    for (int k = 0; k < ring * 6; ++k) {
      const double a = 2 * std::numbers::pi * k / (ring * 6);
      sheet.ellipse({c.x + std::cos(a) * ring * 27, c.y + std::sin(a) * ring * 27}, 12.5, 12.5,
                    (ring == 6 && k % 12 < 3) ? kRust : Ink{0.70, 0.73, 0.76});
      sheet.ellipse({c.x + std::cos(a) * ring * 27, c.y + std::sin(a) * ring * 27}, 12.5, 12.5,
                    kInk, false);
    }
  sheet.ellipse(c, 12.5, 12.5, {0.70, 0.73, 0.76});
  sheet.ellipse(c, 182, 182, kInk, false);
  sheet.text_centered(300, 648, 13, "Cable of 127 wires, broken ones in rust red", Face::bold);
  sheet.text_centered(300, 218, 9, "Scale 5 : 1", Face::regular, kPale);
}

}  // namespace

lumvet::Status make_annex(const Fonts& fonts, const std::filesystem::path& path) {
  DocumentMaker maker(fonts, "Quarry suspension bridge, drawings",
                      "Annex to the inspection report");
  elevation(maker);
  section(maker);
  plan(maker);
  detail(maker);
  return maker.save(path, lumvet::FileLayout::classic);
}

}  // namespace demo
