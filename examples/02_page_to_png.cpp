// SPDX-License-Identifier: Apache-2.0
// Draws one page at 150 dots to the inch and writes it as a PNG image.
#include <lumvet/render/render.h>

#include <cstdlib>
#include <iostream>

int main(int argc, char** argv) {
  if (argc != 4) {
    std::cerr << "usage: 02_page_to_png FILE PAGE PNG\n";
    return 2;
  }
  try {
    const lumvet::Document document = lumvet::Document::open(argv[1]).value();
    const lumvet::Page page = document.page(std::atoi(argv[2]) - 1).value();
    const lumvet::Raster sheet = lumvet::render(page, {.dpi = 150}).value();
    sheet.write_png(argv[3]).value();
    std::cout << argv[3] << ": " << sheet.width() << " x " << sheet.height() << " pixels\n";
  } catch (const lumvet::ResultError&
               error) {  // value() throws it; ask ok() first if you would rather not
    std::cerr << error.what() << '\n';
    return 1;
  }
}
