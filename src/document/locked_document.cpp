// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/locked_document.h"

#include "base/attempt.h"
#include "document/catalog_search.h"

namespace lumvet {
namespace {

// Opens what is not protected, and what is once the credentials fit.
Result<std::shared_ptr<const file::ObjectStore>> unlocked(
    const std::shared_ptr<const file::ObjectStore>& store,
    const security::Credentials& credentials) {
  if (!store->is_locked()) return store;
  return store->unlocked(credentials);
}

}  // namespace

Result<LockedDocument> LockedDocument::open(const std::filesystem::path& path,
                                            const OpenOptions& options) {
  LUMVET_TRY(auto source, open_file_source(path));
  return open(std::move(source), options);
}

Result<LockedDocument> LockedDocument::open(std::shared_ptr<const ByteSource> source,
                                            const OpenOptions& options) {
  const std::string name = source->name();
  auto store =
      attempted([&] { return file::ObjectStore::open(std::move(source), options.limits); });
  if (!store.ok()) return std::move(store).error().about(name);
  return LockedDocument(*std::move(store));
}

std::optional<Encryption> LockedDocument::encryption() const { return store_->encryption(); }

Result<Document> LockedDocument::unlock(std::string_view password) const {
  return attempted([&]() -> Result<Document> {
    LUMVET_TRY(auto store, unlocked(store_, {.password = std::string(password), .key = {}}));
    return Document::from(std::move(store));
  });
}

Result<Document> LockedDocument::unlock(const CertificateKey& key) const {
  return attempted([&]() -> Result<Document> {
    LUMVET_TRY(auto store, unlocked(store_, {.password = {}, .key = key}));
    return Document::from(std::move(store));
  });
}

}  // namespace lumvet
