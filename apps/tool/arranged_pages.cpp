// SPDX-License-Identifier: Apache-2.0
#include "arranged_pages.h"

#include "console.h"

namespace tool {

ArrangedPages::ArrangedPages(const lumvet::Document& document)
    : document_(lumvet::EditableDocument::of(document)) {
  for (int i = 0; i < document.page_count(); ++i) sources_.push_back({i});
}

lumvet::Result<int> ArrangedPages::page_count() const {
  LUMVET_TRY(const lumvet::Document now, document_.now());
  return now.page_count();
}

lumvet::Result<std::vector<std::vector<int>>> ArrangedPages::sources() const {
  LUMVET_TRY(const std::vector<int> origins, document_.page_origins());
  std::vector<std::vector<int>> sources;
  for (const int origin : origins)
    sources.push_back(origin < 0 ? std::vector<int>() : sources_[static_cast<std::size_t>(origin)]);
  return sources;
}

std::vector<std::string> ArrangedPages::steps() const {
  std::vector<std::string> all = steps_;
  for (std::string& step : document_.steps()) all.push_back(std::move(step));
  return all;
}

lumvet::Status ArrangedPages::lay_on_sheets(const lumvet::SheetLayout& layout) {
  LUMVET_TRY(const lumvet::Document now, document_.now());
  LUMVET_TRY(const lumvet::SheetPlan plan, lumvet::SheetPlan::of(now, layout));
  return take(plan, "on " + count_of(plan.pages().size(), "sheet", "sheets"));
}

lumvet::Status ArrangedPages::lay_as_booklet(const lumvet::BookletLayout& layout) {
  LUMVET_TRY(const lumvet::Document now, document_.now());
  LUMVET_TRY(const lumvet::SheetPlan plan, lumvet::SheetPlan::of(now, layout));
  return take(plan, "as a booklet of " + count_of(plan.pages().size() / 2, "sheet", "sheets"));
}

lumvet::Status ArrangedPages::take(const lumvet::SheetPlan& plan, const std::string& what) {
  LUMVET_TRY(const std::vector<std::vector<int>> before, sources());
  LUMVET_TRY(const lumvet::Document sheets, plan.document());
  std::vector<std::vector<int>> after;
  for (const std::vector<int>& pages : plan.pages()) {
    after.emplace_back();
    for (const int page : pages)
      for (const int source : before[static_cast<std::size_t>(page)])
        after.back().push_back(source);
  }
  steps_ = steps();
  steps_.push_back("laid " + count_of(before.size(), "page", "pages") + " " + what);
  sources_ = std::move(after);
  document_ = lumvet::EditableDocument::of(sheets);
  is_on_sheets_ = true;
  return lumvet::Done{};
}

}  // namespace tool
