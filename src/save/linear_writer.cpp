// SPDX-License-Identifier: Apache-2.0
#include "save/linear_writer.h"

#include <algorithm>
#include <map>
#include <utility>

#include "base/attempt.h"
#include "base/parallel.h"
#include "crypto/digest.h"
#include "crypto/random.h"
#include "filters/deflate.h"
#include "linear/hint_tables.h"
#include "objects/serializer.h"
#include "save/cross_references.h"
#include "save/linear_plan.h"
#include "save/piece_encoder.h"

namespace lumvet::saving {
namespace {

constexpr std::size_t kDigits = 10;  // of numbers whose place is kept for them

// A number in a place of fixed width.
std::string padded(std::uint64_t number) {
  std::string text = std::to_string(number);
  text.resize(std::max(text.size(), kDigits), ' ');
  return text;
}

using Items =
    std::vector<Piece>;  // placed as if the hint stream were not there, until it is placed

class LinearWriter {
 public:
  LinearWriter(const FullDocument& document, const SaveOptions& options, const Lock& lock,
               const FlattenedPages& pages, ByteSink& sink)
      : document_(document),
        options_(options),
        lock_(lock),
        pages_(pages),
        sink_(sink),
        encoder_(pages, numbers_, lock.security.get(), options.recompress) {}

  Result<std::uint64_t> write() {
    encoder_.reachable().collect_document(document_.catalog);
    encoder_.reachable().collect(document_.info);
    // Places are reserved by what was read, which is to be all of it.
    if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
    LUMVET_TRY(plan_, plan_parts(pages_, document_.catalog, encoder_.reachable()));
    if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
    number_all();
    LUMVET_RETURN_IF_ERROR(encode_all());
    LUMVET_RETURN_IF_ERROR(place_all());
    LUMVET_RETURN_IF_ERROR(make_hints());
    LUMVET_RETURN_IF_ERROR(put_all());
    return position_;
  }

 private:
  bool compact() const { return options_.layout == FileLayout::linearized; }

  std::string header() const {
    const std::string least = compact() ? "1.5" : encoder_.reachable().least_version();
    return header_of(std::max({document_.version, least, lock_.least_version()}));
  }

  // Those of the pages behind the first come first, then what they share and everything else, then
  // the first page's part (F.3.1).
  void number_all() {
    numbers_.resize(encoder_.reachable().order().size());
    next_number_ = 1;
    pages_items_.resize(plan_.pages.size());
    for (std::size_t page = 0; page < plan_.pages.size(); ++page)
      add_plain(plan_.pages[page], pages_items_[page]);
    add_plain(plan_.shared, shared_);
    if (!plan_.first_has_outline) add(plan_.outline, outline_);
    add(plan_.places, places_);
    add(plan_.labels, labels_);
    add(plan_.others, others_);
    if (compact()) main_table_number_ = next_number_++;
    first_number_ = next_number_;
    parameters_number_ = next_number_++;
    if (compact()) first_table_number_ = next_number_++;
    add_plain(plan_.document, part4_);
    hints_number_ = next_number_++;
    add_plain(plan_.first, first_);
    if (plan_.first_has_outline) add(plan_.outline, first_);
  }

  void add_plain(const Part& part, Items& items) {
    for (const std::size_t object : part) {
      numbers_[object] = next_number_;
      items.push_back({next_number_++, {object}});
    }
  }

  // What is no stream in object streams, if the layout has them.
  void add(const Part& part, Items& items) {
    if (!compact()) return add_plain(part, items);
    Part streams;
    Part others;
    for (const std::size_t object : part)
      (encoder_.reachable().is_stream(object) ? streams : others).push_back(object);
    for (std::size_t first = 0; first < others.size(); first += kObjectsPerStream) {
      Piece pack{next_number_++, {}, true};
      for (std::size_t i = first; i < std::min(others.size(), first + kObjectsPerStream); ++i) {
        numbers_[others[i]] = next_number_++;
        pack.objects.push_back(others[i]);
      }
      items.push_back(std::move(pack));
    }
    add_plain(streams, items);
  }

