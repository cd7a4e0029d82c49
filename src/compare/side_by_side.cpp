// SPDX-License-Identifier: Apache-2.0
#include <algorithm>

#include "lumvet/compare/comparison.h"
#include "lumvet/compose/flow.h"

namespace lumvet {
namespace {

constexpr double kMargin = 40;       // points, of the sheet
constexpr double kBetween = 24;      // points, between the two pages
constexpr double kCaption = 18;      // points, for the words above a page
constexpr double kBeyond = 2.5;      // points by which a frame goes around what differs
constexpr double kHeadAndFoot = 66;  // points of a sheet's height for its heading and foot

// They are told apart by their lines as well.
Color color_of_before() { return Color::rgb(0.80, 0.33, 0); }
Color color_of_after() { return Color::rgb(0, 0.36, 0.66); }

std::string count_of(std::size_t count, const char* one, const char* several) {
  return std::to_string(count) + " " + (count == 1 ? one : several);
}

std::string finding_of(const PageComparison& pages) {
  if (!pages.before) return "this page was added";
  if (!pages.after) return "this page was taken out";
  if (pages.places.empty()) return "nothing differs";
  return count_of(pages.places.size(), "place differs", "places differ");
}

std::string heading_of(const PageComparison& pages) {
  return "Page " + std::to_string((pages.after ? *pages.after : *pages.before) + 1) + ": " +
         finding_of(pages);
}

// For who hears it read.
std::string description_of(const PageComparison& pages, const SideBySideOptions& options) {
  return heading_of(pages) + "; " + options.before + " on the left, " + options.after +
         " on the right";
}

struct Column {
  const Document& document;
  std::optional<int> page;
  const std::string& words;
  Color color;
  bool is_broken;  // the lines of its frames
};

Status draw_column(Drawing& drawing, const Column& column, const std::vector<PageArea>& places,
                   const PageArea& area) {
  TextStyle style{.face = Typeface::nearest("Helvetica-Bold"), .size = 9, .color = column.color};
  drawing.write(column.words, {area.left, area.top + 10}, style);
  const PageArea room{area.left, area.top + kCaption, area.width, area.height - kCaption};
  const Color faint = Color::gray(0.6);
  if (!column.page) {
    drawing.stroke(box(room), faint, {.width = 0.5, .dashes = {2, 3}});
    drawing.write("no such page", {room.left + room.width / 2, room.top + room.height / 2},
                  {.size = 10, .color = Color::gray(0.4)}, Drawing::Side::middle);
    return Done{};
  }
  LUMVET_TRY(const Page page, column.document.page(*column.page));
  const double scale = std::min(room.width / page.width(), room.height / page.height());
  const PageArea sheet{room.left, room.top, page.width() * scale, page.height() * scale};
  drawing.draw(page, sheet);
  drawing.stroke(box(sheet), faint, {.width = 0.5});
  StrokeStyle line{.width = 1.25};
  if (column.is_broken) line.dashes = {4, 2};
  for (const PageArea& place : places) {
    const double left = std::max(place.left * scale - kBeyond, 0.0);
    const double top = std::max(place.top * scale - kBeyond, 0.0);
    const double right = std::min((place.left + place.width) * scale + kBeyond, sheet.width);
    const double bottom = std::min((place.top + place.height) * scale + kBeyond, sheet.height);
    drawing.stroke(rounded_box({sheet.left + left, sheet.top + top, right - left, bottom - top}, 2),
                   column.color, line);
  }
  return Done{};
}

}  // namespace

Result<Document> side_by_side(const Document& before, const Document& after,
                              const std::vector<PageComparison>& pages,
                              const SideBySideOptions& options) {
  Flow flow({.title = options.title,
             .language = options.language,
             .paper = options.paper,
             .margins = {kMargin, kMargin, kMargin, kMargin},
             .footer = {.left = "{title}", .right = "{page} of {pages}"},
             .heading_size = 13});
  if (!options.title.empty()) flow.add_heading(options.title);
  const auto differing = static_cast<std::size_t>(std::count_if(
      pages.begin(), pages.end(), [](const PageComparison& each) { return !each.is_same(); }));
  const TextStyle plain{.size = 10};
  for (const std::string& note : options.notes) flow.add(Paragraph(note, plain));
  flow.add(
      Paragraph(differing == 0
                    ? "No page shows anything else than before."
                    : std::to_string(differing) + " of " + count_of(pages.size(), "page", "pages") +
                          (differing == 1 ? " shows" : " show") + " something else than before.",
                plain));
  const double width = options.paper.width - 2 * kMargin;
  const double height = options.paper.height - 2 * kMargin - kHeadAndFoot;
  const double half = (width - kBetween) / 2;
  for (const PageComparison& each : pages) {
    if (each.is_same() && !options.has_all_pages) continue;
    flow.add_page_break();
    flow.add_heading(heading_of(each), 2);
    Drawing both(width, height);
    LUMVET_RETURN_IF_ERROR(
        draw_column(both, {before, each.before, options.before, color_of_before(), true},
                    each.places, {0, 0, half, height}));
    LUMVET_RETURN_IF_ERROR(draw_column(both,
                                       {after, each.after, options.after, color_of_after(), false},
                                       each.places, {half + kBetween, 0, half, height}));
    LUMVET_RETURN_IF_ERROR(both.status());
    flow.add(both, description_of(each, options));
  }
  return flow.as_document();
}

}  // namespace lumvet
