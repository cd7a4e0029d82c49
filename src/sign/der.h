// SPDX-License-Identifier: Apache-2.0
// Values in DER (ITU-T X.690), put together from the inside out.
//
//   const Bytes algorithm = der::sequence({der::object_id("2.16.840.1.101.3.4.2.1"), der::null()});
//
// Threads: free functions.
#pragma once

#include <cstdint>
#include <initializer_list>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/base/bytes.h"

namespace lumvet::signing::der {

inline constexpr std::uint8_t kInteger = 0x02;
inline constexpr std::uint8_t kOctets = 0x04;
inline constexpr std::uint8_t kSequence = 0x30;
inline constexpr std::uint8_t kSet = 0x31;
// Of a context, constructed: [0], [1] and so on.
constexpr std::uint8_t context(int number) { return static_cast<std::uint8_t>(0xA0 + number); }

Bytes element(std::uint8_t tag, std::initializer_list<ByteView> parts);
Bytes element(std::uint8_t tag, const std::vector<Bytes>& parts);
Bytes sequence(std::initializer_list<ByteView> parts);
// Sorted, as DER asks of what has no order (11.6).
Bytes set_of(std::vector<Bytes> parts, std::uint8_t tag = kSet);
Bytes integer(int value);
Bytes octets(ByteView bytes);
Bytes null();
// "1.2.840.113549.1.7.2".
Bytes object_id(const std::string& dotted);
// The time of a second since 1970, as UTCTime up to 2049 (RFC 5652, 11.3).
Bytes time(std::int64_t seconds);

struct Element {
  std::uint8_t tag = 0;
  ByteView content = {};
};
// The first element of the bytes, which begin behind it afterwards; nothing when it is cut off, or
// of indefinite length.
std::optional<Element> take(ByteView& bytes);

// Whether all elements within are tagged and measured as DER has it: sequences and sets are made of
// others, strings and numbers are not, and no length takes more bytes than it must.
bool is_strict(ByteView bytes);

// The first element of bytes that are written in BER, in DER: lengths said in front and in as few
// bytes as they take, strings in one piece (X.690, 8 and 10). What has no order stays in the order
// that it has. The bytes begin behind it afterwards. Nothing when it is cut off, or not BER.
std::optional<Bytes> from_ber(ByteView& bytes);

}  // namespace lumvet::signing::der