  // In the order in which they lie in the file.
  std::vector<Items*> sections() {
    std::vector<Items*> all = {&part4_, &first_};
    for (Items& items : pages_items_) all.push_back(&items);
    for (Items* items : {&shared_, &outline_, &places_, &labels_, &others_}) all.push_back(items);
    return all;
  }

  Status encode_all() {
    std::vector<Piece*> all;
    for (Items* items : sections())
      for (Piece& piece : *items) all.push_back(&piece);
    crypto::Digest all_of_it(crypto::DigestKind::sha512);
    constexpr std::size_t kAtOnce = 1024;
    const int threads = thread_count(options_.threads);
    for (std::size_t begin = 0; begin < all.size(); begin += kAtOnce) {
      const std::span some = std::span(all).subspan(begin, std::min(kAtOnce, all.size() - begin));
      LUMVET_RETURN_IF_ERROR(encoder_.encode(some, threads, options_.cancel));
      for (const Piece* piece : some)
        if (!lock_.security) all_of_it.update(piece->encoded.fingerprint());
      if (options_.progress) options_.progress(begin, all.size());
    }
    constexpr std::size_t kIdBytes = 16;
    // What is locked is different each time anyway.
    const Bytes digest = lock_.security ? crypto::random_bytes(kIdBytes) : all_of_it.finish();
    id_ = as_text(ByteView(digest).first(kIdBytes));
    return Done{};
  }

  // All sizes are known but the hint stream's, which itself tells of places without it.
  Status place_all() {
    std::uint64_t all = 0;
    for (const Items* items : sections())
      for (const Piece& item : *items) all += item.encoded.size();
    constexpr std::uint64_t kRest = 1 << 20;  // of tables, about
    width_ = width_of(2 * (all + kRest + std::uint64_t{next_number_} * kTableRow));
    LUMVET_TRY(const std::string table, first_table());
    std::uint64_t at = header().size() + parameters().size() + table.size();
    for (Items* items : sections()) {
      if (items == &first_) hints_offset_ = at;
      for (Piece& item : *items) {
        item.offset = at;
        at += item.encoded.size();
      }
      if (items == &first_) first_end_ = at;
    }
    end_ = at;
    return Done{};
  }

  static std::uint64_t size_of(const Items& items, std::size_t from, std::size_t count) {
    std::uint64_t size = 0;
    for (std::size_t i = from; i < std::min(items.size(), from + count); ++i)
      size += items[i].encoded.size();
    return size;
  }

  linear::HintTables tables() {
    linear::HintTables tables;
    tables.first_page_place = first_.front().offset;
    std::map<std::size_t, std::uint64_t> groups;  // by object
    const auto add_groups = [&](const Items& items) {
      for (const Piece& item : items) {
        for (const std::size_t object : item.objects) groups[object] = tables.shared.size();
        tables.shared.push_back({item.encoded.size(), 1});
      }
    };
    add_groups(first_);
    tables.first_page_groups = tables.shared.size();
    add_groups(shared_);
    if (!shared_.empty()) {
      tables.first_shared_object = shared_.front().number;
      tables.first_shared_place = shared_.front().offset;
    }
    for (std::size_t page = 0; page < plan_.pages.size(); ++page) {
      const Items& items = page == plan_.first_page ? first_ : pages_items_[page];
      linear::PageHint hint{.objects = items.size(), .length = size_of(items, 0, items.size())};
      if (plan_.contents[page] > 0) {
        hint.content_offset = items.front().encoded.size();
        hint.content_length = size_of(items, 1, plan_.contents[page]);
      }
      for (const std::size_t object : plan_.uses[page]) hint.shared.push_back(groups.at(object));
      std::sort(hint.shared.begin(), hint.shared.end());
      tables.pages.push_back(std::move(hint));
    }
    add_range('O', plan_.first_has_outline ? outline_of_first() : outline_, tables);
    add_range('E', places_, tables);
    add_range('L', labels_, tables);
    if (const auto info = place_of_info()) add_range('I', {*info}, tables);
    return tables;
  }

