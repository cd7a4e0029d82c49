// SPDX-License-Identifier: Apache-2.0
#include "lumvet/save/save.h"

#include "document/core.h"
#include "save/full_writer.h"

namespace lumvet {

Result<SaveReport> save(const Document& document, ByteSink& sink, const SaveOptions& options) {
  const saving::FullDocument full{document.core().store(),    document.core().root(),
                                  document.trailer()["Info"], document.version(),
                                  saving::first_id(document), document.core().store().security()};
  SaveReport report;
  LUMVET_TRY(report.bytes, saving::write_full(full, options, sink));
  report.pages = document.page_count();
  report.findings = document.findings();
  saving::note_weak_lock(options, report.findings);
  return report;
}

Result<SaveReport> save(const Document& document, const std::filesystem::path& path,
                        const SaveOptions& options) {
  return saving::save_to_file(path, options,
                              [&](ByteSink& sink) { return save(document, sink, options); });
}

}  // namespace lumvet
