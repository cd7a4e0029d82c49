// SPDX-License-Identifier: Apache-2.0
#include "appearance/drawn_form.h"

#include "appearance/made_appearances.h"

namespace lumvet::appearance {

Result<ObjectId> drawn_form(const document::Core& core, file::Ledger& ledger,
                            const Drawing& drawing) {
  LUMVET_RETURN_IF_ERROR(drawing.status());
  AppearanceWriter writer(core, ledger, FontSupply());
  LUMVET_TRY(const ObjectId form, writer.write(drawing));
  LUMVET_RETURN_IF_ERROR(writer.finish());
  return form;
}

}  // namespace lumvet::appearance