  // The items behind the first page's own.
  Items outline_of_first() const {
    return {first_.begin() + static_cast<std::ptrdiff_t>(plan_.first.size()), first_.end()};
  }

  std::optional<Piece> place_of_info() const {
    const auto place = encoder_.reachable().place_of(document_.info.as_reference());
    if (!document_.info.is_reference() || !place) return std::nullopt;
    for (const Piece& item : others_)
      if (std::find(item.objects.begin(), item.objects.end(), *place) != item.objects.end())
        return item;
    return std::nullopt;
  }

  static void add_range(char key, const Items& items, linear::HintTables& tables) {
    if (items.empty()) return;
    tables.ranges.push_back({key, items.front().number, items.front().offset, items.size(),
                             size_of(items, 0, items.size())});
  }

  Status make_hints() {
    linear::HintBytes hints = written(tables());
    Dict dict{{"S", static_cast<std::int64_t>(hints.shared_table)},
              {"Filter", Object::name("FlateDecode")}};
    for (const auto& [key, at] : hints.ranges)
      dict.set(std::string(1, key), static_cast<std::int64_t>(at));
    LUMVET_TRY(hints_, encoder_.objects().encode_stream({hints_number_, 0}, std::move(dict),
                                                        ByteSlice(filters::deflate(hints.bytes))));
    for (Items* items : sections())
      if (items != &part4_)
        for (Piece& item : *items) item.offset += hints_.size();
    end_ += hints_.size();
    first_end_ += hints_.size();
    return Done{};
  }

  // Table F.1. Always of the same length.
  std::string parameters() const {
    const std::string page = plan_.first_page == 0 ? "" : "/P " + std::to_string(plan_.first_page);
    return std::to_string(parameters_number_) + " 0 obj\n<</Linearized 1/L " + padded(length_) +
           "/H[" + padded(hints_offset_) + padded(hints_.size()) + "]/O " +
           std::to_string(first_.front().number) + "/E " + padded(first_end_) + "/N " +
           std::to_string(plan_.pages.size()) + "/T " + padded(main_place_) + page + ">>\nendobj\n";
  }

  Dict first_trailer() const {
    return trailer_of(document_, lock_, next_number_,
                      encoder_.renumbered(document_.catalog.as_reference()),
                      encoder_.renumbered(document_.info.as_reference()), id_);
  }

  std::vector<Place> first_places() const {
    std::vector<Place> places(next_number_ - first_number_);
    const auto set = [&](std::uint32_t number, Place place) {
      places[number - first_number_] = place;
    };
    set(parameters_number_, {Place::Kind::in_file, header().size(), 0});
    if (compact())
      set(first_table_number_, {Place::Kind::in_file, header().size() + parameters().size(), 0});
    set(hints_number_, {Place::Kind::in_file, hints_offset_, 0});
    for (const Items* items : {&part4_, &first_}) set_places(*items, set);
    return places;
  }

  std::vector<Place> main_places() {
    std::vector<Place> places(first_number_);
    const auto set = [&](std::uint32_t number, Place place) { places[number] = place; };
    for (const Items* items : sections())
      if (items != &part4_ && items != &first_) set_places(*items, set);
    if (compact()) set(main_table_number_, {Place::Kind::in_file, end_, 0});
    return places;
  }

  template <typename Set>
  void set_places(const Items& items, const Set& set) const {
    for (const Piece& item : items) {
      set(item.number, {Place::Kind::in_file, item.offset, 0});
      for (std::size_t i = 0; item.is_packed && i < item.objects.size(); ++i)
        set(numbers_[item.objects[i]],
            {Place::Kind::in_stream, item.number, static_cast<std::uint32_t>(i)});
    }
  }

  // The cross references of parts 1 to 6. Always of the same length.
  Result<std::string> first_table() const {
    const std::vector<Place> places = first_places();
    const Section section{first_number_, places};
    Dict dict = first_trailer();
    if (!compact()) {
      LUMVET_TRY(const std::string text, table_of({&section, 1}));
      return text + "trailer\n" + with_prev(dict) + "\n" + end_of_file(0);
    }
    const Bytes rows = stream_of({&section, 1}, {width_, 1, false}, dict);
    return stream_object(first_table_number_, with_prev(dict), rows) + end_of_file(0);
  }

