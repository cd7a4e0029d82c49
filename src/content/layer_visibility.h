// SPDX-License-Identifier: Apache-2.0
// Which optional content shows (ISO 32000-2, 8.11): by the state of each layer for what the page is
// drawn for, and by the rules of membership dictionaries.
//
// Threads: const methods may run concurrently.
#pragma once

#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "document/core.h"
#include "lumvet/document/layers.h"

namespace lumvet::content {

// What the states of layers follow from where the document says so (8.11.4.4).
struct LayerSetting {
  Purpose purpose = Purpose::view;
  float zoom = 1;        // 1 is 100 %
  std::string language;  // "es-MX"; empty where it is not known
  std::string user;      // the person's name or organization; empty where it is not known
};

class LayerVisibility {
 public:
  // `states`, where given, has one for each of Layers::all; otherwise the initial configuration
  // counts, with what it changes by itself in that setting.
  // What is hidden is worked out once for each purpose and zoom where the document's own
  // configuration counts. `core` has to outlive this.
  LayerVisibility(const document::Core& core, const LayerSetting& setting,
                  const std::optional<std::vector<bool>>& states);

  // Of a layer or a membership, as it is referred to; what is neither always shows.
  bool shows(const Object& membership) const;

 private:
  bool shows_layer(const Object& layer) const;
  bool shows_members(const Dict& membership) const;
  bool holds(const Object& expression, int levels) const;

  const file::ObjectStore& store_;
  // Layers that do not show, and those that play no part, since the configuration is meant for
  // something else than they are (8.11.2.3).
  struct States {
    std::set<ObjectId> hidden;
    std::set<ObjectId> ignored;
  };
  static States states_of(const document::Core& core, const LayerSetting& setting,
                          const std::optional<std::vector<bool>>& states);

  std::shared_ptr<const States> states_;
};

}  // namespace lumvet::content
