// SPDX-License-Identifier: Apache-2.0
#include "document/content_feed.h"

#include <algorithm>

#include "document/inside.h"

namespace lumvet::document {

ContentFeed::ContentFeed(const Page& page)
    : page_(page.index()), store_(store_of(page)), budget_(store_.limits()) {
  const Object contents = store_.get(page.dict(), "Contents");
  if (contents.is_array())
    parts_ = contents.as_array();
  else if (page.dict().contains("Contents"))
    parts_ = {page.dict()["Contents"]};
}

Status ContentFeed::advance(std::size_t used) {
  window_.erase(window_.begin(), window_.begin() + static_cast<std::ptrdiff_t>(used));
  const std::size_t wanted = std::max(kWindow, window_.size() * 2);
  while (window_.size() < wanted && has_more())
    LUMVET_RETURN_IF_ERROR(pieces_ != nullptr ? read_piece() : open_next());
  return Done{};
}

Status ContentFeed::open_next() {
  const Object& part = parts_[next_++];
  const Object object = store_.resolve(part);
  const Stream* stream = object.as_stream();
  if (stream == nullptr) {
    store_.findings().add(
        {"a part of the content of page " + std::to_string(page_ + 1) + " is missing",
         {},
         part.as_reference()});
    return Done{};
  }
  if (opened_.insert({stream->source.get(), stream->offset}).second) encoded_ += stream->length;
  // What is small is quicker in one go.
  constexpr std::uint64_t kSmall = 1 << 16;
  if (stream->length <= kSmall) {
    const Result<ByteSlice> decoded =
        filters::decode_whole(*stream, store_, budget_, store_.findings());
    if (!decoded.ok()) return pass_over(decoded.error(), part);
    window_.insert(window_.end(), decoded->view().begin(), decoded->view().end());
    window_.push_back('\n');
    return Done{};
  }
  Result<filters::StreamPieces> pieces =
      filters::decode_pieces(*stream, store_, budget_.decoded_left(stream->length));
  if (!pieces.ok()) return pass_over(pieces.error(), part);
  if (!pieces->left.empty())
    return pass_over(Error(ErrorCode::malformed, "a page's content is packed as an image")
                         .at_offset(stream->offset),
                     part);
  pieces_ = std::move(pieces->bytes);
  stream_ = *stream;
  return Done{};
}

Status ContentFeed::read_piece() {
  constexpr std::size_t kPiece = 1 << 16;
  const std::size_t before = window_.size();
  window_.resize(before + kPiece);
  const Result<std::size_t> read = pieces_->read(std::span(window_).subspan(before));
  window_.resize(before + (read.ok() ? *read : 0));
  if (read.ok())
    if (Status spent = budget_.spend_decoded(*read); !spent.ok())
      return pass_over(spent.error(), Object());
  if (read.ok() && *read == kPiece) return Done{};
  const std::optional<filters::Damage> damage = pieces_->damage();
  pieces_.reset();
  window_.push_back('\n');
  if (!read.ok()) return pass_over(read.error(), Object());
  if (damage) store_.findings().add({damage->what, stream_.offset + damage->offset, {}});
  return Done{};
}

Status ContentFeed::pass_over(const Error& error, const Object& part) {
  if (error.code() != ErrorCode::malformed && error.code() != ErrorCode::unsupported)
    return Error(error).during("reading page " + std::to_string(page_ + 1));
  store_.findings().add({error.message(), error.offset(), part.as_reference()});
  return Done{};
}

}  // namespace lumvet::document
