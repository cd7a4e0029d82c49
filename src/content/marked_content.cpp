// SPDX-License-Identifier: Apache-2.0
// Marked content (ISO 32000-2, 14.6) and compatibility sections (7.8.2).
#include <algorithm>

#include "content/operators.h"

namespace lumvet::content::operators {

Status begin_marked(Execution& run) {
  ++run.frame->marked_depth;
  if (run.text != nullptr) run.text->begin_marked(run.operand(0).as_name(), {});
  return Done{};
}

Status begin_marked_with_properties(Execution& run) {
  Frame& frame = *run.frame;
  ++frame.marked_depth;
  const Object& stated = run.operand(1);
  const Object named = stated.is_name() ? run.resource("Properties") : Object();
  const Object& properties = stated.is_name() ? named.as_dict()[stated.as_name()] : stated;
  if (run.text != nullptr)
    run.text->begin_marked(run.operand(0).as_name(), run.store.resolve(properties).as_dict());
  if (run.operand(0).is_name("OC") && !run.is_hidden() && !run.layers->shows(properties))
    frame.hidden_from = frame.marked_depth;
  return Done{};
}

Status end_marked(Execution& run) {
  Frame& frame = *run.frame;
  if (frame.hidden_from == frame.marked_depth) frame.hidden_from.reset();
  if (frame.marked_depth > 0) {
    --frame.marked_depth;
    if (run.text != nullptr) run.text->end_marked();
  }
  return Done{};
}

// In between, operators of later standards are passed over without a word.
Status begin_compatible(Execution& run) {
  ++run.frame->compatible_depth;
  return Done{};
}

Status end_compatible(Execution& run) {
  run.frame->compatible_depth = std::max(0, run.frame->compatible_depth - 1);
  return Done{};
}

}  // namespace lumvet::content::operators
