// SPDX-License-Identifier: Apache-2.0
// Draws the part of a page that is on screen into pixels that belong to the application: here a
// window of 320 by 240, blue first, as many windowing systems want it.
#include <lumvet/render/render.h>

#include <iostream>
#include <vector>

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: 04_into_your_own_buffer FILE\n";
    return 2;
  }
  const auto document = lumvet::Document::open(argv[1]);
  if (!document) {
    std::cerr << document.error().to_string() << '\n';
    return 1;
  }
  // Recorded once; drawing it again while the reader zooms and pans interprets nothing.
  const lumvet::Scene scene = lumvet::Scene::record(document->page(0).value()).value();

  constexpr int kWidth = 320;
  constexpr int kHeight = 240;
  std::vector<std::uint8_t> pixels(kWidth * kHeight * 4);
  const lumvet::PixelBuffer window{pixels.data(), kWidth, kHeight, kWidth * 4,
                                   lumvet::PixelFormat::bgra};
  for (const double scale : {0.5, 1.0, 2.0}) {
    const auto drawn = lumvet::render_into(scene, window, {.scale = scale, .x = 10, .y = 10});
    if (!drawn) {
      std::cerr << drawn.error().to_string() << '\n';
      return 1;
    }
    int marked = 0;
    for (std::size_t i = 0; i < pixels.size(); i += 4)
      marked += pixels[i] != 255 || pixels[i + 1] != 255 || pixels[i + 2] != 255;
    std::cout << "at " << scale << " pixels a point: " << marked << " of " << pixels.size() / 4
              << " pixels marked\n";
  }
}
