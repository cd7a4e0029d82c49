// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/text_index.h"

#include <algorithm>
#include <array>
#include <cstring>
#include <deque>
#include <numeric>

#include "base/attempt.h"
#include "document/inside.h"
#include "text/each_scene.h"
#include "text/edge_rows.h"
#include "text/folded_text.h"
#include "text/hits_across.h"
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
// how many pages; of each the lengths of its text and of the folded one, and where in both what
// stands between running heads begins and ends; all texts; all folded ones, a zero behind each; a
// mark of all that. Numbers have eight bytes, the lowest first.
constexpr std::string_view kName = "LVWORDS";
constexpr char kVersion = '2';
constexpr std::size_t kHeader = 8;
constexpr std::size_t kNumber = sizeof(std::uint64_t);
constexpr std::size_t kLengths = kHeader + 3 * kNumber;
constexpr std::size_t kNumbersOfPage = 6;

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

// What stands between a page's running heads, in its text and in the folded one.
struct Bodies {
  TextSpan text;
  TextSpan folded;
};

struct IndexedPage {
  PageWords words;
  text::FoldedText folded;
  text::Edges edges;
};

// Pages put one behind the other, each once those near it are there.
class IndexWriter {
 public:
  Status add(IndexedPage page) {
    near_.push_back(std::move(page));
    if (next_ + kNear < near_.size()) LUMVET_RETURN_IF_ERROR(put_next());
    return Done{};
  }
  Status finish() {
    while (next_ < near_.size()) LUMVET_RETURN_IF_ERROR(put_next());
    return Done{};
  }

  const Bytes& lengths() const { return lengths_; }
  const std::string& texts() const { return texts_; }
  const std::string& foldeds() const { return foldeds_; }

 private:
  static constexpr std::size_t kNear = text::kNearPages;

  Status put_next() {
    constexpr std::size_t kMost = std::size_t{1} << 32;
    const IndexedPage& page = near_[next_];
    const std::string& said = page.words.text();
    const Bodies bodies = bodies_of(page);
    for (const std::size_t number : {said.size(), page.folded.text.size() + 1, bodies.text.begin,
                                     bodies.text.end, bodies.folded.begin, bodies.folded.end})
      put_number(number, lengths_);
    texts_ += said;
    foldeds_ += page.folded.text + '\0';
    if (texts_.size() > kMost)
      return Error(ErrorCode::limit, "more text than an index of 4 GiB can hold");
    ++next_;
    if (next_ > kNear) {
      near_.pop_front();
      --next_;
    }
    return Done{};
  }

  Bodies bodies_of(const IndexedPage& page) const {
    std::vector<const text::Edges*> near;
    for (const IndexedPage& other : near_)
      if (&other != &page) near.push_back(&other.edges);
    const TextSpan body = text::body_of(page.words, text::heads_of(page.words, page.edges, near));
    const auto folded_at = [&](std::size_t at) {
      const auto& begins = page.folded.begins;
      return static_cast<std::size_t>(std::lower_bound(begins.begin(), begins.end(), at) -
                                      begins.begin());
    };
    return {body, {folded_at(body.begin), folded_at(body.end)}};
  }

  std::deque<IndexedPage> near_;
  std::size_t next_ = 0;  // of near_, to be put
  Bytes lengths_;
  std::string texts_;
  std::string foldeds_;
};

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
  std::string_view folded(std::size_t page) const {
    return as_text(ByteView(bytes)).substr(foldeds[page], foldeds[page + 1] - foldeds[page] - 1);
  }
  // Of all pages, parted by zeros.
  std::string_view folded() const {
    return as_text(ByteView(bytes)).substr(foldeds.front(), foldeds.back() - foldeds.front());
  }
  Bodies bodies(std::size_t page) const {
    const auto number = [&](std::size_t which) {
      return static_cast<std::size_t>(
          number_at(bytes, kLengths + (page * kNumbersOfPage + which) * kNumber));
    };
    return {{number(2), number(3)}, {number(4), number(5)}};
  }
  bool are_bodies_inside() const {
    const auto is_inside = [](const TextSpan& span, std::string_view text) {
      return span.begin <= span.end && span.end <= text.size();
    };
    for (std::size_t page = 0; page < page_count(); ++page)
      if (!is_inside(bodies(page).text, text(page)) ||
          !is_inside(bodies(page).folded, folded(page)))
        return false;
    return true;
  }

  // Whether it can be that something begins on a page and ends on the next.
  bool may_go_on(std::size_t page, std::string_view wanted) const {
    if (page + 1 >= page_count()) return false;
    const TextSpan here = bodies(page).folded;
    const TextSpan there = bodies(page + 1).folded;
    const std::size_t before = std::min(wanted.size(), here.end - here.begin);
    std::string joined(folded(page).substr(here.end - before, before));
    joined += '\n';
    joined +=
        folded(page + 1).substr(there.begin, std::min(wanted.size(), there.end - there.begin));
    return text::folded(joined, {}).text.find(wanted) != std::string::npos;
  }
};

namespace {

// What pages have by themselves, each looked for once: a page is asked for beside the one before it
// and then by itself.
class PageSpans {
 public:
  PageSpans(const TextIndex& index, const TextSearch& search) : index_(index), search_(search) {}

  Result<std::vector<TextSpan>> of(std::size_t page) {
    if (known_page_ == page) return known_;
    LUMVET_TRY(known_, search_.in(index_.text(static_cast<int>(page))));
    known_page_ = page;
    return known_;
  }

