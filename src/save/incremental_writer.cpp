// SPDX-License-Identifier: Apache-2.0
#include "save/incremental_writer.h"

#include <algorithm>
#include <array>
#include <map>

#include "crypto/digest.h"
#include "document/inside.h"
#include "file/landmarks.h"
#include "save/cross_reference_rows.h"
#include "save/object_encoder.h"

namespace lumvet::saving {
namespace {

constexpr std::uint64_t kMostTableOffset = 9'999'999'999;

class UpdateWriter {
 public:
  UpdateWriter(const Document& document, const file::Ledger& ledger, Object info)
      : document_(document),
        store_(store_of(document)),
        ledger_(ledger),
        info_(std::move(info)),
        encoder_([this](ObjectId id) { return renumbered(id); }, store_.security().get()),
        next_number_(static_cast<std::uint32_t>(
            std::max<std::uint64_t>(store_.size(), store_.cross_references().size()))) {}

  Result<Bytes> write() {
    LUMVET_RETURN_IF_ERROR(check());
    LUMVET_TRY(previous_, file::find_last_section(*store_.source()));
    const std::uint64_t size = store_.source()->size();
    LUMVET_TRY(const ByteSlice last, store_.source()->slice(size - 1, 1));
    if (last.view()[0] != '\n') text_ = "\n";
    collect();
    for (const auto& [old, id] : numbers_) {
      places_[id.number] = {end(), id.generation};
      const Object object = ledger_.resolve(Object(old));
      LUMVET_TRY(const EncodedObject encoded, encoder_.encode(id, object));
      text_ += encoded.head;
      text_ += as_text(encoded.body.view());
      text_ += encoded.tail;
    }
    LUMVET_TRY(const bool has_tables, ends_with_table());
    LUMVET_RETURN_IF_ERROR(has_tables ? put_table() : put_stream());
    return Bytes(text_.begin(), text_.end());
  }

 private:
  // Files whose cross references are not those that are in them.
  Status check() const {
    const auto whole = [](const char* why) {
      return Error(ErrorCode::unsupported,
                   std::string("changes cannot be appended to this file, since ") + why +
                       "; save it whole instead");
    };
    if (document_.was_repaired() || store_.cross_references().is_rebuilt())
      return whole("its cross references are damaged and were put together from its objects");
    if (store_.cross_references().has_gaps())
      return whole("a part of its cross references is missing");
    return Done{};
  }

  // As other numbers in the file count, from its header.
  std::uint64_t end() const {
    return store_.source()->size() - store_.header().offset + text_.size();
  }

  Object renumbered(ObjectId id) const {
    const auto found = numbers_.find(id);
    if (found != numbers_.end()) return found->second;
    const bool is_new = ledger_.has_changed(id) || id.number >= next_number_;
    return is_new ? Object() : Object(id);
  }

  bool is_of_file(ObjectId id) const { return id.number < store_.size(); }

  // The objects of the file that were changed, and new ones that they lead to.
  void collect() {
    std::vector<Object> open;
    const auto take = [&](ObjectId id) {
      if (!ledger_.has_changed(id) || numbers_.contains(id)) return;
      numbers_[id] = is_of_file(id) ? id : ObjectId{next_number_++, 0};
      open.push_back(ledger_.resolve(Object(id)));
    };
    for (const ObjectId id : ledger_.changed_ids())
      if (is_of_file(id)) take(id);
    if (info_.is_reference()) take(info_.as_reference());
    while (!open.empty()) {
      const Object at = open.back();
      open.pop_back();
      if (at.is_reference()) take(at.as_reference());
      for (const Object& item : at.as_array()) open.push_back(item);
      for (const auto& [key, value] : at.as_dict()) open.push_back(value);
    }
  }

  Result<bool> ends_with_table() const {
    LUMVET_TRY(const ByteSlice begin,
               store_.source()->slice(previous_ + store_.header().offset, 4));
    return as_text(begin.view()) == "xref";
  }

