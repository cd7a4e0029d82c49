// SPDX-License-Identifier: Apache-2.0
// A page of a document in a drawing of one's own, with a frame and a note.
#include <lumvet/draw/new_document.h>

#include <iostream>

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "usage: 18_page_in_a_drawing INPUT OUTPUT\n";
    return 2;
  }
  try {  // value() throws what went wrong
    const auto document = lumvet::Document::open(argv[1]).value();
    lumvet::NewDocument sheet({.title = "Seen"});
    lumvet::Drawing& page = sheet.add_page(lumvet::PaperSize::parse("A4").value());
    const lumvet::PageArea area{60, 100, 475, 640};
    // Upright as it is shown, however it is turned.
    page.draw(document.page(0).value(), area);
    page.stroke(lumvet::rounded_box(area, 8), lumvet::Color::gray(0.5));
    {
      const auto scope = page.scope();  // the turn ends with it
      page.move(460, 90);
      page.turn(-8);
      page.write("seen", {0, 0}, {.size = 30, .color = lumvet::Color::parse("#B8552A").value()});
    }
    std::cout << sheet.save(argv[2]).value().pages << " page\n";
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
