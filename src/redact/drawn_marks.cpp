// SPDX-License-Identifier: Apache-2.0
#include "redact/drawn_marks.h"

#include "document/annotation_flags.h"
#include "edit/editable_document_impl.h"
#include "lumvet/annotate/annotations.h"

namespace lumvet::redacting {
namespace {

// Nothing is hidden any more.
Status show_all(EditableDocument& document) {
  auto& impl = Inside<EditableDocument>::impl(document);
  return impl.take_step([](const Document& now, file::Ledger& ledger) -> Result<std::string> {
    for (int i = 0; i < now.page_count(); ++i) {
      LUMVET_TRY(const Page page, now.page(i));
      const Object list = ledger.get(page.dict(), "Annots");
      for (const Object& reference : list.as_array()) {
        Dict dict = ledger.resolve(reference).as_dict();
        const std::int64_t flags = ledger.get(dict, "F").as_integer();
        const std::int64_t shown = flags & ~(document::kHidden | document::kNoView);
        if (!reference.is_reference() || shown == flags) continue;
        dict.set("F", shown);
        ledger.set(reference.as_reference(), std::move(dict));
      }
    }
    return std::string("shown");
  });
}

}  // namespace

Result<Document> with_marks_drawn(const Document& document, HiddenMarks hidden) {
  bool has_marks = false;
  for (int i = 0; i < document.page_count() && !has_marks; ++i) {
    LUMVET_TRY(const Page page, document.page(i));
    has_marks = page.dict().contains("Annots");
  }
  if (!has_marks) return document;
  EditableDocument drawn = EditableDocument::of(document);
  if (hidden == HiddenMarks::drawn) LUMVET_RETURN_IF_ERROR(show_all(drawn));
  LUMVET_TRY([[maybe_unused]] const int count, flatten_annotations(drawn, {}));
  return drawn.now();
}

}  // namespace lumvet::redacting
