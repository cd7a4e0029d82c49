// SPDX-License-Identifier: Apache-2.0
// Images without the pixels that lie in some areas, and without what masks tell of them.
//
// Threads: one thread at a time.
#pragma once

#include <optional>

#include "file/ledger.h"
#include "redact/areas.h"

namespace lumvet::redacting {

class ImageCutter {
 public:
  explicit ImageCutter(file::Ledger& ledger, const Limits& limits)
      : ledger_(ledger), limits_(limits) {}

  // `areas` are in the image's unit square (8.9.5.1); `resources` are where the image stands, for
  // the names of color spaces. Pixels that an area touches become white, and see-through where
  // there is a mask. JPEG stays JPEG; of others the samples are kept as they are. Nothing when no
  // pixel is touched. Errors: as decode_stream's; malformed and unsupported for images that cannot
  // be read.
  Result<std::optional<Stream>> cut(const Stream& image, const Areas& areas, const Dict& resources);

 private:
  Result<std::optional<Stream>> cut_samples(const Stream& image, const Areas& areas,
                                            const Dict& resources, bool is_mask);
  Status cut_masks(Dict& dict, const Areas& areas, const Dict& resources);

  file::Ledger& ledger_;
  Limits limits_;
};

}  // namespace lumvet::redacting
