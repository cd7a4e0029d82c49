// SPDX-License-Identifier: Apache-2.0
// Saves a document so that its first page shows at once, and tells how both load over a slow link.
#include <lumvet/linear/loading.h>
#include <lumvet/save/save.h>

#include <iostream>

namespace {

void tell(const char* name, const lumvet::Document& document) {
  const auto report =
      lumvet::loading_of(document, {.pages = {0}, .connection = {.round_trip = 80, .speed = 4}})
          .value();
  const lumvet::PageLoading& first = report.pages.front();
  std::cout << name << ": page 1 after " << first.fetches.size() << " requests and "
            << first.bytes / 1000 << " kB, " << first.seconds << " s\n";
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "usage: 11_for_the_web INPUT OUTPUT\n";
    return 2;
  }
  try {  // value() throws what went wrong
    const auto document = lumvet::Document::open(argv[1]).value();
    lumvet::save(document, argv[2], {.layout = lumvet::FileLayout::linearized}).value();
    tell("before", document);
    tell("after", lumvet::Document::open(argv[2]).value());
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
