// SPDX-License-Identifier: Apache-2.0
#include "sign/seed_values.h"

#include <algorithm>

#include "document/text_entries.h"
#include "sign/digest_names.h"

namespace lumvet::signing {
namespace {

constexpr int kFilter = 1;
constexpr int kSubFilter = 2;
constexpr int kReasons = 4;
constexpr int kDigestMethod = 7;

std::vector<std::string> texts_of(const objects::Resolver& resolver, const Object& list) {
  std::vector<std::string> texts;
  const Object array = resolver.resolve(list);
  for (const Object& item : array.as_array()) {
    const Object text = resolver.resolve(item);
    texts.push_back(text.is_name() ? std::string(text.as_name())
                                   : objects::text_to_utf8(text.as_string()));
  }
  return texts;
}

std::string listed(const std::vector<std::string>& texts) {
  std::string all;
  for (const std::string& text : texts) all += (all.empty() ? "'" : ", '") + text + "'";
  return all;
}

}  // namespace

const char* sub_filter_of(SignatureForm form) {
  return form == SignatureForm::pkcs7 ? "adbe.pkcs7.detached" : "ETSI.CAdES.detached";
}

Status check_seed_values(const objects::Resolver& resolver, const Dict& field,
                         const SignRequest& request) {
  const Object stated = resolver.get(field, "SV");
  if (!stated.is_dict()) return Done{};
  const Dict& seeds = stated.as_dict();
  const std::int64_t flags = resolver.get(seeds, "Ff").as_integer();
  const auto is_required = [&](int bit) { return (flags >> (bit - 1) & 1) != 0; };
  const auto check = [&](int bit, const char* key, const std::string& given,
                         const char* what) -> Status {
    const auto allowed = texts_of(resolver, seeds[key]);
    if (!is_required(bit) || allowed.empty() ||
        std::find(allowed.begin(), allowed.end(), given) != allowed.end())
      return Done{};
    return Error(ErrorCode::invalid_argument, std::string("the field asks for ") + what + " " +
                                                  listed(allowed) + ", not '" + given + "'");
  };
  if (is_required(kFilter) && seeds.contains("Filter") &&
      !resolver.get(seeds, "Filter").is_name("Adobe.PPKLite"))
    return Error(ErrorCode::unsupported, "the field asks for a signature by '" +
                                             std::string(resolver.get(seeds, "Filter").as_name()) +
                                             "'");
  LUMVET_RETURN_IF_ERROR(
      check(kSubFilter, "SubFilter", sub_filter_of(request.form), "a signature of the form"));
  LUMVET_RETURN_IF_ERROR(
      check(kDigestMethod, "DigestMethod", openssl_name_of(request.digest), "the digest"));
  // A single full stop forbids reasons.
  const auto reasons = texts_of(resolver, seeds["Reasons"]);
  const bool forbids = reasons.size() == 1 && reasons[0] == ".";
  if (forbids && is_required(kReasons) && !request.reason.empty())
    return Error(ErrorCode::invalid_argument, "the field asks for a signature without a reason");
  if (!forbids)
    LUMVET_RETURN_IF_ERROR(check(kReasons, "Reasons", request.reason, "one of the reasons"));
  const Object server = resolver.get(seeds, "TimeStamp");
  if (resolver.get(server.as_dict(), "Ff").as_integer() == 1 && !request.timestamps)
    return Error(ErrorCode::invalid_argument,
                 "the field asks for a timestamp of " +
                     std::string(resolver.get(server.as_dict(), "URL").as_string()));
  return Done{};
}

Certification seeded_certification(const objects::Resolver& resolver, const Dict& field,
                                   const SignRequest& request) {
  const Object seeds = resolver.get(field, "SV");
  const Object asked = resolver.get(seeds.as_dict(), "MDP");
  if (request.certification != Certification::none || !asked.is_dict())
    return request.certification;
  switch (resolver.get(asked.as_dict(), "P").as_integer()) {
    case 1: return Certification::no_changes;
    case 2: return Certification::fill_in;
    case 3: return Certification::annotate;
    default: return Certification::none;
  }
}

}  // namespace lumvet::signing
