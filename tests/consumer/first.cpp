// SPDX-License-Identifier: Apache-2.0
// The first program of the README.
#include <lumvet/lumvet.h>

int main() {
  const auto report = lumvet::Document::open("report.pdf").value();  // throws what went wrong
  const auto sheet = lumvet::render(report.page(0).value(), {.dpi = 150}).value();
  sheet.write_png("report-1.png").value();

  lumvet::Assembly book;
  book.add(report).value();
  book.save("book.pdf").value();  // replaces no file unless told to

  auto edited = lumvet::EditableDocument::of(report);
  edited.rotate(lumvet::PageSelection::parse("3").value(), 90).value();
  edited.save_appended("report-2.pdf").value();  // the same bytes, and some hundred more
}
