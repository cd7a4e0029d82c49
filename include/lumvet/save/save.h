// SPDX-License-Identifier: Apache-2.0
// Writing documents. A save never harms what is there: the new file appears whole under its name or
// not at all, and an existing file is replaced only when that is asked for. The same document and
// options give the same bytes.
//
//   lumvet::save(document, "copy.pdf", {.layout = lumvet::FileLayout::classic});
//
// Threads: free functions; documents may be shared.
#pragma once

#include <filesystem>
#include <optional>

#include "lumvet/base/progress.h"
#include "lumvet/document/document.h"
#include "lumvet/io/byte_sink.h"
#include "lumvet/security/new_protection.h"

namespace lumvet {

enum class FileLayout {
  compact,  // object streams and a cross-reference stream (ISO 32000-2, 7.5.7 and 7.5.8)
  classic,  // every object by itself and a cross-reference table (7.5.4)
  // In the order in which a viewer needs it, so that the first page shows before the rest has come
  // and every other page needs little ("fast web view", annex F); the same with every object by
  // itself.
  linearized,
  linearized_classic,
};

struct SaveOptions {
  FileLayout layout = FileLayout::compact;
  bool replace = false;  // whether an existing file may be replaced
  // Whether the new file says that it was last written when the replaced one was. Programs that
  // look for what has changed, such as backups, then overlook it.
  bool keep_times = false;
  // Whether nothing is written, and malformed returned, when there would be findings to report. For
  // files alone.
  bool refuse_findings = false;
  // A protected document stays protected as it was, and what is bound of several as the first
  // protected one, unless it is to be protected otherwise, or not at all.
  std::optional<NewProtection> protection = {};
  bool remove_protection = false;
  // Whether streams packed without loss are unpacked and packed as small as can be, which takes
  // many times as long. Images stay the same to the bit, those of an image codec untouched.
  bool recompress = false;
  int threads = 0;  // 0: one for each core; any number writes the same bytes
  Progress progress = {};
  CancelToken cancel = {};
};

struct SaveReport {
  std::filesystem::path path = {};  // empty when written elsewhere than to a file
  int pages = 0;
  std::uint64_t bytes = 0;
  // What could not be taken along, and damage met in the sources.
  std::vector<Finding> findings = {};
};

// Writes everything reachable from the document's catalog and information, renumbered.
// Errors: exists, io, cancelled; malformed and limit as reading meets them.
LUMVET_EXPORT Result<SaveReport> save(const Document& document, const std::filesystem::path& path,
                                      const SaveOptions& options = {});
LUMVET_EXPORT Result<SaveReport> save(const Document& document, ByteSink& sink,
                                      const SaveOptions& options = {});

}  // namespace lumvet
