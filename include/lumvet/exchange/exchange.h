// SPDX-License-Identifier: Apache-2.0
// Marks and values of fields as the two forms of files in which programs exchange them: XFDF (ISO
// 19444-1) and FDF (ISO 32000-2, 12.7.8).
//
//   const std::string remarks = lumvet::as_xfdf(annex).value();
//   auto next = lumvet::EditableDocument::of(opened);
//   const lumvet::Exchange read = lumvet::read_xfdf(remarks, opened).value();
//   lumvet::add_annotations(next, read.marks).value();
//
// Places are in the page's own space, and so the same in both documents. What stamps, watermarks
// and ink look like goes with them, and all others look as their entries say. Pop-ups are left to
// the viewer; XFDF says neither how marks mix with the page nor how they are measured. Scripts are
// neither written nor read. In XFDF colors are of red, green and blue in 256 steps. Entities
// that a file declares are never expanded, and nothing is ever fetched. Threads: free functions.
// Since: 0.2
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "lumvet/annotate/annotations.h"
#include "lumvet/forms/filling.h"

namespace lumvet {

enum class ExchangeParts { all, marks, values };

// What was read from a file, for the document that it was read for.
struct Exchange {
  std::vector<NewMark> marks = {};  // those that fit, answers behind what they answer
  std::vector<FieldValue> values = {};
  std::string file = {};  // of which document it says it is, in UTF-8; empty when it does not say
  // What did not fit, or is not known, with its place among the marks of the file.
  std::vector<Finding> findings = {};
};

// Of marks those of these kinds, with the answers to them; all for none. Errors: as
// Page::annotations' and Document::form's.
LUMVET_EXPORT Result<std::string> as_xfdf(const Document& document,
                                          ExchangeParts parts = ExchangeParts::all,
                                          const std::vector<Annotation::Kind>& kinds = {});
LUMVET_EXPORT Result<Bytes> as_fdf(const Document& document,
                                   ExchangeParts parts = ExchangeParts::all,
                                   const std::vector<Annotation::Kind>& kinds = {});

// Marks that the document has already are left out, as read_marks() does. Errors: malformed, with
// line and column in XFDF, for what is no such file; limit.
LUMVET_EXPORT Result<Exchange> read_xfdf(std::string_view file, const Document& document);
LUMVET_EXPORT Result<Exchange> read_fdf(ByteView file, const Document& document);

}  // namespace lumvet
