// SPDX-License-Identifier: Apache-2.0
// What the words in braces of a brief stand for: values, and lists of rows.
//
// Threads: immutable once made.
#pragma once

#include <map>
#include <string>
#include <string_view>

#include "compose/data_rows.h"

namespace lumvet::compose {

class BriefData {
 public:
  // Throws a ResultError for what is no JSON, or of another shape.
  explicit BriefData(std::string_view json);

  bool is_empty() const { return is_empty_; }
  const Fields& values() const { return values_; }
  const DataRows* rows(const std::string& name) const;  // null for none
  std::string names() const;                            // of the lists

 private:
  bool is_empty_ = true;
  Fields values_;
  std::map<std::string, DataRows> rows_;
};

}  // namespace lumvet::compose
