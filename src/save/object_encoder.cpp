// SPDX-License-Identifier: Apache-2.0
#include "save/object_encoder.h"

#include "filters/deflate.h"

namespace lumvet::saving {
namespace {

constexpr std::size_t kWorthDeflating = 64;  // bytes

std::string opening(std::uint32_t number) { return std::to_string(number) + " 0 obj\n"; }

}  // namespace

std::string ObjectEncoder::text_of(const Object& object) const {
  std::string text;
  objects::serialise(object, text, renumbered_);
  return text;
}

Result<EncodedObject> ObjectEncoder::encode(std::uint32_t number, const Object& object) const {
  const Stream* stream = object.as_stream();
  if (stream == nullptr) {
    const Object written =
        security_ == nullptr ? object : security_->encrypted_strings({number, 0}, object);
    return EncodedObject{opening(number) + text_of(written) + "\nendobj\n", {}, {}};
  }
  LUMVET_TRY(ByteSlice encoded, stream->encoded());
  Dict dict = stream->dict;
  // What has no filter yet gets one, unless its bytes are in another file (/F).
  const bool is_plain = !dict.contains("Filter") && !dict.contains("F");
  if (is_plain && encoded.size() >= kWorthDeflating) {
    Bytes deflated = filters::deflate(encoded.view());
    if (deflated.size() < encoded.size()) {
      dict.set("Filter", Object::name("FlateDecode"));
      dict.remove("DecodeParms");
      encoded = ByteSlice(std::move(deflated));
    }
  }
  return encode_stream(number, std::move(dict), std::move(encoded));
}

Result<EncodedObject> ObjectEncoder::encode_stream(std::uint32_t number, Dict dict,
                                                   ByteSlice bytes) const {
  if (security_ != nullptr) {
    LUMVET_TRY(bytes, security_->encrypted_stream({number, 0}, dict, std::move(bytes)));
    dict = security_->encrypted_strings({number, 0}, Object(std::move(dict))).as_dict();
  }
  dict.set("Length", static_cast<std::int64_t>(bytes.size()));
  return EncodedObject{opening(number) + text_of(Object(std::move(dict))) + "\nstream\n",
                       std::move(bytes), "\nendstream\nendobj\n"};
}

Result<EncodedObject> ObjectEncoder::encode_packed(std::uint32_t number,
                                                   const std::vector<Packed>& packed) const {
  std::string head;
  std::string body;
  for (const Packed& object : packed) {
    head += std::to_string(object.number) + " " + std::to_string(body.size()) + " ";
    body += object.text + "\n";
  }
  Dict dict{{"Type", Object::name("ObjStm")},
            {"N", static_cast<std::int64_t>(packed.size())},
            {"First", static_cast<std::int64_t>(head.size())},
            {"Filter", Object::name("FlateDecode")}};
  return encode_stream(number, std::move(dict), ByteSlice(filters::deflate(as_bytes(head + body))));
}

}  // namespace lumvet::saving
