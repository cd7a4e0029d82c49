// SPDX-License-Identifier: Apache-2.0
#include "content/page_image.h"

#include "base/attempt.h"
#include "images/image_facts.h"
#include "images/image_reader.h"

namespace lumvet::content {

using images::Image;

PageImage::PageImage(std::shared_ptr<const Image> image)
    : ready_(std::move(image)),
      is_stencil_(ready_->kind == Image::Kind::coverage),
      has_mask_(is_stencil_ || ready_->mask),
      across_(ready_->across),
      down_(ready_->down) {}

PageImage::PageImage(const document::Core& core, ObjectId id, Object image, Dict resources,
                     color::Intent intent)
    : core_(core.shared_from_this()),
      id_(id),
      image_(std::move(image)),
      resources_(std::move(resources)),
      intent_(intent),
      is_stencil_(images::is_stencil(image_.as_dict(), core.store())),
      has_mask_(is_stencil_ || !image_.as_dict()["SMask"].is_null() ||
                !image_.as_dict()["Mask"].is_null() ||
                core.store().get(image_.as_dict(), "SMaskInData").as_integer() != 0),
      across_(core.store().get(image_.as_dict(), "Width").as_number()),
      down_(core.store().get(image_.as_dict(), "Height").as_number()) {}

std::shared_ptr<const Image> PageImage::decoded(int reduction) const {
  if (ready_) return ready_;
  const file::ObjectStore& store = core_->store();
  // What cannot be decoded is tried once.
  const auto make = [&]() -> document::ObjectCache::Made {
    Budget budget(store.limits());
    const Stream& image = *image_.as_stream();
    const auto read = images::read_image(
        image, {resources_, store, budget, store.findings(), intent_, reduction, true});
    if (read.ok()) return {*read, (*read)->memory()};
    const Error& error = read.error();
    Attempt::note(error);
    store.findings().add({error.message() + "; the image is left out", error.offset(), id_});
    return {};
  };
  const std::uint64_t variant =
      static_cast<std::uint64_t>(reduction) << 8 | static_cast<std::uint64_t>(intent_);
  return std::static_pointer_cast<const Image>(
      core_->made(document::ObjectCache::Kind::image, id_, variant, make));
}

}  // namespace lumvet::content
