// SPDX-License-Identifier: Apache-2.0
#include <string>

#include "demo_documents.h"
#include "images.h"

namespace demo {
namespace {

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
    sheet.raw("q 1 J");
    sheet.stroke(wave, 0.8, kRiver);
    sheet.raw("Q");
  }
  Path arch;
  arch.move_to(p(0.10, 0.14));
  arch.curve_to(p(0.30, 0.52), p(0.70, 0.52), p(0.90, 0.14));
  sheet.raw("q 1 J 1 j");
  sheet.stroke(arch, 5, kRust);
  for (int i = 0; i <= 12; ++i) {
    const double u = 0.14 + 0.06 * i;
    const double t = (u - 0.10) / 0.80;
    const double foot = 0.14 + 3 * t * (1 - t) * 0.38;
    if (foot < 0.44) sheet.line(p(u, 0).x, p(0, foot).y, p(u, 0).x, p(0, 0.47).y, 1.6, kRust);
  }
  sheet.raw("Q");
  sheet.area({p(0.02, 0).x, p(0, 0.46).y, p(0.98, 0).x, p(0, 0.50).y}, {0.42, 0.29, 0.20});
  for (int i = 0; i <= 32; ++i)
    sheet.line(p(0.02 + 0.03 * i, 0).x, p(0, 0.50).y, p(0.02 + 0.03 * i, 0).x, p(0, 0.58).y, 0.9,
               kInk);
  sheet.line(p(0.02, 0).x, p(0, 0.58).y, p(0.98, 0).x, p(0, 0.58).y, 1.8, kInk);
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
    sheet.raw("q 1 J [0 4] 0 d");
    sheet.line(from, y + 1, kRight - 20, y + 1, 1, kPale);
    sheet.raw("Q");
    sheet.link({x, y - 4, kRight, y + 12}, page - 1);
    y -= 24;
  };
  row("Summary", 3, false);
  row("Condition of the bridges", 4, false);
  int page = 5;
  for (const Bridge& bridge : kBridges) row(bridge.name, page++, true);
  row("Measures and costs", 11, false);
  row("Signatures", 12, false);
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
  sheet.text(kLeft, y - 20, 13, "Grades by year, number of bridges", Face::bold);
  const double base = y - 250;
  const int counts[5][4] = {{6, 9, 8, 1}, {7, 9, 7, 1}, {8, 8, 7, 1}, {9, 8, 6, 1}, {11, 7, 5, 1}};
  const Ink inks[] = {kMoss, {0.72, 0.74, 0.36}, {0.88, 0.66, 0.28}, kRust};
  for (int line = 0; line <= 12; line += 3) {
    sheet.line(kLeft + 24, base + line * 16, kRight, base + line * 16, 0.4, kPale);
    sheet.text_right(kLeft + 18, base + line * 16 - 3, 8.5, std::to_string(line), Face::regular,
                     kPale);
  }
  for (int year = 0; year < 5; ++year) {
    const double x = kLeft + 40 + year * 84;
    for (int grade = 0; grade < 4; ++grade)
      sheet.area({x + grade * 16.0, base, x + grade * 16.0 + 13, base + counts[year][grade] * 16.0},
                 inks[grade]);
    sheet.text_centered(x + 31, base - 14, 9, std::to_string(2022 + year));
  }
  const char* names[] = {"1 very good", "2 good", "3 sufficient", "4 limited"};
  for (int grade = 0; grade < 4; ++grade) {
    sheet.area({kLeft + 30 + grade * 100.0, base - 40, kLeft + 40 + grade * 100.0, base - 30},
               inks[grade]);
    sheet.text(kLeft + 45 + grade * 100.0, base - 38, 9, names[grade]);
  }
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
  sheet.text(kLeft, y - 30, 13, "Where the defects are", Face::bold);
  const double shares[] = {38, 24, 17, 13, 8};
  const char* names[] = {"Railings and coating", "Bearings and joints", "Foundations",
                         "Cables and hangers", "Drainage"};
  const Ink inks[] = {kRiver, kMoss, {0.88, 0.66, 0.28}, kRust, kPale};
  double from = 90;
  const Point center{kLeft + 110, y - 160};
  for (int i = 0; i < 5; ++i) {
    const double to = from + shares[i] * 3.6;
    sheet.slice(center, 100, from, to, inks[i]);
    from = to;
    const double row = y - 90 - i * 28.0;
    sheet.area({kLeft + 250, row, kLeft + 264, row + 14}, inks[i]);
    sheet.text(kLeft + 274, row + 3, 11, names[i]);
    sheet.text_right(kRight, row + 3, 11, std::to_string(static_cast<int>(shares[i])) + " %",
                     Face::bold);
  }
  sheet.ellipse(center, 46, 46, {1, 1, 1});
  sheet.text_centered(center.x, center.y - 4, 12, "29 defects", Face::bold);
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
  sheet.use("XObject", "Photo",
            maker.add_jpeg(to_jpeg(photo.rgb, 900, 520, 3, 84), 900, 520, false));
  const Rect frame{kLeft, 430, kRight, 430 + (kRight - kLeft) * 520 / 900};
  sheet.image("Photo", frame);
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
  sheet.use("ExtGState", "Faint", lumvet::Dict{{"ca", 0.72}, {"CA", 0.72}});
  sheet.raw("q /Faint gs");
  sheet.area({frame.right - 84, frame.top - 34, frame.right, frame.top}, kInk);
  sheet.raw("Q");
  sheet.text_centered(frame.right - 42, frame.top - 22, 13, "Grade " + std::to_string(bridge.grade),
                      Face::bold, {1, 1, 1});
}

void measures(DocumentMaker& maker) {
  Sheet& sheet = maker.new_page();
  maker.outline("Measures and costs", 0);
  letterhead(sheet, "Measures and costs", 11);
  sheet.text(kLeft, 740, 22, "Measures and costs", Face::bold);
  const struct {
    const char* what;
    const char* until;
    int crowns;
  } rows[] = {{"Quarry suspension bridge: replace three hangers", "30 November", 27400},
              {"Merrow Ford bridge: divers, underpinning plan", "15 November", 8200},
              {"Alder Weir footbridge: coating of the handrail", "May", 3100},
              {"Hollin Mill crossing: joints, clearance plate", "June", 2350},
              {"Tannery steps: lamp 4", "next round", 250}};
  double y = 700;
  int sum = 0;
  for (const auto& row : rows) {
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
    sheet.raw("q 1 J 1 j");
    sheet.stroke(hand, 1.3, {0.10, 0.18, 0.50});
    sheet.raw("Q");
  }
  const Seal seal = make_seal(320);
  sheet.use("XObject", "Seal", maker.add_image(seal.rgb, seal.alpha, seal.size, seal.size));
  sheet.raw("q 0.97 0.22 -0.22 0.97 390 380 cm");
  sheet.image("Seal", {0, 0, 110, 110});
  sheet.raw("Q");
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
  std::string csv = "bridge,river,built,length_m,grade\n";
  for (const Bridge& bridge : kBridges)
    csv += std::string(bridge.name) + "," + bridge.river + "," + std::to_string(bridge.built) +
           "," + std::to_string(bridge.length) + "," + std::to_string(bridge.grade) + "\n";
  maker.attach("readings-day-12.csv", "Readings of day 12 as a table", csv);
  return maker.save(path, lumvet::FileLayout::compact);
}

}  // namespace demo
