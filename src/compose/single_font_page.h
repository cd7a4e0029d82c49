// SPDX-License-Identifier: Apache-2.0
// A new page whose content shows text in one font, under the name /Text.
#pragma once

#include <string>

#include "compose/text_font.h"
#include "save/page_tree_builder.h"

namespace lumvet::compose {

// `width` and `height` are points.
inline void add_text_page(file::Ledger& ledger, saving::PageTreeBuilder& tree, double width,
                          double height, const EmbeddedFont& font, const std::string& content) {
  const ObjectId page = ledger.reserve();
  const ObjectId stream = ledger.add(Stream::of({}, Bytes(content.begin(), content.end())));
  ledger.set(page, Dict{{"Type", Object::name("Page")},
                        {"Parent", tree.add(page)},
                        {"MediaBox", Array{Object(0), Object(0), Object(width), Object(height)}},
                        {"Resources", Dict{{"Font", Dict{{"Text", font.font}}}}},
                        {"Contents", stream}});
}

}  // namespace lumvet::compose
