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
  // Whether it may let something show through: it has a mask, or is one.
  bool has_mask() const { return has_mask_; }
  // Samples of the unit square, before anything is decoded.
  double across() const { return across_; }
  double down() const { return down_; }

  // With so many samples each way made one: 1, 2, 4 or 8. Null for what cannot be decoded, which
  // the document's findings tell, and where goes_on() says no.
  std::shared_ptr<const images::Image> decoded(int reduction) const;

  // The stream that it is, and what it names color spaces by; null where it was decoded at once,
  // and then nothing of the two below can be asked.
  const Object& stored() const { return image_; }
  const Dict& resources() const { return resources_; }
  const file::ObjectStore& store() const { return core_->store(); }
  Limits limits() const { return core_ ? store().limits() : Limits(); }

  std::size_t memory() const { return ready_ ? ready_->memory() : 0; }  // bytes of its own

 private:
  std::shared_ptr<const images::Image> ready_;
  std::shared_ptr<const document::Core> core_;
  ObjectId id_{};
  Object image_;
  Dict resources_;
  color::Intent intent_ = color::Intent::relative;
  bool is_stencil_ = false;
  bool has_mask_ = false;
  double across_ = 0;
  double down_ = 0;
};

}  // namespace lumvet::content
