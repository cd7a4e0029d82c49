// SPDX-License-Identifier: Apache-2.0
#include "sign/appended_signature.h"

#include <algorithm>

#include "crypto/digest.h"
#include "document/inside.h"
#include "io/source_parts.h"
#include "objects/serializer.h"
#include "save/full_writer.h"
#include "sign/certificate_inside.h"
#include "sign/digest_names.h"

namespace lumvet::signing {
namespace {

constexpr std::int64_t kLargest = 9'999'999'999;  // what a place of a byte range may be
constexpr std::array<std::int64_t, 3> kPlaces = {kLargest, kLargest - 1, kLargest - 2};

std::string serialized(const Object& object) {
  std::string text;
  objects::serialize(object, text);
  return text;
}

}  // namespace

Object AppendedSignature::byte_range() {
  Array range = {0};
  for (const std::int64_t place : kPlaces) range.push_back(place);
  return range;
}

Object AppendedSignature::contents(std::size_t room) {
  // A beginning of its own, by which it is found again in what is appended.
  Bytes bytes = crypto::digest(crypto::DigestKind::sha256, {as_bytes("room for a signature")});
  bytes.resize(room);
  return Object::string(as_text(bytes));
}

Result<AppendedSignature> AppendedSignature::of(const EditableDocument& document,
                                                std::size_t room) {
  AppendedSignature appended;
  LUMVET_TRY(const Document now, document.now());
  appended.source_ = store_of(now).with(nullptr)->source();
  appended.room_ = room;
  LUMVET_TRY(appended.tail_, document.appended());
  LUMVET_RETURN_IF_ERROR(appended.find_gap());
  return appended;
}

// Where the gap lies, and the byte range around it.
Status AppendedSignature::find_gap() {
  const std::string_view text = as_text(tail_);
  const std::string range = serialized(byte_range());
  const std::string placeholder = serialized(contents(room_));
  const std::size_t contents = text.find(placeholder);
  const std::size_t places = text.find(range);
  if (contents == std::string_view::npos || places == std::string_view::npos)
    return Error(ErrorCode::unsupported, "the signature cannot be written into this file");
  if (size() > static_cast<std::uint64_t>(kLargest))
    return Error(ErrorCode::limit, "the file is too large to be signed");
  const std::uint64_t begin = source_->size() + contents;
  const std::uint64_t end = begin + placeholder.size();
  std::string filled = "[0 " + std::to_string(begin) + ' ' + std::to_string(end) + ' ' +
                       std::to_string(size() - end) + ']';
  filled.resize(range.size(), ' ');
  std::copy(filled.begin(), filled.end(), tail_.begin() + static_cast<std::ptrdiff_t>(places));
  gap_ = contents + 1;
  std::fill_n(tail_.begin() + static_cast<std::ptrdiff_t>(gap_), room_ * 2, '0');
  return Done{};
}

Status AppendedSignature::before_gap(const Take& take) const {
  LUMVET_RETURN_IF_ERROR(io::each_part_of(*source_, 0, source_->size(), take));
  return take(ByteView(tail_).first(gap_ - 1));
}

ByteView AppendedSignature::behind_gap() const {
  return ByteView(tail_).subspan(gap_ + room_ * 2 + 1);
}

Result<Bytes> AppendedSignature::digest(SignatureDigest kind) const {
  crypto::Digest digest(kind_of(kind));
  LUMVET_RETURN_IF_ERROR(before_gap([&](ByteView part) -> Status {
    digest.update(part);
    return Done{};
  }));
  digest.update(behind_gap());
  return digest.finish();
}

Status AppendedSignature::write(ByteView message, ByteSink& sink) const {
  if (message.size() > room_)
    return Error(ErrorCode::invalid_argument,
                 "the signature takes " + std::to_string(message.size()) +
                     " bytes, and there is room for " + std::to_string(room_));
  LUMVET_RETURN_IF_ERROR(before_gap([&](ByteView part) { return sink.write(part); }));
  std::string digits = '<' + hex_of(message);
  digits.resize(1 + room_ * 2, '0');
  digits += '>';
  LUMVET_RETURN_IF_ERROR(sink.write(as_bytes(digits)));
  return sink.write(behind_gap());
}

Result<SaveReport> AppendedSignature::save(ByteView message, int pages,
                                           const std::filesystem::path& path,
                                           const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) -> Result<SaveReport> {
    LUMVET_RETURN_IF_ERROR(write(message, sink));
    return SaveReport{.pages = pages, .bytes = size()};
  });
}

}  // namespace lumvet::signing
