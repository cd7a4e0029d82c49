// SPDX-License-Identifier: Apache-2.0
#include "filters/stream_decoder.h"

#include <algorithm>

namespace lumvet::filters {
namespace {

Object either(const Dict& dict, const objects::Resolver& resolver, std::string_view key,
              std::string_view short_key) {
  Object value = resolver.get(dict, key);
  return value.is_null() ? resolver.get(dict, short_key) : value;
}

Dict followed(const Dict& dict, const objects::Resolver& resolver) {
  std::vector<Dict::Entry> entries;
  for (const auto& [key, value] : dict) entries.emplace_back(key, resolver.resolve(value));
  return Dict(std::move(entries));
}

constexpr std::size_t kLongestChain = 16;

bool is_picture_codec(std::string_view name) {
  return name == "DCTDecode" || name == "JPXDecode" || name == "JBIG2Decode" ||
         name == "CCITTFaxDecode";
}

// What is encrypted was decrypted before; this filter has nothing left to do.
bool is_identity(const FilterStep& step) {
  return step.name == "Crypt" &&
         (step.parameters["Name"].is_null() || step.parameters["Name"].is_name("Identity"));
}

Error unknown_filter(const std::string& name) {
  return Error(ErrorCode::unsupported, "streams with the filter '" + name + "' cannot be read");
}

// The encoded bytes, in pieces of a source.
class OfStream final : public Decoding {
 public:
  explicit OfStream(const Stream& stream)
      : source_(stream.source), at_(stream.offset), end_(stream.offset + stream.length) {}

  Result<std::size_t> read(std::span<std::uint8_t> out) override {
    const auto part = static_cast<std::size_t>(std::min<std::uint64_t>(out.size(), end_ - at_));
    LUMVET_CHECK(source_->read(at_, out.first(part)));
    at_ += part;
    return part;
  }

 private:
  std::shared_ptr<const ByteSource> source_;
  std::uint64_t at_;
  std::uint64_t end_;
};

}  // namespace

std::vector<FilterStep> filter_chain(const Dict& dict, const objects::Resolver& resolver) {
  const Object filter = either(dict, resolver, "Filter", "F");
  const Object parameters = either(dict, resolver, "DecodeParms", "DP");
  std::vector<FilterStep> chain;
  if (filter.is_name()) {
    const Object only = parameters.is_array() && !parameters.as_array().empty()
                            ? resolver.resolve(parameters.as_array()[0])
                            : parameters;
    chain.push_back(
        {std::string(full_filter_name(filter.as_name())), followed(only.as_dict(), resolver)});
  }
  for (std::size_t i = 0; i < filter.as_array().size(); ++i) {
    const Object name = resolver.resolve(filter.as_array()[i]);
    const Object own =
        i < parameters.as_array().size() ? resolver.resolve(parameters.as_array()[i]) : Object();
    chain.push_back(
        {std::string(full_filter_name(name.as_name())), followed(own.as_dict(), resolver)});
  }
  return chain;
}

Result<StreamContent> decode_stream(const Stream& stream, const objects::Resolver& resolver,
                                    Budget& budget, Findings& findings) {
  StreamContent content;
  LUMVET_TRY(content.bytes, stream.encoded());
  content.left = filter_chain(stream.dict, resolver);
  if (content.left.size() > kLongestChain)
    return Error(ErrorCode::limit, "a stream has more than 16 filters").at_offset(stream.offset);
  while (!content.left.empty() && !is_picture_codec(content.left.front().name)) {
    const FilterStep step = std::move(content.left.front());
    content.left.erase(content.left.begin());
    if (is_identity(step)) continue;
    const Filter* filter = find_filter(step.name);
    if (filter == nullptr) return unknown_filter(step.name).at_offset(stream.offset);
    Result<Decoded> decoded =
        decode(*filter, {content.bytes.view(), step.parameters, budget.decoded_left()});
    if (!decoded.ok()) return std::move(decoded).error().at_offset(stream.offset);
    LUMVET_CHECK(budget.spend_decoded(decoded->bytes.size()));
    if (decoded->damage)
      findings.add({decoded->damage->what + "; the " + std::to_string(decoded->bytes.size()) +
                        " bytes before it were kept",
                    stream.offset + decoded->damage->offset,
                    {}});
    content.bytes = ByteSlice(std::move(decoded->bytes));
  }
  return content;
}

Result<StreamPieces> decode_pieces(const Stream& stream, const objects::Resolver& resolver) {
  StreamPieces pieces{std::make_unique<OfStream>(stream), filter_chain(stream.dict, resolver)};
  if (pieces.left.size() > kLongestChain)
    return Error(ErrorCode::limit, "a stream has more than 16 filters").at_offset(stream.offset);
  while (!pieces.left.empty() && !is_picture_codec(pieces.left.front().name)) {
    const FilterStep step = std::move(pieces.left.front());
    pieces.left.erase(pieces.left.begin());
    if (is_identity(step)) continue;
    const Filter* filter = find_filter(step.name);
    if (filter == nullptr) return unknown_filter(step.name).at_offset(stream.offset);
    LUMVET_TRY(pieces.bytes, filter->start(std::move(pieces.bytes), step.parameters));
  }
  return pieces;
}

Result<ByteSlice> decode_whole(const Stream& stream, const objects::Resolver& resolver,
                               Budget& budget, Findings& findings) {
  LUMVET_TRY(StreamContent content, decode_stream(stream, resolver, budget, findings));
  if (!content.left.empty())
    return Error(ErrorCode::malformed,
                 "a picture filter (" + content.left.front().name + ") where plain bytes belong")
        .at_offset(stream.offset);
  return std::move(content.bytes);
}

}  // namespace lumvet::filters
