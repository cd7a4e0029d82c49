// SPDX-License-Identifier: Apache-2.0
#include "save/full_writer.h"

#include <algorithm>
#include <array>
#include <unordered_map>

#include "crypto/digest.h"
#include "filters/deflate.h"
#include "objects/serialiser.h"

namespace lumvet::saving {
namespace {

constexpr std::size_t kObjectsPerStream = 150;
constexpr std::size_t kObjectsInFirst = 24;   // what every reader needs: catalog, top of the tree
constexpr std::size_t kWorthDeflating = 64;   // bytes
constexpr std::size_t kWorthComparing = 256;  // bytes

// The objects to write, in the order in which they are met from the catalog on.
class Reachable {
 public:
  explicit Reachable(const objects::Resolver& objects) : objects_(objects) {}

  void collect(const Object& root) {
    std::vector<Object> open = {root};
    while (!open.empty()) {
      const Object at = std::move(open.back());
      open.pop_back();
      if (at.is_reference()) {
        if (Object object = note(at.as_reference()); !object.is_null()) open.push_back(object);
        continue;
      }
      const std::size_t first_new = open.size();
      for (const Object& item : at.as_array()) push(item, open);
      for (const auto& [key, value] : at.as_dict())
        if (!at.is_stream() || key != "Length") push(value, open);  // lengths are written anew
      std::reverse(open.begin() + static_cast<std::ptrdiff_t>(first_new), open.end());
    }
  }

  // Numbers the catalog and the inner nodes of the page tree before everything else, so that they
  // lie together and a reader finds any page of many without unpacking much; then the rest.
  void collect_document(const Object& catalog) {
    std::vector<Object> tree = {catalog};
    for (std::size_t i = 0; i < tree.size(); ++i) {
      const Object node = objects_.resolve(tree[i]);
      const Object& pages = node.as_dict()["Pages"];
      const Object kids = i == 0 ? Object(Array{pages}) : objects_.get(node.as_dict(), "Kids");
      if (note(tree[i].as_reference()).is_null()) continue;  // met before: the tree is a circle
      for (const Object& kid : kids.as_array())
        if (kid.is_reference() && objects_.resolve(kid).as_dict().contains("Kids"))
          tree.push_back(kid);
    }
    for (const Object& node : tree) collect(objects_.resolve(node));
  }

  // Numbers streams behind everything else, which is how they are written: cross references in
  // the order of the file pack best. With `packs` the first numbers are left to object streams, so
  // that a reader finds them at the front of the cross references, beside what it needs first.
  void settle(bool packs) {
    const auto is_stream = [this](ObjectId id) { return objects_.resolve(Object(id)).is_stream(); };
    std::vector<std::uint32_t> by_old(order_.size() + 1);
    std::vector<ObjectId> sorted;
    sorted.reserve(order_.size());
    for (const bool streams : {false, true}) {
      if (streams) first_stream_ = sorted.size();
      for (std::size_t i = 0; i < order_.size(); ++i) {
        if (is_stream(order_[i]) != streams) continue;
        sorted.push_back(order_[i]);
        by_old[i + 1] = static_cast<std::uint32_t>(sorted.size());
      }
    }
    order_ = std::move(sorted);
    if (packs && first_stream_ > kObjectsInFirst)
      pack_count_ =
          1 + (first_stream_ - kObjectsInFirst + kObjectsPerStream - 1) / kObjectsPerStream;
    else if (packs)
      pack_count_ = first_stream_ > 0 ? 1 : 0;
    for (auto& [id, number] : numbers_)
      if (number != 0) number = by_old[number] + static_cast<std::uint32_t>(pack_count_);
  }

  // The new reference; null for objects that are missing.
  Object renumbered(ObjectId old) const {
    const auto found = numbers_.find(key(old));
    return found == numbers_.end() || found->second == 0 ? Object()
                                                         : Object(ObjectId{found->second, 0});
  }

  const std::vector<ObjectId>& order() const { return order_; }
  // The new number of the object order()[i].
  std::uint32_t number_of(std::size_t i) const {
    return static_cast<std::uint32_t>(pack_count_ + i + 1);
  }
  // Where the streams begin in it.
  std::size_t first_stream() const { return first_stream_; }

