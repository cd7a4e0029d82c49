// SPDX-License-Identifier: Apache-2.0
#include "save/object_encoder.h"

#include "filters/deflate.h"
#include "save/recompressed.h"

namespace lumvet::saving {
namespace {

constexpr std::size_t kWorthDeflating = 64;  // bytes

std::string opening(ObjectId id) {
  return std::to_string(id.number) + " " + std::to_string(id.generation) + " obj\n";
}

}  // namespace

std::array<std::uint8_t, 16> EncodedObject::fingerprint() const {
  std::array<std::uint8_t, 16> bytes{};
  const std::array values = {filters::checksum(as_bytes(head), body.view()), size()};
  for (std::size_t i = 0; i < bytes.size(); ++i)
    bytes[i] = static_cast<std::uint8_t>(values[i / 8] >> (i % 8 * 8));
  return bytes;
}

std::string ObjectEncoder::text_of(const Object& object) const {
  std::string text;
  objects::serialize(object, text, renumbered_);
  return text;
}

Result<EncodedObject> ObjectEncoder::encode(ObjectId id, const Object& object) const {
  const Stream* stream = object.as_stream();
  if (stream == nullptr) {
    const Object written = security_ == nullptr ? object : security_->encrypted_strings(id, object);
    return EncodedObject{opening(id) + text_of(written) + "\nendobj\n", {}, {}};
  }
  LUMVET_TRY(ByteSlice encoded, stream->encoded());
  Dict dict = stream->dict;
  // What has no filter yet gets one, unless its bytes are in another file (/F).
  const bool is_plain = !dict.contains("Filter") && !dict.contains("F");
  if (recompressed_in_ != nullptr && !is_plain) {
    if (auto anew = recompressed(*stream, *recompressed_in_))
      return encode_stream(id, std::move(anew->dict), ByteSlice(std::move(anew->bytes)));
  } else if (is_plain && encoded.size() >= kWorthDeflating && !dict["Type"].is_name("Metadata")) {
    Bytes deflated = filters::deflate(encoded.view(), effort());
    if (deflated.size() < encoded.size()) {
      dict.set("Filter", Object::name("FlateDecode"));
      dict.remove("DecodeParms");
      encoded = ByteSlice(std::move(deflated));
    }
  }
  return encode_stream(id, std::move(dict), std::move(encoded));
}

Result<EncodedObject> ObjectEncoder::encode_stream(ObjectId id, Dict dict, ByteSlice bytes) const {
  if (security_ != nullptr) {
    LUMVET_TRY(bytes, security_->encrypted_stream(id, dict, std::move(bytes)));
    dict = security_->encrypted_strings(id, Object(std::move(dict))).as_dict();
  }
  dict.set("Length", static_cast<std::int64_t>(bytes.size()));
  return EncodedObject{opening(id) + text_of(Object(std::move(dict))) + "\nstream\n",
                       std::move(bytes), "\nendstream\nendobj\n"};
}

Result<EncodedObject> ObjectEncoder::encode_packed(ObjectId id,
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
  return encode_stream(id, std::move(dict),
                       ByteSlice(filters::deflate(as_bytes(head + body), effort())));
}

}  // namespace lumvet::saving
