// SPDX-License-Identifier: Apache-2.0
// Draws pages on a background thread and hands each to the application as it comes; thumbnails
// meanwhile.
#include <lumvet/render/page_images.h>
#include <lumvet/render/thumbnail.h>

#include <iostream>
#include <numeric>
#include <thread>
#include <vector>

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: 05_pages_on_a_thread FILE\n";
    return 2;
  }
  const auto document = lumvet::Document::open(argv[1]);
  if (!document) {
    std::cerr << document.error().to_string() << '\n';
    return 1;
  }
  std::vector<int> pages(static_cast<std::size_t>(document->page_count()));
  std::iota(pages.begin(), pages.end(), 0);

  const lumvet::CancelToken stop;  // the window's "close" would call stop.cancel()
  lumvet::Status status = lumvet::Done{};
  std::jthread background([&] {
    status = lumvet::render_pages(*document, pages,
                                  {.dpi = 40, .format = lumvet::PixelFormat::gray, .cancel = stop},
                                  [](int page, const lumvet::Raster& raster) {
                                    std::cout << "page " << page + 1 << ": " << raster.width()
                                              << " × " << raster.height() << '\n';
                                    return lumvet::Status(lumvet::Done{});
                                  });
  });
  const auto small = lumvet::thumbnail(document->page(0).value(), {.side = 64});
  background.join();
  if (!status || !small) {
    std::cerr << (status ? small.error() : status.error()).to_string() << '\n';
    return 1;
  }
  std::cout << "thumbnail: " << small->width() << " × " << small->height() << '\n';
}