 private:
  static std::uint64_t key(ObjectId id) { return std::uint64_t{id.number} << 16 | id.generation; }

  static void push(const Object& item, std::vector<Object>& open) {
    if (item.is_reference() || item.is_array() || item.is_dict()) open.push_back(item);
  }

  // Numbers an object met for the first time and gives it; null when it was met before, or when it
  // is a stream like one that was.
  Object note(ObjectId id) {
    const auto [place, fresh] = numbers_.emplace(key(id), 0);
    if (!fresh) return Object();
    Object object = objects_.resolve(Object(id));
    if (object.is_null()) return object;
    const auto number = static_cast<std::uint32_t>(order_.size() + 1);
    place->second = object.is_stream() ? same_stream(object, number) : number;
    if (place->second != number) return Object();
    order_.push_back(id);
    return object;
  }

  // The number of a stream met before with the same dictionary and bytes, above all a font that
  // several documents embed; `number` if there is none.
  std::uint32_t same_stream(const Object& object, std::uint32_t number) {
    const Stream& stream = *object.as_stream();
    const Result<ByteSlice> bytes = stream.encoded();
    if (!bytes.ok() || bytes->size() < kWorthComparing) return number;
    Dict dict = stream.dict;
    dict.remove("Length");
    for (const auto& [key, value] : dict)
      if (value.is_reference() || value.is_array() || value.is_dict()) return number;
    const std::string_view text = as_text(bytes->view());
    auto& alike = streams_[std::hash<std::string_view>()(text)];
    for (const auto& [other, its_dict, its_bytes] : alike)
      if (its_dict == dict && as_text(its_bytes.view()) == text) return other;
    alike.push_back({number, std::move(dict), *bytes});
    return number;
  }

  struct Known {
    std::uint32_t number;
    Dict dict;
    ByteSlice bytes;
  };

  const objects::Resolver& objects_;
  std::unordered_map<std::size_t, std::vector<Known>> streams_;  // by the hash of their bytes
  std::unordered_map<std::uint64_t, std::uint32_t> numbers_;
  std::vector<ObjectId> order_;
  std::size_t first_stream_ = 0;
  std::size_t pack_count_ = 0;  // object streams to come
};

struct Place {
  enum class Kind : std::uint8_t { free, in_file, in_stream } kind = Kind::free;
  std::uint64_t where = 0;
  std::uint32_t index = 0;
};

class FullWriter {
 public:
  FullWriter(const FullDocument& document, const SaveOptions& options, ByteSink& sink)
      : document_(document), options_(options), sink_(sink), reachable_(document.objects) {}

  Result<std::uint64_t> write() {
    reachable_.collect_document(document_.catalog);
    reachable_.collect(document_.info);
    reachable_.settle(compact());
    places_.resize(reachable_.number_of(reachable_.order().size()));
    if (reachable_.renumbered(document_.catalog.as_reference()).is_null())
      return Error(ErrorCode::malformed, "the document has no catalog to save");
    LUMVET_CHECK(put("%PDF-" + version() + "\n%\xE2\xE3\xCF\xD3\n"));
    LUMVET_CHECK(write_objects());
    LUMVET_CHECK(options_.layout == FileLayout::compact ? write_cross_reference_stream()
                                                        : write_cross_reference_table());
    return position_;
  }

 private:
  bool compact() const { return options_.layout == FileLayout::compact; }

  std::string version() const {
    const std::string least = compact() ? "1.5" : "1.4";
    return std::max(document_.version, least);
  }

  Status put(ByteView bytes) {
    position_ += bytes.size();
    digest_.update(bytes);
    return sink_.write(bytes);
  }
  Status put(std::string_view text) { return put(as_bytes(text)); }

  std::string text_of(const Object& object) const {
    std::string text;
    objects::serialise(object, text, [this](ObjectId id) { return reachable_.renumbered(id); });
    return text;
  }

