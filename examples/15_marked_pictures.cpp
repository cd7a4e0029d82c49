// SPDX-License-Identifier: Apache-2.0
// Draws the pages on which some words are, marked, and each place by itself.
#include <lumvet/render/highlight.h>
#include <lumvet/text/document_search.h>

#include <iostream>
#include <string>

int main(int argc, char** argv) {
  if (argc != 4) {
    std::cerr << "usage: 15_marked_pictures INPUT WORDS FOLDER\n";
    return 2;
  }
  try {  // value() throws what went wrong
    const std::string folder = std::string(argv[3]) + "/";
    const auto document = lumvet::Document::open(argv[1]).value();
    lumvet::DocumentSearch search({document}, lumvet::TextSearch::of(argv[2]).value());
    const auto draw = [&](const lumvet::DocumentHits& found) -> lumvet::Status {
      const lumvet::PageHits& page = found.page;
      const std::string number = std::to_string(page.page + 1);
      const auto scene = lumvet::Scene::record(document.page(page.page).value()).value();
      auto sheet = lumvet::render(scene, {.dpi = 144}).value();
      int place = 0;
      for (const lumvet::TextSpan& hit : page.hits) {
        const auto quads = page.words.quads(hit.begin, hit.end);
        const std::string name = folder + number + "-" + std::to_string(++place) + ".png";
        lumvet::picture_of(scene, quads, {.dpi = 144})->write_png(name).value();
        lumvet::highlight(sheet, quads, {.scale = 2}).value();
      }
      std::cout << "page " << number << ": " << place << " times\n";
      return sheet.write_png(folder + number + ".png");
    };
    search.go_on(draw).value();
    for (const lumvet::UnreadPage& page : search.unread())
      std::cerr << "page " << page.page + 1 << ": " << page.error.message() << '\n';
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
