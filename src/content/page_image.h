// SPDX-License-Identifier: Apache-2.0
// An image as a scene has it: decoded when it is drawn, and only as finely as it is drawn. What
// was decoded is kept with the document's other shared things, under their budget of bytes.
//
// Threads: immutable, share freely.
#pragma once

#include <memory>

#include "color/color_space.h"
#include "document/core.h"
#include "images/image.h"

namespace lumvet::content {

class PageImage {
 public:
  // One that is decoded already.
  explicit PageImage(std::shared_ptr<const images::Image> image);
  // The image that `image`, a stream, is; `resources` are for the color spaces it names.
  PageImage(const document::Core& core, ObjectId id, Object image, Dict resources,
            color::Intent intent);

  bool is_stencil() const { return is_stencil_; }
  // Samples of the unit square, before anything is decoded.
  double across() const { return across_; }
  double down() const { return down_; }

  // With so many samples each way made one: 1, 2, 4 or 8. Null for what cannot be decoded, which
  // the document's findings tell, and where goes_on() says no.
  std::shared_ptr<const images::Image> decoded(int reduction) const;

  std::size_t memory() const { return ready_ ? ready_->memory() : 0; }  // bytes of its own

 private:
  std::shared_ptr<const images::Image> ready_;
  std::shared_ptr<const document::Core> core_;
  ObjectId id_{};
  Object image_;
  Dict resources_;
  color::Intent intent_ = color::Intent::relative;
  bool is_stencil_ = false;
  double across_ = 0;
  double down_ = 0;
};

}  // namespace lumvet::content
