// SPDX-License-Identifier: Apache-2.0
// What an arrangement's pages are like: their size, and what they are called.
#include <map>

#include "assemble/arrangement_plan.h"
#include "base/attempt.h"
#include "document/inside.h"

namespace lumvet {
namespace {

using assemble::Planned;

// The outermost entry of the outline under which each page comes.
Result<std::vector<std::string>> chapters_of(const Document& document) {
  std::map<int, std::string> begins;
  LUMVET_TRY(const std::vector<OutlineEntry> outline, document.outline());
  for (const OutlineEntry& entry : outline)
    if (entry.depth == 0 && entry.page) begins.insert_or_assign(*entry.page, entry.title);
  std::vector<std::string> chapters(static_cast<std::size_t>(document.page_count()));
  for (auto next = begins.begin(); next != begins.end(); ++next) {
    const auto after = std::next(next);
    const int end = after == begins.end() ? document.page_count() : after->first;
    for (int page = std::max(next->first, 0); page < std::min(end, document.page_count()); ++page)
      chapters[static_cast<std::size_t>(page)] = next->second;
  }
  return chapters;
}

}  // namespace

Result<std::vector<ArrangedPage>> Arrangement::pages() const {
  return attempted([&]() -> Result<std::vector<ArrangedPage>> {
    std::vector<std::vector<std::string>> chapters;
    for (const Document& document : impl_->documents) {
      LUMVET_TRY(std::vector<std::string> own, chapters_of(document));
      chapters.push_back(std::move(own));
    }
    std::vector<ArrangedPage> all;
    for (const Planned& planned : impl_->plan()) {
      LUMVET_TRY(const assemble::Shape shape, impl_->shape_of(planned));
      ArrangedPage page{{shape.width(), shape.height()}, {}, {}, {}};
      std::string last;
      assemble::visit(planned, [&](const Planned& part) {
        if (part.document == 0) page.sources.push_back(part.page);
        const std::string& chapter = chapters[part.document][static_cast<std::size_t>(part.page)];
        if (page.chapter.empty()) page.chapter = chapter;
        const auto kept = core_of(impl_->documents[part.document]).labels();
        const document::PageLabels& labels = *kept;
        if (!labels.are_given()) return;
        last = labels.of(part.page);
        if (page.label.empty()) page.label = last;
      });
      if (page.label.empty())
        page.label = std::to_string(all.size() + 1);
      else if (page.label != last)
        page.label += "–" + last;
      all.push_back(std::move(page));
    }
    return all;
  });
}

}  // namespace lumvet
