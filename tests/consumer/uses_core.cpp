// SPDX-License-Identifier: Apache-2.0
#include <lumvet/assemble/assembly.h>

#include <iostream>

int main(int argc, char** argv) {
  if (argc != 2) return 2;
  const auto document = lumvet::Document::open(argv[1]);
  if (!document.ok()) return 1;
  lumvet::Assembly book;
  if (!book.add(*document).ok()) return 1;
  std::cout << book.page_count() << " page\n";
}
