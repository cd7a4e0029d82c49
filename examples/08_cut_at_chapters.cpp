// SPDX-License-Identifier: Apache-2.0
// Cuts a document at its chapters, each file called by its number and title.
#include <lumvet/assemble/split.h>

#include <iostream>

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "usage: 08_cut_at_chapters INPUT FOLDER\n";
    return 2;
  }
  const auto complain = [](const lumvet::Error& error) {
    std::cerr << error.to_string() << '\n';
    return 1;
  };
  const auto document = lumvet::Document::open(argv[1]);
  if (!document) return complain(document.error());

  const auto chapters = lumvet::split(*document, lumvet::SplitRule::at_outline(1),
                                      {.folder = argv[2], .names = "{part} {title}"});
  if (!chapters) return complain(chapters.error());
  for (const auto& chapter : *chapters)
    std::cout << chapter.path.filename().string() << ": " << chapter.pages << " pages\n";
}
