// SPDX-License-Identifier: Apache-2.0
#include <lumvet/lumvet.h>

#include <iostream>

int main(int argc, char** argv) {
  if (argc != 2) return 2;
  const auto document = lumvet::Document::open(argv[1]);
  if (!document) return 1;
  const auto sheet = lumvet::render(document->page(0).value(), {.dpi = 20});
  if (!sheet) return 1;
  std::cout << document->page_count() << " page, " << sheet->width() << " pixels wide\n";
}
