// SPDX-License-Identifier: Apache-2.0
// A page's scene recorded to be read, and what is made of it within the page's limits.
//
// Threads: free functions.
#pragma once

#include "base/allowance.h"
#include "base/attempt.h"
#include "content/scene_data.h"
#include "document/inside.h"
#include "lumvet/content/scene.h"
#include "lumvet/text/page_words.h"

namespace lumvet::text {

// make(scene) -> Result<Value>; annotations are recorded where their words are asked for. Errors:
// as Scene::record's and make's; limit, when that takes too long.
template <typename Value, typename Make>
Result<Value> with_scene(const Page& page, RecordOptions options, const WordOptions& letters,
                         const Make& make) {
  options.annotations = letters.reads_annotations;
  return attempted([&]() -> Result<Value> {
    LUMVET_TRY(const Scene scene, record_to_read(page, options));
    const Allowance allowance(store_of(page).limits(), options.cancel);
    return make(scene);
  });
}

}  // namespace lumvet::text
