// SPDX-License-Identifier: Apache-2.0
#include "sign/material.h"

namespace lumvet::signing {

Result<Material> material_of(const Document& document) {
  Material material;
  const auto each = [&](const Dict& dict, const char* key, const auto& take) -> Status {
    LUMVET_TRY(const Object list, document.resolve(dict[key]));
    for (const Object& item : list.as_array()) {
      LUMVET_TRY(const Object stream, document.resolve(item));
      const auto bytes = document.decoded(stream);
      if (bytes.ok()) take(Bytes(bytes->view().begin(), bytes->view().end()));
    }
    return Done{};
  };
  const auto read = [&](const Dict& dict, const char* certificates, const char* lists,
                        const char* responses) -> Status {
    LUMVET_RETURN_IF_ERROR(each(dict, certificates, [&](const Bytes& der) {
      auto certificate = Certificate::from_der(der);
      if (certificate.ok()) material.certificates.push_back(*std::move(certificate));
    }));
    LUMVET_RETURN_IF_ERROR(
        each(dict, lists, [&](Bytes der) { material.lists.push_back(std::move(der)); }));
    return each(dict, responses, [&](Bytes der) { material.responses.push_back(std::move(der)); });
  };
  LUMVET_TRY(const Object store, document.resolve(document.catalog()["DSS"]));
  LUMVET_RETURN_IF_ERROR(read(store.as_dict(), "Certs", "CRLs", "OCSPs"));
  LUMVET_TRY(const Object by_signature, document.resolve(store.as_dict()["VRI"]));
  for (const auto& [key, value] : by_signature.as_dict()) {
    LUMVET_TRY(const Object entry, document.resolve(value));
    LUMVET_RETURN_IF_ERROR(read(entry.as_dict(), "Cert", "CRL", "OCSP"));
  }
  return material;
}

void add_material(file::Ledger& ledger, Dict& catalog, const Material& material) {
  Dict store = ledger.get(catalog, "DSS").as_dict();
  store.set("Type", Object::name("DSS"));
  const auto add = [&](const char* key, const std::vector<Bytes>& all) {
    if (all.empty()) return;
    Array list = ledger.get(store, key).as_array();
    for (const Bytes& bytes : all) list.push_back(ledger.add(Stream::of({}, bytes)));
    store.set(key, std::move(list));
  };
  std::vector<Bytes> certificates;
  certificates.reserve(material.certificates.size());
  for (const Certificate& each : material.certificates) certificates.push_back(each.der());
  add("Certs", certificates);
  add("CRLs", material.lists);
  add("OCSPs", material.responses);
  if (catalog["DSS"].is_reference())
    ledger.set(catalog["DSS"].as_reference(), std::move(store));
  else
    catalog.set("DSS", ledger.add(std::move(store)));
}

}  // namespace lumvet::signing
