// SPDX-License-Identifier: Apache-2.0
// The bytes that are put behind a document to sign it, with a gap for the signature.
//
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <array>
#include <functional>
#include <memory>

#include "lumvet/sign/signing.h"

namespace lumvet::signing {

class AppendedSignature {
 public:
  // What stands in a dictionary until the places are known, and the room of so many bytes for the
  // message.
  static Object byte_range();
  static Object contents(std::size_t room);

  // Of a document whose ledger has such a dictionary. Errors: as EditableDocument::appended's;
  // limit for a file that is too large.
  static Result<AppendedSignature> of(const EditableDocument& document, std::size_t room);

  std::uint64_t size() const { return source_->size() + tail_.size(); }  // bytes of the file
  std::size_t room() const { return room_; }
  // Of all but the gap. Errors: as reading's.
  Result<Bytes> digest(SignatureDigest kind) const;
  // The file. Errors: invalid_argument for a message that there is no room for; as the sink's.
  Status write(ByteView message, ByteSink& sink) const;
  Result<SaveReport> save(ByteView message, int pages, const std::filesystem::path& path,
                          const SaveOptions& options) const;

 private:
  AppendedSignature() = default;
  Status find_gap();
  // The document, what is in front of the gap, and what is behind it.
  using Take = std::function<Status(ByteView)>;
  Status before_gap(const Take& take) const;
  ByteView behind_gap() const;

  std::shared_ptr<const ByteSource> source_;  // of the document as it was opened
  Bytes tail_;
  std::size_t gap_ = 0;   // its first hexadecimal digit, within the tail
  std::size_t room_ = 0;  // bytes
};

}  // namespace lumvet::signing
