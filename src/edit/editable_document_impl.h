// SPDX-License-Identifier: Apache-2.0
// The states of a document that is being changed, and how a step is made.
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <functional>
#include <mutex>
#include <string>

#include "base/attempt.h"
#include "base/history.h"
#include "document/inside.h"
#include "edit/page_order.h"
#include "file/ledger.h"
#include "lumvet/edit/editable_document.h"
#include "save/incremental_writer.h"

namespace lumvet {

using ObjectChangesPtr = std::shared_ptr<const file::ObjectChanges>;

struct EditableDocument::Impl {
  explicit Impl(const Document& document);

  // The state that counts now; kept until the next step.
  Result<Document> now() const;
  ObjectId root() const { return core_of(opened).root().as_reference(); }

  // Lets `change` work on a ledger of the state that counts now; what it leaves there is the next
  // state, called `what` then. Errors, and there is no step: as change's, and what stops reading.
  template <typename Change>
  Status step(const Change& change) {
    LUMVET_RETURN_IF_ERROR(may_be_changed());
    return take_step(change);
  }
  // The same for what only arranges pages, which owners may allow alone.
  template <typename Change>
  Status arrange(const Change& change) {
    LUMVET_RETURN_IF_ERROR(may_be_arranged());
    return take_step(change);
  }
  // The same for marks and for values of fields, which owners may allow, and certificates refuse.
  template <typename Change>
  Status annotate(const Change& change) {
    LUMVET_RETURN_IF_ERROR(may_be_annotated());
    return take_step(change);
  }
  template <typename Change>
  Status fill_in(const Change& change) {
    LUMVET_RETURN_IF_ERROR(may_be_filled_in());
    return take_step(change);
  }
  Status may_be_annotated() const;
  Status may_be_filled_in() const;
  Status may_be_changed() const;
  Status may_be_arranged() const;
  // The entry, or no change when it is what the file says already.
  void put(file::Ledger& ledger, ObjectId id, Object object) const;
  void put_catalog(file::Ledger& ledger, Dict catalog) const {
    put(ledger, root(), Object(std::move(catalog)));
  }
  Dict catalog(const file::Ledger& ledger) const {
    return ledger.resolve(Object(root())).as_dict();
  }

  // Which page of the document as it was opened a page is, or is a copy of, from 0; -1 for none.
  int origin_of(const Document& document, int index) const;

  // Lets `change` work on pages, which are objects of the ledger and look otherwise then; gives
  // what was done.
  Result<std::string> each_page(const Document& document, file::Ledger& ledger,
                                const PageSelection& pages, const char* what,
                                const std::function<Status(const Page&, ObjectId)>& change) const;
  // The pages in another order, in the ledger; gives `what`.
  Result<std::string> reordered(const Document& document, file::Ledger& ledger,
                                const std::vector<editing::OrderedPage>& order,
                                std::string what) const;

  Result<Bytes> append(saving::AppendedState& after) const;
  SaveReport report(const Document& document, std::uint64_t bytes) const;

  template <typename Change>
  Status take_step(const Change& change);

  Document opened;
  std::shared_ptr<const file::ObjectStore> file;  // without any changes
  History<ObjectChangesPtr> history;
  std::uint32_t next_number = 0;   // above all of any state
  saving::AppendedState appended;  // to the document's own file
  mutable std::mutex mutex;
  mutable ObjectChangesPtr known_changes;
  mutable std::optional<Document> known;  // with those
};

template <typename Change>
Status EditableDocument::Impl::take_step(const Change& change) {
  std::string what;
  LUMVET_TRY(ObjectChangesPtr next, attempted([&]() -> Result<ObjectChangesPtr> {
               LUMVET_TRY(const Document document, now());
               file::ObjectChanges changes = *history.now();
               changes.next_number = std::max(changes.next_number, next_number);
               file::Ledger ledger(file, changes);
               LUMVET_TRY(what, change(document, ledger));
               return std::make_shared<const file::ObjectChanges>(ledger.changes());
             }));
  next_number = next->next_number;
  history.take(std::move(what), std::move(next));
  return Done{};
}

template <>
struct Inside<EditableDocument> {
  using Impl = EditableDocument::Impl;
  static Impl& impl(EditableDocument& document) { return *document.impl_; }
};

}  // namespace lumvet
