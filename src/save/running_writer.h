// SPDX-License-Identifier: Apache-2.0
// A new document, written while it is still being made: objects go into the file with the numbers
// that they have in their ledger, and are forgotten. Compact or with every object by itself;
// without a lock.
//
//   RunningWriter writer(options, sink);
//   for (…) {
//     …                                              // objects into the ledger
//     LUMVET_RETURN_IF_ERROR(writer.take(ledger));   // which is empty then
//   }
//   LUMVET_TRY(const std::uint64_t bytes, writer.finish(ledger, catalog, info));
//
// What is taken must not be set again; numbers that were reserved may be set later.
//
// Threads: one thread at a time.
#pragma once

#include <string>
#include <vector>

#include "crypto/digest.h"
#include "file/ledger.h"
#include "lumvet/save/save.h"
#include "save/cross_references.h"
#include "save/object_encoder.h"

namespace lumvet::saving {

class RunningWriter {
 public:
  // Whether a document that is saved so can be written while it is made.
  static bool can_write(const SaveOptions& options);

  RunningWriter(const SaveOptions& options, ByteSink& sink);

  // Errors: io, cancelled.
  Status take(file::Ledger& ledger);
  // What is left, cross references and trailer. Gives the bytes of the whole file. Errors: as
  // take's; limit, for a classic file that is too long.
  Result<std::uint64_t> finish(file::Ledger& ledger, ObjectId catalog, const Object& info);

 private:
  // What is written in one piece: an object, or several in an object stream.
  struct Piece {
    std::uint32_t number = 0;
    Object object = {};
    std::vector<ObjectEncoder::Packed> packed = {};
    EncodedObject encoded = {};
  };

  bool is_compact() const { return options_.layout == FileLayout::compact; }
  void pack(file::Ledger& ledger);
  Status write_waiting();
  Status write(Piece& piece);
  Status put(std::string_view text);
  void place(std::uint32_t number, const Place& where);

  const SaveOptions& options_;
  ByteSink& sink_;
  ObjectEncoder encoder_;
  std::vector<Piece> waiting_;
  std::uint64_t waiting_bytes_ = 0;
  std::vector<ObjectEncoder::Packed> small_;  // that no object stream has yet
  std::vector<Place> places_;                 // by number
  std::uint64_t position_ = 0;
  crypto::Digest digest_{crypto::DigestKind::sha512};
};

}  // namespace lumvet::saving
