// SPDX-License-Identifier: Apache-2.0
// Opens a document and tells what is in it.
#include <lumvet/document/document.h>

#include <cmath>
#include <iostream>

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: 01_open_and_list FILE\n";
    return 2;
  }
  const auto document = lumvet::Document::open(argv[1]);
  if (!document) {
    std::cerr << document.error().to_string() << '\n';
    return 1;
  }
  std::cout << document->info().value().title << ": " << document->page_count() << " pages\n";
  for (int i = 0; i < document->page_count(); ++i) {
    const auto page = document->page(i);
    if (!page) continue;
    const auto mm = [](double points) { return std::lround(points * 25.4 / 72); };
    std::cout << "  page " << i + 1 << ": " << mm(page->width()) << " x " << mm(page->height())
              << " mm\n";
  }
  for (const lumvet::OutlineEntry& entry : document->outline().value())
    std::cout << "  " << std::string(static_cast<std::size_t>(entry.depth) * 2, ' ') << entry.title
              << '\n';
  for (const lumvet::FontUse& font : document->fonts().value())
    std::cout << "  font " << font.name << ", " << font.kind
              << (font.embedded ? ", embedded\n" : "\n");
  for (const lumvet::Finding& finding : document->findings())
    std::cout << "  note: " << finding.to_string() << '\n';
}
