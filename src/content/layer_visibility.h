// SPDX-License-Identifier: Apache-2.0
// Which optional content shows (ISO 32000-2, 8.11): by the state of each layer for what the page is
// drawn for, and by the rules of membership dictionaries.
//
// Threads: const methods may run concurrently.
#pragma once

#include <memory>
#include <set>

#include "document/core.h"
#include "lumvet/document/layers.h"

namespace lumvet::content {

class LayerVisibility {
 public:
  // `states`, where given, has one for each of Layers::all; otherwise the initial configuration
  // counts, with what it changes by itself for the purpose.
  // What is hidden is worked out once for each purpose where the document's own configuration
  // counts. `core` has to outlive this.
  LayerVisibility(const document::Core& core, Purpose purpose,
                  const std::optional<std::vector<bool>>& states);

  // Of a layer or a membership, as it is referred to; what is neither always shows.
  bool shows(const Object& membership) const;

 private:
  bool shows_layer(const Object& layer) const;
  bool shows_members(const Dict& membership) const;
  bool holds(const Object& expression, int levels) const;

  const file::ObjectStore& store_;
  std::shared_ptr<const std::set<ObjectId>> hidden_;  // layers
};

}  // namespace lumvet::content
