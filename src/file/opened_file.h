// SPDX-License-Identifier: Apache-2.0
// Objects by number: the immutable base that a file is. Parsed when first asked for, kept
// within Limits::kept_bytes. Where the cross references are wrong, objects are looked for; an
// encrypted file is unlocked once and reads like any other from then on.
//
// Threads: const methods may run concurrently.
#pragma once

#include <set>
#include "base/findings_list.h"
#include "base/kept_when_clean.h"
#include "file/header.h"
#include "file/object_index.h"
#include "file/object_loader.h"
#include "file/object_reader.h"
#include "file/recently_used.h"
#include "file/xref.h"
#include "io/guarded_source.h"
#include "security/security_handler.h"

namespace lumvet::file {

class OpenedFile final : public ObjectLoader {
 public:
  // Reads the cross references only; those of a damaged file are made anew from its objects.
  // Errors: malformed when this is no PDF document, is empty, or holds no objects; io,
  // need_more_data, limit, unsupported.
  static Result<std::shared_ptr<const OpenedFile>> open(std::shared_ptr<const ByteSource> source,
                                                        const Limits& limits);
  // The same file without regard to its cross references. Errors: as open.
  Result<std::shared_ptr<const OpenedFile>> rebuilt() const;

  // Whether nothing but encrypted bytes can be had of it yet.
  bool is_locked() const { return encryption_ && !security_; }
  // The same file, readable. Errors: password when the credentials do not fit; unsupported,
  // malformed.
  Result<std::shared_ptr<const OpenedFile>> unlocked(
      const security::Credentials& credentials) const;
  // An earlier state of the same file, unlocked with the same key.
  Result<std::shared_ptr<const OpenedFile>> earlier(
      std::shared_ptr<const ByteSource> beginning) const;
  // How it is protected; nothing when it is not.
  std::optional<Encryption> encryption() const;
  // By which it was unlocked; null when it is not protected.
  const std::shared_ptr<const security::SecurityHandler>& security() const { return security_; }

  // Streams that are attachments though they do not say so, where that matters. To be told once,
  // before anybody else has the file.
  void know_attachments(std::set<std::uint32_t> numbers) const {
    attachments_ = std::move(numbers);
  }

  Result<Object> load(ObjectId id) const override;

  const XrefTable& cross_references() const { return *xref_; }
  const Header& header() const { return header_; }
  // One more than the greatest number in use.
  std::uint32_t size() const;
  // A number that no object of a file and no reference in it can have, nor any from there on.
  std::uint32_t first_beyond() const;
  // What is known of a number, by the cross references or, where they have gaps, by a search.
  XrefEntry entry_of(std::uint32_t number) const;
  // Where it lies in the file, itself or the object stream it is packed in.
  std::optional<std::uint64_t> place_of(std::uint32_t number) const;
  const std::shared_ptr<const ByteSource>& source() const { return source_; }
  const std::shared_ptr<Findings>& shared_findings() const { return findings_; }

 private:
  // An object stream, unpacked, with the place of each object in it (7.5.7).
  struct Unpacked {
    ByteSlice bytes;
    std::vector<std::pair<std::uint32_t, std::size_t>> places;  // number and offset
    std::uint32_t extends = 0;                                  // another one's number
  };

  OpenedFile(std::shared_ptr<const ByteSource> source, const Limits& limits)
      : ObjectLoader(limits, std::make_shared<Findings>(), source->size()),
        source_(io::guarded(std::move(source))),
        loaded_(limits.kept_bytes / 2),
        unpacked_(limits.kept_bytes / 2) {}

  Status read_structure();
  Status read_encryption();
  Status rebuild();
  Status index_packed_objects(const Scan& scan);
  Result<Object> read(ObjectId id, const XrefEntry& entry) const;
  Result<Object> read_in_file(std::uint32_t number, std::uint64_t offset) const;
  Result<Object> read_packed(std::uint32_t number, const XrefEntry& entry) const;
  Result<Object> search(ObjectId id, const XrefEntry& entry, Error error) const;
  Result<Object> search_whole_file(ObjectId id, Error error) const;
  std::shared_ptr<const XrefTable> whole_index() const;
  bool is_wrongly_free(std::uint32_t number, const XrefEntry& entry) const;
  Result<std::shared_ptr<const Unpacked>> unpack(std::uint32_t number) const;
  Result<std::shared_ptr<const Unpacked>> unpack(std::uint32_t number, const Stream& stream) const;
  std::vector<std::uint32_t> packed_numbers(const ScannedObject& object) const;

  std::shared_ptr<const ByteSource> source_;
  Header header_;
  std::shared_ptr<const XrefTable> xref_;
  Object encrypt_reference_;
  std::optional<Dict> encryption_;  // the encryption dictionary, references followed
  std::shared_ptr<const security::SecurityHandler> security_;

  mutable std::set<std::uint32_t> attachments_;  // numbers of objects
  mutable RecentlyUsed<std::uint64_t, Object> loaded_;
  mutable RecentlyUsed<std::uint32_t, std::shared_ptr<const Unpacked>> unpacked_;
  mutable KeptWhenClean<XrefTable> found_;  // by a search through the whole file
};

}  // namespace lumvet::file
