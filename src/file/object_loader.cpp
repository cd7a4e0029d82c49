// SPDX-License-Identifier: Apache-2.0
#include "file/object_loader.h"

#include "base/attempt.h"

namespace lumvet::file {

Object ObjectLoader::resolve(const Object& object) const {
  if (!Attempt::follow_in(follows_, may_follow_)) return Object();
  Object current = object;
  for (int i = 0; i < limits_.reference_chain && current.is_reference(); ++i) {
    Result<Object> loaded = load(current.as_reference());
    if (!loaded.ok()) {
      const Error& error = loaded.error();
      Attempt::note(error);
      findings_->add(
          {error.message() + "; null was taken instead", error.offset(), error.object()});
      return Object();
    }
    current = *std::move(loaded);
  }
  if (!current.is_reference()) return current;
  findings_->add({"references lead to more references than Limits::reference_chain; null was taken",
                  {},
                  object.as_reference()});
  return Object();
}

}  // namespace lumvet::file
