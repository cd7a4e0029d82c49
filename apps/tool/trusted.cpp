// SPDX-License-Identifier: Apache-2.0
#include "trusted.h"

#include <algorithm>
#include <cstdlib>

#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "given_files.h"

namespace tool {
namespace {

namespace fs = std::filesystem;

lumvet::Result<lumvet::Bytes> bytes_of(const std::string& path, const char* what) {
  LUMVET_TRY(const std::string text, given_file(path, what));
  return lumvet::Bytes(text.begin(), text.end());
}

// All files of a folder that hold certificates or lists; others lie there for other reasons.
lumvet::Status add_folder(lumvet::Trust& trust, const fs::path& folder) {
  std::vector<fs::path> files;
  std::error_code error;
  for (fs::directory_iterator at(folder, error), end; !error && at != end; at.increment(error))
    if (at->is_regular_file(error)) files.push_back(at->path());
  if (error)
    return lumvet::Error(lumvet::ErrorCode::io, "cannot list the folder: " + error.message())
        .about(folder.string());
  std::sort(files.begin(), files.end());
  for (const fs::path& file : files) {
    LUMVET_TRY(const lumvet::Bytes bytes, bytes_of(file.string(), "certificate"));
    if (trust.add(bytes).ok()) continue;
    static_cast<void>(trust.add_revocations(bytes));
  }
  return lumvet::Done{};
}

}  // namespace

void add_trust_options(CLI::App& verb, Trusting& trusting) {
  one_at_a_time(*verb.add_option("--trust", trusting.anchors,
                                 "Certificates that you trust: a file, in which revocation lists "
                                 "may stand beside them, or a folder")
                     ->type_name("CERT|FOLDER"));
  one_at_a_time(*verb.add_option("--revocation", trusting.revocations,
                                 "A revocation list, or the response of an OCSP responder")
                     ->type_name("FILE"));
  verb.add_flag("--only-these", trusting.ignores_own,
                "Leave out those that lumvet trust keeps for you");
}

lumvet::Result<lumvet::ProlongReport> prolong_to(const std::string& output, bool replace,
                                                 const lumvet::Document& document,
                                                 const lumvet::ProlongRequest& request) {
  if (output != "-") return lumvet::prolong(document, request, output, {.replace = replace});
  StandardOutput out;
  return lumvet::prolong(document, request, out);
}

lumvet::Result<fs::path> trust_folder() {
  const char* configuration = std::getenv("XDG_CONFIG_HOME");
  if (configuration != nullptr && *configuration != '\0')
    return fs::path(configuration) / "lumvet" / "trust";
  const char* home = std::getenv("HOME");
  if (home == nullptr || *home == '\0')
    return lumvet::Error(lumvet::ErrorCode::io,
                         "where your configuration lies is not known; set XDG_CONFIG_HOME or HOME");
  return fs::path(home) / ".config" / "lumvet" / "trust";
}

lumvet::Result<lumvet::Trust> trust_of(const Trusting& trusting) {
  lumvet::Trust trust;
  std::error_code error;
  if (!trusting.ignores_own) {
    const auto own = trust_folder();
    if (own.ok() && fs::is_directory(*own, error)) LUMVET_RETURN_IF_ERROR(add_folder(trust, *own));
  }
  for (const std::string& path : trusting.anchors) {
    if (fs::is_directory(path, error)) {
      LUMVET_RETURN_IF_ERROR(add_folder(trust, path));
      continue;
    }
    LUMVET_TRY(const lumvet::Bytes bytes, bytes_of(path, "certificate"));
    if (const auto added = trust.add(bytes); !added.ok())
      return lumvet::Error(added.error()).about(path);
  }
  for (const std::string& path : trusting.revocations) {
    LUMVET_TRY(const lumvet::Bytes bytes, bytes_of(path, "revocation list"));
    if (const auto added = trust.add_revocations(bytes); !added.ok())
      return lumvet::Error(added.error()).about(path);
  }
  return trust;
}

}  // namespace tool
