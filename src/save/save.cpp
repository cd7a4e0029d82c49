// SPDX-License-Identifier: Apache-2.0
#include "lumvet/save/save.h"

#include "base/attempt.h"
#include "save/full_writer.h"

namespace lumvet {

Result<SaveReport> save(const Document& document, ByteSink& sink, const SaveOptions& options) {
  return attempted([&]() -> Result<SaveReport> {
    SaveReport report;
    LUMVET_TRY(report.bytes, saving::write_document(document, document.version(), options, sink));
    report.pages = document.page_count();
    report.findings = document.findings();
    LUMVET_RETURN_IF_ERROR(saving::note_signatures(document, report.findings));
    saving::note_weak_lock(options, report.findings);
    return report;
  });
}

Result<SaveReport> save(const Document& document, const std::filesystem::path& path,
                        const SaveOptions& options) {
  return saving::save_to_file(path, options,
                              [&](ByteSink& sink) { return save(document, sink, options); });
}

}  // namespace lumvet
