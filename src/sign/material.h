// SPDX-License-Identifier: Apache-2.0
// What a document brings along to prove its signatures (ISO 32000-2, 12.8.4.3).
//
// Threads: free functions.
#pragma once

#include "file/ledger.h"
#include "lumvet/document/document.h"
#include "lumvet/sign/certificate.h"

namespace lumvet::signing {

struct Material {
  std::vector<Certificate> certificates = {};
  std::vector<Bytes> lists = {};
  std::vector<Bytes> responses = {};
};

// Of the whole document and of single signatures; what is damaged proves nothing and is left out.
// Errors: io, need_more_data, limit.
Result<Material> material_of(const Document& document);

// Beside what there is already, in the catalog of a ledger.
void add_material(file::Ledger& ledger, Dict& catalog, const Material& material);

}  // namespace lumvet::signing
