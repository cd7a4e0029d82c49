// SPDX-License-Identifier: Apache-2.0
// Does to the copies of pages what is different about them in the new document.
//
//   PageChanger changer(ledger);
//   for (…) changer.change(page, copy, change, marks);   // every page, in order
//   changer.finish();                                    // once everything else is in the ledger
//
// Threads: one thread at a time.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <set>

#include "assemble/page_change.h"
#include "assemble/page_drawing.h"
#include "assemble/page_moves.h"
#include "assemble/source_copier.h"

namespace lumvet::assemble {

class PageChanger {
 public:
  explicit PageChanger(file::Ledger& ledger) : ledger_(ledger), moves_(ledger) {}

  // The next of all pages; its copy is in the ledger, with its annotations. `marks`, in the page's
  // own space, are drawn above its content. Errors: as reading content.
  Status change(const Page& page, ObjectId copy, const PageChange& change,
                std::vector<Drawn> marks);
  // Lays pages onto their sheets, and lets what leads to them follow. Errors: as decoding streams.
  Status finish();

  // Documents of which pages were drawn onto others.
  void visit_guests(const std::function<void(SourceCopier&)>& visit);

 private:
  // A page that lies on a sheet, or is one, or whose content moved.
  struct Waiting {
    ObjectId id;
    PageChange change;
    Rect crop;
    Balance balance;
    Wrapping wrapping;
    Limits limits;
    std::vector<Drawn> parts;  // pages that lie on it
  };

  Result<ObjectId> form_of(const Guest& guest);
  void set_boxes(const Page& page, ObjectId copy, const PageChange& change);
  Move move_of(const Waiting& page) const;
  Status lay(Waiting& page, Move& move);

  file::Ledger& ledger_;
  PageMoves moves_;
  std::size_t next_ = 0;  // page's place among all
  std::set<std::size_t> sheets_;
  std::map<std::size_t, Waiting> waiting_;
  std::map<const document::Core*, std::unique_ptr<SourceCopier>> guests_;
  std::map<std::pair<const document::Core*, int>, ObjectId> forms_;
};

}  // namespace lumvet::assemble