  // Small objects first and streams behind them, so that a file cut off on its way has lost
  // pictures and text but still knows its pages.
  Status write_objects() {
    const std::size_t count = reachable_.order().size();
    for (std::size_t i = 0; i < count; ++i) {
      LUMVET_CHECK(step(i));
      if (i == reachable_.first_stream() && !packed_.empty()) LUMVET_CHECK(write_packed());
      const std::uint32_t number = reachable_.number_of(i);
      const Object object = document_.objects.resolve(Object(reachable_.order()[i]));
      if (const Stream* stream = object.as_stream()) {
        LUMVET_CHECK(write_stream(number, *stream));
      } else if (compact()) {
        packed_.push_back(number);
        packed_texts_.push_back(text_of(object));
        if (packed_.size() == kObjectsPerStream || i + 1 == kObjectsInFirst)
          LUMVET_CHECK(write_packed());
      } else {
        LUMVET_CHECK(begin(number));
        LUMVET_CHECK(put(text_of(object) + "\nendobj\n"));
      }
    }
    if (options_.progress) options_.progress(count, count);
    return packed_.empty() ? Status(Done{}) : write_packed();
  }

  Status step(std::size_t done) {
    if (options_.cancel.is_cancelled())
      return Error(ErrorCode::cancelled, "saving was cancelled; nothing was written");
    if (options_.progress && done % 256 == 0) options_.progress(done, reachable_.order().size());
    return Done{};
  }

  Status begin(std::uint32_t number) {
    places_[number] = {Place::Kind::in_file, position_, 0};
    return put(std::to_string(number) + " 0 obj\n");
  }

  Status write_stream(std::uint32_t number, const Stream& stream) {
    LUMVET_TRY(const ByteSlice encoded, stream.encoded());
    // What has no filter yet gets one, unless its bytes are in another file (/F).
    const bool plain = !stream.dict.contains("Filter") && !stream.dict.contains("F");
    if (plain && encoded.size() >= kWorthDeflating) {
      const Bytes deflated = filters::deflate(encoded.view());
      if (deflated.size() < encoded.size()) {
        Dict dict = stream.dict;
        dict.set("Filter", Object::name("FlateDecode"));
        dict.remove("DecodeParms");
        return write_stream(number, dict, deflated);
      }
    }
    return write_stream(number, stream.dict, encoded.view());
  }

  Status write_stream(std::uint32_t number, Dict dict, ByteView bytes) {
    dict.set("Length", static_cast<std::int64_t>(bytes.size()));
    LUMVET_CHECK(begin(number));
    LUMVET_CHECK(put(text_of(Object(std::move(dict))) + "\nstream\n"));
    LUMVET_CHECK(put(bytes));
    return put(std::string_view("\nendstream\nendobj\n"));
  }

  Status write_packed() {
    const std::uint32_t number = next_pack_++;
    std::string head;
    std::string body;
    for (std::size_t i = 0; i < packed_.size(); ++i) {
      places_[packed_[i]] = {Place::Kind::in_stream, number, static_cast<std::uint32_t>(i)};
      head += std::to_string(packed_[i]) + " " + std::to_string(body.size()) + " ";
      body += packed_texts_[i] + "\n";
    }
    Dict dict{{"Type", Object::name("ObjStm")},
              {"N", static_cast<std::int64_t>(packed_.size())},
              {"First", static_cast<std::int64_t>(head.size())},
              {"Filter", Object::name("FlateDecode")}};
    packed_.clear();
    packed_texts_.clear();
    return write_stream(number, std::move(dict), filters::deflate(as_bytes(head + body)));
  }

  Dict trailer(std::size_t size) {
    const Bytes digest = digest_.finish();
    constexpr std::size_t kIdBytes = 16;
    const std::string id(as_text(ByteView(digest).first(kIdBytes)));
    Dict dict{{"Size", static_cast<std::int64_t>(size)},
              {"Root", reachable_.renumbered(document_.catalog.as_reference())},
              {"ID", Array{Object::string(document_.first_id.empty() ? id : document_.first_id),
                           Object::string(id)}}};
    if (document_.info.is_reference())
      dict.set("Info", reachable_.renumbered(document_.info.as_reference()));
    return dict;
  }

  Status write_cross_reference_table() {
    const std::uint64_t start = position_;
    std::string text = "xref\n0 " + std::to_string(places_.size()) + "\n0000000000 65535 f \n";
    for (std::size_t i = 1; i < places_.size(); ++i) {
      constexpr std::uint64_t kMostOffset = 9'999'999'999;
      if (places_[i].where > kMostOffset)
        return Error(
            ErrorCode::limit,
            "the file grows too large for a cross-reference table; use the compact layout");
      const std::string digits = std::to_string(places_[i].where);
      text += std::string(10 - digits.size(), '0') + digits + " 00000 n \n";
    }
    LUMVET_CHECK(put(text));
    std::string end = "trailer\n";
    objects::serialise(trailer(places_.size()), end);
    return finish(end + "\n", start);
  }

