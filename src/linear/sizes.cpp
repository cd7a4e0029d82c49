// SPDX-License-Identifier: Apache-2.0
#include "lumvet/linear/sizes.h"

#include <algorithm>
#include <initializer_list>
#include <map>
#include <set>
#include <string_view>

#include "base/attempt.h"
#include "document/inside.h"

namespace lumvet {
namespace {

using Part = std::uint64_t Sizes::*;

bool is_one_of(std::string_view word, std::initializer_list<std::string_view> words) {
  return std::find(words.begin(), words.end(), word) != words.end();
}

// What an object is for, by what it says of itself; nothing when it says nothing.
Part by_type(const Object& object) {
  const Dict& dict = object.as_dict();
  const std::string_view type = dict["Type"].as_name();
  const std::string_view subtype = dict["Subtype"].as_name();
  if (is_one_of(type, {"Font", "FontDescriptor", "CMap"})) return &Sizes::fonts;
  if (type == "EmbeddedFile" || (dict.contains("EF") && dict.contains("F")))
    return &Sizes::attachments;
  if (is_one_of(type, {"Catalog", "Pages", "Page", "Outlines", "StructTreeRoot", "StructElem"}))
    return &Sizes::bookkeeping;
  if (is_one_of(type, {"Annot", "Metadata", "Sig"})) return &Sizes::other;
  if (object.is_stream() && subtype == "Image") return &Sizes::images;
  if (object.is_stream() && subtype == "Form") return &Sizes::content;
  return nullptr;
}

// What an object is for by the key under which another, that is for `holder`, names it.
Part by_key(std::string_view key, Part holder) {
  if (is_one_of(key, {"Metadata", "AcroForm", "Annots", "Info", "PieceInfo"})) return &Sizes::other;
  if (holder != &Sizes::bookkeeping) return holder;
  if (is_one_of(key, {"Contents", "Resources", "Thumb"})) return &Sizes::content;
  if (is_one_of(key, {"OCProperties", "OutputIntents", "OpenAction", "AA", "JavaScript"}))
    return &Sizes::other;
  return holder;
}

class SizeCount {
 public:
  explicit SizeCount(const Document& document) : document_(document), store_(store_of(document)) {}

  Sizes count() {
    for (const char* root : {"Root", "Info", "Encrypt"}) {
      walk(document_.trailer()[root],
           std::string_view(root) == "Info" ? &Sizes::other : &Sizes::bookkeeping);
    }
    lay_out();
    Sizes sizes;
    for (std::uint32_t number = 0; number < store_.size(); ++number)
      if (const auto extent = extents_.find(number); extent != extents_.end())
        share_out(number, extent->second, sizes);
    sizes.bookkeeping += frame_;
    const std::uint64_t told = sizes.all();
    sizes.unused += document_.file_size() - std::min(told, document_.file_size());
    return sizes;
  }

 private:
  struct Open {
    Object object;
    Part part;
  };

  void walk(const Object& root, Part part) {
    std::vector<Open> open = {{root, part}};
    while (!open.empty()) {
      Open at = std::move(open.back());
      open.pop_back();
      if (at.object.is_reference()) {
        const ObjectId id = at.object.as_reference();
        if (parts_.contains(id.number)) continue;
        at.object = store_.resolve(at.object);
        if (const Part own = by_type(at.object)) at.part = own;
        parts_[id.number] = at.part;
        if (store_.entry_of(id.number).kind == file::XrefEntry::Kind::in_stream)
          packed_[id.number] = to_text(at.object).size();
      } else if (const Part own = by_type(at.object)) {
        at.part = own;
      }
      for (const Object& item : at.object.as_array()) push(item, at.part, open);
      for (const auto& [key, value] : at.object.as_dict()) {
        const bool is_length = at.object.is_stream() && key == "Length";
        push(value, is_length ? at.part : by_key(key, at.part), open);
      }
    }
  }

  static void push(const Object& object, Part part, std::vector<Open>& open) {
    if (object.is_reference() || object.is_array() || object.is_dict())
      open.push_back({object, part});
  }

