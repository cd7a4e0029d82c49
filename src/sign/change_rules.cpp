// SPDX-License-Identifier: Apache-2.0
#include "document/field_locks.h"
#include "document/inside.h"
#include "sign/later_changes.h"

namespace lumvet::signing {

Result<ChangeRules> change_rules(const Document& document, const Dict& signature) {
  ChangeRules rules;
  LUMVET_TRY(const Object references, document.resolve(signature["Reference"]));
  for (const Object& item : references.as_array()) {
    LUMVET_TRY(const Object reference, document.resolve(item));
    LUMVET_TRY(const Object method, document.resolve(reference.as_dict()["TransformMethod"]));
    if (!method.is_name("DocMDP")) continue;
    LUMVET_TRY(const Object stated, document.resolve(reference.as_dict()["TransformParams"]));
    LUMVET_TRY(const Object level, document.resolve(stated.as_dict()["P"]));
    constexpr std::int64_t kFillIn = 2;  // also where it says nothing (table 257)
    const std::int64_t number = level.as_integer(kFillIn);
    rules.certification = number == 1   ? Certification::no_changes
                          : number == 3 ? Certification::annotate
                                        : Certification::fill_in;
  }
  rules.locks = document::field_locks(store_of(document), signature);
  return rules;
}

}  // namespace lumvet::signing
