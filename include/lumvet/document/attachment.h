// SPDX-License-Identifier: Apache-2.0
// Files inside a document (ISO 32000-2, 7.11.4).
//
// Threads: values.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/collection.h"
#include "lumvet/objects/object.h"

namespace lumvet {

struct Attachment {
  enum class From { document, annotation, associated };

  std::string name = {};                   // UTF-8; may hold what is no file name on this machine
  std::string description = {};            // UTF-8
  std::optional<std::uint64_t> size = {};  // bytes, as stated
  std::string media_type = {};             // "text/csv", as stated
  std::string relationship = {};           // to the document: "Source", "Data" (7.11.3)
  std::string created = {};                // as DocumentInfo's
  std::string modified = {};
  std::string checksum = {};  // MD5, 16 bytes, as stated; empty when not
  // Of the document itself within an unencrypted wrapper: what encrypts it (7.6.7).
  std::string payload = {};
  std::vector<CollectionItem> items = {};  // for the columns of Collection::fields
  From from = From::document;
  std::optional<int> page = {};  // from 0, when it belongs to one
  Object stream = {};            // for Document::attached_bytes
};

// The bytes of an attachment.
struct AttachedBytes {
  ByteSlice bytes = {};
  std::optional<bool> checksum_fits = {};  // nothing when none was stated
};

}  // namespace lumvet
