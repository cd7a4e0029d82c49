// SPDX-License-Identifier: Apache-2.0
#include "save/linear_writer.h"

#include <algorithm>
#include <map>
#include <utility>

#include "base/parallel.h"
#include "crypto/digest.h"
#include "crypto/random.h"
#include "filters/deflate.h"
#include "linear/hint_tables.h"
#include "objects/serializer.h"
#include "save/cross_reference_rows.h"
#include "save/linear_plan.h"
#include "save/object_encoder.h"

namespace lumvet::saving {
namespace {

constexpr std::size_t kDigits = 10;  // of numbers whose place is kept for them

// A number in a place of fixed width.
std::string padded(std::uint64_t number) {
  std::string text = std::to_string(number);
  text.resize(std::max(text.size(), kDigits), ' ');
  return text;
}

std::string table_row(std::uint64_t offset) {
  const std::string digits = std::to_string(offset);
  return std::string(kDigits - std::min(kDigits, digits.size()), '0') + digits + " 00000 n \n";
}

// Something that is written in one piece: an object, or several in an object stream.
struct Item {
  std::uint32_t number = 0;
  std::vector<std::size_t> objects;  // one, or those that are packed
  bool is_packed = false;
  EncodedObject encoded = {};
  Bytes digest = {};
  std::uint64_t offset = 0;  // as if the hint stream were not there, until it is placed
};
using Items = std::vector<Item>;

class LinearWriter {
 public:
  LinearWriter(const FullDocument& document, const SaveOptions& options, const Lock& lock,
               const FlattenedPages& pages, ByteSink& sink)
      : document_(document),
        options_(options),
        lock_(lock),
        pages_(pages),
        sink_(sink),
        reachable_(pages),
        encoder_([this](ObjectId id) { return renumbered(id); }, lock.security.get()) {
    if (options.recompress) encoder_.recompress(pages);
  }

  Result<std::uint64_t> write() {
    reachable_.collect_document(document_.catalog);
    reachable_.collect(document_.info);
    LUMVET_TRY(plan_, plan_parts(pages_, document_.catalog, reachable_));
    number_all();
    LUMVET_RETURN_IF_ERROR(encode_all());
    place_all();
    LUMVET_RETURN_IF_ERROR(make_hints());
    LUMVET_RETURN_IF_ERROR(put_all());
    return position_;
  }

 private:
  bool compact() const { return options_.layout == FileLayout::linearized; }

  Object renumbered(ObjectId old) const {
    const auto place = reachable_.place_of(old);
    return place ? Object(ObjectId{numbers_[*place], 0}) : Object();
  }

  std::string header() const {
    const std::string least = compact() ? "1.5" : "1.0";
    return header_of(std::max({document_.version, least, lock_.least_version()}));
  }

  // Those of the pages behind the first come first, then what they share and everything else, then
  // the first page's part (F.3.1).
  void number_all() {
    numbers_.resize(reachable_.order().size());
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
      (reachable_.is_stream(object) ? streams : others).push_back(object);
    for (std::size_t first = 0; first < others.size(); first += kObjectsPerStream) {
      Item pack{next_number_++, {}, true};
      for (std::size_t i = first; i < std::min(others.size(), first + kObjectsPerStream); ++i) {
        numbers_[others[i]] = next_number_++;
        pack.objects.push_back(others[i]);
      }
      items.push_back(std::move(pack));
    }
    add_plain(streams, items);
  }

  Object object_at(std::size_t place) const {
    return pages_.resolve(Object(reachable_.order()[place]));
  }

  // In the order in which they lie in the file.
  std::vector<Items*> sections() {
    std::vector<Items*> all = {&part4_, &first_};
    for (Items& items : pages_items_) all.push_back(&items);
    for (Items* items : {&shared_, &outline_, &places_, &labels_, &others_}) all.push_back(items);
    return all;
  }

