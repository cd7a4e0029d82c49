// SPDX-License-Identifier: Apache-2.0
#include "file/xref_rows.h"
#include "base/findings_list.h"

#include "base/budget.h"
#include "filters/stream_decoder.h"

namespace lumvet::file {
namespace {

constexpr std::size_t kBeginning = 2 * 1024;
constexpr std::uint64_t kQuickLength = 4 * 1024;  // packed; unpacking all of it is as quick

// Nothing to follow yet: everything in cross-reference streams has to be direct.
class NoResolver final : public objects::Resolver {
 public:
  Object resolve(const Object& object) const override {
    return object.is_reference() ? Object() : object;
  }
};

ByteSlice part(ByteView bytes, std::uint64_t at, std::size_t size,
               std::shared_ptr<const void> keeper) {
  if (at > bytes.size() || size > bytes.size() - at) return {};
  return {bytes.subspan(static_cast<std::size_t>(at), size), std::move(keeper)};
}

}  // namespace

Result<std::shared_ptr<const XrefRows>> XrefRows::read(const Stream& stream, const Limits& limits,
                                                       Findings& findings) {
  std::shared_ptr<XrefRows> rows(new XrefRows(stream, limits));
  if (stream.length <= kQuickLength) {
    Budget budget(limits);
    LUMVET_TRY(rows->whole_, filters::decode_whole(stream, NoResolver(), budget, findings));
    rows->is_whole_ = true;
    rows->most_bytes_ = rows->whole_.size();
    return std::shared_ptr<const XrefRows>(std::move(rows));
  }
  LUMVET_TRY(const filters::StreamPieces pieces,
             filters::decode_pieces(stream, NoResolver(), most_decoded(limits, stream.length)));
  if (!pieces.left.empty())
    return Error(ErrorCode::malformed, "cross references packed like an image")
        .at_offset(stream.offset);
  rows->beginning_.resize(kBeginning);
  LUMVET_TRY(const std::size_t there, pieces.bytes->read(rows->beginning_));
  rows->beginning_.resize(there);
  rows->is_whole_ = there < kBeginning;
  if (rows->is_whole_) rows->whole_ = ByteSlice(rows->beginning_);
  if (pieces.bytes->damage())
    findings.add({pieces.bytes->damage()->what + "; the " + std::to_string(there) +
                      " bytes before it were kept",
                  stream.offset + pieces.bytes->damage()->offset,
                  {}});
  // No filter but an image codec packs better than Deflate, which cannot do so more than 1032
  // times.
  constexpr std::uint64_t kMostPacked = 1032;
  rows->most_bytes_ =
      rows->is_whole_ ? there : std::min(limits.decoded_bytes, stream.length * kMostPacked + 64);
  return std::shared_ptr<const XrefRows>(std::move(rows));
}

ByteSlice XrefRows::row(std::uint64_t at, std::size_t size) const {
  if (is_whole_) return part(whole_.view(), at, size, nullptr);
  if (at + size <= beginning_.size()) return part(beginning_, at, size, nullptr);
  const std::shared_ptr<const ByteSlice> all = unpacked_.get([this] { return unpack_all(); });
  return part(all->view(), at, size, all);
}

// Damage shows where a row is missing.
ByteSlice XrefRows::unpack_all() const {
  Budget budget(limits_);
  Findings unheard;
  Result<ByteSlice> all = filters::decode_whole(stream_, NoResolver(), budget, unheard);
  return all.ok() ? *std::move(all) : ByteSlice();
}

}  // namespace lumvet::file
