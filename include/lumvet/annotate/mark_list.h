// SPDX-License-Identifier: Apache-2.0
// Marks of a document as a list in JSON, to be read by people and programs, and added elsewhere.
//
//   const std::string list = lumvet::marks_as_json(report).value();
//   auto next = lumvet::EditableDocument::of(annex);
//   const auto marks = lumvet::read_marks(list, annex).value();
//   lumvet::add_annotations(next, marks.marks).value();
//
// A list is an array of objects, one for each mark: `page` from 1, `kind` ("square", "note",
// "strike-out"), `area` as left, top, width and height, `points`, `quads` and `strokes`, all in
// points from the top left corner of the page as it is shown; `contents`, `author`, `subject`,
// `created`, `modified`, `color` ("#B03020"), `fill`, `opacity`, `border`, `name`, `reply_to` (the
// name of another), `state` and so on. Fields of forms are not in it, nor are files and the looks
// of stamps, which a list can name when they lie beside it.
//
// Threads: free functions. Since: 0.2
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "lumvet/annotate/annotations.h"

namespace lumvet {

struct ReadMarks {
  std::vector<NewMark> marks = {};
  // What did not fit the document, or is not known, and was left out, with its place in the list.
  std::vector<Finding> findings = {};
};

// Whether it is one of those that lists tell: no field, no pop-up, and known.
LUMVET_EXPORT bool is_listed(Annotation::Kind kind);
// How the kind is called: "note", "strike-out"; empty for `other`.
LUMVET_EXPORT std::string_view name_of(Annotation::Kind kind);
// Nothing for a name that no kind has.
LUMVET_EXPORT std::optional<Annotation::Kind> mark_kind(std::string_view name);

// The marks of a document by pages: those of these kinds with the answers to them, or all for none.
// Errors: as Page::annotations'.
LUMVET_EXPORT Result<std::string> marks_as_json(const Document& document,
                                                const std::vector<Annotation::Kind>& kinds = {});
// As a table with a head and commas (RFC 4180): page, kind, author, modified,
// state, contents.
LUMVET_EXPORT Result<std::string> marks_as_csv(const Document& document,
                                               const std::vector<Annotation::Kind>& kinds = {});

struct MarkListOptions {
  // From which a list names files, which may be any that the program may read: `file` of a file
  // attachment; `picture` of a stamp or watermark, an image, or a document of which `picture_page`
  // is shown, from 1. Without it no file is read.
  std::optional<std::filesystem::path> folder = {};
};

// For the pages of a document, which may be another than they come from. Replies come with what
// they answer. Marks that the document has already are left out, and told but for links; one that
// has the name of another gets another name. Errors: malformed, with line and column, for what is
// no list of marks; invalid_argument, with the mark's place in the list, for keys and kinds that
// are not known, with the nearest; as Picture::load's and Document::open's.
LUMVET_EXPORT Result<ReadMarks> read_marks(std::string_view json, const Document& document,
                                           const MarkListOptions& options = {});

}  // namespace lumvet
