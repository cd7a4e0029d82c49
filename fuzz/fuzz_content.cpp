// SPDX-License-Identifier: Apache-2.0
// Any bytes as the content of a page with fonts, images, forms, patterns, shadings, masks and
// layers at hand, and as the numbers of its meshes: no crash, no hang.
#include "fuzz/small_limits.h"
#include "lumvet/lumvet.h"

namespace {

std::string page_around(const std::uint8_t* data, std::size_t size) {
  std::string pdf = "%PDF-1.7\n";
  std::string table;
  int number = 0;
  const auto object = [&](const std::string& body) {
    char row[24];
    std::snprintf(row, sizeof row, "%010zu 00000 n \n", pdf.size());
    table += row;
    pdf += std::to_string(++number) + " 0 obj\n" + body + "\nendobj\n";
  };
  object("<</Type/Catalog/Pages 2 0 R>>");
  object("<</Type/Pages/Kids[3 0 R]/Count 1>>");
  object("<</Type/Page/Parent 2 0 R/MediaBox[0 0 50 50]/Contents 4 0 R/Resources 5 0 R>>");
  object("<</Length " + std::to_string(size) + ">>\nstream\n" +
         std::string(reinterpret_cast<const char*>(data), size) + "\nendstream");
  object(
      "<</Font<</F<</Subtype/Type1/BaseFont/Helvetica>>/T 8 0 R>>/XObject<</I 6 0 R/X 7 0 "
      "R>>/ExtGState<</G<</ca 0.5/LW 3>>/B<</BM/Multiply>>/L<</BM/Hue>>"
      "/M<</SMask<</S/Luminosity/G 7 0 R/BC[1]>>>>/A<</SMask<</S/Alpha/G 7 0 R>>>>>>"
      "/Pattern<</P 9 0 R/Q<</PatternType 2/Shading 10 0 R>>>>"
      "/Shading<</A 10 0 R/R 11 0 R/T 12 0 R/C 13 0 R>>/Properties<</O 14 0 R>>"
      "/ColorSpace<</S[/Separation/Ink/DeviceCMYK<</FunctionType 2/Domain[0 1]/C0[0 0 0 0]/C1[0 1 "
      "1 0]/N 1>>]>>>>");
  object(
      "<</Subtype/Image/Width 2/Height 2/ColorSpace/DeviceGray/BitsPerComponent 8/Length "
      "4>>\nstream\nabcd\nendstream");
  object(
      "<</Subtype/Form/BBox[0 0 9 9]/Group<</S/Transparency>>/Length 12>>\nstream\n0 0 5 5 re "
      "f\nendstream");
  object(
      "<</Subtype/Type3/FontMatrix[.1 0 0 .1 0 0]/FirstChar "
      "97/Widths[10]/Encoding<</Differences[97/a]>>/CharProcs<</a 7 0 R>>>>");
  object(
      "<</PatternType 1/PaintType 1/TilingType 1/BBox[0 0 5 5]/XStep 4/YStep 6/Resources 5 0 "
      "R/Length 12>>\nstream\n0 0 2 2 re f\nendstream");
  const std::string ramp = "/Function<</FunctionType 2/N 1/C0[1 0 0]/C1[0 0 1]/Domain[0 1]>>";
  object("<</ShadingType 2/ColorSpace/DeviceRGB/Coords[0 0 50 9]/Extend[true false]" + ramp + ">>");
  object("<</ShadingType 3/ColorSpace/DeviceRGB/Coords[9 9 3 30 20 20]/Extend[false true]" + ramp +
         ">>");
  const std::string data_as_mesh =
      "/ColorSpace/DeviceRGB/BitsPerCoordinate 8/BitsPerComponent 4/BitsPerFlag 2"
      "/Decode[0 50 0 50 0 1 0 1 0 1]/Length " +
      std::to_string(size) + ">>\nstream\n" +
      std::string(reinterpret_cast<const char*>(data), size) + "\nendstream";
  object("<</ShadingType 4" + data_as_mesh);
  object("<</ShadingType 7" + data_as_mesh);
  object("<</Type/OCMD/OCGs 14 0 R/VE[/Not 14 0 R]>>");
  const std::size_t start = pdf.size();
  return pdf + "xref\n0 15\n0000000000 65535 f \n" + table +
         "trailer\n<</Root 1 0 R/Size 15>>\nstartxref\n" + std::to_string(start) + "\n%%EOF";
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const std::string pdf = page_around(data, size);
  const auto document =
      lumvet::Document::open(lumvet::Bytes(pdf.begin(), pdf.end()), {.limits = fuzz::kSmallLimits});
  if (!document.ok()) __builtin_trap();
  static_cast<void>(lumvet::render(document->page(0).value(),
                                   {.dpi = 72, .threads = 1, .limits = fuzz::kSmallLimits}));
  static_cast<void>(lumvet::text_of(document->page(0).value()));
  return 0;
}
