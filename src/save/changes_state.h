// SPDX-License-Identifier: Apache-2.0
// What changes to a document have come to, step by step.
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <map>
#include <string>

#include "base/history.h"
#include "document/inside.h"
#include "document/name_tree.h"
#include "document/tree_builder.h"
#include "file/ledger.h"
#include "lumvet/save/changes.h"
#include "objects/text_string.h"

namespace lumvet {

struct Changes::Impl {
  // What steps change. Objects that no state leads to any more are not written.
  struct State {
    Dict catalog;
    Dict info;
    std::map<std::string, Object> files;  // by the bytes of their names in the tree
  };

  explicit Impl(const Document& opened)
      : document(opened),
        ledger(file::Ledger::beyond(core_of(opened).shared_store())),
        history(state_of(opened)) {
    const Object& stated = document.trailer()["Info"];
    info = stated.is_reference() ? stated.as_reference() : ledger.reserve();
  }

  static State state_of(const Document& document) {
    const file::ObjectStore& store = store_of(document);
    State state;
    state.catalog = document.catalog();
    state.info = store_of(document).resolve(document.trailer()["Info"]).as_dict();
    const Object names = store.get(document.catalog(), "Names");
    document::walk_tree(
        store, names.as_dict()["EmbeddedFiles"], "Names",
        [&](const Object& key, const Object& file) { state.files.emplace(key.as_string(), file); });
    return state;
  }

  void set_files(State& state) {
    Dict names = ledger.resolve(state.catalog["Names"]).as_dict();
    names.set("EmbeddedFiles", document::build_name_tree(ledger, state.files));
    state.catalog.set("Names", names.is_empty() ? Object() : Object(std::move(names)));
  }

  std::string name_of(const std::string& key, const Object& file) const {
    const Object specification = ledger.resolve(file);
    for (const char* entry : {"UF", "F"})
      if (const Object name = ledger.get(specification.as_dict(), entry); name.is_string())
        return objects::text_to_utf8(name.as_string());
    return objects::text_to_utf8(key);
  }

  // Everything as it is now. What is as it was in the file is no change.
  file::Ledger all() const {
    file::Ledger now = ledger;
    const State& state = history.now();
    const ObjectId root = core_of(document).root().as_reference();
    if (state.catalog != document.catalog()) now.set(root, state.catalog);
    const bool has_info = !state.info.is_empty();
    if (has_info && state.info != store_of(document).resolve(Object(info)).as_dict())
      now.set(info, state.info);
    return now;
  }

  Object info_reference() const { return history.now().info.is_empty() ? Object() : Object(info); }

  SaveReport report(std::uint64_t bytes) const {
    SaveReport report;
    report.bytes = bytes;
    report.pages = document.page_count();
    report.findings = document.findings();
    return report;
  }

  Document document;
  file::Ledger ledger;
  ObjectId info;
  History<State> history;
};

}  // namespace lumvet
