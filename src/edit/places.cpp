// SPDX-License-Identifier: Apache-2.0
#include "edit/places.h"

#include <algorithm>
#include <array>
#include <unordered_set>

#include "document/inside.h"

namespace lumvet::editing {
namespace {

class Search {
 public:
  explicit Search(const document::Core& core) : core_(core) {}

  std::vector<ObjectId> run() {
    const Dict& catalog = core_.catalog();
    found_.push_back(core_.root().as_reference());
    for (const char* key : {"Outlines", "Names", "Dests", "OpenAction"}) look(catalog[key]);
    for (int i = 0; i < core_.pages().count(); ++i)
      if (const auto page = core_.pages().find(i); page.ok()) {
        if (page->id != ObjectId()) found_.push_back(page->id);
        look(page->dict["Annots"]);
      }
    while (!open_.empty()) {
      const ObjectId id = open_.back();
      open_.pop_back();
      const Object object = core_.store().resolve(Object(id));
      const Object type = core_.store().resolve(object.as_dict()["Type"]);
      const bool leads_out = object.is_stream() || type.is_name("Page") || type.is_name("Pages");
      if (leads_out || object.is_null()) continue;
      found_.push_back(id);
      look_within(object);
    }
    return std::move(found_);
  }

 private:
  void look(const Object& object) {
    if (!object.is_reference()) return look_within(object);
    if (seen_.insert(object.as_reference()).second) open_.push_back(object.as_reference());
  }

  void look_within(const Object& object) {
    for (const Object& item : object.as_array()) look(item);
    // Looks, files and what leads upward hold no places.
    static constexpr std::array<std::string_view, 8> kOthers = {
        "AP", "P", "Parent", "EmbeddedFiles", "FS", "JavaScript", "OC", "MK"};
    for (const auto& [key, value] : object.as_dict())
      if (std::find(kOthers.begin(), kOthers.end(), key) == kOthers.end()) look(value);
  }

  const document::Core& core_;
  std::unordered_set<ObjectId, file::IdHash> seen_;
  std::vector<ObjectId> open_;
  std::vector<ObjectId> found_;
};

}  // namespace

std::vector<ObjectId> holders_of_places(const Document& document) {
  return Search(core_of(document)).run();
}

}  // namespace lumvet::editing
