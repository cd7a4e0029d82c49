// SPDX-License-Identifier: Apache-2.0
// No document speaks to a terminal in its own signs, and JSON loses nothing by that.
#include "apps/tool/printable.h"

#include <fstream>
#include <nlohmann/json.hpp>

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/run_tool.h"

using test::run;

namespace {

// What would move a cursor, change a color, ring, or turn text around.
bool is_safe(const std::string& text) {
  for (std::size_t i = 0; i < text.size(); ++i) {
    const auto byte = static_cast<unsigned char>(text[i]);
    if ((byte < 0x20 && byte != '\n' && byte != '\t') || byte == 0x7F) return false;
    const auto next = i + 1 < text.size() ? static_cast<unsigned char>(text[i + 1]) : 0;
    if (byte == 0xC2 && next < 0xA0) return false;
    if (text.compare(i, 3, "\u202e") == 0 || text.compare(i, 3, "\u2066") == 0) return false;
  }
  return true;
}

// A color by the one sign that begins such commands, a sign to delete, and one that writes what
// follows from right to left, in UTF-16.
const std::string kHostile =
    "(\\376\\377\\000\\233\\0003\\0001\\000m\\000r\\000\\177\\040\\056\\000g)";

std::string hostile_document() {
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Lang" + kHostile +
                    "/Outlines 20 0 R/Names<</EmbeddedFiles<</Names[" + kHostile +
                    " 22 0 R]>>>>/AcroForm<</Fields[24 0 R]>>>>");
  pdf.object(3,
             "<</Type/Page/Parent 2 0 R/MediaBox[0 0 99 99]/Resources<</Font<</F<</Type/Font"
             "/Subtype/Type1/BaseFont/a#1b#5b31m>>>>>>/Contents 25 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(20, "<</First 21 0 R/Last 21 0 R/Count 1>>");
  pdf.object(21, "<</Title" + kHostile + "/Parent 20 0 R/Dest[3 0 R/Fit]>>");
  pdf.object(22, "<</Type/Filespec/F" + kHostile + "/UF" + kHostile + "/Desc" + kHostile +
                     "/EF<</F 23 0 R>>>>");
  pdf.stream(23, "/Type/EmbeddedFile", "x");
  pdf.object(24, "<</FT/Tx/T" + kHostile + "/V" + kHostile + ">>");
  pdf.stream(25, "", "BT /F 9 Tf (x) Tj ET /a#1b Do \x1b[31m x");
  pdf.object(26, "<</Title" + kHostile + ">>");
  return pdf.finish("/Root 1 0 R/Info 26 0 R");
}

}  // namespace

TEST_CASE("only text is printable, and what is not says which character it was", "[tool]") {
  CHECK(tool::printable("Tägliche Maße\tund\n橋 🚧") == "Tägliche Maße\tund\n橋 🚧");
  CHECK(tool::printable("\x1b[31m") == "\\u001b[31m");
  CHECK(tool::printable(std::string("a\0b", 3)) == "a\\u0000b");
  CHECK(tool::printable("\u009b\u202e\u2028\x7f\r") == "\\u009b\\u202e\\u2028\\u007f\\u000d");
  // Bytes that are no UTF-8: a terminal may take them for control characters.
  CHECK(tool::printable("\x9b"
                        "31m") == "\\u009b31m");
  CHECK(tool::printable("\xC0\x9b\xE2\x80") == "\\u00c0\\u009b\\u00e2\\u0080");
  for (int first = 0; first < 256; ++first)
    for (int second = 0; second < 256; ++second) {
      const std::string text = {static_cast<char>(first), static_cast<char>(second)};
      const std::string shown = tool::printable(text);
      CHECK(is_safe(shown));
      CHECK(tool::printable(shown) == shown);
    }
}

TEST_CASE("no verb prints what a document wants a terminal to do", "[tool]") {
  const test::TemporaryFolder folder;
  std::ofstream(folder / "a.pdf", std::ios::binary) << hostile_document();
  for (const char* arguments :
       {"inspect a.pdf", "inspect a.pdf --json", "inspect a.pdf --tree",
        "inspect a.pdf --object 22", "inspect a.pdf --show fonts,form,outline,attachments",
        "attach a.pdf", "attach a.pdf --extract-to out/", "set a.pdf --title x -o b.pdf",
        "merge a.pdf -o c.pdf", "linearize a.pdf -o d.pdf --json", "repair a.pdf -o e.pdf",
        "split a.pdf -o parts/ --outline 1", "render a.pdf -o a.png",
        "render a.pdf -o b.png --json"}) {
    CAPTURE(arguments);
    const test::Ran ran = run(folder, arguments);
    CHECK(is_safe(ran.out));
    CHECK(is_safe(ran.err));
    CHECK_FALSE((ran.out + ran.err).empty());
  }
  const test::Ran told = run(folder, "inspect a.pdf --json");
  CHECK_THAT(told.out, Catch::Contains("\\u009b"));
  const auto json = nlohmann::json::parse(told.out);
  CHECK(json["outline"][0]["title"] == "\u009b31mr\x7f\u202eg");
}
