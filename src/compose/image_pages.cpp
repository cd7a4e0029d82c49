// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/image_pages.h"

#include <algorithm>
#include <array>
#include <fstream>

#include "compose/image_frames.h"
#include "file/ledger.h"
#include "objects/content_numbers.h"
#include "save/full_writer.h"
#include "save/page_tree_builder.h"

namespace lumvet {
namespace {

namespace fs = std::filesystem;
using compose::ImageFrame;

// Where an image goes on its page, both as they are shown.
struct Place {
  PaperSize page;
  Rect image;
};

Place place_of(const ImageFrame& frame, const ImagePageOptions& options) {
  constexpr double kPointsPerInch = 72;
  const auto points = [&](int pixels, double dots) {
    return pixels * kPointsPerInch / (dots > 0 ? dots : options.dots_per_inch);
  };
  double width = points(frame.width, frame.dots_across);
  double height = points(frame.height, frame.dots_down);
  if (frame.turn % 180 != 0) std::swap(width, height);
  if (!options.paper) return {{width, height}, {0, 0, width, height}};
  PaperSize page = *options.paper;
  if ((width > height) != (page.width > page.height)) std::swap(page.width, page.height);
  const double scale = std::min((page.width - 2 * options.margin) / width,
                                (page.height - 2 * options.margin) / height);
  const double left = (page.width - width * scale) / 2;
  const double bottom = (page.height - height * scale) / 2;
  return {page, {left, bottom, left + width * scale, bottom + height * scale}};
}

// The unit square of an image onto its place, turned to the right.
Matrix placed(const Rect& r, int turn) {
  switch (turn) {
    case 90: return {0, -r.height(), r.width(), 0, r.left, r.top};
    case 180: return {-r.width(), 0, 0, -r.height(), r.right, r.top};
    case 270: return {0, r.height(), -r.width(), 0, r.right, r.bottom};
    default: return {r.width(), 0, 0, r.height(), r.left, r.bottom};
  }
}

ObjectId add_page(file::Ledger& ledger, ImageFrame frame, const ImagePageOptions& options,
                  ObjectId page, ObjectId parent) {
  Stream stream = *frame.image.as_stream();
  if (frame.mask) stream.dict.set("SMask", ledger.add(*frame.mask));
  if (frame.profile)
    stream.dict.set("ColorSpace",
                    Array{Object::name("ICCBased"), Object(ledger.add(*frame.profile))});
  const ObjectId image = ledger.add(Object(std::move(stream)));
  const Place place = place_of(frame, options);
  std::string content;
  const Matrix m = placed(place.image, frame.turn);
  objects::append_numbers({m.a, m.b, m.c, m.d, m.e, m.f}, content);
  content += "cm /Image Do";
  const ObjectId contents = ledger.add(Stream::of({}, Bytes(content.begin(), content.end())));
  ledger.set(page, Dict{{"Type", Object::name("Page")},
                        {"Parent", parent},
                        {"MediaBox", Array{Object(0), Object(0), Object(place.page.width),
                                           Object(place.page.height)}},
                        {"Resources", Dict{{"XObject", Dict{{"Image", image}}}}},
                        {"Contents", contents}});
  return page;
}

Result<Bytes> read_file(const fs::path& path) {
  LUMVET_TRY(const auto source, open_file_source(path));
  LUMVET_TRY(const ByteSlice all, source->slice(0, source->size()));
  return Bytes(all.view().begin(), all.view().end());
}

}  // namespace

bool is_image_file(const fs::path& path) {
  std::array<char, 8> head{};
  std::ifstream file(path, std::ios::binary);
  file.read(head.data(), head.size());
  return compose::begins_as_image(as_bytes({head.data(), static_cast<std::size_t>(file.gcount())}));
}

Result<Document> pages_of_images(const std::vector<fs::path>& images,
                                 const ImagePageOptions& options) {
  if (options.paper && (2 * options.margin >= options.paper->width ||
                        2 * options.margin >= options.paper->height || options.margin < 0))
    return Error(ErrorCode::invalid_argument, "the margins leave no room on the paper");
  if (!(options.dots_per_inch > 0))
    return Error(ErrorCode::invalid_argument, "images have more than 0 dots to the inch");
  std::vector<ImageFrame> frames;
  for (const fs::path& path : images) {
    LUMVET_TRY(const Bytes file, read_file(path));
    Result<std::vector<ImageFrame>> read = compose::read_image_file(file, options.limits);
    if (!read.ok()) return std::move(read).error().about(path.string());
    std::move(read->begin(), read->end(), std::back_inserter(frames));
  }
  if (frames.empty()) return Error(ErrorCode::invalid_argument, "there are no images");
  file::Ledger ledger;
  const ObjectId catalog = ledger.reserve();
  saving::PageTreeBuilder tree(ledger, frames.size());
  for (ImageFrame& frame : frames) {
    const ObjectId page = ledger.reserve();
    add_page(ledger, std::move(frame), options, page, tree.add(page));
  }
  ledger.set(catalog, Dict{{"Type", Object::name("Catalog")}, {"Pages", tree.finish()}});
  return saving::opened(ledger, catalog);
}

}  // namespace lumvet
