// SPDX-License-Identifier: Apache-2.0
// The images that a page shows: where, how large, and as they are stored.
//
//   for (const lumvet::PlacedImage& image : lumvet::placed_images(scene)) {
//     const lumvet::ImageBytes file = image.stored().value();
//     write("image." + file.ending, file.bytes);
//   }
//
// Keeps what it needs of its document.
// Threads: immutable, share freely. Since: 0.2
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/content/scene.h"
#include "lumvet/geometry/quad.h"

namespace lumvet {

namespace content {
class PageImage;
}

// A file's content, and the usual ending of its name: "jpg", "jp2", "png", "tif".
struct ImageBytes {
  std::string ending = {};
  Bytes bytes = {};
};

class LUMVET_EXPORT PlacedImage {
 public:
  const Quad& quad() const { return quad_; }
  int width() const;  // samples, as the document states them
  int height() const;
  // Black where it paints, in whatever color the page says, and transparent elsewhere.
  bool is_stencil() const;
  bool has_mask() const;

  // JPEG and JPEG 2000 as they lie in the document, without their masks, which such files have no
  // place for; those that lie in the page's content (ISO 32000-2, 8.9.7) are decoded. The rest
  // without loss: PNG in gray or color of 8 bits, with the mask as alpha; TIFF
  // where samples have 16 bits, are inks, or are of a color profile, which goes with them. Samples
  // of other color spaces (Lab, spot colors) are brought to the screen's colors.
  // Errors here and below: malformed and unsupported for what cannot be decoded, limit, io,
  // need_more_data.
  Result<ImageBytes> stored() const;
  // PNG, as it is shown: in the colors of the screen, 8 bits each, with the mask as alpha.
  Result<ImageBytes> shown() const;

 private:
  friend LUMVET_EXPORT std::vector<PlacedImage> placed_images(const Scene& scene);
  PlacedImage(Quad quad, std::shared_ptr<const content::PageImage> image)
      : quad_(quad), image_(std::move(image)) {}

  Quad quad_;
  std::shared_ptr<const content::PageImage> image_;
};

// In the order in which they are drawn, each as often as it is shown; those in patterns and masks
// are not there.
LUMVET_EXPORT std::vector<PlacedImage> placed_images(const Scene& scene);

// "data:image/png;base64,…" (RFC 2397), as HTML may hold it.
LUMVET_EXPORT std::string data_uri(const ImageBytes& image);

}  // namespace lumvet
