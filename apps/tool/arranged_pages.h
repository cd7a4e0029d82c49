// SPDX-License-Identifier: Apache-2.0
// A document whose pages are being arranged, and what became of each of its pages, also over
// sheets, which are a new document.
#pragma once

#include <string>
#include <vector>

#include <lumvet/compose/sheets.h>
#include <lumvet/edit/editable_document.h>

namespace tool {

class ArrangedPages {
 public:
  explicit ArrangedPages(const lumvet::Document& document);

  lumvet::EditableDocument& document() { return document_; }
  const lumvet::EditableDocument& document() const { return document_; }
  lumvet::Result<int> page_count() const;

  // Go on with the pages on sheets.
  lumvet::Status lay_on_sheets(const lumvet::SheetLayout& layout);
  lumvet::Status lay_as_booklet(const lumvet::BookletLayout& layout);
  bool is_on_sheets() const { return is_on_sheets_; }

  // The pages of the input that are on each page now, from 0: one, several of a sheet, none.
  lumvet::Result<std::vector<std::vector<int>>> sources() const;
  std::vector<std::string> steps() const;  // what was done

 private:
  lumvet::Status take(const lumvet::SheetPlan& plan, const std::string& what);

  lumvet::EditableDocument document_;
  std::vector<std::vector<int>> sources_;  // of the document's pages, as it was before its steps
  std::vector<std::string> steps_;         // until then
  bool is_on_sheets_ = false;
};

}  // namespace tool
