// SPDX-License-Identifier: Apache-2.0
// Binds the documents of a folder into one, in natural order, each under an entry of its own.
#include <lumvet/assemble/assembly.h>
#include <lumvet/assemble/inputs.h>

#include <iostream>

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "usage: 06_folder_into_a_book FOLDER OUTPUT\n";
    return 2;
  }
  const auto complain = [](const lumvet::Error& error) {
    std::cerr << error.to_string() << '\n';
    return 1;
  };
  const auto folder = lumvet::list_folder(argv[1]);
  if (!folder) return complain(folder.error());

  lumvet::Assembly book;
  for (const auto& path : folder->documents) {
    const auto chapter = lumvet::Document::open(path);
    if (!chapter) return complain(chapter.error());
    const auto added = book.add(*chapter, {}, {.heading = path.stem().string()});
    if (!added) return complain(added.error());
  }
  const auto saved = book.save(argv[2]);  // an existing file is left alone
  if (!saved) return complain(saved.error());
  std::cout << saved->path.string() << ": " << saved->pages << " pages of "
            << folder->documents.size() << " documents\n";
  for (const auto& note : saved->findings) std::cout << "note: " << note.what << '\n';
}
