// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/text_index.h"

#include <algorithm>
#include <array>
#include <cstring>
#include <numeric>

#include "base/attempt.h"
#include "document/inside.h"
#include "text/folded_text.h"
#include "text/search_inside.h"

namespace lumvet {

std::uint64_t index_mark(ByteView bytes, std::uint64_t mark) {
  constexpr std::size_t kNumber = sizeof(std::uint64_t);
  constexpr std::uint64_t kFactor = 0x9E3779B97F4A7C15;
  const auto mix = [&](std::uint64_t word) {
    mark = (mark ^ word) * kFactor;
    mark ^= mark >> 32;
  };
  std::size_t at = 0;
  for (; at + kNumber <= bytes.size(); at += kNumber) {
    std::uint64_t word = 0;
    std::memcpy(&word, bytes.data() + at, kNumber);
    mix(word);
  }
  std::uint64_t rest = bytes.size();
  for (; at < bytes.size(); ++at) rest = rest << 8 | bytes[at];
  mix(rest);
  return mark;
}

namespace {

// A file of it: these eight bytes, of which the last counts versions; the document's size and mark;
// how many pages; of each the lengths of its text and of the folded one; all texts; all folded
// ones, a zero behind each; a mark of all that. Numbers have eight bytes, the lowest first.
constexpr std::string_view kName = "LVWORDS";
constexpr char kVersion = '1';
constexpr std::size_t kHeader = 8;
constexpr std::size_t kNumber = sizeof(std::uint64_t);

// Of the beginning and the end of a document's bytes.
Result<std::uint64_t> mark_of(const Document& document) {
  constexpr std::uint64_t kLooked = 16384;
  const ByteSource& source = *store_of(document).source();
  const std::uint64_t length = std::min(kLooked, source.size());
  LUMVET_TRY(const ByteSlice first, source.slice(0, length));
  LUMVET_TRY(const ByteSlice last, source.slice(source.size() - length, length));
  return index_mark(last.view(), index_mark(first.view(), source.size()));
}

void put_number(std::uint64_t number, Bytes& out) {
  for (std::size_t i = 0; i < kNumber; ++i)
    out.push_back(static_cast<std::uint8_t>(number >> (8 * i)));
}

std::uint64_t number_at(ByteView bytes, std::size_t at) {
  std::uint64_t number = 0;
  for (std::size_t i = kNumber; i > 0; --i) number = number << 8 | bytes[at + i - 1];
  return number;
}

Error damaged() {
  return Error(ErrorCode::malformed,
               "an index of a document's text that is damaged or something else; make it anew");
}

}  // namespace

struct TextIndex::Impl {
  Bytes bytes;  // as in a file
  // Where the texts of each page begin in them, and one more.
  std::vector<std::size_t> texts;
  std::vector<std::size_t> foldeds;

