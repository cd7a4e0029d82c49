// SPDX-License-Identifier: Apache-2.0
// Documents made of a small grammar of objects, which name one another as they like: whatever is
// shared, nested or led round in a circle, every public call answers.
#include <array>
#include <string>
#include <string_view>

#include "fuzz/small_limits.h"
#include "lumvet/lumvet.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/public_calls.h"

using namespace lumvet;

namespace {

constexpr std::string_view kCatalogKeys[] = {"PageLabels",
                                             "Names",
                                             "Dests",
                                             "Outlines",
                                             "OpenAction",
                                             "AcroForm",
                                             "StructTreeRoot",
                                             "MarkInfo",
                                             "OCProperties",
                                             "ViewerPreferences",
                                             "AA",
                                             "OutputIntents",
                                             "AF",
                                             "Extensions",
                                             "Metadata",
                                             "Lang",
                                             "URI",
                                             "Threads",
                                             "Collection",
                                             "PageMode",
                                             "Requirements"};
constexpr std::string_view kPageKeys[] = {
    "Annots", "MediaBox",      "Rotate", "Group",         "AA",    "Thumb",    "B", "Tabs",
    "AF",     "StructParents", "VP",     "OutputIntents", "Trans", "Resources"};
constexpr std::string_view kKeys[] = {"Kids",
                                      "Nums",
                                      "Names",
                                      "Limits",
                                      "Dests",
                                      "EmbeddedFiles",
                                      "JavaScript",
                                      "First",
                                      "Next",
                                      "Last",
                                      "Title",
                                      "Dest",
                                      "A",
                                      "S",
                                      "D",
                                      "Fields",
                                      "T",
                                      "FT",
                                      "V",
                                      "DV",
                                      "Opt",
                                      "DA",
                                      "K",
                                      "P",
                                      "Pg",
                                      "ParentTree",
                                      "RoleMap",
                                      "ClassMap",
                                      "OCGs",
                                      "Order",
                                      "ON",
                                      "OFF",
                                      "AS",
                                      "VE",
                                      "Type",
                                      "Subtype",
                                      "Rect",
                                      "AP",
                                      "N",
                                      "Resources",
                                      "XObject",
                                      "Font",
                                      "Pattern",
                                      "Shading",
                                      "ExtGState",
                                      "ColorSpace",
                                      "Properties",
                                      "SMask",
                                      "G",
                                      "TR",
                                      "BC",
                                      "Group",
                                      "CS",
                                      "BBox",
                                      "Matrix",
                                      "XStep",
                                      "YStep",
                                      "PatternType",
                                      "PaintType",
                                      "ShadingType",
                                      "Coords",
                                      "Function",
                                      "Functions",
                                      "FunctionType",
                                      "Domain",
                                      "Range",
                                      "Bounds",
                                      "Encode",
                                      "C0",
                                      "C1",
                                      "Size",
                                      "BitsPerSample",
                                      "Decode",
                                      "Filter",
                                      "DecodeParms",
                                      "Width",
                                      "Height",
                                      "BitsPerComponent",
                                      "ImageMask",
                                      "Mask",
                                      "Encoding",
                                      "Differences",
                                      "CharProcs",
                                      "FontMatrix",
                                      "Widths",
                                      "FirstChar",
                                      "DescendantFonts",
                                      "W",
                                      "ToUnicode",
                                      "CIDToGIDMap",
                                      "F",
                                      "EF",
                                      "Count",
                                      "Parent",
                                      "Contents",
                                      "JS",
                                      "R",
                                      "I",
                                      "Measure",
                                      "X",
                                      "Y",
                                      "GPTS",
                                      "LPTS",
                                      "GCS",
                                      "O",
                                      "C",
                                      "AF",
                                      "VP"};
constexpr std::string_view kNames[] = {"Page",       "Pages",       "Form",       "Image",
                                       "Type0",      "Type1",       "Type3",      "TrueType",
                                       "Widget",     "Link",        "Stamp",      "Text",
                                       "OCG",        "OCMD",        "Or",         "And",
                                       "Not",        "Tx",          "Btn",        "Ch",
                                       "Sig",        "JavaScript",  "GoTo",       "URI",
                                       "Named",      "Luminosity",  "Alpha",      "Transparency",
                                       "DeviceGray", "DeviceRGB",   "DeviceCMYK", "Indexed",
                                       "Separation", "DeviceN",     "ICCBased",   "Pattern",
                                       "Identity-H", "FlateDecode", "LZWDecode",  "ASCIIHexDecode",
                                       "DCTDecode",  "a",           "A",          "B",
                                       "Sect",       "MCR",         "OBJR",       "D"};
constexpr std::string_view kContents[] = {"/A Do /B Do",
                                          "/A gs /B gs 0 0 9 9 re f",
                                          "/Pattern cs /A scn 0 0 50 50 re f",
                                          "/A sh /B sh",
                                          "/A cs 0 sc 0 0 9 9 re f",
                                          "BT /A 9 Tf (aab) Tj /B 3 Tf (a) Tj ET",
                                          "/A /B BDC 0 0 9 9 re f EMC",
                                          "q [1 2 3] 7 d 0 0 m 50 50 l S Q",
                                          "{ dup mul exch }",
                                          "1 0 d0 0 0 1 1 re f"};

class Maker {
 public:
  Maker(const std::uint8_t* data, std::size_t size) : at_(data), end_(data + size) {}

