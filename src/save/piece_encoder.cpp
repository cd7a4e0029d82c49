// SPDX-License-Identifier: Apache-2.0
#include "save/piece_encoder.h"

#include "base/parallel.h"

namespace lumvet::saving {

PieceEncoder::PieceEncoder(const objects::Resolver& objects,
                           const std::vector<std::uint32_t>& numbers,
                           const security::SecurityHandler* security, bool recompresses)
    : objects_(objects),
      numbers_(numbers),
      reachable_(objects),
      encoder_([this](ObjectId id) { return renumbered(id); }, security) {
  if (recompresses) encoder_.recompress(objects);
}

Object PieceEncoder::renumbered(ObjectId old) const {
  const auto place = reachable_.place_of(old);
  return place ? Object(ObjectId{numbers_[*place], 0}) : Object();
}

Status PieceEncoder::encode(std::span<Piece* const> pieces, int threads,
                            const CancelToken& cancel) const {
  std::vector<Status> done(pieces.size(), Done{});
  share_out(pieces.size(), threads, [&](int, std::size_t i) {
    if (cancel.is_cancelled()) return;
    Piece& piece = *pieces[i];
    Result<EncodedObject> made = encoded(piece);
    if (!made.ok()) {
      done[i] = std::move(made).error();
      return;
    }
    piece.encoded = *std::move(made);
  });
  if (cancel.is_cancelled())
    return Error(ErrorCode::cancelled, "saving was cancelled; nothing was written");
  for (Status& status : done) LUMVET_RETURN_IF_ERROR(std::move(status));
  return Done{};
}

Result<EncodedObject> PieceEncoder::encoded(const Piece& piece) const {
  if (!piece.is_packed) return encoder_.encode({piece.number, 0}, object_at(piece.objects.front()));
  std::vector<ObjectEncoder::Packed> packed;
  for (const std::size_t object : piece.objects)
    packed.push_back({numbers_[object], encoder_.text_of(object_at(object))});
  return encoder_.encode_packed({piece.number, 0}, packed);
}

}  // namespace lumvet::saving
