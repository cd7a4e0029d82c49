// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/image_pages.h"

#include <algorithm>
#include <array>
#include <fstream>

#include "draw/image_frames.h"
#include "lumvet/draw/new_document.h"

namespace lumvet {
namespace {

namespace fs = std::filesystem;

void add_page(NewDocument& document, const Picture& picture, const ImagePageOptions& options) {
  const double width = picture.wide(options.dots_per_inch);
  const double height = picture.high(options.dots_per_inch);
  PaperSize paper = options.paper.value_or(PaperSize{width, height});
  if ((width > height) != (paper.width > paper.height)) std::swap(paper.width, paper.height);
  const double margin = options.paper ? options.margin : 0;
  document.add_page(paper).draw(
      picture, {margin, margin, paper.width - 2 * margin, paper.height - 2 * margin});
}

}  // namespace

bool is_image_file(const fs::path& path) {
  std::array<char, 8> head{};
  std::ifstream file(path, std::ios::binary);
  file.read(head.data(), head.size());
  return draw::begins_as_image(as_bytes({head.data(), static_cast<std::size_t>(file.gcount())}));
}

Result<Document> pages_of_images(const std::vector<fs::path>& images,
                                 const ImagePageOptions& options) {
  if (options.paper && (2 * options.margin >= options.paper->width ||
                        2 * options.margin >= options.paper->height || options.margin < 0))
    return Error(ErrorCode::invalid_argument, "the margins leave no room on the paper");
  if (!(options.dots_per_inch > 0))
    return Error(ErrorCode::invalid_argument, "images have more than 0 dots to the inch");
  NewDocument document;
  for (const fs::path& path : images) {
    LUMVET_TRY(const std::vector<Picture> pictures, Picture::load_all(path, options.limits));
    for (const Picture& picture : pictures) add_page(document, picture, options);
  }
  if (document.page_count() == 0) return Error(ErrorCode::invalid_argument, "there are no images");
  return document.as_document();
}

}  // namespace lumvet
