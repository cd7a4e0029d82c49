// SPDX-License-Identifier: Apache-2.0
#include "redact/structure_texts.h"

#include <set>

#include "base/attempt.h"

namespace lumvet::redacting {
namespace {

struct Open {
  ObjectId id;
  ObjectId page;
  Array kids;
  std::size_t next = 0;
};

class StructureWalk {
 public:
  StructureWalk(file::Ledger& ledger, const CutRecord& record) : ledger_(ledger), record_(record) {}

  void run(const Object& root) {
    if (!root.is_reference()) return;
    open(root, ObjectId());
    while (!open_.empty() && !Attempt::is_stopped()) {
      if (open_.back().next == open_.back().kids.size()) {
        open_.pop_back();
        continue;
      }
      const Object kid = open_.back().kids[open_.back().next++];
      read_kid(kid);
    }
    for (const ObjectId id : hit_) {
      Dict dict = ledger_.resolve(Object(id)).as_dict();
      for (const char* key : {"ActualText", "Alt", "E", "T"}) dict.remove(key);
      ledger_.set(id, std::move(dict));
    }
  }

 private:
  void open(const Object& element, ObjectId page) {
    if (!element.is_reference() || !seen_.insert(element.as_reference()).second) return;
    const Object object = ledger_.resolve(element);
    const Dict& dict = object.as_dict();
    if (dict["Pg"].is_reference()) page = dict["Pg"].as_reference();
    const Object kids = ledger_.get(dict, "K");
    Array list = kids.is_array() ? kids.as_array() : Array();
    if (!kids.is_array() && dict.contains("K")) list.push_back(dict["K"]);
    open_.push_back({element.as_reference(), page, std::move(list)});
  }

  void read_kid(const Object& kid) {
    const Open& above = open_.back();
    const Object object = ledger_.resolve(kid);
    if (object.is_integer()) return mark(above.page, static_cast<int>(object.as_integer()));
    const Dict& dict = object.as_dict();
    if (!dict.contains("MCID")) {
      if (!dict.contains("Obj")) open(kid, above.page);
      return;
    }
    const int number = static_cast<int>(ledger_.get(dict, "MCID").as_integer(-1));
    if (dict["Stm"].is_reference()) {
      const ObjectId stream = dict["Stm"].as_reference();
      mark(stream, number);
      move_to_copy(kid, dict, stream);
    } else {
      mark(dict["Pg"].is_reference() ? dict["Pg"].as_reference() : above.page, number);
    }
  }

  void mark(ObjectId owner, int number) {
    if (!record_.marked.contains({owner, number})) return;
    for (const Open& element : open_) hit_.insert(element.id);
  }

  // A form that was replaced may not be kept by what the structure says of it.
  void move_to_copy(const Object& kid, Dict dict, ObjectId stream) {
    const auto copies = record_.replaced.find(stream);
    if (copies == record_.replaced.end() || copies->second.empty()) return;
    dict.set("Stm", copies->second.front());
    if (kid.is_reference()) {
      ledger_.set(kid.as_reference(), std::move(dict));
      return;
    }
    Open& above = open_.back();
    above.kids[above.next - 1] = Object(std::move(dict));
    Dict element = ledger_.resolve(Object(above.id)).as_dict();
    element.set("K", above.kids);
    ledger_.set(above.id, std::move(element));
  }

  file::Ledger& ledger_;
  const CutRecord& record_;
  std::vector<Open> open_;
  std::set<ObjectId> seen_;
  std::set<ObjectId> hit_;
};

}  // namespace

void forget_in_structure(file::Ledger& ledger, const Dict& catalog, const CutRecord& record) {
  StructureWalk(ledger, record).run(catalog["StructTreeRoot"]);
}

}  // namespace lumvet::redacting
