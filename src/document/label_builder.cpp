// SPDX-License-Identifier: Apache-2.0
#include "document/label_builder.h"

#include <map>
#include <optional>

#include "document/tree_builder.h"
#include "objects/text_string.h"

namespace lumvet::document {

Object build_page_labels(file::Ledger& ledger, const std::vector<PageLabels::Label>& labels) {
  std::map<std::int64_t, Object> runs;
  std::optional<PageLabels::Label> expected;
  for (std::size_t i = 0; i < labels.size(); ++i) {
    const PageLabels::Label& label = labels[i];
    if (!expected || *expected != label) {
      Dict run;
      if (!label.style.empty()) run.set("S", Object::name(label.style));
      if (!label.prefix.empty()) run.set("P", Object::string(objects::utf8_to_text(label.prefix)));
      if (label.number != 1) run.set("St", label.number);
      runs.emplace(static_cast<std::int64_t>(i), std::move(run));
    }
    expected = label;
    ++expected->number;
  }
  return build_number_tree(ledger, runs);
}

}  // namespace lumvet::document