  Status encode_all() {
    std::vector<Item*> all;
    for (Items* items : sections())
      for (Item& item : *items) all.push_back(&item);
    crypto::Digest all_of_it(crypto::DigestKind::sha512);
    constexpr std::size_t kAtOnce = 1024;
    const int threads = thread_count(options_.threads);
    for (std::size_t begin = 0; begin < all.size(); begin += kAtOnce) {
      const std::size_t count = std::min(kAtOnce, all.size() - begin);
      std::vector<Status> done(count, Done{});
      share_out(count, threads, [&](int, std::size_t i) { done[i] = encode(*all[begin + i]); });
      for (Status& status : done) LUMVET_RETURN_IF_ERROR(std::move(status));
      for (std::size_t i = begin; i < begin + count; ++i)
        all_of_it.update(std::exchange(all[i]->digest, {}));
      if (options_.cancel.is_cancelled())
        return Error(ErrorCode::cancelled, "saving was cancelled; nothing was written");
      if (options_.progress) options_.progress(begin, all.size());
    }
    constexpr std::size_t kIdBytes = 16;
    // What is locked is different each time anyway.
    const Bytes digest = lock_.security ? crypto::random_bytes(kIdBytes) : all_of_it.finish();
    id_ = as_text(ByteView(digest).first(kIdBytes));
    return Done{};
  }

  Status encode(Item& item) const {
    if (options_.cancel.is_cancelled()) return Done{};  // encode_all() tells
    LUMVET_TRY(item.encoded, encoded(item));
    if (!lock_.security) item.digest = item.encoded.digest();
    return Done{};
  }

  Result<EncodedObject> encoded(const Item& item) const {
    if (!item.is_packed) return encoder_.encode({item.number, 0}, object_at(item.objects.front()));
    std::vector<ObjectEncoder::Packed> packed;
    for (const std::size_t object : item.objects)
      packed.push_back({numbers_[object], encoder_.text_of(object_at(object))});
    return encoder_.encode_packed({item.number, 0}, packed);
  }

