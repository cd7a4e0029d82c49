// SPDX-License-Identifier: Apache-2.0
#include <string>

#include "demo_documents.h"
#include "images.h"

namespace demo {
namespace {

constexpr const char* kParts[] = {"handrail",     "deck board",  "bearing", "hanger",
                                  "anchor block", "abutment",    "drain",   "lamp",
                                  "joint",        "cable clamp", "parapet", "damper"};
constexpr const char* kDeeds[] = {"Inspect", "Clean",   "Tighten", "Measure",
                                  "Paint",   "Replace", "Grease",  "Record"};
constexpr const char* kWhen[] = {"before the spring floods",
                                 "after every frost of more than a week",
                                 "twice a year",
                                 "whenever the bridge was closed",
                                 "after a load test",
                                 "in the first dry week of May"};
constexpr const char* kHow[] = {"with the small gauge",   "from a boat",
                                "in daylight only",       "together with a second person",
                                "with the bridge closed", "from the inspection gangway"};

std::string sentence(unsigned n) {
  return std::string(kDeeds[n % 8]) + " every " + kParts[n / 3 % 12] + " " + kWhen[n / 5 % 6] +
         ", " + kHow[n / 7 % 6] + ", and note the value in column " + std::to_string(n % 9 + 1) +
         " of sheet " + std::to_string(n % 211 + 1) + ".";
}

}  // namespace

lumvet::Status make_manual(const Fonts& fonts, const std::filesystem::path& path, int pages,
                           bool with_photos) {
  DocumentMaker maker(fonts, "Maintenance manual for footbridges",
                      "All bridges of the valley, all parts");
  constexpr int kPagesPerSection = 8;
  constexpr int kSectionsPerChapter = 10;
  for (int page = 0; page < pages; ++page) {
    Sheet& sheet = maker.new_page();
    const int section = page / kPagesPerSection;
    const int chapter = section / kSectionsPerChapter;
    const std::string part = kParts[static_cast<std::size_t>(chapter) % 12];
    const std::string number =
        std::to_string(chapter + 1) + "." + std::to_string(section % kSectionsPerChapter + 1);
    if (page % (kPagesPerSection * kSectionsPerChapter) == 0)
      maker.outline("Chapter " + std::to_string(chapter + 1) + ": the " + part, 0);
    if (page % kPagesPerSection == 0)
      maker.outline(number + " " + kDeeds[static_cast<std::size_t>(section) % 8] + " the " + part,
                    1);
    sheet.text(64, 790, 9, "Maintenance manual – " + number, Face::regular, kPale);
    sheet.text_right(531, 790, 9, std::to_string(page + 1), Face::bold, kPale);
    sheet.line(64, 784, 531, 784, 0.5, kPale);
    double y = 748;
    sheet.text(64, y, 15,
               number + " " + kDeeds[static_cast<std::size_t>(section) % 8] + " the " + part +
                   ", step " + std::to_string(page % kPagesPerSection + 1),
               Face::bold);
    y -= 28;
    for (unsigned paragraph = 0; paragraph < 6; ++paragraph) {
      std::string text;
      for (unsigned i = 0; i < 4; ++i)
        text += sentence(static_cast<unsigned>(page) * 31 + paragraph * 17 + i * 7) + " ";
      y = sheet.paragraph(64, y, 467, 10.5, text) - 6;
    }
    if (page % 5 == 0) {
      for (int bar = 0; bar < 12; ++bar)
        sheet.area({80 + bar * 36.0, 90, 104 + bar * 36.0, 100 + ((page + bar * 29) % 60) * 1.0},
                   bar % 2 == 0 ? kRiver : kMoss);
      sheet.line(70, 90, 520, 90, 0.8);
    }
    if (with_photos && page % 5 % 2 == 1) {
      constexpr int kWidth = 460;
      constexpr int kHeight = 180;
      const Photo photo = bridge_photo(kWidth, kHeight, static_cast<unsigned>(page));
      LUMVET_TRY(const lumvet::Picture picture,
                 lumvet::Picture::of(to_jpeg(photo.rgb, kWidth, kHeight, 3, 78)));
      sheet.picture(picture, {64, 52, 364, 169});
    }
  }
  return maker.save(path, lumvet::FileLayout::compact);
}

}  // namespace demo
