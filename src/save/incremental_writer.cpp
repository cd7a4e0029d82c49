// SPDX-License-Identifier: Apache-2.0
#include "save/incremental_writer.h"

#include <algorithm>
#include <array>
#include <map>
#include <set>

#include "crypto/digest.h"
#include "file/header.h"
#include "save/cross_references.h"
#include "save/object_encoder.h"

namespace lumvet::saving {
namespace {

class AppendedWriter {
 public:
  AppendedWriter(const file::ObjectStore& file, const file::Ledger& ledger, AppendedState& state)
      : store_(file),
        ledger_(ledger),
        state_(state),
        info_(ledger.changes().info.value_or(file.trailer()["Info"])),
        encoder_([this](ObjectId id) { return renumbered(id); }, store_.security().get()),
        file_end_(state.size != 0 ? state.size : store_.source()->size()),
        next_number_(state.size != 0 ? state.next_number
                                     : static_cast<std::uint32_t>(std::max<std::uint64_t>(
                                           store_.size(), store_.cross_references().size()))),
        numbers_(state.numbers) {}

  Result<Bytes> write() {
    LUMVET_RETURN_IF_ERROR(check());
    collect();
    const bool has_other_info = ledger_.changes().info && !is_same_info();
    if (written_.empty() && !has_other_info) return Bytes();
    LUMVET_RETURN_IF_ERROR(begin());
    for (const ObjectId old : written_) {
      const ObjectId id = number_of(old);
      const Object object = ledger_.resolve(Object(old));
      if (object.is_null()) {
        places_[id.number] = {};
        continue;
      }
      places_[id.number] = {Place::Kind::in_file, end(), id.generation};
      LUMVET_TRY(const EncodedObject encoded, encoder_.encode(id, object));
      text_ += encoded.head;
      text_ += as_text(encoded.body.view());
      text_ += encoded.tail;
    }
    const std::uint64_t section = end();
    LUMVET_TRY(const bool has_tables, ends_with_table());
    LUMVET_RETURN_IF_ERROR(has_tables ? put_table() : put_stream());
    state_ = {std::make_shared<const file::ObjectChanges>(ledger_.changes()), numbers_,
              file_end_ + text_.size(), section, next_number_};
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
    if (store_.cross_references().is_rebuilt())
      return whole("its cross references are damaged and were put together from its objects");
    if (store_.cross_references().has_gaps())
      return whole("a part of its cross references is missing");
    return Done{};
  }

  Status begin() {
    previous_ = state_.section;
    if (state_.size != 0) return Done{};  // which ends with a line
    LUMVET_TRY(previous_, file::find_last_section(*store_.source()));
    LUMVET_TRY(const ByteSlice last, store_.source()->slice(file_end_ - 1, 1));
    if (last.view()[0] != '\n') text_ = "\n";
    return Done{};
  }

  // As other numbers in the file count, from its header.
  std::uint64_t end() const { return file_end_ - store_.header().offset + text_.size(); }

  bool is_of_file(ObjectId id) const { return id.number < store_.size(); }
  ObjectId number_of(ObjectId id) const { return is_of_file(id) ? id : numbers_.at(id); }

  Object renumbered(ObjectId id) const {
    if (is_of_file(id)) return Object(id);
    const auto found = numbers_.find(id);
    if (found != numbers_.end()) return found->second;
    const bool is_new = ledger_.has_changed(id) || id.number >= next_number_;
    return is_new ? Object() : Object(id);
  }

  // Whether it stands in the file already as it is now.
  bool is_appended(ObjectId id) const {
    if (state_.changes == nullptr) return false;
    const auto before = state_.changes->objects.find(id);
    const auto now = ledger_.changes().objects.find(id);
    return before != state_.changes->objects.end() && now != ledger_.changes().objects.end() &&
           before->second.stamp == now->second.stamp && (is_of_file(id) || numbers_.contains(id));
  }

  bool is_same_info() const {
    return state_.changes != nullptr && state_.changes->info == ledger_.changes().info;
  }

