// SPDX-License-Identifier: Apache-2.0
// Parts of pages taken out for good (ISO 32000-2, 12.5.6.23): not covered, but no longer there.
//
//   auto letter = lumvet::EditableDocument::of(opened);
//   lumvet::RedactRequest request;
//   request.searches = {lumvet::TextSearch::of("Ilse Marren").value()};
//   const lumvet::RedactReport report = lumvet::redact(letter, request).value();
//   letter.save("letter-public.pdf").value();
//   const auto saved = lumvet::Document::open("letter-public.pdf").value();
//   if (!lumvet::prove_redaction(saved, request, report).value().holds()) std::cout << "not gone";
//
// In the areas letters go one by one, and what is left of a word stays in its place; lines and
// fillings are cut at the edges; pixels of images become white, of JPEG only in the blocks that an
// area touches. That is so within forms and soft masks too, and for what is hidden. A letter goes
// when more than a fifth of what it inks lies in an area. With them go annotations and fields that
// touch an area, with answers and values, the small pictures of those pages, texts that stand in
// for what they show, and what the structure says of it. What was taken out as text, and what is
// searched for, goes wherever else the document says it: in outline titles, properties, names,
// values, marks. Cells of patterns are cut where no other tile shows them whole. Glyphs that are
// drawings (Type 3, with colors, texts or images of their own) go as a whole where an area touches
// what they show, and what draws a letter of such a font goes with the last such letter of a page
// or form. Not looked into: attached files, which can be removed as a whole.
//
// The document has to be saved whole; changes cannot be appended to it any more. Threads: as
// EditableDocument's; the rest are free functions. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/page.h"
#include "lumvet/draw/color.h"
#include "lumvet/draw/picture.h"
#include "lumvet/edit/editable_document.h"
#include "lumvet/geometry/quad.h"
#include "lumvet/text/text_search.h"

namespace lumvet {

struct RedactArea {
  int page = 0;                  // from 0
  std::vector<Quad> quads = {};  // as shown
};

// What stands in the places.
struct RedactLook {
  std::optional<Color> fill = Color::gray(0);
  std::string text = {};                // small enough to fit, in the middle
  std::optional<Picture> picture = {};  // as large as fits
};

struct RedactRequest {
  std::vector<RedactArea> areas = {};
  std::vector<TextSearch> searches = {};  // on the pages, and wherever else it is said
  bool takes_marks = false;               // redaction marks of the pages, with their own looks
  PageSelection pages = {};               // of searches and marks
  RedactLook look = {};
  bool clears_properties = false;
  bool removes_attachments = false;
};

struct RedactReport {
  std::vector<RedactArea> areas = {};  // all of them, with those of searches and marks
  int letters = 0;
  int paths = 0;
  int images = 0;
  int annotations = 0;                    // fields among them
  int texts = 0;                          // elsewhere in the document
  std::vector<std::string> removed = {};  // the words that were taken out of the pages, in UTF-8
  std::vector<std::string> written = {};  // what was written over the places
  std::vector<Finding> findings = {};     // what went as a whole, what no longer holds
};

// One step. Errors: invalid_argument for pages that are not there, a request of nothing, and one
// that finds nothing; password when the document's owner does not let it be changed; unsupported
// when a certificate allows no such change; io, need_more_data, limit.
LUMVET_EXPORT Result<RedactReport> redact(EditableDocument& document, const RedactRequest& request);

// What is still there of what was to go.
struct RedactProof {
  int streams = 0;    // that were unpacked and looked through
  int texts = 0;      // strings outside of pages that were
  int pages = 0;      // whose text was read
  int revisions = 0;  // states of the document in its file
  std::vector<Finding> left = {};
  // Words that were taken out in an area and stand elsewhere, where nothing was marked.
  std::vector<Finding> elsewhere = {};

  bool holds() const { return left.empty() && revisions <= 1; }
};
// Looks for it in the document that was saved: letters in the areas, what was searched for in the
// text of every page, in all strings, and in every unpacked stream. Errors: as reading it.
LUMVET_EXPORT Result<RedactProof> prove_redaction(const Document& saved,
                                                  const RedactRequest& request,
                                                  const RedactReport& report);

}  // namespace lumvet