  // All sizes are known but the hint stream's, which itself tells of places without it.
  void place_all() {
    std::uint64_t all = 0;
    for (const Items* items : sections())
      for (const Item& item : *items) all += item.encoded.size();
    constexpr std::uint64_t kRest = 1 << 20;  // of tables, about
    width_ = width_of(2 * (all + kRest + std::uint64_t{next_number_} * kTableRow));
    std::uint64_t at = header().size() + parameters().size() + first_table().size();
    for (Items* items : sections()) {
      if (items == &first_) hints_offset_ = at;
      for (Item& item : *items) {
        item.offset = at;
        at += item.encoded.size();
      }
      if (items == &first_) first_end_ = at;
    }
    end_ = at;
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
      for (const Item& item : items) {
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

  std::optional<Item> place_of_info() const {
    const auto place = reachable_.place_of(document_.info.as_reference());
    if (!document_.info.is_reference() || !place) return std::nullopt;
    for (const Item& item : others_)
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
    LUMVET_TRY(hints_, encoder_.encode_stream({hints_number_, 0}, std::move(dict),
                                              ByteSlice(filters::deflate(hints.bytes))));
    for (Items* items : sections())
      if (items != &part4_)
        for (Item& item : *items) item.offset += hints_.size();
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
    return trailer_of(document_, lock_, next_number_, renumbered(document_.catalog.as_reference()),
                      renumbered(document_.info.as_reference()), id_);
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
    for (const Item& item : items) {
      set(item.number, {Place::Kind::in_file, item.offset, 0});
      for (std::size_t i = 0; item.is_packed && i < item.objects.size(); ++i)
        set(numbers_[item.objects[i]],
            {Place::Kind::in_stream, item.number, static_cast<std::uint32_t>(i)});
    }
  }

  // The cross references of parts 1 to 6. Always of the same length.
  std::string first_table() const {
    const std::vector<Place> places = first_places();
    std::string text;
    Dict dict = first_trailer();
    if (!compact()) {
      text = "xref\n" + std::to_string(first_number_) + " " + std::to_string(places.size()) + "\n";
      for (const Place& place : places) text += table_row(place.where);
      return text + "trailer\n" + with_prev(dict) + "\nstartxref\n0\n%%EOF\n";
    }
    const Bytes rows = plain_rows(places, width_);
    set_stream_entries(dict, first_number_, places.size(), rows.size());
    text = std::to_string(first_table_number_) + " 0 obj\n" + with_prev(dict) + "\nstream\n";
    text += as_text(rows);
    return text + "\nendstream\nendobj\nstartxref\n0\n%%EOF\n";
  }

  std::string with_prev(const Dict& dict) const {
    std::string text;
    objects::serialize(dict, text);
    text.resize(text.size() - 2);  // without its end
    return text + "/Prev " + padded(end_) + ">>";
  }

  void set_stream_entries(Dict& dict, std::uint32_t first, std::size_t count,
                          std::size_t length) const {
    dict.set("Type", Object::name("XRef"));
    dict.set("Index", Array{Object(static_cast<std::int64_t>(first)),
                            Object(static_cast<std::int64_t>(count))});
    dict.set("W", Array{Object(1), Object(static_cast<std::int64_t>(width_)), Object(1)});
    dict.set("Length", static_cast<std::int64_t>(length));
  }

  std::string main_table() {
    const std::vector<Place> places = main_places();
    const std::string end =
        "startxref\n" + std::to_string(header().size() + parameters().size()) + "\n%%EOF\n";
    Dict dict{{"Size", static_cast<std::int64_t>(first_number_)}};
    std::string text;
    if (!compact()) {
      text = "xref\n0 " + std::to_string(places.size()) + "\n0000000000 65535 f \n";
      for (std::size_t i = 1; i < places.size(); ++i) text += table_row(places[i].where);
      text += "trailer\n";
      objects::serialize(dict, text);
      return text + "\n" + end;
    }
    const Bytes rows = filters::deflate(predicted_rows(places, width_));
    set_stream_entries(dict, 0, places.size(), rows.size());
    dict.set("Filter", Object::name("FlateDecode"));
    dict.set("DecodeParms",
             Dict{{"Predictor", 12}, {"Columns", static_cast<std::int64_t>(width_ + 2)}});
    text = std::to_string(main_table_number_) + " 0 obj\n";
    objects::serialize(dict, text);
    text += "\nstream\n";
    text += as_text(rows);
    return text + "\nendstream\nendobj\n" + end;
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
    constexpr std::uint64_t kMostOffset = 9'999'999'999;
    if (end_ > kMostOffset)
      return Error(ErrorCode::limit, "the document is too large to be linearized");
    const std::string main = main_table();
    length_ = end_ + main.size();
    main_place_ = end_ + (compact() ? 0 : main.find('\n', main.find('\n') + 1));
    LUMVET_RETURN_IF_ERROR(put(header()));
    LUMVET_RETURN_IF_ERROR(put(parameters()));
    LUMVET_RETURN_IF_ERROR(put(first_table()));
    for (const Items* items : sections()) {
      if (items == &first_) LUMVET_RETURN_IF_ERROR(put(hints_));
      for (const Item& item : *items) LUMVET_RETURN_IF_ERROR(put(item.encoded));
    }
    if (options_.progress) options_.progress(reachable_.order().size(), reachable_.order().size());
    return put(main);
  }

  static constexpr std::uint64_t kTableRow = 20;  // bytes

  const FullDocument& document_;
  const SaveOptions& options_;
  const Lock& lock_;
  const FlattenedPages& pages_;
  ByteSink& sink_;
  Reachable reachable_;
  ObjectEncoder encoder_;
  LinearPlan plan_;
  std::vector<std::uint32_t> numbers_;  // new ones, by places among the reachable
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