  // The objects of the file that were changed, or are again as they were, and new ones that they
  // lead to.
  void collect() {
    std::vector<Object> open;
    std::set<ObjectId> met;
    const auto take = [&](ObjectId id) {
      if (!ledger_.has_changed(id) || !met.insert(id).second) return;
      if (!is_of_file(id) && !numbers_.contains(id)) numbers_[id] = ObjectId{next_number_++, 0};
      if (!is_appended(id)) written_.insert(id);
      open.push_back(ledger_.resolve(Object(id)));
    };
    for (const ObjectId id : ledger_.changed_ids())
      if (is_of_file(id)) take(id);
    if (state_.changes != nullptr)
      for (const auto& [id, change] : state_.changes->objects)
        if (is_of_file(id) && !ledger_.has_changed(id)) written_.insert(id);
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
    LUMVET_TRY(const std::uint64_t newest, file::find_last_section(*store_.source()));
    LUMVET_TRY(const ByteSlice begin, store_.source()->slice(newest + store_.header().offset, 4));
    return as_text(begin.view()) == "xref";
  }

  Dict trailer(std::uint64_t size) const {
    static constexpr std::array<std::string_view, 9> kOfSection = {
        "Type", "W", "Index", "Filter", "DecodeParms", "Length", "XRefStm", "Prev", "Size"};
    Dict dict;
    for (const auto& [key, value] : store_.trailer())
      if (std::find(kOfSection.begin(), kOfSection.end(), key) == kOfSection.end())
        dict.set(key, value);
    dict.set("Size", static_cast<std::int64_t>(size));
    dict.set("Prev", static_cast<std::int64_t>(previous_));
    dict.set("Info", info_.is_reference() ? renumbered(info_.as_reference()) : Object());
    constexpr std::size_t kIdBytes = 16;
    const Bytes digest = crypto::digest(crypto::DigestKind::sha256, {as_bytes(text_)});
    const Object fresh = Object::string(as_text(ByteView(digest).first(kIdBytes)));
    const Object ids = store_.resolve(store_.trailer()["ID"]);
    dict.set("ID", Array{ids.as_array().empty() ? fresh : ids.as_array()[0], fresh});
    return dict;
  }

  // `places` has those of all sections, one behind the other.
  std::vector<Section> sections(std::vector<Place>& places) const {
    places.clear();
    for (const auto& [number, place] : places_) places.push_back(place);
    std::vector<Section> sections;
    std::size_t at = 0;
    for (const auto& [number, place] : places_) {
      if (sections.empty() || sections.back().first + sections.back().places.size() != number)
        sections.push_back({number, std::span(places).subspan(at, 0)});
      Section& last = sections.back();
      last.places = std::span(last.places.data(), last.places.size() + 1);
      ++at;
    }
    return sections;
  }

  Status put_table() {
    const std::uint64_t start = end();
    std::vector<Place> places;
    LUMVET_TRY(std::string table, table_of(sections(places)));
    table += "trailer\n";
    objects::serialize(trailer(next_number_), table);
    text_ += table + "\n" + end_of_file(start);
    return Done{};
  }

  Status put_stream() {
    const std::uint64_t start = end();
    const std::uint32_t number = next_number_++;
    places_[number] = {Place::Kind::in_file, start, 0};
    constexpr std::size_t kGenerationBytes = 2;
    std::vector<Place> places;
    Dict dict = trailer(next_number_);
    const Bytes rows =
        stream_of(sections(places), {width_of(start), kGenerationBytes, false}, dict);
    std::string text;
    objects::serialize(dict, text);
    text_ += stream_object(number, text, rows) + end_of_file(start);
    return Done{};
  }

  const file::ObjectStore& store_;
  const file::Ledger& ledger_;
  AppendedState& state_;
  Object info_;
  ObjectEncoder encoder_;
  std::uint64_t file_end_;
  std::uint32_t next_number_;
  std::uint64_t previous_ = 0;
  std::map<ObjectId, ObjectId> numbers_;  // of new objects in the file, by those of the ledger
  std::set<ObjectId> written_;
  std::map<std::uint32_t, Place> places_;
  std::string text_;
};

}  // namespace

Result<Bytes> appended_bytes(const file::ObjectStore& file, const file::Ledger& ledger,
                             AppendedState& state) {
  return AppendedWriter(file, ledger, state).write();
}

}  // namespace lumvet::saving
