// SPDX-License-Identifier: Apache-2.0
// What an image's dictionary says before anything is decoded (ISO 32000-2, table 87).
//
// Threads: free functions.
#pragma once

#include "lumvet/base/limits.h"
#include "objects/resolver.h"

namespace lumvet::images {

// An entry by its key, or by the short one of inline images (table 91).
Object either(const objects::Resolver& resolver, const Dict& dict, std::string_view key,
              std::string_view short_key);

bool is_stencil(const Dict& image, const objects::Resolver& resolver);

// About how many bytes an image and its masks unpack to; 0 for what Limits::pixels refuses.
// Errors: need_more_data where the bytes of one of them are not there yet.
Result<std::uint64_t> unpacked_size(const Stream& image, const objects::Resolver& resolver,
                                    const Limits& limits);

}  // namespace lumvet::images
