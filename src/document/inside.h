// SPDX-License-Identifier: Apache-2.0
// What a document and its pages look like from inside.
//
// Threads: free functions.
#pragma once

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet {

template <>
struct Inside<Document> {
  static const std::shared_ptr<const document::Core>& core(const Document& document) {
    return document.core_;
  }
  static Document of(std::shared_ptr<const document::Core> core) {
    return Document(std::move(core));
  }
};

template <>
struct Inside<Page> {
  static const document::Core& core(const Page& page) {
    return *static_cast<const document::Core*>(page.core_.get());
  }
};

inline const document::Core& core_of(const Document& document) {
  return *Inside<Document>::core(document);
}
inline const document::Core& core_of(const Page& page) { return Inside<Page>::core(page); }
inline const file::ObjectStore& store_of(const Document& document) {
  return core_of(document).store();
}
inline const file::ObjectStore& store_of(const Page& page) { return core_of(page).store(); }

namespace document {
// The same document, its bytes had from elsewhere. Errors: as Document::open's.
Result<Document> read_from(const Document& document, std::shared_ptr<const ByteSource> source);
}  // namespace document

}  // namespace lumvet
