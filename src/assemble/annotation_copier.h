// SPDX-License-Identifier: Apache-2.0
// The annotations of one page into a new document: notes with their answers and windows, links that
// follow their pages, the widgets of fields.
//
// Threads: free functions.
#pragma once

#include "assemble/form_builder.h"
#include "assemble/page_drawing.h"
#include "assemble/source_copier.h"
#include "lumvet/assemble/assembly.h"

namespace lumvet::assemble {

struct CopiedAnnotations {
  std::vector<FormBuilder::Widget> widgets;
  std::map<ObjectId, ObjectId> ids;  // of the copies, by their sources
  int links_lost = 0;                // their pages are not taken along
  std::vector<Drawn> marks;          // what signatures look like, to be drawn onto the page
  int signatures = 0;
  int fields_left = 0;  // which can be seen only
};

// `as` is the page's copy, which gets its annotations.
CopiedAnnotations copy_annotations(SourceCopier& copier, file::Ledger& target, const Page& page,
                                   ObjectId as, const Carry& carry);

// What all annotations of a page look like that are to be seen.
std::vector<Drawn> drawn_annotations(SourceCopier& copier, file::Ledger& target, const Page& page);

}  // namespace lumvet::assemble
