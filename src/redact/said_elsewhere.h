// SPDX-License-Identifier: Apache-2.0
// What a document says outside of its pages: titles, names, values, properties, scripts.
//
// Threads: one thread at a time.
#pragma once

#include <functional>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "file/ledger.h"
#include "lumvet/text/text_search.h"

namespace lumvet::redacting {

// What is looked for.
class Needles {
 public:
  void add(TextSearch search) { searches_.push_back(std::move(search)); }
  // Words as they are; none where they are too short to tell anything.
  Status add_words(const std::string& words);
  bool is_empty() const { return searches_.empty(); }
  // Errors: limit, as TextSearch::in's.
  Result<bool> are_in(const std::string& text) const;
  // The text without them; nothing when it has none.
  Result<std::optional<std::string>> taken_from(const std::string& text) const;

 private:
  std::vector<TextSearch> searches_;
  std::set<std::string> words_;
};

// Gets every text, in UTF-8, and answers with another one, or with nothing.
using ChangeText = std::function<Result<std::optional<std::string>>(const std::string& text)>;

// All texts that the catalog and the information dictionary lead to; what is changed is set in the
// ledger. Strings that are no texts, such as those of signatures, fonts and palettes, are left
// alone. Gives how many were changed. Errors: of `change`; as reading.
Result<int> change_texts(file::Ledger& ledger, const Dict& trailer, const Limits& limits,
                         const ChangeText& change);

// The ids of all objects that these lead to.
std::vector<ObjectId> reachable_from(const file::Ledger& ledger, const std::vector<Object>& roots);

}  // namespace lumvet::redacting
