// SPDX-License-Identifier: Apache-2.0
// Binds all pages of one document and the last page of another into a new one.
#include <lumvet/assemble/assembly.h>

#include <iostream>

int main(int argc, char** argv) {
  if (argc != 4) {
    std::cerr << "usage: 03_bind_two_files FIRST SECOND OUTPUT\n";
    return 2;
  }
  const auto complain = [](const lumvet::Error& error) {
    std::cerr << error.to_string() << '\n';
    return 1;
  };
  const auto first = lumvet::Document::open(argv[1]);
  if (!first) return complain(first.error());
  const auto second = lumvet::Document::open(argv[2]);
  if (!second) return complain(second.error());

  lumvet::Assembly book;
  if (const auto added = book.add(*first); !added) return complain(added.error());
  const auto last = lumvet::PageSelection::parse("last");
  if (const auto added = book.add(*second, *last, {.outlines = false}); !added)
    return complain(added.error());

  const auto saved = book.save(argv[3]);  // an existing file is left alone
  if (!saved) return complain(saved.error());
  std::cout << saved->path.string() << ": " << saved->pages << " pages\n";
}