  Status write_cross_reference_stream() {
    const auto number = static_cast<std::uint32_t>(places_.size());
    const std::uint64_t start = position_;
    places_.emplace_back();
    places_[number] = {Place::Kind::in_file, start, 0};
    std::size_t width = 1;
    while (start >> (8 * width) != 0) ++width;
    Dict dict = trailer(places_.size());
    const Bytes rows = filters::deflate(cross_reference_rows(width));
    dict.set("Type", Object::name("XRef"));
    dict.set("W", Array{Object(1), Object(static_cast<std::int64_t>(width)), Object(1)});
    dict.set("Filter", Object::name("FlateDecode"));
    dict.set("DecodeParms",
             Dict{{"Predictor", 12}, {"Columns", static_cast<std::int64_t>(width + 2)}});
    dict.set("Length", static_cast<std::int64_t>(rows.size()));
    std::string text = std::to_string(number) + " 0 obj\n";
    objects::serialise(dict, text);
    LUMVET_CHECK(put(text + "\nstream\n"));
    LUMVET_CHECK(put(rows));
    return finish("\nendstream\nendobj\n", start);
  }

  // Rows of type, place and index, each as the difference to the row above (PNG's "up").
  Bytes cross_reference_rows(std::size_t width) const {
    Bytes rows;
    Bytes above(width + 2);
    for (std::size_t i = 0; i < places_.size(); ++i) {
      const Place& place = places_[i];
      Bytes row = {static_cast<std::uint8_t>(place.kind)};
      for (std::size_t byte = width; byte-- > 0;)
        row.push_back(static_cast<std::uint8_t>(place.where >> (8 * byte)));
      const std::uint32_t last = i == 0 ? 0xFF : place.index;  // number 0 is never used again
      row.push_back(static_cast<std::uint8_t>(last));
      constexpr std::uint8_t kUp = 2;
      rows.push_back(kUp);
      for (std::size_t k = 0; k < row.size(); ++k)
        rows.push_back(static_cast<std::uint8_t>(row[k] - above[k]));
      above = std::move(row);
    }
    return rows;
  }

  Status finish(const std::string& before, std::uint64_t start) {
    const std::string end = before + "startxref\n" + std::to_string(start) + "\n%%EOF\n";
    position_ += end.size();
    return sink_.write(as_bytes(end));
  }

  const FullDocument& document_;
  const SaveOptions& options_;
  ByteSink& sink_;
  Reachable reachable_;
  crypto::Digest digest_{crypto::DigestKind::sha256};
  std::uint64_t position_ = 0;
  std::uint32_t next_pack_ = 1;
  std::vector<Place> places_;  // by new number
  std::vector<std::uint32_t> packed_;
  std::vector<std::string> packed_texts_;
};

}  // namespace

Result<std::uint64_t> write_full(const FullDocument& document, const SaveOptions& options,
                                 ByteSink& sink) {
  return FullWriter(document, options, sink).write();
}

std::string first_id(const Document& document) {
  const Object ids = document.resolve(document.trailer()["ID"]);
  if (ids.as_array().empty()) return {};
  return std::string(document.resolve(ids.as_array()[0]).as_string());
}

Result<SaveReport> save_to_file(const std::filesystem::path& path, const SaveOptions& options,
                                const std::function<Result<SaveReport>(ByteSink&)>& write) {
  const auto save = [&]() -> Result<SaveReport> {
    LUMVET_TRY(AtomicFile file,
               AtomicFile::create(path, options.replace ? IfExists::replace : IfExists::refuse));
    LUMVET_TRY(SaveReport report, write(file));
    LUMVET_CHECK(file.commit());
    report.path = path;
    return report;
  };
  Result<SaveReport> saved = save();
  if (!saved.ok()) return std::move(saved).error().during("saving " + path.string());
  return saved;
}

}  // namespace lumvet::saving
