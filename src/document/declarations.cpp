// SPDX-License-Identifier: Apache-2.0
#include "document/declarations.h"

#include "document/text_entries.h"

namespace lumvet::document {

std::vector<OutputIntent> read_output_intents(const file::ObjectStore& store, const Dict& owner) {
  std::vector<OutputIntent> intents;
  const Object list = store.get(owner, "OutputIntents");
  for (const Object& item : list.as_array()) {
    const Object object = store.resolve(item);
    const Dict& dict = object.as_dict();
    if (dict.is_empty()) continue;
    OutputIntent intent;
    intent.subtype = store.get(dict, "S").as_name();
    intent.identifier = text_entry(store, dict, "OutputConditionIdentifier");
    intent.condition = text_entry(store, dict, "OutputCondition");
    intent.registry = text_entry(store, dict, "RegistryName");
    intent.info = text_entry(store, dict, "Info");
    const Object profile = store.get(dict, "DestOutputProfile");
    if (profile.is_stream()) {
      intent.profile = dict["DestOutputProfile"];
      constexpr std::int64_t kMostComponents = 32;
      const std::int64_t components = store.get(profile.as_dict(), "N").as_integer();
      if (components > 0 && components <= kMostComponents)
        intent.components = static_cast<int>(components);
    }
    intents.push_back(std::move(intent));
  }
  return intents;
}

std::vector<Extension> read_extensions(const Core& core) {
  const file::ObjectStore& store = core.store();
  std::vector<Extension> extensions;
  const Object all = store.get(core.catalog(), "Extensions");
  for (const auto& [prefix, value] : all.as_dict()) {
    const Object stated = store.resolve(value);
    // One developer may extend in several ways (7.12.2).
    const Array several = stated.is_array() ? stated.as_array() : Array{stated};
    for (const Object& item : several) {
      const Object object = store.resolve(item);
      const Dict& dict = object.as_dict();
      if (!object.is_dict()) continue;
      extensions.push_back({prefix, std::string(store.get(dict, "BaseVersion").as_name()),
                            store.get(dict, "ExtensionLevel").as_integer(),
                            text_entry(store, dict, "ExtensionRevision"),
                            text_entry(store, dict, "URL")});
    }
  }
  return extensions;
}

}  // namespace lumvet::document
