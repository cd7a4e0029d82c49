// SPDX-License-Identifier: Apache-2.0
// Makes a document out of images, each on a sheet of A4.
#include <lumvet/compose/image_pages.h>
#include <lumvet/save/save.h>

#include <iostream>

int main(int argc, char** argv) {
  if (argc < 3) {
    std::cerr << "usage: 09_scans_into_a_document OUTPUT IMAGE...\n";
    return 2;
  }
  const auto complain = [](const lumvet::Error& error) {
    std::cerr << error.to_string() << '\n';
    return 1;
  };
  const auto pages = lumvet::pages_of_images({argv + 2, argv + argc},
                                             {.paper = lumvet::PaperSize::parse("A4").value()});
  if (!pages) return complain(pages.error());
  const auto saved = lumvet::save(*pages, argv[1]);  // an existing file is left alone
  if (!saved) return complain(saved.error());
  std::cout << saved->path.string() << ": " << saved->pages << " pages\n";
}
