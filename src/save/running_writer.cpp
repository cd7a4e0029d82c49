// SPDX-License-Identifier: Apache-2.0
#include "save/running_writer.h"

#include "base/parallel.h"
#include "save/full_writer.h"

namespace lumvet::saving {

bool RunningWriter::can_write(const SaveOptions& options) {
  const bool is_whole =
      options.layout == FileLayout::compact || options.layout == FileLayout::classic;
  return is_whole && !options.protection && !options.recompress;
}

RunningWriter::RunningWriter(const SaveOptions& options, ByteSink& sink)
    : options_(options), sink_(sink), encoder_([](ObjectId id) { return Object(id); }, nullptr) {}

Status RunningWriter::take(file::Ledger& ledger) {
  if (options_.cancel.is_cancelled())
    return Error(ErrorCode::cancelled, "saving was cancelled; nothing was written");
  if (position_ == 0) LUMVET_RETURN_IF_ERROR(put(header_of("1.7")));
  for (const ObjectId id : ledger.changed_ids()) {
    Object object = ledger.resolve(Object(id));
    ledger.drop(id);
    if (object.is_null()) continue;
    if (is_compact() && !object.is_stream()) {
      small_.push_back({id.number, encoder_.text_of(object)});
      if (small_.size() == kObjectsPerStream) pack(ledger);
      continue;
    }
    const Stream* stream = object.as_stream();
    waiting_bytes_ += stream != nullptr ? stream->length : 0;
    waiting_.push_back({id.number, std::move(object)});
  }
  // So many that all threads have something to do.
  constexpr std::uint64_t kEnough = 1 << 20;  // bytes
  constexpr std::size_t kEnoughPieces = 64;
  return waiting_bytes_ >= kEnough || waiting_.size() >= kEnoughPieces ? write_waiting() : Done{};
}

void RunningWriter::pack(file::Ledger& ledger) {
  for (const ObjectEncoder::Packed& one : small_) waiting_bytes_ += one.text.size();
  waiting_.push_back({ledger.reserve().number, {}, std::move(small_)});
  small_ = {};
}

Status RunningWriter::write_waiting() {
  std::vector<Status> done(waiting_.size(), Done{});
  share_out(waiting_.size(), thread_count(options_.threads), [&](int, std::size_t i) {
    Piece& piece = waiting_[i];
    Result<EncodedObject> made = piece.packed.empty()
                                     ? encoder_.encode({piece.number, 0}, piece.object)
                                     : encoder_.encode_packed({piece.number, 0}, piece.packed);
    if (!made.ok()) {
      done[i] = std::move(made).error();
      return;
    }
    piece.encoded = *std::move(made);
  });
  for (Status& status : done) LUMVET_RETURN_IF_ERROR(std::move(status));
  for (Piece& piece : waiting_) LUMVET_RETURN_IF_ERROR(write(piece));
  waiting_.clear();
  waiting_bytes_ = 0;
  return Done{};
}

Status RunningWriter::write(Piece& piece) {
  digest_.update(piece.encoded.fingerprint());
  place(piece.number, {Place::Kind::in_file, position_, 0});
  for (std::size_t i = 0; i < piece.packed.size(); ++i)
    place(piece.packed[i].number,
          {Place::Kind::in_stream, piece.number, static_cast<std::uint32_t>(i)});
  LUMVET_RETURN_IF_ERROR(put(piece.encoded.head));
  position_ += piece.encoded.body.size();
  LUMVET_RETURN_IF_ERROR(sink_.write(piece.encoded.body.view()));
  return put(piece.encoded.tail);
}

Status RunningWriter::put(std::string_view text) {
  position_ += text.size();
  return sink_.write(as_bytes(text));
}

void RunningWriter::place(std::uint32_t number, const Place& where) {
  if (number >= places_.size()) places_.resize(number + 1);
  places_[number] = where;
}

Result<std::uint64_t> RunningWriter::finish(file::Ledger& ledger, ObjectId catalog,
                                            const Object& info) {
  LUMVET_RETURN_IF_ERROR(take(ledger));
  if (!small_.empty()) pack(ledger);
  LUMVET_RETURN_IF_ERROR(write_waiting());
  const FullDocument document{ledger, Object(catalog), info, "1.7", {}};
  LUMVET_TRY(const std::string text,
             ending_of(std::move(places_), position_, is_compact(), [&](std::size_t size) {
               constexpr std::size_t kIdBytes = 16;
               const Bytes digest = digest_.finish();
               return trailer_of(document, {}, size, document.catalog, info,
                                 std::string(as_text(ByteView(digest).first(kIdBytes))));
             }));
  LUMVET_RETURN_IF_ERROR(put(text));
  return position_;
}

}  // namespace lumvet::saving
