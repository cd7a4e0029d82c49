// SPDX-License-Identifier: Apache-2.0
#include "lumvet/save/save.h"

#include "document/core.h"
#include "save/full_writer.h"

namespace lumvet {

Result<SaveReport> save(const Document& document, ByteSink& sink, const SaveOptions& options) {
  const Object ids = document.resolve(document.trailer()["ID"]);
  const saving::FullDocument full{
      document.core().store(), document.trailer()["Root"], document.trailer()["Info"],
      document.version(),
      ids.as_array().empty() ? std::string() : std::string(ids.as_array()[0].as_string())};
  SaveReport report;
  LUMVET_TRY(report.bytes, saving::write_full(full, options, sink));
  report.pages = document.page_count();
  report.findings = document.findings();
  return report;
}

Result<SaveReport> save(const Document& document, const std::filesystem::path& path,
                        const SaveOptions& options) {
  SaveReport report;
  const auto write = [&](ByteSink& sink) -> Result<std::uint64_t> {
    LUMVET_TRY(report, save(document, sink, options));
    return report.bytes;
  };
  Result<std::uint64_t> written = saving::write_file(path, options, write);
  if (!written.ok()) return std::move(written).error().during("saving " + path.string());
  report.path = path;
  return report;
}

}  // namespace lumvet
