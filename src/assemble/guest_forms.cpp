// SPDX-License-Identifier: Apache-2.0
#include "assemble/guest_forms.h"

#include "assemble/annotation_copier.h"
#include "assemble/used_resources.h"
#include "document/inside.h"

namespace lumvet::assemble {

Result<ObjectId> GuestForms::form_of(const Page& page) {
  const auto known = forms_.find(page.index());
  if (known != forms_.end()) return known->second;
  const ObjectId copy = ledger_.reserve();
  copier_.copy_page(page, used_resources(guest_, page), copy, ObjectId());
  LUMVET_RETURN_IF_ERROR(draw_onto(ledger_, page, copy, drawn_annotations(copier_, ledger_, page)));
  LUMVET_TRY(Stream form, form_of_page(ledger_, copy, store_of(guest_).limits()));
  ledger_.drop(copy);
  // Together they shine through, not each through the other (11.6.6).
  if (!form.dict.contains("Group"))
    form.dict.set("Group",
                  Dict{{"Type", Object::name("Group")}, {"S", Object::name("Transparency")}});
  const ObjectId id = ledger_.add(Object(std::move(form)));
  forms_.emplace(page.index(), id);
  return id;
}

}  // namespace lumvet::assemble