 private:
  const TextIndex& index_;
  const TextSearch& search_;
  std::optional<std::size_t> known_page_;
  std::vector<TextSpan> known_;
};

}  // namespace

Result<TextIndex> TextIndex::of(const Document& document, const ReadOptions& options) {
  return attempted([&]() -> Result<TextIndex> {
    std::vector<int> pages(static_cast<std::size_t>(document.page_count()));
    std::iota(pages.begin(), pages.end(), 0);
    IndexWriter writer;
    LUMVET_RETURN_IF_ERROR(text::each_scene<IndexedPage>(
        document, pages, options,
        [&](int, const Scene& scene) -> Result<IndexedPage> {
          PageWords words = PageWords::of(scene, options.letters);
          text::FoldedText folded = text::folded(words.text(), {});
          text::Edges edges = text::edges_of(words);
          return IndexedPage{std::move(words), std::move(folded), std::move(edges)};
        },
        [&](int, const IndexedPage& page) { return writer.add(page); }));
    LUMVET_RETURN_IF_ERROR(writer.finish());
    LUMVET_TRY(const std::uint64_t mark, mark_of(document));
    Bytes bytes(kName.begin(), kName.end());
    bytes.push_back(kVersion);
    put_number(store_of(document).source()->size(), bytes);
    put_number(mark, bytes);
    put_number(pages.size(), bytes);
    for (const ByteView part :
         {ByteView(writer.lengths()), as_bytes(writer.texts()), as_bytes(writer.foldeds())})
      bytes.insert(bytes.end(), part.begin(), part.end());
    put_number(index_mark(bytes), bytes);
    return load(std::move(bytes));
  });
}

Result<TextIndex> TextIndex::load(Bytes bytes) {
  const ByteView view(bytes);
  if (view.size() < kLengths + kNumber || as_text(view).substr(0, kName.size()) != kName)
    return damaged();
  if (view[kName.size()] != kVersion)
    return Error(ErrorCode::unsupported,
                 "an index of a document's text of another version; make it anew");
  const std::size_t end = view.size() - kNumber;
  if (index_mark(view.first(end)) != number_at(view, end)) return damaged();
  auto impl = std::make_shared<Impl>();
  const std::uint64_t pages = number_at(view, kHeader + 2 * kNumber);
  constexpr std::size_t kOfPage = kNumbersOfPage * kNumber;
  if (pages > (end - kLengths) / kOfPage) return damaged();
  std::size_t at = kLengths + static_cast<std::size_t>(pages) * kOfPage;
  for (const std::size_t which : {std::size_t{0}, kNumber}) {
    std::vector<std::size_t>& begins = which == 0 ? impl->texts : impl->foldeds;
    begins.push_back(at);
    for (std::size_t page = 0; page < pages; ++page) {
      const std::uint64_t length = number_at(view, kLengths + page * kOfPage + which);
      if (length > end - at || (which != 0 && (length == 0 || view[at + length - 1] != 0)))
        return damaged();
      begins.push_back(at += static_cast<std::size_t>(length));
    }
  }
  if (at != end) return damaged();
  impl->bytes = std::move(bytes);
  if (!impl->are_bodies_inside()) return damaged();
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
  const std::size_t count = impl_->page_count();
  const std::optional<std::string> wanted = wanted_of(search);
  // Where what is wanted stands next, gone through as a whole; only pages that can have it are
  // looked at.
  const std::string_view folded = impl_->folded();
  const std::size_t base = impl_->foldeds.front();
  std::size_t next_page = 0;  // that has it
  const auto find_next = [&](std::size_t page) {
    const std::size_t at = impl_->foldeds[page] - base;
    const void* hit =
        ::memmem(folded.data() + at, folded.size() - at, wanted->data(), wanted->size());
    if (hit == nullptr) return count;
    const auto place = static_cast<std::size_t>(static_cast<const char*>(hit) - folded.data());
    const auto next = std::upper_bound(impl_->foldeds.begin(), impl_->foldeds.end(), base + place);
    return static_cast<std::size_t>(next - impl_->foldeds.begin()) - 1;
  };
  PageSpans spans(*this, search);
  const auto look_at = [&](std::size_t page) -> Status {
    IndexHits found{static_cast<int>(page), impl_->text(page), {}};
    LUMVET_TRY(found.spans, spans.of(page));
    if (page + 1 < count) {
      const std::string_view next = impl_->text(page + 1);
      LUMVET_TRY(const std::vector<TextSpan> next_spans, spans.of(page + 1));
      LUMVET_TRY(found.across,
                 text::hits_across(search, {found.text, impl_->bodies(page).text}, found.spans,
                                   {next, impl_->bodies(page + 1).text}, next_spans));
      if (!found.across.empty()) found.next = next;
    }
    return found.spans.empty() && found.across.empty() ? Status(Done{}) : called_back(take, found);
  };
  if (wanted) next_page = find_next(0);
  for (std::size_t page = 0; page < count; ++page) {
    const bool has_it = !wanted || page == next_page;
    if (has_it || impl_->may_go_on(page, *wanted)) LUMVET_RETURN_IF_ERROR(look_at(page));
    if (wanted && page == next_page) next_page = find_next(page + 1);
  }
  return Done{};
}

}  // namespace lumvet
