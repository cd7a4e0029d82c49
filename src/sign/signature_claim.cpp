// SPDX-License-Identifier: Apache-2.0
#include "sign/signature_claim.h"

#include <cctype>

#include "base/attempt.h"
#include "document/text_entries.h"
#include "sign/certificate_inside.h"

namespace lumvet {

namespace signing {
namespace {

// "D:20260921141320Z" in seconds since 1970.
std::optional<std::int64_t> seconds_in(std::string_view date) {
  if (date.starts_with("D:")) date.remove_prefix(2);
  constexpr std::size_t kDigits = 14;
  if (date.size() < kDigits) return std::nullopt;
  std::string text(date.substr(0, kDigits));
  std::int64_t offset = 0;
  const std::string_view zone = date.substr(kDigits);
  if (zone.size() >= 3 && (zone[0] == '+' || zone[0] == '-')) {
    const auto number = [&](std::size_t at) -> std::int64_t {
      return at + 1 < zone.size() && std::isdigit(static_cast<unsigned char>(zone[at])) != 0 &&
                     std::isdigit(static_cast<unsigned char>(zone[at + 1])) != 0
                 ? (zone[at] - '0') * 10 + (zone[at + 1] - '0')
                 : 0;
    };
    offset = (number(1) * 60 + number(4)) * 60 * (zone[0] == '-' ? -1 : 1);
  }
  const std::unique_ptr<ASN1_TIME, decltype(&ASN1_TIME_free)> time(ASN1_TIME_new(), ASN1_TIME_free);
  if (ASN1_TIME_set_string(time.get(), (text + "Z").c_str()) != 1) return std::nullopt;
  const auto seconds = seconds_of(time.get());
  return seconds ? std::optional(*seconds - offset) : std::nullopt;
}

}  // namespace

bool is_signed(const FormField& field) {
  return field.kind == FormField::Kind::signature && !field.signature.is_null();
}

Result<SignatureClaim> claim_of(const Document& document, const FormField& field) {
  SignatureClaim claim;
  LUMVET_TRY(const Object signature, document.resolve(field.signature));
  const auto text = [&](const char* key) -> std::string {
    const auto value = document.resolve(signature.as_dict()[key]);
    return value.ok() ? objects::text_to_utf8(value->as_string()) : std::string();
  };
  claim.field = field.name;
  claim.name = text("Name");
  claim.reason = text("Reason");
  claim.place = text("Location");
  claim.contact = text("ContactInfo");
  claim.claimed_time = seconds_in(text("M"));
  LUMVET_TRY(const Object form, document.resolve(signature.as_dict()["SubFilter"]));
  claim.form = form.as_name();
  claim.is_timestamp = claim.form == "ETSI.RFC3161";
  return claim;
}

}  // namespace signing

Result<std::vector<SignatureClaim>> list_signatures(const Document& document) {
  return attempted([&]() -> Result<std::vector<SignatureClaim>> {
    LUMVET_TRY(const Form form, document.form());
    std::vector<SignatureClaim> all;
    for (const FormField& field : form.fields) {
      if (!signing::is_signed(field)) continue;
      LUMVET_TRY(SignatureClaim claim, signing::claim_of(document, field));
      all.push_back(std::move(claim));
    }
    return all;
  });
}

}  // namespace lumvet
