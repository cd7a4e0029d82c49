// SPDX-License-Identifier: Apache-2.0
// Rotates one page to the right.
#include <lumvet/edit/editable_document.h>

#include <iostream>
#include <string>

int main(int argc, char** argv) {
  if (argc != 4) {
    std::cerr << "usage: 07_rotate_a_page INPUT PAGE OUTPUT\n";
    return 2;
  }
  try {  // value() throws what went wrong
    const auto document = lumvet::Document::open(argv[1]).value();
    auto pages = lumvet::EditableDocument::of(document);
    pages.rotate(lumvet::PageSelection::parse(argv[2]).value(), 90).value();
    const auto saved = pages.save(argv[3]).value();
    std::cout << saved.path.string() << ": page " << argv[2] << " of " << saved.pages
              << " rotated\n";
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
