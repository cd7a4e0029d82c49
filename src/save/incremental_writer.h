// SPDX-License-Identifier: Apache-2.0
// Changes that are appended to a file (ISO 32000-2, 7.5.6): the objects that are other ones now,
// and cross references of the kind that the file has.
//
// Threads: free functions.
#pragma once

#include <map>

#include "file/ledger.h"

namespace lumvet::saving {

// What was appended to a file already.
struct AppendedState {
  std::shared_ptr<const file::ObjectChanges> changes;  // null while there is nothing
  std::map<ObjectId, ObjectId> numbers;                // of new objects, in the file
  std::uint64_t size = 0;                              // bytes of the file since
  std::uint64_t section = 0;                           // its newest cross references
  std::uint32_t next_number = 0;
};

// The bytes to be put behind the file as it is since `state`, which becomes that of the file with
// them; none when nothing is other than it. `file` has no changes of its own; what the ledger holds
// and nothing leads to is left out. Errors: unsupported, with the reason, for a file that has to be
// saved whole; io, need_more_data, limit.
Result<Bytes> appended_bytes(const file::ObjectStore& file, const file::Ledger& ledger,
                             AppendedState& state);

}  // namespace lumvet::saving
