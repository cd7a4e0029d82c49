// SPDX-License-Identifier: Apache-2.0
// A damaged document written anew, whole and clean: what could be read of it, with right cross
// references, lengths and page tree, and without the damage inside streams.
//
//   auto document = lumvet::Document::open("cut-off.pdf").value();
//   auto report = lumvet::repair(document, "mended.pdf").value();
//   for (const lumvet::Finding& finding : report.findings) log(finding.to_string());
//
// Threads: free functions; documents may be shared. Since: 0.2
#pragma once

#include "lumvet/save/save.h"

namespace lumvet {

// Reads every object and decodes every stream that has no image codec; the report's findings
// are all that was wrong. Errors: as save().
LUMVET_EXPORT Result<SaveReport> repair(const Document& document, const std::filesystem::path& path,
                                        const SaveOptions& options = {});
LUMVET_EXPORT Result<SaveReport> repair(const Document& document, ByteSink& sink,
                                        const SaveOptions& options = {});

}  // namespace lumvet