  Dict trailer(std::uint64_t size) const {
    static constexpr std::array<std::string_view, 9> kOfSection = {
        "Type", "W", "Index", "Filter", "DecodeParms", "Length", "XRefStm", "Prev", "Size"};
    Dict dict;
    for (const auto& [key, value] : document_.trailer())
      if (std::find(kOfSection.begin(), kOfSection.end(), key) == kOfSection.end())
        dict.set(key, value);
    dict.set("Size", static_cast<std::int64_t>(size));
    dict.set("Prev", static_cast<std::int64_t>(previous_));
    dict.set("Info", info_.is_reference() ? renumbered(info_.as_reference()) : Object());
    constexpr std::size_t kIdBytes = 16;
    const Bytes digest = crypto::digest(crypto::DigestKind::sha256, {as_bytes(text_)});
    const Object fresh = Object::string(as_text(ByteView(digest).first(kIdBytes)));
    const Object ids = store_of(document_).resolve(document_.trailer()["ID"]);
    dict.set("ID", Array{ids.as_array().empty() ? fresh : ids.as_array()[0], fresh});
    return dict;
  }

  // Numbers that follow each other, first and count.
  std::vector<std::pair<std::uint32_t, std::uint32_t>> runs() const {
    std::vector<std::pair<std::uint32_t, std::uint32_t>> runs;
    for (const auto& [number, place] : places_) {
      if (!runs.empty() && runs.back().first + runs.back().second == number)
        ++runs.back().second;
      else
        runs.emplace_back(number, 1);
    }
    return runs;
  }

  Status put_table() {
    const std::uint64_t start = end();
    if (start > kMostTableOffset)
      return Error(ErrorCode::limit, "the file is too large for one more cross-reference table");
    std::string table = "xref\n";
    for (const auto& [first, count] : runs()) {
      table += std::to_string(first) + " " + std::to_string(count) + "\n";
      for (std::uint32_t number = first; number < first + count; ++number) {
        const Written& place = places_.at(number);
        const std::string digits = std::to_string(place.offset);
        const std::string generation = std::to_string(place.generation);
        table += std::string(10 - digits.size(), '0') + digits + " " +
                 std::string(5 - generation.size(), '0') + generation + " n \n";
      }
    }
    table += "trailer\n";
    objects::serialise(trailer(next_number_), table);
    text_ += table + "\nstartxref\n" + std::to_string(start) + "\n%%EOF\n";
    return Done{};
  }

  Status put_stream() {
    const std::uint64_t start = end();
    const std::uint32_t number = next_number_++;
    places_[number] = {start, 0};
    const std::size_t width = width_of(start);
    constexpr std::size_t kGenerationBytes = 2;
    Bytes rows;
    Array index;
    for (const auto& [first, count] : runs()) {
      index.push_back(static_cast<std::int64_t>(first));
      index.push_back(static_cast<std::int64_t>(count));
      for (std::uint32_t i = first; i < first + count; ++i) {
        const Written& place = places_.at(i);
        rows.push_back(1);
        for (std::size_t byte = width; byte-- > 0;)
          rows.push_back(static_cast<std::uint8_t>(place.offset >> (8 * byte)));
        rows.push_back(static_cast<std::uint8_t>(place.generation >> 8));
        rows.push_back(static_cast<std::uint8_t>(place.generation));
      }
    }
    Dict dict = trailer(next_number_);
    dict.set("Type", Object::name("XRef"));
    dict.set("Index", std::move(index));
    dict.set("W", Array{Object(1), Object(static_cast<std::int64_t>(width)),
                        Object(static_cast<std::int64_t>(kGenerationBytes))});
    dict.set("Length", static_cast<std::int64_t>(rows.size()));
    text_ += std::to_string(number) + " 0 obj\n";
    objects::serialise(dict, text_);
    text_ += "\nstream\n";
    text_ += as_text(rows);
    text_ += "\nendstream\nendobj\nstartxref\n" + std::to_string(start) + "\n%%EOF\n";
    return Done{};
  }

  struct Written {
    std::uint64_t offset = 0;
    std::uint16_t generation = 0;
  };

  const Document& document_;
  const file::ObjectStore& store_;
  const file::Ledger& ledger_;
  Object info_;
  ObjectEncoder encoder_;
  std::uint32_t next_number_;
  std::uint64_t previous_ = 0;
  std::map<ObjectId, ObjectId> numbers_;  // in the file, by those of the ledger
  std::map<std::uint32_t, Written> places_;
  std::string text_;
};

}  // namespace

Result<Bytes> update_for(const Document& document, const file::Ledger& ledger, const Object& info) {
  return UpdateWriter(document, ledger, info).write();
}

}  // namespace lumvet::saving
