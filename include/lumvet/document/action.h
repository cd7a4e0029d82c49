// SPDX-License-Identifier: Apache-2.0
// What a document asks a viewer to do (ISO 32000-2, 12.6), as data: nothing here is ever done.
//
// Threads: values. Since: 0.2
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/destination.h"
#include "lumvet/objects/object.h"

namespace lumvet {

// What an action does to a layer (12.6.4.13).
struct LayerSwitch {
  enum class To { on, off, toggle };

  ObjectId layer = {};
  To to = To::toggle;
  bool operator==(const LayerSwitch&) const = default;
};

struct Action {
  enum class Kind {
    go_to,           // a place in this document
    go_to_remote,    // in another file
    go_to_embedded,  // in an attached document
    launch,          // start a program or open a file
    uri,
    named,  // "NextPage", "Print"
    submit_form,
    reset_form,
    import_data,
    script,  // JavaScript
    hide,
    set_layers,
    other,
  };

  Kind kind = Kind::other;
  std::string type = {};                        // as the file names it: "GoTo", "URI"
  std::optional<Destination> destination = {};  // of go_to; its page may be missing in other files
  std::string target = {};                      // the URI, file, named action or script, in UTF-8
  std::vector<std::string> fields = {};         // of forms and hide: full names, in UTF-8
  std::vector<ObjectId> objects = {};           // of hide: annotations that are no fields
  std::vector<LayerSwitch> layers = {};         // of set_layers, in the order in which they switch
  std::int64_t flags = 0;                       // of forms (tables 240 and 242)

  bool operator==(const Action&) const = default;
};

// Actions that an event asks for (12.6.3).
struct Trigger {
  std::string event = {};  // in words: "page opened", "before saving", "value changed"
  std::vector<Action> actions = {};
  bool operator==(const Trigger&) const = default;
};

}  // namespace lumvet
