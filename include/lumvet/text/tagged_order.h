// SPDX-License-Identifier: Apache-2.0
// The order and the roles that a tagged document gives to the words of its pages, beside the order
// in which PageWords has them.
//
//   const auto tags = lumvet::TaggedOrder::of(document).value();
//   for (const std::size_t number : tags.order(0, words)) say(words.word(number));
//
// Copies share it. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <memory>
#include <vector>

#include "lumvet/document/document.h"
#include "lumvet/text/page_words.h"

namespace lumvet {

class LUMVET_EXPORT TaggedOrder {
 public:
  // Errors: as Document::structure's.
  static Result<TaggedOrder> of(const Document& document);

  const Structure& structure() const;
  // Of each word of a page, from 0, its element's place in Structure::elements; -1 for words that
  // none holds, as running heads.
  std::vector<int> elements(int page, const PageWords& words) const;
  // The numbers of the words that elements hold, in the order of the structure (ISO 32000-2,
  // 14.8.2.5); within one piece of marked content as PageWords has them.
  std::vector<std::size_t> order(int page, const PageWords& words) const;

 private:
  struct Impl;
  explicit TaggedOrder(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}

  std::shared_ptr<const Impl> impl_;
};

}  // namespace lumvet
