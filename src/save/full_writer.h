// SPDX-License-Identifier: Apache-2.0
// The full save: what is reachable, renumbered, from the header to the last line.
#pragma once

#include "lumvet/save/save.h"
#include "objects/resolver.h"
#include "security/security_handler.h"

namespace lumvet::saving {

struct FullDocument {
  const objects::Resolver& objects;
  Object catalog;        // a reference
  Object info;           // a reference, or null
  std::string version;   // at least this one: "1.7"
  std::string first_id;  // of a document that had one already, which it keeps (14.4)
  std::shared_ptr<const security::SecurityHandler> security = {};  // that it had
  // How many pages it has, of one that is damaged: a linearized copy is looked at before it goes.
  std::optional<int> damaged_pages = {};
};

// Its information dictionary, as it is referred to; null where damage left something else.
Object information(const Document& document);

// What the written document is protected by; nothing for none.
struct Lock {
  std::shared_ptr<const security::SecurityHandler> security;
  std::string first_id;  // of which its key is made

  std::string least_version() const;
};
Result<Lock> lock_for(const FullDocument& document, const SaveOptions& options);

std::string header_of(const std::string& version);

// What the trailers of all layouts have alike; `catalog` and `info` are new references.
Dict trailer_of(const FullDocument& document, const Lock& lock, std::uint64_t size,
                const Object& catalog, const Object& info, const std::string& id);

// What a person should know who asked for a lock that protects less than the usual one.
void note_weak_lock(const SaveOptions& options, std::vector<Finding>& findings);
// That signatures end with a file that is written anew. Errors: io, need_more_data, limit.
Status note_signatures(const Document& document, std::vector<Finding>& findings);

// Gives the bytes written. A document that is locked anew is opened again, and must refuse. Errors:
// io, cancelled, malformed, limit; invalid_argument, where a password protects nothing.
Result<std::uint64_t> write_full(const FullDocument& document, const SaveOptions& options,
                                 ByteSink& sink);

// A document that was opened, with the pages that it shows. Errors: as write_full's; malformed for
// one without pages.
Result<std::uint64_t> write_document(const Document& document, const std::string& version,
                                     const SaveOptions& options, ByteSink& sink);

// A new document, written into memory and opened within limits. Errors: as write_full's and
// Document::open's.
Result<Document> opened(const objects::Resolver& objects, ObjectId catalog,
                        std::optional<std::string> name = std::nullopt, const Limits& limits = {});

// The first of a document's two identifiers, which its copies keep; empty when it has none.
std::string first_id(const Document& document);

// Creates the file, lets `write` fill it and makes it appear.
Result<SaveReport> save_to_file(const std::filesystem::path& path, const SaveOptions& options,
                                const std::function<Result<SaveReport>(ByteSink&)>& write);

}  // namespace lumvet::saving
