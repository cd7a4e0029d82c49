// SPDX-License-Identifier: Apache-2.0
#include <cmath>
#include <string>

#include "demo_documents.h"
#include "images.h"
#include "lumvet/compose/flow.h"

namespace demo {
namespace {

using lumvet::LineCap;
using lumvet::LineJoin;
using lumvet::Path;
using lumvet::Point;
using lumvet::Rect;

constexpr double kLeft = 64;
constexpr double kRight = kA4Width - 64;

void letterhead(Sheet& sheet, const std::string& chapter, int page) {
  sheet.line(kLeft, kA4Height - 52, kRight, kA4Height - 52, 0.5, kPale);
  sheet.text(kLeft, kA4Height - 46, 8.5, "Ostrel Valley bridge office", Face::bold, kPale);
  sheet.text_right(kRight, kA4Height - 46, 8.5, chapter, Face::regular, kPale);
  sheet.text_centered(kA4Width / 2, 34, 8.5, std::to_string(page), Face::regular, kPale);
}

// A footbridge in elevation: deck, arch, posts, water.
void draw_bridge(Sheet& sheet, const Rect& box) {
  const auto p = [&](double u, double v) {
    return Point{box.left + u * box.width(), box.bottom + v * box.height()};
  };
  Path hill;
  hill.move_to(p(0, 0.30));
  hill.curve_to(p(0.15, 0.95), p(0.35, 0.55), p(0.5, 0.62));
  hill.curve_to(p(0.7, 0.75), p(0.85, 1.0), p(1, 0.5));
  hill.line_to(p(1, 0.1));
  hill.line_to(p(0, 0.1));
  hill.close();
  sheet.fill(hill, {0.80, 0.86, 0.78});
  sheet.area({box.left, box.bottom, box.right, box.bottom + 0.16 * box.height()},
             {0.74, 0.85, 0.90});
  for (int i = 0; i < 4; ++i) {
    Path wave;
    const double y = 0.03 + 0.035 * i;
    wave.move_to(p(0.05 * i, y));
    for (int k = 0; k < 7; ++k)
      wave.curve_to(p(0.05 * i + 0.11 * k + 0.03, y + 0.02),
                    p(0.05 * i + 0.11 * k + 0.08, y - 0.02), p(0.05 * i + 0.11 * (k + 1), y));
    sheet.stroke(wave, {.width = 0.8, .cap = LineCap::round}, kRiver);
  }
  Path arch;
  arch.move_to(p(0.10, 0.14));
  arch.curve_to(p(0.30, 0.52), p(0.70, 0.52), p(0.90, 0.14));
  sheet.stroke(arch, {.width = 5, .cap = LineCap::round, .join = LineJoin::round}, kRust);
  for (int i = 0; i <= 12; ++i) {
    const double u = 0.14 + 0.06 * i;
    const double t = (u - 0.10) / 0.80;
    const double foot = 0.14 + 3 * t * (1 - t) * 0.38;
    if (foot < 0.44)
      sheet.line(p(u, 0).x, p(0, foot).y, p(u, 0).x, p(0, 0.47).y,
                 {.width = 1.6, .cap = LineCap::round}, kRust);
  }
  sheet.area({p(0.02, 0).x, p(0, 0.46).y, p(0.98, 0).x, p(0, 0.50).y}, {0.42, 0.29, 0.20});
  for (int i = 0; i <= 32; ++i)
    sheet.line(p(0.02 + 0.03 * i, 0).x, p(0, 0.50).y, p(0.02 + 0.03 * i, 0).x, p(0, 0.58).y, 0.9,
               kInk);
  sheet.line(p(0.02, 0).x, p(0, 0.58).y, p(0.98, 0).x, p(0, 0.58).y, 1.8, kInk);
}

// A chart in an area of a sheet.
void draw(Sheet& sheet, const lumvet::Chart& chart, const Rect& area) {
  lumvet::Drawing drawing(area.width(), area.height());
  lumvet::draw_chart(drawing, {0, 0, area.width(), area.height()}, chart).value();
  sheet.drawing().draw(drawing, {area.left, area.top});
}

void cover(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Cover", 0);
  sheet.area({0, 0, kA4Width, kA4Height}, kSand);
  sheet.area({0, kA4Height - 210, kA4Width, kA4Height}, kInk);
  sheet.text(kLeft, kA4Height - 96, 13, "Ostrel Valley bridge office", Face::bold,
             {0.95, 0.88, 0.70});
  sheet.text(kLeft, kA4Height - 140, 30, "Footbridge inspection", Face::bold, {1, 1, 1});
  sheet.text(kLeft, kA4Height - 176, 17, "Autumn round, day 12", Face::regular, {0.85, 0.88, 0.90});
  draw_bridge(sheet, {kLeft, 250, kRight, 570});
  sheet.frame({kLeft, 250, kRight, 570}, 0.8, kPale);
  sheet.text(kLeft, 205, 11, "Inspectors: Ilse Marren, Tobin Achterhuis", Face::regular);
  sheet.text(kLeft, 188, 11, "Date of inspection: 14 October 2026 – weather dry, 9 °C",
             Face::regular);
  sheet.text(kLeft, 120, 9, "For the use of the office and the parishes of the valley.",
             Face::regular, kPale);
}

void contents(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Contents", 0);
  letterhead(sheet, "Contents", 2);
  sheet.text(kLeft, 740, 22, "Contents", Face::bold);
  double y = 700;
  const auto row = [&](const std::string& title, int page, bool indented) {
    const double x = kLeft + (indented ? 18 : 0);
    sheet.text(x, y, 11, title, indented ? Face::regular : Face::bold);
    sheet.text_right(kRight, y, 11, std::to_string(page));
    const double from = x + sheet.text_width(title, 11, indented ? Face::regular : Face::bold) + 6;
    sheet.line(from, y + 1, kRight - 20, y + 1, {.cap = LineCap::round, .dashes = {0, 4}}, kPale);
    sheet.link({x, y - 4, kRight, y + 12}, page - 1);
    y -= 24;
  };
  row("Summary", 3, false);
  row("Condition of the bridges", 4, false);
  int page = 5;
  for (const Bridge& bridge : kBridges) row(bridge.name, page++, true);
  row("Measures and costs", 11, false);
  row("Signatures", 12, false);
  row("Costs and defects", 13, false);
  row("Readings of the round", 14, false);
}

void summary(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Summary", 0);
  letterhead(sheet, "Summary", 3);
  sheet.text(kLeft, 740, 22, "Summary", Face::bold);
  double y = sheet.paragraph(kLeft, 708, kRight - kLeft, 11,
                             "Six footbridges over the Ostrel, the Lesser Ostrel and the Pell were "
                             "inspected on one day. Two are in very good "
                             "condition, two need small repairs with the next painting, one has to "
                             "be looked at by divers, and one was limited "
                             "to ten persons at a time until its hangers have been replaced.");
  y = sheet.paragraph(
      kLeft, y - 8, kRight - kLeft, 11,
      "The share of bridges without urgent defects rose from 58 to 67 percent. The "
      "office asks for 41 300 crowns for "
      "the measures on page 11, two thirds of it for the Quarry suspension bridge.");
  lumvet::Chart chart{.kind = lumvet::Chart::Kind::bars,
                      .title = "Grades by year, number of bridges",
                      .labels = {"2022", "2023", "2024", "2025", "2026"}};
  chart.face = maker.fonts().regular;
  const double counts[4][5] = {{6, 7, 8, 9, 11}, {9, 9, 8, 8, 7}, {8, 7, 7, 6, 5}, {1, 1, 1, 1, 1}};
  const char* names[] = {"1 very good", "2 good", "3 sufficient", "4 limited"};
  for (std::size_t grade = 0; grade < std::size(names); ++grade)
    chart.series.push_back(
        {.name = names[grade], .values = {std::begin(counts[grade]), std::end(counts[grade])}});
  draw(sheet, chart, {kLeft, y - 290, kRight, y - 10});
}

void condition(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Condition of the bridges", 0);
  letterhead(sheet, "Condition of the bridges", 4);
  sheet.text(kLeft, 740, 22, "Condition of the bridges", Face::bold);
  const double columns[] = {kLeft, kLeft + 168, kLeft + 258, kLeft + 318, kLeft + 390};
  const char* heads[] = {"Bridge", "River", "Built", "Length", "Grade"};
  sheet.area({kLeft - 6, 696, kRight + 6, 716}, kInk);
  for (int i = 0; i < 5; ++i) sheet.text(columns[i], 702, 10, heads[i], Face::bold, {1, 1, 1});
  double y = 680;
  bool shaded = false;
  for (const Bridge& bridge : kBridges) {
    if (shaded) sheet.area({kLeft - 6, y - 7, kRight + 6, y + 13}, kSand);
    shaded = !shaded;
    sheet.text(columns[0], y, 10, bridge.name);
    sheet.text(columns[1], y, 10, bridge.river);
    sheet.text(columns[2], y, 10, std::to_string(bridge.built));
    std::string length = std::to_string(static_cast<int>(bridge.length * 10));
    length.insert(length.size() - 1, ".");
    sheet.text_right(columns[3] + 42, y, 10, length + " m");
    for (int dot = 0; dot < 5; ++dot)
      sheet.ellipse({columns[4] + 6 + dot * 13.0, y + 3}, 4, 4, dot < bridge.grade ? kRust : kPale,
                    dot < bridge.grade);
    y -= 20;
  }
  lumvet::Chart chart{.kind = lumvet::Chart::Kind::pie,
                      .title = "Where the 29 defects are, percent",
                      .labels = {"Railings and coating", "Bearings and joints", "Foundations",
                                 "Cables and hangers", "Drainage"},
                      .shows_values = true};
  chart.face = maker.fonts().regular;
  chart.series.push_back({.name = "Defects", .values = {38, 24, 17, 13, 8}});
  draw(sheet, chart, {kLeft, y - 300, kRight, y - 30});
}

void bridge_page(DocumentMaker& maker, const Bridge& bridge, int page, unsigned seed) {
  Sheet& sheet = maker.new_page();
  maker.outline(bridge.name, 1);
  letterhead(sheet, "Condition of the bridges", page);
  sheet.text(kLeft, 740, 20, bridge.name, Face::bold);
  sheet.text(kLeft, 718, 11,
             std::string("over the ") + bridge.river + ", built " + std::to_string(bridge.built),
             Face::regular, kPale);
  const Photo photo = bridge_photo(900, 520, seed);
  const lumvet::Picture picture = lumvet::Picture::of(to_jpeg(photo.rgb, 900, 520, 3, 84)).value();
  const Rect frame{kLeft, 430, kRight, 430 + (kRight - kLeft) * 520 / 900};
  sheet.picture(picture, frame);
  sheet.frame(frame, 0.5, kPale);
  sheet.text(kLeft, 414, 8.5, "View from downstream, 14 October 2026", Face::regular, kPale);
  sheet.text(kLeft, 378, 13, "Findings", Face::bold);
  const double y = sheet.paragraph(kLeft, 358, kRight - kLeft, 11, bridge.finding);
  sheet.text(kLeft, y - 16, 13, "Readings", Face::bold);
  for (int i = 0; i < 4; ++i) {
    const char* names[] = {"Deflection at midspan, mm", "Natural frequency, Hz",
                           "Coating thickness, µm", "Chloride, % of cement"};
    const double value = 0.2 + 0.15 * ((page * 7 + i * 3) % 5);
    const double row = y - 42 - i * 22.0;
    sheet.text(kLeft, row, 10, names[i]);
    sheet.area({kLeft + 190, row - 2, kRight, row + 9}, kSand);
    sheet.area({kLeft + 190, row - 2, kLeft + 190 + (kRight - kLeft - 190) * value, row + 9},
               kRiver);
  }
  // The grade over the photo's corner, half see-through.
  {
    const auto scope = sheet.drawing().scope();
    sheet.drawing().set_opacity(0.72);
    sheet.area({frame.right - 84, frame.top - 34, frame.right, frame.top}, kInk);
  }
  sheet.text_centered(frame.right - 42, frame.top - 22, 13, "Grade " + std::to_string(bridge.grade),
                      Face::bold, {1, 1, 1});
}

struct Measure {
  const char* what;
  const char* short_name;
  const char* until;
  int crowns;
};
constexpr Measure kMeasures[] = {
    {"Quarry suspension bridge: replace three hangers", "Hangers", "30 November", 27400},
    {"Merrow Ford bridge: divers, underpinning plan", "Divers", "15 November", 8200},
    {"Alder Weir footbridge: coating of the handrail", "Coating", "May", 3100},
    {"Hollin Mill crossing: joints, clearance plate", "Joints", "June", 2350},
    {"Tannery steps: lamp 4", "Lamp", "next round", 250}};

void measures(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Measures and costs", 0);
  letterhead(sheet, "Measures and costs", 11);
  sheet.text(kLeft, 740, 22, "Measures and costs", Face::bold);
  double y = 700;
  int sum = 0;
  for (const Measure& row : kMeasures) {
    sheet.text(kLeft, y, 11, row.what);
    sheet.text(kLeft + 300, y, 11, row.until, Face::regular, kPale);
    sheet.text_right(kRight, y, 11, std::to_string(row.crowns));
    sheet.line(kLeft, y - 7, kRight, y - 7, 0.3, kPale);
    sum += row.crowns;
    y -= 24;
  }
  sheet.text(kLeft, y - 4, 11, "Sum, crowns", Face::bold);
  sheet.text_right(kRight, y - 4, 11, std::to_string(sum), Face::bold);
  y -= 60;
  sheet.text(kLeft, y, 13, "When", Face::bold);
  const char* months[] = {"Oct", "Nov", "Dec", "Jan", "Feb", "Mar", "Apr", "May", "Jun"};
  for (int i = 0; i < 9; ++i) {
    const double x = kLeft + 120 + i * 38.0;
    sheet.text_centered(x + 19, y - 24, 9, months[i], Face::regular, kPale);
    sheet.line(x, y - 30, x, y - 160, 0.3, kPale);
  }
  const struct {
    const char* who;
    double from, to;
    Ink ink;
  } bars[] = {{"Hangers", 0.5, 2, kRust},
              {"Divers", 0.8, 1.6, kRiver},
              {"Coating", 6.4, 7.8, kMoss},
              {"Joints", 7.5, 8.8, {0.88, 0.66, 0.28}}};
  for (int i = 0; i < 4; ++i) {
    const double row = y - 58 - i * 28.0;
    sheet.text(kLeft, row, 10, bars[i].who);
    sheet.area({kLeft + 120 + bars[i].from * 38, row - 4, kLeft + 120 + bars[i].to * 38, row + 11},
               bars[i].ink);
  }
}

void signatures(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Signatures", 0);
  letterhead(sheet, "Signatures", 12);
  sheet.text(kLeft, 740, 22, "Signatures", Face::bold);
  sheet.paragraph(kLeft, 706, kRight - kLeft, 11,
                  "We have seen the bridges ourselves, in daylight, from above and from below, and "
                  "report what we have seen.");
  for (int i = 0; i < 2; ++i) {
    const double x = kLeft + i * 240.0;
    sheet.line(x, 560, x + 200, 560, 0.6);
    sheet.text(x, 544, 10, i == 0 ? "Ilse Marren, inspector" : "Tobin Achterhuis, inspector");
    Path hand;
    hand.move_to({x + 12, 572});
    for (int k = 0; k < 7; ++k)
      hand.curve_to({x + 18 + k * 22.0, 606 - (k + i) % 3 * 9.0},
                    {x + 24 + k * 22.0, 556.0 + (k * 5 + i * 3) % 9},
                    {x + 34 + k * 22.0, 572.0 + (k * 7 + i * 5) % 12});
    sheet.stroke(hand, {.width = 1.3, .cap = LineCap::round, .join = LineJoin::round},
                 {0.10, 0.18, 0.50});
  }
  const Seal seal = make_seal(320);
  const lumvet::Picture picture =
      lumvet::Picture::of_rows(seal.rgba, seal.size, seal.size, lumvet::Picture::Pixels::rgba)
          .value();
  const auto scope = sheet.drawing().scope();
  sheet.drawing().transform({0.97, 0.22, -0.22, 0.97, 390, 380});
  sheet.picture(picture, {0, 0, 110, 110});
}

void costs_and_defects(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Costs and defects", 0);
  letterhead(sheet, "Costs and defects", 13);
  sheet.text(kLeft, 740, 22, "Costs and defects", Face::bold);
  lumvet::Chart costs{
      .kind = lumvet::Chart::Kind::bars, .title = "Measures, crowns", .shows_values = true};
  lumvet::Chart shares{.kind = lumvet::Chart::Kind::pie,
                       .title = "Shares of the costs, percent",
                       .shows_values = true};
  costs.face = shares.face = maker.fonts().regular;
  costs.series.push_back({.name = "Crowns"});
  shares.series.push_back({.name = "Percent"});
  double sum = 0;
  for (const Measure& measure : kMeasures) sum += measure.crowns;
  for (const Measure& measure : kMeasures) {
    costs.labels.emplace_back(measure.short_name);
    costs.series[0].values.push_back(measure.crowns);
    shares.labels.emplace_back(measure.short_name);
    shares.series[0].values.push_back(std::round(measure.crowns / sum * 100));
  }
  draw(sheet, costs, {kLeft, 430, kRight, 710});
  draw(sheet, shares, {kLeft, 90, kRight, 400});
}

// Every point of every bridge, as a table over three pages.
void readings(DocumentMaker& maker) {
  const lumvet::TextStyle plain{
      .face = maker.fonts().regular, .size = 9.5, .color = color_of(kInk)};
  lumvet::TextStyle head = plain;
  head.face = maker.fonts().bold;
  head.color = lumvet::Color::gray(1);
  const lumvet::ParagraphStyle right{.align = lumvet::ParagraphStyle::Align::right};
  lumvet::Table table{.columns = {{.share = 2}, {.share = 1}, {.width = 70}, {.width = 80}},
                      .head_rows = 1};
  table.rows.push_back({{{"Bridge", head},
                         {"Point", head},
                         {"Moisture, %", head, right},
                         {"Deflection, mm", head, right}},
                        color_of(kInk)});
  constexpr int kPoints = 17;
  for (const Bridge& bridge : kBridges)
    for (int point = 1; point <= kPoints; ++point) {
      const int number = static_cast<int>(table.rows.size());
      const int deflection = (number * 37 + point * 11) % 90;
      lumvet::TableRow row{
          {{"P " + std::to_string(point), plain},
           {std::to_string(12 + (number * 7) % 9), plain, right},
           {std::to_string(deflection / 10) + "." + std::to_string(deflection % 10), plain,
            right}}};
      if (number % 2 == 0) row.fill = color_of(kSand);
      if (point == 1) {
        lumvet::TableCell name(bridge.name, plain);
        name.rows = kPoints;
        name.fill = lumvet::Color::gray(1);
        row.cells.insert(row.cells.begin(), std::move(name));
      }
      table.rows.push_back(std::move(row));
    }
  lumvet::Flow flow({.paper = {kA4Width, kA4Height},
                     .margins = {kLeft, 80, kLeft, 60},
                     .face = maker.fonts().bold,
                     .heading_size = 22,
                     .heading_color = color_of(kInk)});
  flow.add_heading("Readings of the round");
  flow.add(table);
  const lumvet::Document set = flow.as_document().value();
  for (int i = 0; i < set.page_count(); ++i) {
    const int number = maker.page_count() + 1;
    Sheet& sheet = maker.new_page();
    if (i == 0) maker.outline("Readings of the round", 0);
    sheet.drawing().draw(set.page(i).value(), {0, kA4Height, kA4Width, kA4Height});
    letterhead(sheet, "Readings of the round", number);
  }
}

}  // namespace

lumvet::Status make_report(const Fonts& fonts, const std::filesystem::path& path) {
  DocumentMaker maker(fonts, "Footbridge inspection, autumn round, day 12",
                      "Condition of six footbridges");
  cover(maker);
  contents(maker);
  summary(maker);
  condition(maker);
  int page = 5;
  for (const Bridge& bridge : kBridges) {
    bridge_page(maker, bridge, page, static_cast<unsigned>(page) * 31);
    ++page;
  }
  measures(maker);
  signatures(maker);
  costs_and_defects(maker);
  readings(maker);
  std::string csv = "bridge,river,built,length_m,grade\n";
  for (const Bridge& bridge : kBridges)
    csv += std::string(bridge.name) + "," + bridge.river + "," + std::to_string(bridge.built) +
           "," + std::to_string(bridge.length) + "," + std::to_string(bridge.grade) + "\n";
  maker.attach("readings-day-12.csv", "Readings of day 12 as a table", csv);
  return maker.save(path, lumvet::FileLayout::compact);
}

}  // namespace demo
