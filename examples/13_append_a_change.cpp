// SPDX-License-Identifier: Apache-2.0
// Attaches a file to a document without touching a byte of it: the change is put behind its end.
#include <lumvet/edit/editable_document.h>

#include <fstream>
#include <iostream>
#include <iterator>

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "usage: 13_append_a_change DOCUMENT FILE\n";
    return 2;
  }
  std::ifstream file(argv[2], std::ios::binary);
  try {  // value() throws what went wrong
    lumvet::EditableDocument changes =
        lumvet::EditableDocument::of(lumvet::Document::open(argv[1]).value());
    changes
        .attach({.name = std::filesystem::path(argv[2]).filename().string(),
                 .bytes = lumvet::Bytes(std::istreambuf_iterator<char>(file), {})})
        .value();
    changes.append_to_file().value();
    const auto document = lumvet::Document::open(argv[1]).value();
    std::cout << argv[1] << ": state " << document.revisions().value().size() << ", "
              << document.attachments().value().size() << " attachments\n";
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