  // How many bytes each object takes that lies in the file by itself, and the frame around them.
  void lay_out() {
    std::map<std::uint64_t, std::uint32_t> by_place;
    for (std::uint32_t number = 0; number < store_.size(); ++number) {
      const file::XrefEntry entry = store_.entry_of(number);
      if (entry.kind == file::XrefEntry::Kind::in_file) by_place.emplace(entry.where, number);
    }
    std::set<std::uint64_t> edges;
    for (const auto& [place, number] : by_place) edges.insert(place);
    for (const std::uint64_t place : store_.cross_references().places()) edges.insert(place);
    const auto next_edge = [&](std::uint64_t place) {
      const auto next = edges.upper_bound(place);
      return next == edges.end() ? document_.file_size() : *next;
    };
    for (const auto& [place, number] : by_place) {
      const Object object = store_.resolve(Object(ObjectId{number, generation_of(number)}));
      const Stream* stream = object.as_stream();
      const std::uint64_t from = stream != nullptr ? stream->offset + stream->length : place;
      extents_[number] = behind("endobj", from, next_edge(place)) - place;
    }
    // A section that is a stream is an object, whose rest is the frame.
    for (const std::uint64_t place : store_.cross_references().places()) {
      const auto own = by_place.find(place);
      const std::uint64_t next = next_edge(place);
      const std::uint64_t from = own == by_place.end() ? place : place + extents_[own->second];
      frame_ += behind("%%EOF", std::min(from, next), next) - std::min(from, next);
    }
    if (!edges.empty()) frame_ += *edges.begin();  // the header
  }

  std::uint16_t generation_of(std::uint32_t number) const {
    return static_cast<std::uint16_t>(store_.entry_of(number).detail);
  }

  // The place behind a word and its line end; `end` when it is not there before.
  std::uint64_t behind(std::string_view word, std::uint64_t from, std::uint64_t end) const {
    if (from >= end) return end;
    const Result<ByteSlice> slice = store_.source()->slice(from, end - from);
    if (!slice.ok()) return end;
    const std::string_view text = as_text(slice->view());
    std::size_t at = text.find(word);
    if (at == std::string_view::npos) return end;
    at += word.size();
    while (at < text.size() && (text[at] == '\r' || text[at] == '\n' || text[at] == ' ')) ++at;
    return from + at;
  }

  void share_out(std::uint32_t number, std::uint64_t bytes, Sizes& sizes) {
    const Object object = store_.resolve(Object(ObjectId{number, generation_of(number)}));
    const Dict& dict = object.as_dict();
    const std::string_view type = dict["Type"].as_name();
    if (object.is_stream() && type == "ObjStm") return share_out_pack(number, bytes, sizes);
    const auto part = parts_.find(number);
    if (part != parts_.end())
      sizes.*part->second += bytes;
    else if (type == "XRef" || dict.contains("Linearized") || is_hint_stream(object))
      sizes.bookkeeping += bytes;
    else
      sizes.unused += bytes;
  }

  bool is_hint_stream(const Object& object) const {
    return object.is_stream() && document_.is_linearized() && object.as_dict()["S"].is_integer();
  }

  void share_out_pack(std::uint32_t pack, std::uint64_t bytes, Sizes& sizes) {
    if (packs_.empty())
      for (const auto& [number, weight] : packed_)
        packs_[static_cast<std::uint32_t>(store_.entry_of(number).where)].push_back(number);
    std::uint64_t all = 0;
    const std::vector<std::uint32_t>& inside = packs_[pack];
    for (const std::uint32_t number : inside) all += packed_.at(number);
    std::uint64_t shared = 0;
    for (const std::uint32_t number : inside) {
      const std::uint64_t part = all == 0 ? 0 : bytes * packed_.at(number) / all;
      sizes.*parts_.at(number) += part;
      shared += part;
    }
    (inside.empty() ? sizes.unused : sizes.bookkeeping) += bytes - shared;
  }

  const Document& document_;
  const file::ObjectStore& store_;
  std::map<std::uint32_t, Part> parts_;            // of all that something leads to
  std::map<std::uint32_t, std::uint64_t> packed_;  // bytes of text of those in packs
  std::map<std::uint32_t, std::vector<std::uint32_t>> packs_;
  std::map<std::uint32_t, std::uint64_t> extents_;  // bytes, of those in the file by themselves
  std::uint64_t frame_ = 0;                         // header, tables, last lines
};

}  // namespace

Result<Sizes> sizes_of(const Document& document) {
  return attempted([&] { return SizeCount(document).count(); });
}

}  // namespace lumvet
