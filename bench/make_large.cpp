// SPDX-License-Identifier: Apache-2.0
// make-large FILE: a document of 300 MB, each of its 300 pages with an image that does not pack.
#include <fstream>
#include <iostream>
#include <random>

#include "tests/support/pdf_builder.h"

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: make-large FILE\n";
    return 2;
  }
  constexpr int kPages = 300;
  constexpr std::size_t kImage = 1'000'000;  // bytes
  std::mt19937_64 random(1);
  test::PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < kPages; ++i) {
    const int number = 10 + 3 * i;
    kids += std::to_string(number) + " 0 R ";
    pdf.object(number, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 595 842]/Contents " +
                           std::to_string(number + 1) + " 0 R/Resources<</XObject<</P " +
                           std::to_string(number + 2) + " 0 R>>>>>>");
    pdf.stream(number + 1, "", "q 500 0 0 700 40 70 cm /P Do Q");
    std::string image(kImage, '\0');
    for (char& byte : image) byte = static_cast<char>(random());
    pdf.stream(number + 2,
               "/Type/XObject/Subtype/Image/Width 1000/Height 1000/ColorSpace/DeviceGray"
               "/BitsPerComponent 8",
               image);
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(kPages) + ">>");
  std::ofstream(argv[1], std::ios::binary) << pdf.finish();
  return 0;
}
