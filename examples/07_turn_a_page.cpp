// SPDX-License-Identifier: Apache-2.0
// Turns one page to the right.
#include <lumvet/assemble/arrangement.h>

#include <iostream>
#include <string>

int main(int argc, char** argv) {
  if (argc != 4) {
    std::cerr << "usage: 07_turn_a_page INPUT PAGE OUTPUT\n";
    return 2;
  }
  try {  // value() throws what went wrong
    lumvet::Arrangement pages(lumvet::Document::open(argv[1]).value());
    pages.turn(lumvet::PageSelection::parse(argv[2]).value(), 90).value();
    const auto saved = pages.save(argv[3]).value();
    std::cout << saved.path.string() << ": page " << argv[2] << " of " << saved.pages
              << " turned\n";
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