  std::size_t page_count() const { return texts.size() - 1; }
  std::string_view text(std::size_t page) const {
    return as_text(ByteView(bytes)).substr(texts[page], texts[page + 1] - texts[page]);
  }
  // Of all pages, parted by zeros.
  std::string_view folded() const {
    return as_text(ByteView(bytes)).substr(foldeds.front(), foldeds.back() - foldeds.front());
  }
};

Result<TextIndex> TextIndex::of(const Document& document, const ReadOptions& options) {
  return attempted([&]() -> Result<TextIndex> {
    std::vector<int> pages(static_cast<std::size_t>(document.page_count()));
    std::iota(pages.begin(), pages.end(), 0);
    std::string texts;
    std::string foldeds;
    Bytes lengths;
    constexpr std::size_t kMost = std::size_t{1} << 32;
    LUMVET_RETURN_IF_ERROR(
        read_pages(document, pages, options, [&](int, const PageWords& words) -> Status {
          const std::string folded = text::folded(words.text(), {}).text;
          put_number(words.text().size(), lengths);
          put_number(folded.size() + 1, lengths);
          texts += words.text();
          foldeds += folded + '\0';
          if (texts.size() > kMost)
            return Error(ErrorCode::limit, "more text than an index of 4 GiB can hold");
          return Done{};
        }));
    LUMVET_TRY(const std::uint64_t mark, mark_of(document));
    Bytes bytes(kName.begin(), kName.end());
    bytes.push_back(kVersion);
    put_number(store_of(document).source()->size(), bytes);
    put_number(mark, bytes);
    put_number(pages.size(), bytes);
    for (const ByteView part : {ByteView(lengths), as_bytes(texts), as_bytes(foldeds)})
      bytes.insert(bytes.end(), part.begin(), part.end());
    put_number(index_mark(bytes), bytes);
    return load(std::move(bytes));
  });
}

Result<TextIndex> TextIndex::load(Bytes bytes) {
  const ByteView view(bytes);
  if (view.size() < kHeader + 4 * kNumber || as_text(view).substr(0, kName.size()) != kName)
    return damaged();
  if (view[kName.size()] != kVersion)
    return Error(ErrorCode::unsupported,
                 "an index of a document's text of another version; make it anew");
  const std::size_t end = view.size() - kNumber;
  if (index_mark(view.first(end)) != number_at(view, end)) return damaged();
  auto impl = std::make_shared<Impl>();
  const std::uint64_t pages = number_at(view, kHeader + 2 * kNumber);
  const std::size_t lengths = kHeader + 3 * kNumber;
  if (pages > (end - lengths) / (2 * kNumber)) return damaged();
  std::size_t at = lengths + static_cast<std::size_t>(pages) * 2 * kNumber;
  for (const std::size_t which : {std::size_t{0}, kNumber}) {
    std::vector<std::size_t>& begins = which == 0 ? impl->texts : impl->foldeds;
    begins.push_back(at);
    for (std::size_t page = 0; page < pages; ++page) {
      const std::uint64_t length = number_at(view, lengths + page * 2 * kNumber + which);
      if (length > end - at || (which != 0 && (length == 0 || view[at + length - 1] != 0)))
        return damaged();
      begins.push_back(at += static_cast<std::size_t>(length));
    }
  }
  if (at != end) return damaged();
  impl->bytes = std::move(bytes);
  return TextIndex(std::move(impl));
}

Status TextIndex::save(ByteSink& sink) const { return sink.write(impl_->bytes); }

Result<bool> TextIndex::is_of(const Document& document) const {
  return attempted([&]() -> Result<bool> {
    LUMVET_TRY(const std::uint64_t mark, mark_of(document));
    return number_at(impl_->bytes, kHeader) == store_of(document).source()->size() &&
           number_at(impl_->bytes, kHeader + kNumber) == mark;
  });
}

int TextIndex::page_count() const { return static_cast<int>(impl_->page_count()); }
std::string_view TextIndex::text(int page) const {
  return impl_->text(static_cast<std::size_t>(page));
}
std::size_t TextIndex::memory() const {
  return sizeof(Impl) + impl_->bytes.capacity() +
         (impl_->texts.capacity() + impl_->foldeds.capacity()) * sizeof(std::size_t);
}

Status TextIndex::find(const TextSearch& search, const Take& take) const {
  const auto look_at = [&](std::size_t page) -> Status {
    IndexHits found{static_cast<int>(page), impl_->text(page), {}};
    LUMVET_TRY(found.spans, search.in(found.text));
    return found.spans.empty() ? Status(Done{}) : called_back(take, found);
  };
  const std::optional<std::string> wanted = wanted_of(search);
  if (!wanted) {
    for (std::size_t page = 0; page < impl_->page_count(); ++page)
      LUMVET_RETURN_IF_ERROR(look_at(page));
    return Done{};
  }
  // Gone through as a whole; only pages that have it are looked at.
  const std::string_view folded = impl_->folded();
  const std::size_t base = impl_->foldeds.front();
  std::size_t at = 0;
  while (at < folded.size()) {
    const void* hit =
        ::memmem(folded.data() + at, folded.size() - at, wanted->data(), wanted->size());
    if (hit == nullptr) return Done{};
    const auto place = static_cast<std::size_t>(static_cast<const char*>(hit) - folded.data());
    const auto next = std::upper_bound(impl_->foldeds.begin(), impl_->foldeds.end(), base + place);
    LUMVET_RETURN_IF_ERROR(look_at(static_cast<std::size_t>(next - impl_->foldeds.begin()) - 1));
    at = *next - base;
  }
  return Done{};
}

}  // namespace lumvet
