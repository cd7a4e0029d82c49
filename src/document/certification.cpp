// SPDX-License-Identifier: Apache-2.0
#include "document/certification.h"

namespace lumvet::document {
namespace {

constexpr std::int64_t kNothing = 1;  // table 257
constexpr std::int64_t kFillIn = 2;

std::optional<std::int64_t> level_of(const Core& core) {
  const file::ObjectStore& store = core.store();
  const Object permissions = store.get(core.catalog(), "Perms");
  const Object signature = store.get(permissions.as_dict(), "DocMDP");
  if (!signature.is_dict()) return std::nullopt;
  return certified_level(store, signature.as_dict()).value_or(kFillIn);
}

}  // namespace

std::optional<std::int64_t> certified_level(const file::ObjectStore& store, const Dict& signature) {
  const Object references = store.get(signature, "Reference");
  for (const Object& item : references.as_array()) {
    const Object reference = store.resolve(item);
    if (!store.get(reference.as_dict(), "TransformMethod").is_name("DocMDP")) continue;
    const Object parameters = store.get(reference.as_dict(), "TransformParams");
    return store.get(parameters.as_dict(), "P").as_integer(kFillIn);
  }
  return std::nullopt;
}

Status check_certification(const Core& core, ChangeKind change) {
  const auto level = level_of(core);
  const bool is_allowed =
      !level || *level > kFillIn || (*level == kFillIn && change == ChangeKind::fill_in);
  if (is_allowed) return Done{};
  return Error(ErrorCode::unsupported,
               *level == kNothing ? "the document is certified, and nothing in it may be changed"
                                  : "the document is certified; its fields may be filled in, and "
                                    "nothing else changed");
}

}  // namespace lumvet::document
