// SPDX-License-Identifier: Apache-2.0
// Destinations and actions out of their objects (ISO 32000-2, 12.3.2 and 12.6).
#pragma once

#include "document/core.h"
#include "lumvet/document/action.h"

namespace lumvet::document {

// The array that a destination stands for, whether given so, by name or in a dictionary; null when
// there is none.
Object explicit_destination(const Core& core, const Object& destination);

// The page a destination leads to.
std::optional<int> page_of_destination(const Core& core, const Object& destination);

// Nothing for what is no destination, or for a name that nothing has.
std::optional<Destination> read_destination(const Core& core, const Object& destination);

// Every destination that has a name, by name: of the catalog's dictionary and of its name tree.
std::vector<Destination> read_named_destinations(const Core& core);

// An action and, behind it, those that follow it (/Next), each once.
std::vector<Action> read_actions(const Core& core, const Object& action);

// What a file specification names (7.11), in UTF-8.
std::string file_name_of(const file::ObjectStore& store, const Object& specification);

}  // namespace lumvet::document
