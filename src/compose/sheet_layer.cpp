// SPDX-License-Identifier: Apache-2.0
#include "compose/sheet_layer.h"

#include <map>

#include "assemble/page_drawing.h"
#include "assemble/page_moves.h"
#include "document/inside.h"
#include "draw/drawing_writer.h"

namespace lumvet::compose {
namespace {

constexpr auto kFit = Drawing::Fit::inside;
constexpr double kFrameWidth = 0.5;  // points
const Color kFrame = Color::gray(0.5);

// How large a page is drawn in an area.
PageArea shown_in(const Page& page, const Matrix& placed, const PaperSize& paper) {
  const Rect r = placed.bounds_of(page.crop_box());
  return {r.left, paper.height - r.top, r.width(), r.height()};
}

}  // namespace

Status lay_on_sheets(file::Ledger& ledger, const std::vector<assemble::LaidPage>& pages,
                     const std::vector<OnSheet>& on, const PaperSize& paper) {
  draw::DrawingWriter writer(ledger);
  assemble::PageMoves moves(ledger);
  std::map<ObjectId, Drawing> sheets;
  for (std::size_t i = 0; i < pages.size(); ++i) {
    const auto& [page, copy, sheet] = pages[i];
    LUMVET_TRY(Stream stream, assemble::form_of_page(ledger, copy, store_of(page).limits()));
    const ObjectId form = ledger.add(Object(std::move(stream)));
    writer.use_form(page, form);
    Drawing& drawing = sheets.try_emplace(sheet, paper.width, paper.height).first->second;
    drawing.draw(page, on[i].area, kFit);
    const draw::DrawingData& data = *draw::data_of(drawing);
    const Matrix placed = draw::placed_page(data, page, on[i].area, kFit).then(data.state.current);
    if (on[i].is_framed)
      drawing.stroke(box(shown_in(page, placed, paper)), kFrame, {.width = kFrameWidth});
    moves.add(copy, {sheet, placed, page.crop_box(), form});
    moves.move_annotations(copy);
  }
  for (const auto& [sheet, drawing] : sheets) {
    LUMVET_TRY(draw::WrittenContent content, writer.content_of(*draw::data_of(drawing), false));
    Dict dict = ledger.resolve(Object(sheet)).as_dict();
    dict.set("Resources", std::move(content.resources));
    dict.set("Contents",
             ledger.add(Stream::of({}, Bytes(content.operators.begin(), content.operators.end()))));
    ledger.set(sheet, std::move(dict));
  }
  for (const assemble::LaidPage& page : pages) ledger.drop(page.copy);
  moves.follow(ledger.changed_ids());
  return Done{};
}

}  // namespace lumvet::compose
