// SPDX-License-Identifier: Apache-2.0
#include "lumvet/save/save.h"

#include "base/attempt.h"
#include "document/inside.h"
#include "save/full_writer.h"

namespace lumvet {

Result<SaveReport> save(const Document& document, ByteSink& sink, const SaveOptions& options) {
  return attempted([&]() -> Result<SaveReport> {
    const saving::FullDocument full{store_of(document),         core_of(document).root(),
                                    document.trailer()["Info"], document.version(),
                                    saving::first_id(document), store_of(document).security()};
    SaveReport report;
    LUMVET_TRY(report.bytes, saving::write_full(full, options, sink));
    report.pages = document.page_count();
    report.findings = document.findings();
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
