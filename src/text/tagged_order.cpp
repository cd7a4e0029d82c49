// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/tagged_order.h"

#include <algorithm>
#include <map>
#include <set>
#include <utility>

#include "base/attempt.h"
#include "text/structure_text.h"

namespace lumvet {
namespace {

struct HeldMark {
  int element;
  std::size_t rank;  // among all, in the order of the structure
};

}  // namespace

struct TaggedOrder::Impl {
  Structure structure;
  std::map<std::pair<int, ContentMark>, HeldMark> marks;  // by page

  const HeldMark* find(int page, const TextWord& word) const {
    if (!word.mark) return nullptr;
    const auto found = marks.find({page, *word.mark});
    return found == marks.end() ? nullptr : &found->second;
  }
};

Result<TaggedOrder> TaggedOrder::of(const Document& document) {
  return attempted([&]() -> Result<TaggedOrder> {
    auto impl = std::make_shared<Impl>();
    LUMVET_TRY(impl->structure, document.structure());
    const auto& elements = impl->structure.elements;
    std::set<int> met;
    std::vector<std::pair<int, std::size_t>> open;  // elements, and the next of their parts
    for (std::size_t root = 0; root < elements.size(); ++root) {
      if (elements[root].parent >= 0) continue;
      open.emplace_back(static_cast<int>(root), 0);
      while (!open.empty()) {
        auto& [at, next] = open.back();
        const StructureElement& element = elements[static_cast<std::size_t>(at)];
        if (next >= element.parts.size()) {
          open.pop_back();
          continue;
        }
        const int holder = at;
        const StructurePart& part = element.parts[next++];
        if (part.kind == StructurePart::Kind::element && part.element >= 0 &&
            met.insert(part.element).second)
          open.emplace_back(part.element, 0);
        if (part.kind != StructurePart::Kind::marked_content || !part.page) continue;
        impl->marks.try_emplace({*part.page, text::content_mark(document, part)},
                                HeldMark{holder, impl->marks.size()});
      }
    }
    return TaggedOrder(std::move(impl));
  });
}

const Structure& TaggedOrder::structure() const { return impl_->structure; }

std::vector<int> TaggedOrder::elements(int page, const PageWords& words) const {
  std::vector<int> elements(words.word_count(), -1);
  for (std::size_t i = 0; i < elements.size(); ++i)
    if (const HeldMark* mark = impl_->find(page, words.word(i))) elements[i] = mark->element;
  return elements;
}

std::vector<std::size_t> TaggedOrder::order(int page, const PageWords& words) const {
  std::vector<std::pair<std::size_t, std::size_t>> ranked;  // and numbers of words
  for (std::size_t i = 0; i < words.word_count(); ++i)
    if (const HeldMark* mark = impl_->find(page, words.word(i))) ranked.emplace_back(mark->rank, i);
  std::sort(ranked.begin(), ranked.end());
  std::vector<std::size_t> order;
  order.reserve(ranked.size());
  for (const auto& [rank, number] : ranked) order.push_back(number);
  return order;
}

}  // namespace lumvet
