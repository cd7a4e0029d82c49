// SPDX-License-Identifier: Apache-2.0
#include <fstream>
#include <string>

#include "demo_documents.h"
#include "images.h"
#include "lumvet/render/render.h"

namespace demo {
namespace {

using lumvet::Path;

// A form filled in by hand, as a vector page; it is scanned afterwards.
void write_sheet(Sheet& sheet, const Bridge& bridge, int number) {
  sheet.text(60, 770, 18, "Inspection sheet", Face::bold);
  sheet.text_right(535, 770, 14, "No. " + std::to_string(number), Face::bold, kRust);
  sheet.frame({50, 60, 545, 755}, 1.2);
  const char* rows[] = {"Bridge", "River",      "Railing",  "Deck",   "Bearings",
                        "Joints", "Foundation", "Drainage", "Remarks"};
  for (int i = 0; i < 9; ++i) {
    const double y = 725 - i * 62.0;
    sheet.text(60, y, 10, rows[i], Face::bold, kPale);
    if (i > 0) sheet.line(50, y + 22, 545, y + 22, 0.5);
    if (i >= 2 && i <= 7) {
      for (int box = 0; box < 5; ++box) {
        const lumvet::Rect rect{170 + box * 44.0, y - 16, 186 + box * 44.0, y};
        sheet.frame(rect, 0.7);
        sheet.text(rect.right + 4, y - 13, 9, std::to_string(box + 1), Face::regular, kPale);
        if ((number * 5 + i * 3) % 5 != box) continue;
        const lumvet::StrokeStyle pen{.width = 2, .cap = lumvet::LineCap::round};
        sheet.line(rect.left - 2, rect.bottom - 2, rect.right + 3, rect.top + 3, pen,
                   {0.10, 0.15, 0.45});
        sheet.line(rect.left - 1, rect.top + 2, rect.right + 2, rect.bottom - 2, pen,
                   {0.10, 0.15, 0.45});
      }
    }
  }
  sheet.text(170, 722, 15, bridge.name, Face::regular, {0.10, 0.15, 0.45});
  sheet.text(170, 660, 15, bridge.river, Face::regular, {0.10, 0.15, 0.45});
  sheet.paragraph(170, 224, 350, 12, bridge.finding, {0.10, 0.15, 0.45});
}

lumvet::Status make_scan(const Fonts& fonts, const std::filesystem::path& path, int number) {
  const Bridge& bridge = kBridges[static_cast<std::size_t>(number) % std::size(kBridges)];
  lumvet::Drawing drawing(kA4Width, kA4Height, lumvet::Drawing::Space::upward);
  Sheet original(fonts, drawing);
  write_sheet(original, bridge, number);
  LUMVET_TRY(const lumvet::Document drawn, original.drawing().as_document());
  LUMVET_TRY(const lumvet::Page page, drawn.page(0));
  LUMVET_TRY(const lumvet::Raster raster, lumvet::render(page, {.dpi = 150}));
  const double tilt = (number * 37 % 11 - 5) * 0.12;
  const lumvet::Bytes gray = scanned_gray(raster, tilt, static_cast<unsigned>(number));
  DocumentMaker scan(fonts, "Inspection sheet " + std::to_string(number),
                     "Scan of 14 October 2026");
  Sheet& sheet = scan.new_page();
  LUMVET_TRY(const lumvet::Picture picture,
             lumvet::Picture::of(to_jpeg(gray, raster.width(), raster.height(), 1, 62)));
  // Sheet 7 went through the scanner the wrong way round.
  sheet.rotate = number == 7 ? 180 : 0;
  sheet.picture(picture, {0, 0, kA4Width, kA4Height});
  return scan.save(path,
                   number % 2 == 0 ? lumvet::FileLayout::classic : lumvet::FileLayout::compact);
}

}  // namespace

lumvet::Status make_scans(const Fonts& fonts, const std::filesystem::path& folder) {
  std::filesystem::create_directories(folder);
  for (int number = 1; number <= 11; ++number)
    LUMVET_RETURN_IF_ERROR(
        make_scan(fonts, folder / ("sheet " + std::to_string(number) + ".pdf"), number));
  std::ofstream(folder / "notes.txt")
      << "Sheet 7 is upside down. Sheets 10 and 11 belong to the afternoon.\n";
  return lumvet::Done{};
}

}  // namespace demo
