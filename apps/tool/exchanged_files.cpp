// SPDX-License-Identifier: Apache-2.0
#include "exchanged_files.h"

#include <lumvet/forms/value_list.h>

#include "given_files.h"

namespace tool {

using lumvet::Error;
using lumvet::ErrorCode;

namespace {

Error no_kind(const std::string& path) {
  return Error(ErrorCode::invalid_argument,
               path +
                   " names no kind of file that holds values; let it end in .json, .csv, .xfdf "
                   "or .fdf");
}

}  // namespace

lumvet::Result<std::vector<std::vector<lumvet::FieldValue>>> values_from_file(
    const std::string& path, const lumvet::Document&) {
  std::vector<std::vector<lumvet::FieldValue>> rows;
  LUMVET_TRY(const std::string text, given_file(path, "file of values"));
  if (path.ends_with(".csv")) return lumvet::read_value_table(text);
  if (path != "-" && !path.ends_with(".json")) return no_kind(path);
  return lumvet::read_value_rows(text);
}

lumvet::Result<std::string> values_for_file(const std::string& path, const lumvet::Document&,
                                            const lumvet::Form& form) {
  if (path.ends_with(".json")) return lumvet::values_as_json(lumvet::values_of(form));
  if (path.ends_with(".csv")) return lumvet::values_as_table(lumvet::values_of(form));
  return no_kind(path);
}

}  // namespace tool
