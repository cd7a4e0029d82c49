// SPDX-License-Identifier: Apache-2.0
#include "edit/file_specification.h"

#include "crypto/digest.h"
#include "objects/text_string.h"

namespace lumvet::editing {

Status check_file_name(const std::string& name) {
  if (!name.empty() && name.find_first_of("/\\") == std::string::npos) return Done{};
  return Error(ErrorCode::invalid_argument,
               "'" + name + "' is not a name for an attachment; give one without folders");
}

Dict file_specification(file::Ledger& ledger, NewAttachment attachment) {
  const auto text = [](const std::string& utf8) {
    return Object::string(objects::utf8_to_text(utf8));
  };
  crypto::Digest digest(crypto::DigestKind::md5);
  digest.update(attachment.bytes);
  Dict file{{"Type", Object::name("EmbeddedFile")},
            {"Params", Dict{{"Size", static_cast<std::int64_t>(attachment.bytes.size())},
                            {"CheckSum", Object::string(as_text(digest.finish()))}}}};
  if (!attachment.media_type.empty()) file.set("Subtype", Object::name(attachment.media_type));
  const ObjectId stream = ledger.add(Stream::of(std::move(file), std::move(attachment.bytes)));
  Dict specification{{"Type", Object::name("Filespec")},
                     {"F", text(attachment.name)},
                     {"UF", text(attachment.name)},
                     {"EF", Dict{{"F", stream}, {"UF", stream}}}};
  if (!attachment.description.empty()) specification.set("Desc", text(attachment.description));
  return specification;
}

}  // namespace lumvet::editing
