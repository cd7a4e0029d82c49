// SPDX-License-Identifier: Apache-2.0
// The objects of a document: those of its file, with the changes of a ledger on top of them. Both
// are immutable, so that a changed state shares everything with the one before but what differs.
//
// Threads: const methods may run concurrently.
#pragma once

#include <set>
#include "file/object_changes.h"
#include "file/opened_file.h"

namespace lumvet::file {

class ObjectStore final : public ObjectLoader {
 public:
  // Errors of these four: as OpenedFile's.
  static Result<std::shared_ptr<const ObjectStore>> open(std::shared_ptr<const ByteSource> source,
                                                         const Limits& limits);
  Result<std::shared_ptr<const ObjectStore>> rebuilt() const;
  Result<std::shared_ptr<const ObjectStore>> unlocked(
      const security::Credentials& credentials) const;
  Result<std::shared_ptr<const ObjectStore>> earlier(
      std::shared_ptr<const ByteSource> beginning) const;
  // The same file with these changes, in place of those that there are.
  std::shared_ptr<const ObjectStore> with(std::shared_ptr<const ObjectChanges> changes) const;

  // Null for what is unchanged as in the file.
  const std::shared_ptr<const ObjectChanges>& changes() const { return changes_; }
  bool is_changed(ObjectId id) const {
    return changes_ != nullptr && changes_->objects.contains(id);
  }
  // 0 for what is as it is in the file.
  std::uint64_t stamp_of(ObjectId id) const;

  Result<Object> load(ObjectId id) const override;
  // The file's, but for what was changed.
  const Dict& trailer() const { return trailer_; }
  // A number that no object of the file, no reference in it and no change has, nor any from there
  // on.
  std::uint32_t first_beyond() const;
  // One more than the greatest number in use.
  std::uint32_t first_unused() const;

  // Of the file.
  bool is_locked() const { return file_->is_locked(); }
  std::optional<Encryption> encryption() const { return file_->encryption(); }
  const std::shared_ptr<const security::SecurityHandler>& security() const {
    return file_->security();
  }
  void know_attachments(std::set<std::uint32_t> numbers) const {
    file_->know_attachments(std::move(numbers));
  }
  const XrefTable& cross_references() const { return file_->cross_references(); }
  const Header& header() const { return file_->header(); }
  std::uint32_t size() const { return file_->size(); }
  XrefEntry entry_of(std::uint32_t number) const { return file_->entry_of(number); }
  std::optional<std::uint64_t> place_of(std::uint32_t number) const {
    return file_->place_of(number);
  }
  const std::shared_ptr<const ByteSource>& source() const { return file_->source(); }

 private:
  ObjectStore(std::shared_ptr<const OpenedFile> file, std::shared_ptr<const ObjectChanges> changes);

  std::shared_ptr<const OpenedFile> file_;
  std::shared_ptr<const ObjectChanges> changes_;
  Dict trailer_;
};

}  // namespace lumvet::file
