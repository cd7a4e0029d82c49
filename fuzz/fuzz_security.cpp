// SPDX-License-Identifier: Apache-2.0
// Any bytes as an encryption dictionary with a password, and then as what it encrypted: no crash,
// no hang.
#include "base/findings_list.h"
#include "objects/parser.h"
#include "security/security_handler.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace lumvet;
  const auto parsed = objects::Parser({data, size}, 0, objects::References::none, 20).next();
  if (!parsed.ok() || !parsed->value.is_dict()) return 0;
  Findings findings;
  const auto handler = security::SecurityHandler::unlock(
      parsed->value.as_dict(), "id", {.password = "ostrel", .key = {}}, findings);
  if (!handler.ok()) return 0;
  const Object text = Object(Array{Object::string(as_text({data, size}))});
  static_cast<void>((*handler)->decrypted({4, 0}, text));
  Dict dict;
  dict.set("Filter", parsed->value.as_dict()["Filter"]);
  dict.set("DecodeParms", parsed->value.as_dict()["DecodeParms"]);
  const auto stream =
      (*handler)->decrypted({5, 0}, Object(Stream::of(dict, Bytes(data, data + size))));
  if (stream.ok()) static_cast<void>(stream->as_stream()->encoded());
  return 0;
}
