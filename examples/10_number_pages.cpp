// SPDX-License-Identifier: Apache-2.0
// Writes page numbers onto all pages but the first, and DRAFT across each, two on a sheet.
#include <lumvet/compose/page_text.h>
#include <lumvet/compose/sheets.h>

#include <iostream>

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "usage: 10_number_pages INPUT OUTPUT\n";
    return 2;
  }
  try {  // value() throws what went wrong
    const auto document = lumvet::Document::open(argv[1]).value();
    auto pages = lumvet::EditableDocument::of(document);
    lumvet::write_on_pages(pages, lumvet::PageSelection::parse("2-").value(),
                           {.text = "{page} of {pages}", .size = 9})
        .value();
    lumvet::write_on_pages(
        pages, {},
        {.text = "DRAFT", .anchor = lumvet::Anchor::center, .opacity = 0.15, .degrees = 45})
        .value();
    const lumvet::SheetLayout two{.columns = 2, .rows = 1, .framed = true};
    const auto saved =
        lumvet::SheetPlan::of(pages.now().value(), two).value().save(argv[2]).value();
    std::cout << saved.path.string() << ": " << saved.pages << " sheets\n";
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
