// SPDX-License-Identifier: Apache-2.0
#include "sign/der.h"

#include <openssl/asn1.h>

#include <algorithm>
#include <ctime>

#include "sign/openssl_sign.h"

namespace lumvet::signing::der {
namespace {

constexpr std::size_t kLongLength = 0x80;
// Of a tag: whether it is made of others, which it is of its class, and the class.
constexpr std::uint8_t kConstructed = 0x20;
constexpr std::uint8_t kNumber = 0x1F;
constexpr std::uint8_t kClass = 0xC0;

void put_length(Bytes& out, std::size_t length) {
  if (length < kLongLength) {
    out.push_back(static_cast<std::uint8_t>(length));
    return;
  }
  std::uint8_t digits[sizeof length];
  int count = 0;
  for (; length > 0; length >>= 8) digits[count++] = static_cast<std::uint8_t>(length & 0xFF);
  out.push_back(static_cast<std::uint8_t>(kLongLength | static_cast<unsigned>(count)));
  while (count > 0) out.push_back(digits[--count]);
}

template <typename Parts>
Bytes joined(std::uint8_t tag, const Parts& parts) {
  std::size_t length = 0;
  for (const ByteView part : parts) length += part.size();
  Bytes out = {tag};
  put_length(out, length);
  for (const ByteView part : parts) out.insert(out.end(), part.begin(), part.end());
  return out;
}

}  // namespace

Bytes element(std::uint8_t tag, std::initializer_list<ByteView> parts) {
  return joined(tag, parts);
}

Bytes element(std::uint8_t tag, const std::vector<Bytes>& parts) { return joined(tag, parts); }

Bytes sequence(std::initializer_list<ByteView> parts) { return element(kSequence, parts); }

Bytes set_of(std::vector<Bytes> parts, std::uint8_t tag) {
  std::sort(parts.begin(), parts.end(),
            [](const Bytes& a, const Bytes& b) { return as_text(a) < as_text(b); });
  return element(tag, parts);
}

Bytes integer(int value) {
  const Own<ASN1_INTEGER> number(ASN1_INTEGER_new());
  ASN1_INTEGER_set(number.get(), value);
  return der_of(number.get(), i2d_ASN1_INTEGER);
}

Bytes octets(ByteView bytes) { return element(kOctets, {bytes}); }

Bytes null() { return {0x05, 0x00}; }

Bytes object_id(const std::string& dotted) {
  const Own<ASN1_OBJECT> object(OBJ_txt2obj(dotted.c_str(), 1));
  return der_of(object.get(), i2d_ASN1_OBJECT);
}

Bytes time(std::int64_t seconds) {
  const std::unique_ptr<ASN1_TIME, decltype(&ASN1_TIME_free)> value(
      ASN1_TIME_set(nullptr, static_cast<std::time_t>(seconds)), ASN1_TIME_free);
  return der_of(value.get(), i2d_ASN1_TIME);
}

std::optional<Element> take(ByteView& bytes) {
  if (bytes.size() < 2) return std::nullopt;
  std::size_t length = bytes[1];
  std::size_t head = 2;
  if (length == kLongLength) return std::nullopt;
  if (length > kLongLength) {
    const std::size_t digits = length - kLongLength;
    if (digits > sizeof(std::uint32_t) || bytes.size() < head + digits) return std::nullopt;
    length = 0;
    for (std::size_t i = 0; i < digits; ++i) length = length << 8 | bytes[head + i];
    head += digits;
  }
  if (length > bytes.size() - head) return std::nullopt;
  const Element element{bytes[0], bytes.subspan(head, length)};
  bytes = bytes.subspan(head + length);
  return element;
}

bool is_strict(ByteView bytes) {
  constexpr std::uint8_t kFirstShort = 0x80;
  std::vector<ByteView> open = {bytes};
  while (!open.empty()) {
    ByteView rest = open.back();
    open.pop_back();
    while (!rest.empty()) {
      const ByteView before = rest;
      const auto element = take(rest);
      if (!element) return false;
      const std::size_t head = before.size() - rest.size() - element->content.size();
      const std::size_t length = element->content.size();
      std::size_t due = 2;
      if (length >= kFirstShort)
        for (std::size_t left = length; left > 0; left >>= 8) ++due;
      const int number = element->tag & kNumber;
      const bool is_constructed = (element->tag & kConstructed) != 0;
      const bool is_universal = (element->tag & kClass) == 0;
      const bool is_list = number == (kSequence & kNumber) || number == (kSet & kNumber);
      if (head != due || number == kNumber || (is_universal && is_list != is_constructed))
        return false;
      if (is_constructed) open.push_back(element->content);
    }
  }
  return true;
}

namespace {

constexpr int kDeepest = 32;

// Of what has no length: two zeros behind it.
bool take_end(ByteView& bytes) {
  if (bytes.size() < 2 || bytes[0] != 0 || bytes[1] != 0) return false;
  bytes = bytes.subspan(2);
  return true;
}

// What stands within a constructed element, in DER, up to the end of the bytes, or to its own end
// where no length says it.
std::optional<std::vector<Bytes>> parts_from_ber(ByteView& bytes, bool has_length, int depth);

std::optional<Bytes> from_ber_at(ByteView& bytes, int depth) {
  if (depth > kDeepest || bytes.size() < 2 || (bytes[0] & kNumber) == kNumber) return std::nullopt;
  const std::uint8_t tag = bytes[0];
  const bool is_constructed = (tag & kConstructed) != 0;
  ByteView content;
  bool has_length = true;
  if (bytes[1] == kLongLength) {
    has_length = false;
    bytes = bytes.subspan(2);
  } else {
    const auto element = take(bytes);
    if (!element) return std::nullopt;
    content = element->content;
  }
  if (!is_constructed) return has_length ? std::optional(element(tag, {content})) : std::nullopt;
  const auto parts = parts_from_ber(has_length ? content : bytes, has_length, depth + 1);
  if (!parts) return std::nullopt;
  const bool is_string = (tag & kClass) == 0 && tag != kSequence && tag != kSet;
  if (!is_string) return element(tag, *parts);
  // A string in pieces, each of which is tagged as the whole is.
  const auto whole = static_cast<std::uint8_t>(tag & ~kConstructed);
  if (whole != kOctets) return std::nullopt;
  Bytes joined;
  for (const Bytes& part : *parts) {
    ByteView rest = part;
    const auto piece = take(rest);
    if (piece->tag != whole) return std::nullopt;
    joined.insert(joined.end(), piece->content.begin(), piece->content.end());
  }
  return octets(joined);
}

std::optional<std::vector<Bytes>> parts_from_ber(ByteView& bytes, bool has_length, int depth) {
  std::vector<Bytes> parts;
  while (has_length ? !bytes.empty() : !take_end(bytes)) {
    auto part = from_ber_at(bytes, depth);
    if (!part) return std::nullopt;
    parts.push_back(*std::move(part));
  }
  return parts;
}

}  // namespace

std::optional<Bytes> from_ber(ByteView& bytes) { return from_ber_at(bytes, 0); }

}  // namespace lumvet::signing::der
