// SPDX-License-Identifier: Apache-2.0
// Says what the first page says, and where a document has some words.
#include <lumvet/text/text_search.h>

#include <iostream>
#include <numeric>
#include <string>
#include <vector>

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "usage: 14_find_words INPUT WORDS\n";
    return 2;
  }
  try {  // value() throws what went wrong
    const auto document = lumvet::Document::open(argv[1]).value();
    const auto words = lumvet::PageWords::of(document.page(0).value()).value();
    std::cout << words.text() << '\n';
    std::vector<int> pages(static_cast<std::size_t>(document.page_count()));
    std::iota(pages.begin(), pages.end(), 0);
    const auto search = lumvet::TextSearch::of(argv[2]).value();
    lumvet::find_in(document, pages, search, {},
                    [](const lumvet::PageHits& found) -> lumvet::Status {
                      for (const lumvet::TextSpan& hit : found.hits)
                        for (const lumvet::Quad& quad : found.words.quads(hit.begin, hit.end))
                          std::cout << "page " << found.page + 1 << ", " << quad[0].x
                                    << " points from the left, " << quad[0].y << " down\n";
                      return lumvet::Done{};
                    })
        .value();
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
