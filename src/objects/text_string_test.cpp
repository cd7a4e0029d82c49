// SPDX-License-Identifier: Apache-2.0
#include "objects/text_string.h"
#include "tests/support/catch.h"

using namespace lumvet::objects;

TEST_CASE("text strings of every encoding become UTF-8", "[objects]") {
  CHECK(text_to_utf8("Caf\xE9 \x80 \x9E") == "Café • ž");
  CHECK(text_to_utf8(std::string_view("\xFE\xFF\x00G\xD8\x3C\xDF\x09", 8)) == "G🌉");
  CHECK(text_to_utf8(std::string_view("\xFF\xFEG\x00", 4)) == "G");
  CHECK(text_to_utf8("\xEF\xBB\xBFß") == "ß");
  CHECK(text_to_utf8(std::string_view("\xFE\xFF\x00\x1B\x00"
                                      "e\x00n\x00\x1B\x00X",
                                      12)) == "X");
}

TEST_CASE("UTF-8 becomes the plainest text string and comes back", "[objects]") {
  for (const std::string text : {"plain", "Café – “ok”", "Łódź", "橋の点検", "G🌉", ""}) {
    CAPTURE(text);
    CHECK(text_to_utf8(utf8_to_text(text)) == text);
  }
  CHECK(utf8_to_text("é") == "\xE9");
  CHECK(utf8_to_text("橋").substr(0, 2) == "\xFE\xFF");
}

TEST_CASE("dates read as a person writes them", "[objects]") {
  CHECK(date_for_people("D:20261123074000+01'00'") == "2026-11-23 07:40:00 +01:00");
  CHECK(date_for_people("D:20261123074000Z") == "2026-11-23 07:40:00 UTC");
  CHECK(date_for_people("20261123074000-0530") == "2026-11-23 07:40:00 -05:30");
  CHECK(date_for_people("D:2026") == "2026");
  CHECK(date_for_people("D:202611") == "2026-11");
  CHECK(date_for_people("D:2026112307") == "2026-11-23 07:00");
  CHECK_FALSE(date_for_people("last Tuesday"));
}
