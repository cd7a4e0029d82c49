// SPDX-License-Identifier: Apache-2.0
// Drawings on pages that there are, and pages of another document: a letterhead, a watermark.
//
//   auto pages = lumvet::EditableDocument::of(report);
//   const auto paper = lumvet::Document::open("paper.pdf").value();
//   lumvet::overlay(pages, {}, paper, {}, {.beneath = true}).value();
//   const auto draft = [](const lumvet::Page& page) -> lumvet::Result<lumvet::Drawing> {
//     lumvet::Drawing drawing(page.width(), page.height());
//     drawing.write("draft", {20, 30}, {.size = 12});
//     return drawing;
//   };
//   lumvet::draw_on_pages(pages, {}, draft).value();
//
// Each call is one step of the document, which can be undone. What is drawn is an artifact, part of
// no structure. Threads: as EditableDocument's. Since: 0.2
#pragma once

#include <functional>
#include <optional>

#include "lumvet/draw/drawing.h"
#include "lumvet/edit/editable_document.h"

namespace lumvet {

// Where something stands on a page as it is shown.
enum class Anchor {
  top_left,
  top,
  top_right,
  left,
  center,
  right,
  bottom_left,
  bottom,
  bottom_right
};

struct Overlay {
  Anchor anchor = Anchor::center;
  double margin = 0;                 // points, from the sides that the anchor names
  std::optional<double> scale = {};  // without it as large as the page has room for
  double opacity = 1;                // 0 to 1
  bool beneath = false;              // what the page shows; white paper in a scan covers it
};

// Pages of `other`, drawn with what their annotations look like, each on the next of `pages`; the
// last goes on for the rest. Errors: password when the owner of `other` does not let pages be taken
// out; as reading its pages; invalid_argument for a margin that leaves no room.
LUMVET_EXPORT Status overlay(EditableDocument& document, const PageSelection& pages,
                             const Document& other, const PageSelection& from = {},
                             const Overlay& how = {});

// Which drawing goes on a page; its top left corner lies at that of the page as it is shown, and it
// is as large as it says.
using DrawsOnPage = std::function<Result<Drawing>(const Page& page)>;

struct OnPages {
  bool beneath = false;  // what the pages show
  // The step is called so, with how many pages it was: "drew on 3 pages".
  std::string what = "drew on";
};

// Links, places and tags of the drawings are left out. Layers are the document's then. Errors: the
// first drawing's; as reading the pages, when there is no step.
LUMVET_EXPORT Status draw_on_pages(EditableDocument& document, const PageSelection& pages,
                                   const DrawsOnPage& drawing_for, const OnPages& how = {});

}  // namespace lumvet
