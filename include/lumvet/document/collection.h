// SPDX-License-Identifier: Apache-2.0
// Documents that are the cover of others, which are attached to them (ISO 32000-2, 7.11.6), and
// what documents ask of a program that shows them (12.11).
//
// Threads: values. Since: 0.2
#pragma once

#include <string>
#include <vector>

namespace lumvet {

// A column of the list in which attachments are shown (table 155).
struct CollectionField {
  std::string key = {};   // of CollectionItem::key
  std::string name = {};  // for people, UTF-8
  std::string type = {};  // "S", "D", "N" of own entries; "F", "Desc", "Size" and the like of files
  bool is_visible = true;
  bool operator==(const CollectionField&) const = default;
};

// What an attachment says for such a column.
struct CollectionItem {
  std::string key = {};
  std::string value = {};  // as text, UTF-8
  bool operator==(const CollectionItem&) const = default;
};

struct Collection {
  enum class View { details, tiles, hidden, custom };

  View view = View::details;
  std::string shown_first = {};  // the name of an attachment; empty for the cover itself
  std::vector<CollectionField> fields = {};
  std::vector<std::string> sorted_by = {};  // keys
  bool operator==(const Collection&) const = default;
};

// Something that has to be there for the document to work as it should.
struct Requirement {
  std::string type = {};  // "EnableJavaScripts", "Encryption"
  int penalty = 100;      // 0 to 100: how much is lost without it
  bool operator==(const Requirement&) const = default;
};

}  // namespace lumvet
