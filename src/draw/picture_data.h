// SPDX-License-Identifier: Apache-2.0
// What a Picture holds: an image object, ready for documents.
//
// Threads: immutable once made.
#pragma once

#include "draw/image_frames.h"
#include "lumvet/draw/picture.h"

namespace lumvet::draw {

struct PictureData {
  ImageFrame frame;
};

std::shared_ptr<const PictureData> shared_data_of(const Picture& picture);

}  // namespace lumvet::draw
