// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/sheets.h"

#include <algorithm>

#include "assemble/binder.h"
#include "assemble/blank_pages.h"
#include "base/attempt.h"
#include "compose/sheet_layer.h"
#include "document/permission.h"
#include "save/full_writer.h"

namespace lumvet {

struct SheetPlan::Impl {
  Document document;
  Document blank;                       // of one page, a sheet
  PaperSize paper;                      // its size
  std::vector<std::vector<int>> pages;  // on each sheet
  std::vector<compose::OnSheet> on;     // of all of them, in that order

  std::vector<assemble::Part> parts(const std::vector<Page>& all, const Page& sheet) const;
};

namespace {

constexpr double kLeastRoom = 9;  // points, of a page on a sheet

// The places of pages on a sheet, in their order.
std::vector<PageArea> places_on(const SheetLayout& layout, const PaperSize& paper) {
  const double width =
      (paper.width - 2 * layout.margin - (layout.columns - 1) * layout.gap) / layout.columns;
  const double height =
      (paper.height - 2 * layout.margin - (layout.rows - 1) * layout.gap) / layout.rows;
  std::vector<PageArea> places;
  for (int i = 0; i < layout.columns * layout.rows; ++i) {
    int column = layout.down_first ? i / layout.rows : i % layout.columns;
    const int row = layout.down_first ? i % layout.rows : i / layout.columns;
    if (layout.right_to_left) column = layout.columns - 1 - column;
    places.push_back({layout.margin + column * (width + layout.gap),
                      layout.margin + row * (height + layout.gap), width, height});
  }
  return places;
}

bool have_room(const std::vector<PageArea>& places) {
  return places[0].width >= kLeastRoom && places[0].height >= kLeastRoom;
}

// By how much pages are scaled in places of that size, all together.
double scale_of_all(const std::vector<Page>& pages, const PageArea& place) {
  double sum = 0;
  for (const Page& page : pages)
    sum += std::min(place.width / page.width(), place.height / page.height());
  return sum;
}

Result<std::vector<Page>> pages_of(const Document& document) {
  std::vector<Page> pages;
  for (int i = 0; i < document.page_count(); ++i) {
    LUMVET_TRY(Page page, document.page(i));
    pages.push_back(std::move(page));
  }
  if (pages.empty())
    return Error(ErrorCode::invalid_argument,
                 document.name() + " has no page that could be laid on a sheet");
  return pages;
}

// The pages of one section in the order in which they are printed, -1 for none.
void fold(int first, int pages, int places, std::vector<int>& order) {
  const auto page = [&](int i) { return i < pages ? first + i : -1; };
  for (int sheet = 0; sheet < places / 4; ++sheet) {
    order.insert(order.end(), {page(places - 1 - 2 * sheet), page(2 * sheet), page(2 * sheet + 1),
                               page(places - 2 - 2 * sheet)});
  }
}

}  // namespace

Result<SheetPlan> SheetPlan::of(const Document& document, const SheetLayout& layout) {
  constexpr int kMost = 20;
  if (layout.columns < 1 || layout.columns > kMost || layout.rows < 1 || layout.rows > kMost)
    return Error(ErrorCode::invalid_argument, "a sheet has 1 to 20 columns and rows of pages");
  LUMVET_RETURN_IF_ERROR(assemble::check_size(layout.paper));
  return attempted([&]() -> Result<SheetPlan> {
    LUMVET_TRY(const std::vector<Page> pages, pages_of(document));
    const auto [shorter, longer] = std::minmax(layout.paper.width, layout.paper.height);
    const std::vector<PageArea> upright = places_on(layout, {shorter, longer});
    const std::vector<PageArea> across = places_on(layout, {longer, shorter});
    const bool is_wide = scale_of_all(pages, across[0]) > scale_of_all(pages, upright[0]);
    const std::vector<PageArea>& places = is_wide ? across : upright;
    const PaperSize paper = is_wide ? PaperSize{longer, shorter} : PaperSize{shorter, longer};
    if (!have_room(places))
      return Error(ErrorCode::invalid_argument,
                   "the margins and gaps leave no room for pages on such a sheet");
    LUMVET_TRY(Document blank, assemble::blank_document(paper, store_of(document).limits()));
    auto impl = std::make_shared<Impl>(Impl{document, std::move(blank), paper, {}, {}});
    for (std::size_t i = 0; i < pages.size(); ++i) {
      const std::size_t at = i % places.size();
      if (at == 0) impl->pages.emplace_back();
      impl->pages.back().push_back(static_cast<int>(i));
      impl->on.push_back({places[at], layout.framed});
    }
    return SheetPlan(std::move(impl));
  });
}

Result<SheetPlan> SheetPlan::of(const Document& document, const BookletLayout& layout) {
  LUMVET_RETURN_IF_ERROR(assemble::check_size(layout.paper));
  if (layout.sheets_in_a_section < 0)
    return Error(ErrorCode::invalid_argument, "a section has no less than one sheet");
  const auto [shorter, longer] = std::minmax(layout.paper.width, layout.paper.height);
  const PaperSize paper{longer, shorter};
  const SheetLayout sides{.columns = 2,
                          .rows = 1,
                          .paper = paper,
                          .margin = layout.margin,
                          .gap = 2 * layout.margin,
                          .right_to_left = layout.right_to_left};
  const std::vector<PageArea> places = places_on(sides, paper);
  if (!have_room(places))
    return Error(ErrorCode::invalid_argument, "the margin leaves no room for pages");
  return attempted([&]() -> Result<SheetPlan> {
    LUMVET_TRY(const std::vector<Page> pages, pages_of(document));
    constexpr int kOnSheet = 4;  // two on each side
    const int count = static_cast<int>(pages.size());
    // Not more pages in a section than there are.
    const int all = (count + kOnSheet - 1) / kOnSheet;
    const int sheets =
        layout.sheets_in_a_section == 0 ? all : std::min(layout.sheets_in_a_section, all);
    std::vector<int> order;
    for (int first = 0; first < count; first += sheets * kOnSheet) {
      const int here = std::min(count - first, sheets * kOnSheet);
      fold(first, here, (here + kOnSheet - 1) / kOnSheet * kOnSheet, order);
    }
    LUMVET_TRY(Document blank, assemble::blank_document(paper, store_of(document).limits()));
    auto impl = std::make_shared<Impl>(Impl{document, std::move(blank), paper, {}, {}});
    for (std::size_t i = 0; i < order.size(); ++i) {
      if (i % places.size() == 0) impl->pages.emplace_back();
      if (order[i] < 0) continue;
      impl->pages.back().push_back(order[i]);
      impl->on.push_back({places[i % places.size()], false});
    }
    return SheetPlan(std::move(impl));
  });
}

const std::vector<std::vector<int>>& SheetPlan::pages() const { return impl_->pages; }

// What belongs to the whole document comes with its first part.
std::vector<assemble::Part> SheetPlan::Impl::parts(const std::vector<Page>& all,
                                                   const Page& sheet) const {
  const Carry nothing{.outlines = false,
                      .attachments = false,
                      .metadata = false,
                      .opening = false,
                      .output_intents = false,
                      .articles = false};
  std::vector<assemble::Part> parts;
  std::size_t place = 0;
  for (std::size_t i = 0; i < pages.size(); ++i) {
    place += pages[i].size();
    if (!pages[i].empty()) {
      assemble::Part part{document, {}, parts.empty() ? Carry() : nothing, {}};
      for (const int page : pages[i]) {
        part.pages.push_back(all[static_cast<std::size_t>(page)]);
        part.sheets.push_back(place);
      }
      parts.push_back(std::move(part));
    }
    parts.push_back({blank, {sheet}, nothing, {}});
    ++place;
  }
  return parts;
}

Result<SaveReport> SheetPlan::save(ByteSink& sink, const SaveOptions& options) const {
  LUMVET_RETURN_IF_ERROR(document::check_permission(impl_->document, &Permissions::assemble,
                                                    "its pages be laid on sheets"));
  return attempted([&]() -> Result<SaveReport> {
    LUMVET_TRY(const std::vector<Page> all, pages_of(impl_->document));
    LUMVET_TRY(const Page sheet, impl_->blank.page(0));
    const std::vector<assemble::Part> parts = impl_->parts(all, sheet);
    const auto lays = [&](file::Ledger& ledger, const std::vector<assemble::LaidPage>& laid) {
      return compose::lay_on_sheets(ledger, laid, impl_->on, impl_->paper);
    };
    return assemble::Binder(parts, {}, lays).bind(options, sink);
  });
}

Result<SaveReport> SheetPlan::save(const std::filesystem::path& path,
                                   const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

Result<Document> SheetPlan::document() const {
  BufferSink sink;
  LUMVET_RETURN_IF_ERROR(save(sink));
  return Document::open(sink.take(), {.limits = store_of(impl_->document).limits()});
}

}  // namespace lumvet
