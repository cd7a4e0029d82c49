// SPDX-License-Identifier: Apache-2.0
#include "exchanged_files.h"

#include <lumvet/annotate/mark_list.h>
#include <lumvet/forms/value_list.h>

#include <filesystem>

#include "console.h"
#include "given_files.h"

namespace tool {

using lumvet::Error;
using lumvet::ErrorCode;
using lumvet::ExchangeParts;

namespace {

Error no_kind(const std::string& path, const char* what) {
  return Error(ErrorCode::invalid_argument, path + " names no kind of file that holds " + what);
}

lumvet::Result<std::string> fdf_of(const lumvet::Document& document, ExchangeParts parts,
                                   const std::vector<lumvet::Annotation::Kind>& kinds = {}) {
  LUMVET_TRY(const lumvet::Bytes bytes, lumvet::as_fdf(document, parts, kinds));
  return std::string(bytes.begin(), bytes.end());
}

lumvet::Result<lumvet::Exchange> read_exchange(const std::string& path, const std::string& text,
                                               const lumvet::Document& document) {
  return path.ends_with(".xfdf") ? lumvet::read_xfdf(text, document)
                                 : lumvet::read_fdf(lumvet::as_bytes(text), document);
}

bool is_exchange(const std::string& path) {
  return path.ends_with(".xfdf") || path.ends_with(".fdf");
}

// From which a list names files; the current one for standard input.
std::filesystem::path folder_of(const std::string& path) {
  return path == "-" ? std::filesystem::path() : std::filesystem::path(path).parent_path();
}

constexpr const char* kValues = "values; let it end in .json, .csv, .xfdf or .fdf";
constexpr const char* kListed = "marks; let it end in .json, .csv, .xfdf or .fdf";

}  // namespace

lumvet::Result<std::vector<std::vector<lumvet::FieldValue>>> values_from_file(
    const std::string& path, const lumvet::Document& document) {
  if (path != "-" && !path.ends_with(".csv") && !path.ends_with(".json") && !is_exchange(path))
    return no_kind(path, kValues);
  LUMVET_TRY(const std::string text, given_file(path, "file of values"));
  if (path.ends_with(".csv")) return lumvet::read_value_table(text);
  if (!is_exchange(path)) return lumvet::read_value_rows(text);
  LUMVET_TRY(const lumvet::Exchange read, read_exchange(path, text, document));
  return std::vector<std::vector<lumvet::FieldValue>>(1, read.values);
}

lumvet::Result<std::string> values_for_file(const std::string& path,
                                            const lumvet::Document& document,
                                            const lumvet::Form& form) {
  if (path.ends_with(".json")) return lumvet::values_as_json(lumvet::values_of(form));
  if (path.ends_with(".csv")) return lumvet::values_as_table(lumvet::values_of(form));
  if (path.ends_with(".xfdf")) return lumvet::as_xfdf(document, ExchangeParts::values);
  if (path.ends_with(".fdf")) return fdf_of(document, ExchangeParts::values);
  return no_kind(path, kValues);
}

lumvet::Result<lumvet::Exchange> marks_from_file(const std::string& path,
                                                 const lumvet::Document& document) {
  LUMVET_TRY(const std::string text, given_file(path, "list of marks"));
  if (is_exchange(path)) return read_exchange(path, text, document);
  LUMVET_TRY(lumvet::ReadMarks read,
             lumvet::read_marks(text, document, {.folder = folder_of(path)}));
  return lumvet::Exchange{.marks = std::move(read.marks), .findings = std::move(read.findings)};
}

lumvet::Result<std::string> marks_for_file(const std::string& path,
                                           const lumvet::Document& document,
                                           const std::vector<lumvet::Annotation::Kind>& kinds) {
  if (path.ends_with(".json")) return lumvet::marks_as_json(document, kinds);
  if (path.ends_with(".csv")) return lumvet::marks_as_csv(document, kinds);
  if (path.ends_with(".xfdf")) return lumvet::as_xfdf(document, ExchangeParts::marks, kinds);
  if (path.ends_with(".fdf")) return fdf_of(document, ExchangeParts::marks, kinds);
  return no_kind(path, kListed);
}

}  // namespace tool