  std::string with_prev(const Dict& dict) const {
    std::string text;
    objects::serialize(dict, text);
    text.resize(text.size() - 2);  // without its end
    return text + "/Prev " + padded(end_) + ">>";
  }

  Result<std::string> main_table() {
    const std::vector<Place> places = main_places();
    const Section section{0, places};
    const std::string end = end_of_file(header().size() + parameters().size());
    Dict dict{{"Size", static_cast<std::int64_t>(first_number_)}};
    std::string text;
    if (!compact()) {
      LUMVET_TRY(text, table_of({&section, 1}));
      text += "trailer\n";
      objects::serialize(dict, text);
      return text + "\n" + end;
    }
    const Bytes rows = stream_of({&section, 1}, {width_, 1, true}, dict);
    objects::serialize(dict, text);
    return stream_object(main_table_number_, text, rows) + end;
  }

  Status put(ByteView bytes) {
    position_ += bytes.size();
    return sink_.write(bytes);
  }
  Status put(std::string_view text) { return put(as_bytes(text)); }
  Status put(const EncodedObject& object) {
    LUMVET_RETURN_IF_ERROR(put(object.head));
    LUMVET_RETURN_IF_ERROR(put(object.body.view()));
    return put(object.tail);
  }

  Status put_all() {
    constexpr std::uint64_t kMostOffset = 9'999'999'999;  // of the numbers in fixed places
    if (end_ > kMostOffset)
      return Error(ErrorCode::limit, "the document is too large to be linearized");
    LUMVET_TRY(const std::string main, main_table());
    LUMVET_TRY(const std::string first, first_table());
    length_ = end_ + main.size();
    main_place_ = end_ + (compact() ? 0 : main.find('\n', main.find('\n') + 1));
    LUMVET_RETURN_IF_ERROR(put(header()));
    LUMVET_RETURN_IF_ERROR(put(parameters()));
    LUMVET_RETURN_IF_ERROR(put(first));
    for (const Items* items : sections()) {
      if (items == &first_) LUMVET_RETURN_IF_ERROR(put(hints_));
      for (const Piece& item : *items) LUMVET_RETURN_IF_ERROR(put(item.encoded));
    }
    if (options_.progress) options_.progress(numbers_.size(), numbers_.size());
    return put(main);
  }

  static constexpr std::uint64_t kTableRow = 20;  // bytes

  const FullDocument& document_;
  const SaveOptions& options_;
  const Lock& lock_;
  const FlattenedPages& pages_;
  ByteSink& sink_;
  std::vector<std::uint32_t> numbers_;  // new ones, by places among the reachable
  PieceEncoder encoder_;
  LinearPlan plan_;
  std::uint32_t next_number_ = 1;
  std::uint32_t first_number_ = 0;  // of the first page's part
  std::uint32_t parameters_number_ = 0;
  std::uint32_t first_table_number_ = 0;
  std::uint32_t main_table_number_ = 0;
  std::uint32_t hints_number_ = 0;
  Items part4_;
  Items first_;
  std::vector<Items> pages_items_;
  Items shared_;
  Items outline_;
  Items places_;
  Items labels_;
  Items others_;
  EncodedObject hints_;
  std::string id_ = std::string(16, '\0');
  std::size_t width_ = 4;
  std::uint64_t hints_offset_ = 0;
  std::uint64_t first_end_ = 0;
  std::uint64_t main_place_ = 0;
  std::uint64_t length_ = 0;
  std::uint64_t end_ = 0;  // of the last object
  std::uint64_t position_ = 0;
};

}  // namespace

Result<std::uint64_t> write_linearized(const FullDocument& document, const SaveOptions& options,
                                       const Lock& lock, ByteSink& sink) {
  LUMVET_TRY(const FlattenedPages pages, FlattenedPages::of(document.objects, document.catalog));
  return LinearWriter(document, options, lock, pages, sink).write();
}

}  // namespace lumvet::saving