  std::string document() {
    constexpr unsigned kMostObjects = 24;
    objects_ = 1 + next() % kMostObjects;
    test::PdfBuilder pdf;
    pdf.object(1, "<</Type/Catalog/Pages " + (next() % 4 == 0 ? value(3) : "2 0 R") +
                      entries(kCatalogKeys, 4) + ">>");
    pdf.object(2, "<</Type/Pages/Count 1/Kids " + (next() % 4 == 0 ? value(3) : "[3 0 R]") + ">>");
    pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 50 50]/Contents 4 0 R/Resources " +
                      value(4) + entries(kPageKeys, 3) + ">>");
    pdf.stream(4, "", one_of(kContents));
    for (unsigned i = 0; i < objects_; ++i) {
      const int number = static_cast<int>(kFirst + i);
      if (next() % 3 == 0)
        pdf.stream(number, entries(kKeys, 6), one_of(kContents));
      else
        pdf.object(number, value(4));
    }
    return pdf.finish();
  }

 private:
  static constexpr unsigned kFirst = 10;

  unsigned next() { return at_ == end_ ? 0 : *at_++; }

  template <std::size_t Count>
  std::string one_of(const std::string_view (&list)[Count]) {
    return std::string(list[next() % Count]);
  }
  template <std::size_t Count>
  std::string entries(const std::string_view (&keys)[Count], unsigned most) {
    std::string text;
    for (unsigned count = next() % (most + 1); count > 0; --count) {
      text += "/" + one_of(keys) + " ";
      text += value(3);
    }
    return text;
  }

  std::string value(int levels) {
    constexpr unsigned kKinds = 9;
    switch (levels == 0 ? next() % 4 : next() % kKinds) {
      case 0: return std::to_string(kFirst + next() % objects_) + " 0 R";
      case 1: return std::to_string(static_cast<int>(next()) - 5);
      case 2: return "/" + one_of(kNames);
      case 3: return next() % 2 == 0 ? "(a)" : "3 0 R";
      case 4: {  // the same several times
        const unsigned times = 1 + next() % 4;
        const std::string item = value(levels - 1);
        std::string list = "[";
        for (unsigned i = 0; i < times; ++i) list += item + " ";
        return list + "]";
      }
      case 5: {
        std::string list = "[";
        for (unsigned count = next() % 5; count > 0; --count) list += value(levels - 1) + " ";
        return list + "]";
      }
      case 6: return "[0 0 50 50]";
      default: {
        std::string dict = "<<";
        for (unsigned count = next() % 5; count > 0; --count) {
          dict += "/" + one_of(kKeys) + " ";
          dict += value(levels - 1);
        }
        return dict + ">>";
      }
    }
  }

  const std::uint8_t* at_;
  const std::uint8_t* end_;
  unsigned objects_ = 1;
};

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const std::string text = Maker(data, size).document();
  const auto document =
      Document::open(Bytes(text.begin(), text.end()), {.limits = fuzz::kSmallLimits});
  if (!document.ok() || document->page_count() > 50) return 0;
  static const std::array kCalls = {test::calls::of_documents(), test::calls::of_all_pages(),
                                    test::calls::of_saves()};
  for (const auto& calls : kCalls)
    for (const test::Call& call : calls) {
      const auto answer = call.answer(*document);
      if (!answer.ok() && answer.error().message().empty()) __builtin_trap();
    }
  return 0;
}
