// SPDX-License-Identifier: Apache-2.0
#include "filters/stream_decoder.h"
#include "base/findings_list.h"

#include "base/attempt.h"

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

bool is_image_codec(std::string_view name) {
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
    LUMVET_RETURN_IF_ERROR(source_->read(at_, out.first(part)));
    at_ += part;
    return part;
  }

 private:
  std::shared_ptr<const ByteSource> source_;
  std::uint64_t at_;
  std::uint64_t end_;
};

// What all filters of one stream share when they are undone piece by piece.
struct Chain {
  std::uint64_t left = 0;  // bytes that all of them together may still give
  std::uint64_t most = 0;
  std::optional<Damage> damage;  // the first that any of them met
};

// One of them. A filter that gives little may ask the one below for no end of bytes, so each
// counts.
class Bounded final : public Decoding {
 public:
  Bounded(DecodingPtr filter, std::shared_ptr<Chain> chain, std::string_view name)
      : filter_(std::move(filter)), chain_(std::move(chain)), name_(name) {}

  Result<std::size_t> read(std::span<std::uint8_t> out) override {
    LUMVET_TRY(const std::size_t given, filter_->read(out));
    if (!chain_->damage) chain_->damage = filter_->damage();
    if (chain_->damage) note_damage(chain_->damage->what, chain_->damage->offset);
    if (given > chain_->left)
      return output_limit(name_.substr(0, name_.find("Decode")), chain_->most);
    chain_->left -= given;
    return given;
  }

 private:
  DecodingPtr filter_;
  std::shared_ptr<Chain> chain_;
  std::string_view name_;
};

struct Undone {
  const Filter* filter;
  Dict parameters;
};

// Takes the next filter off the chain; nothing at its end or in front of an image codec.
Result<std::optional<Undone>> next_filter(std::vector<FilterStep>& left, std::uint64_t offset) {
  while (!left.empty() && is_identity(left.front())) left.erase(left.begin());
  if (left.empty() || is_image_codec(left.front().name)) return std::optional<Undone>();
  const FilterStep step = std::move(left.front());
  left.erase(left.begin());
  const Filter* filter = find_filter(step.name);
  if (filter == nullptr) return unknown_filter(step.name).at_offset(offset);
  return std::optional(Undone{filter, step.parameters});
}

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

namespace {

Result<std::vector<FilterStep>> bounded_chain(const Stream& stream,
                                              const objects::Resolver& resolver) {
  std::vector<FilterStep> chain = filter_chain(stream.dict, resolver);
  if (chain.size() > kLongestChain)
    return met_limit("a stream has more than 16 filters").at_offset(stream.offset);
  return chain;
}

}  // namespace

Result<StreamContent> decode_stream(const Stream& stream, const objects::Resolver& resolver,
                                    Budget& budget, Findings& findings) {
  StreamContent content;
  LUMVET_TRY(content.bytes, stream.encoded());
  LUMVET_TRY(content.left, bounded_chain(stream, resolver));
  for (;;) {
    LUMVET_TRY(const std::optional<Undone> step, next_filter(content.left, stream.offset));
    if (!step) return content;
    Result<Decoded> decoded = decode(*step->filter, {content.bytes.view(), step->parameters,
                                                     budget.decoded_left(stream.length)});
    if (!decoded.ok()) return std::move(decoded).error().at_offset(stream.offset);
    LUMVET_RETURN_IF_ERROR(budget.spend_decoded(decoded->bytes.size()));
    if (decoded->damage)
      findings.add({decoded->damage->what + "; the " + std::to_string(decoded->bytes.size()) +
                        " bytes before it were kept",
                    stream.offset + decoded->damage->offset,
                    {}});
    content.bytes = ByteSlice(std::move(decoded->bytes));
  }
}

Result<StreamPieces> decode_pieces(const Stream& stream, const objects::Resolver& resolver,
                                   std::uint64_t most_bytes) {
  StreamPieces pieces{std::make_unique<OfStream>(stream), {}};
  LUMVET_TRY(pieces.left, bounded_chain(stream, resolver));
  const auto chain = std::make_shared<Chain>(Chain{most_bytes, most_bytes, {}});
  for (;;) {
    LUMVET_TRY(const std::optional<Undone> step, next_filter(pieces.left, stream.offset));
    if (!step) return pieces;
    LUMVET_TRY(DecodingPtr undone, step->filter->start(std::move(pieces.bytes), step->parameters));
    pieces.bytes = std::make_unique<Bounded>(std::move(undone), chain, step->filter->name);
  }
}

Result<ByteSlice> decode_whole(const Stream& stream, const objects::Resolver& resolver,
                               Budget& budget, Findings& findings) {
  LUMVET_TRY(StreamContent content, decode_stream(stream, resolver, budget, findings));
  if (!content.left.empty())
    return Error(ErrorCode::malformed,
                 "an image filter (" + content.left.front().name + ") where plain bytes belong")
        .at_offset(stream.offset);
  return std::move(content.bytes);
}

}  // namespace lumvet::filters
