// SPDX-License-Identifier: Apache-2.0
#include "document/triggers.h"

#include <span>

#include "document/destinations.h"
#include "document/name_tree.h"

namespace lumvet::document {
namespace {

struct Event {
  std::string_view key;
  std::string_view words;
};

constexpr Event kDocumentEvents[] = {{"WC", "before closing"},
                                     {"WS", "before saving"},
                                     {"DS", "after saving"},
                                     {"WP", "before printing"},
                                     {"DP", "after printing"}};
constexpr Event kPageEvents[] = {{"O", "page opened"}, {"C", "page closed"}};
constexpr Event kAnnotationEvents[] = {{"E", "pointer enters"},    {"X", "pointer leaves"},
                                       {"D", "pressed"},           {"U", "released"},
                                       {"Fo", "focus gained"},     {"Bl", "focus lost"},
                                       {"PO", "its page opened"},  {"PC", "its page closed"},
                                       {"PV", "its page in view"}, {"PI", "its page out of view"}};
constexpr Event kFieldEvents[] = {{"K", "keystroke"},
                                  {"F", "before the value is shown"},
                                  {"V", "value changed"},
                                  {"C", "value calculated"}};

std::span<const Event> events_of(TriggerOwner owner) {
  switch (owner) {
    case TriggerOwner::document: return kDocumentEvents;
    case TriggerOwner::page: return kPageEvents;
    case TriggerOwner::annotation: return kAnnotationEvents;
    case TriggerOwner::field: break;
  }
  return kFieldEvents;
}

}  // namespace

std::vector<Trigger> read_triggers(const Core& core, const Dict& owner, TriggerOwner kind) {
  std::vector<Trigger> triggers;
  const Object additional = core.store().get(owner, "AA");
  if (additional.as_dict().is_empty()) return triggers;
  for (const Event& event : events_of(kind)) {
    std::vector<Action> actions = read_actions(core, additional.as_dict()[event.key]);
    if (!actions.empty()) triggers.push_back({std::string(event.words), std::move(actions)});
  }
  return triggers;
}

std::vector<Trigger> read_document_triggers(const Core& core) {
  const file::ObjectStore& store = core.store();
  std::vector<Trigger> triggers;
  const Object names = store.get(core.catalog(), "Names");
  walk_tree(store, names.as_dict()["JavaScript"], "Names",
            [&](const Object&, const Object& action) {
              std::vector<Action> actions = read_actions(core, action);
              if (!actions.empty()) triggers.push_back({"opened", std::move(actions)});
            });
  std::vector<Trigger> others = read_triggers(core, core.catalog(), TriggerOwner::document);
  triggers.insert(triggers.end(), std::make_move_iterator(others.begin()),
                  std::make_move_iterator(others.end()));
  return triggers;
}

}  // namespace lumvet::document
