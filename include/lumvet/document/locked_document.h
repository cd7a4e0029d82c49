// SPDX-License-Identifier: Apache-2.0
// A document on the way to being opened: its file has been read so far that it is known whether it
// needs a password, and which passwords can be tried without reading it again.
//
//   auto waiting = lumvet::LockedDocument::open("statement.pdf").value();
//   auto document = waiting.unlock();                  // enough for most documents
//   while (!document && document.error().code() == lumvet::ErrorCode::password)
//     document = waiting.unlock(ask_person());
//
// Threads: immutable, share freely. Since: 0.2
#pragma once

#include "lumvet/document/document.h"

namespace lumvet {

class LUMVET_EXPORT LockedDocument {
 public:
  // Of the options only the limits count here. Errors: as Document::open, but for password.
  static Result<LockedDocument> open(const std::filesystem::path& path,
                                     const OpenOptions& options = {});
  static Result<LockedDocument> open(std::shared_ptr<const ByteSource> source,
                                     const OpenOptions& options = {});

  // How it is protected; nothing when everybody can open it.
  std::optional<Encryption> encryption() const;

  // Errors: password when it does not fit, after which another may be tried; malformed,
  // unsupported.
  Result<Document> unlock(std::string_view password = {}) const;
  Result<Document> unlock(const CertificateKey& key) const;

 private:
  explicit LockedDocument(std::shared_ptr<const file::ObjectStore> store)
      : store_(std::move(store)) {}

  std::shared_ptr<const file::ObjectStore> store_;
};

}  // namespace lumvet
