// SPDX-License-Identifier: Apache-2.0
#include "document/certification.h"
#include "document/field_locks.h"
#include "document/inside.h"
#include "sign/later_changes.h"

namespace lumvet::signing {

ChangeRules change_rules(const Document& document, const Dict& signature) {
  const file::ObjectStore& store = store_of(document);
  ChangeRules rules;
  if (const auto level = document::certified_level(store, signature))
    rules.certification = *level == 1   ? Certification::no_changes
                          : *level == 3 ? Certification::annotate
                                        : Certification::fill_in;
  rules.locks = document::field_locks(store, signature);
  return rules;
}

}  // namespace lumvet::signing
