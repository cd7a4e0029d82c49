// SPDX-License-Identifier: Apache-2.0
#include "document/revisions.h"
#include "base/findings_list.h"

#include <algorithm>

#include "file/object_reader.h"
#include "objects/lexer.h"

namespace lumvet::document {
namespace {

class Beginning final : public ByteSource {
 public:
  Beginning(std::shared_ptr<const ByteSource> whole, std::uint64_t size)
      : whole_(std::move(whole)), size_(size) {}

  std::uint64_t size() const override { return size_; }
  std::string name() const override { return whole_->name(); }
  Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    if (offset > size_ || into.size() > size_ - offset)
      return Error(ErrorCode::malformed, "bytes behind the end of this revision are needed")
          .at_offset(offset);
    return whole_->read(offset, into);
  }
  Result<ByteSlice> slice(std::uint64_t offset, std::uint64_t length) const override {
    if (offset > size_)
      return Error(ErrorCode::malformed, "bytes behind the end of this revision are needed")
          .at_offset(offset);
    return whole_->slice(offset, std::min(length, size_ - offset));
  }

 private:
  std::shared_ptr<const ByteSource> whole_;
  std::uint64_t size_;
};

// Where the revision ends whose newest section is at `section`: behind the "%%EOF" that follows
// its "startxref". Nothing when the words behind the section name another.
std::optional<std::uint64_t> end_of_revision(const file::ObjectStore& store,
                                             std::uint64_t section) {
  const Result<ByteSlice> slice = store.source()->slice(section, store.source()->size());
  if (!slice.ok()) return std::nullopt;
  const std::string_view text = as_text(slice->view());
  constexpr std::string_view kStart = "startxref";
  constexpr std::string_view kEnd = "%%EOF";
  const std::size_t word = text.find(kStart);
  if (word == std::string_view::npos) return std::nullopt;
  objects::Lexer lexer(slice->view(), word + kStart.size());
  const auto named = lexer.next();
  if (!named.ok() || named->kind != objects::TokenKind::integer) return std::nullopt;
  const auto place = static_cast<std::uint64_t>(named->integer);
  if (place != section && place + store.header().offset != section) return std::nullopt;
  const std::size_t end = text.find(kEnd, word);
  if (end == std::string_view::npos) return store.source()->size();
  std::size_t behind = end + kEnd.size();
  if (behind < text.size() && text[behind] == '\r') ++behind;
  if (behind < text.size() && text[behind] == '\n') ++behind;
  return section + behind;
}

}  // namespace

std::optional<std::uint64_t> linearized_size(const file::ObjectStore& store) {
  const auto parameters = linear_parameters(store);
  if (!parameters) return std::nullopt;
  return static_cast<std::uint64_t>((*parameters)["L"].as_integer());
}

std::optional<Dict> linear_parameters(const file::ObjectStore& store) {
  constexpr std::uint64_t kFirstObjectWithin = 1024;  // annex F.3.3
  const Result<ByteSlice> head = store.source()->slice(store.header().offset, kFirstObjectWithin);
  if (!head.ok()) return std::nullopt;
  const std::string_view text = as_text(head->view());
  if (text.find("/Linearized") == std::string_view::npos) return std::nullopt;
  const std::size_t object = text.find(" obj");
  if (object == std::string_view::npos) return std::nullopt;
  std::size_t start = object;
  while (start > 0 && text[start - 1] != '\n' && text[start - 1] != '\r') --start;
  Findings unheard;  // what is no object here is no damage either
  const auto first = file::read_object_at(
      store.source(), store.header().offset + start, [](ObjectId) { return Object(); },
      store.limits().nesting, unheard);
  if (!first.ok()) return std::nullopt;
  const Dict& parameters = first->value.as_dict();
  if (!parameters["Linearized"].is_number() || parameters["L"].as_integer() <= 0)
    return std::nullopt;
  return parameters;
}

std::vector<Revision> find_revisions(const file::ObjectStore& store) {
  const std::uint64_t size = store.source()->size();
  std::vector<Revision> revisions = {{size}};
  if (store.cross_references().is_rebuilt()) return revisions;
  const std::vector<std::uint64_t>& places = store.cross_references().places();
  const auto linearized = linearized_size(store);
  for (std::size_t i = 1; i < places.size(); ++i) {  // the newest is the whole file
    // Both sections of a linearized file belong to one state, which ends where its length says.
    if (linearized && i + 1 >= places.size()) break;
    std::optional<std::uint64_t> end = end_of_revision(store, places[i]);
    if (!end && linearized && i + 2 == places.size()) end = *linearized;
    if (end && *end < revisions.back().size) revisions.push_back({*end});
  }
  std::reverse(revisions.begin(), revisions.end());
  return revisions;
}

std::shared_ptr<const ByteSource> beginning_of(std::shared_ptr<const ByteSource> source,
                                               std::uint64_t size) {
  return std::make_shared<Beginning>(std::move(source), size);
}

}  // namespace lumvet::document
