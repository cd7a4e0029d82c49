// SPDX-License-Identifier: Apache-2.0
#include "redact/said_elsewhere.h"

#include <algorithm>
#include <array>
#include <pugixml.hpp>
#include <set>
#include <sstream>

#include "base/attempt.h"
#include "filters/deflate.h"
#include "filters/stream_decoder.h"
#include "objects/text_string.h"

namespace lumvet::redacting {
namespace {

// Whose strings are no texts.
constexpr std::array<std::string_view, 12> kNoTexts = {
    "CIDSystemInfo", "DA",           "ID",      "CheckSum",  "M",    "CreationDate",
    "ModDate",       "LastModified", "Encrypt", "ByteRange", "Cert", "Encoding"};
// Whose streams are texts.
constexpr std::array<std::string_view, 5> kTextStreams = {"JS", "RC", "RV", "V", "DV"};

bool is_one_of(std::string_view key, const auto& keys) {
  return std::find(keys.begin(), keys.end(), key) != keys.end();
}

class TextChanger {
 public:
  TextChanger(file::Ledger& ledger, const Limits& limits, const ChangeText& change)
      : ledger_(ledger), limits_(limits), change_(change) {}

  Result<int> run(const Dict& trailer) {
    for (const char* key : {"Root", "Info"}) note(trailer[key], false);
    while (!open_.empty()) {
      if (Attempt::is_stopped()) break;
      const auto [id, is_text] = open_.back();
      open_.pop_back();
      const Object object = ledger_.resolve(Object(id));
      bool is_changed = false;
      LUMVET_TRY(Object changed, changed_object(object, is_changed, is_text));
      if (is_changed) ledger_.set(id, std::move(changed));
    }
    return count_;
  }

 private:
  void note(const Object& object, bool is_text) {
    if (object.is_reference() && seen_.insert(object.as_reference()).second)
      open_.push_back({object.as_reference(), is_text});
  }

  Result<Object> changed_object(const Object& object, bool& is_changed, bool is_text = false) {
    if (object.is_string()) {
      LUMVET_TRY(auto text, change_(objects::text_to_utf8(object.as_string())));
      if (!text) return object;
      ++count_;
      is_changed = true;
      return Object::string(objects::utf8_to_text(*text));
    }
    if (object.is_array()) {
      // Palettes and the like.
      const Array& items = object.as_array();
      if (!items.empty() && (items[0].is_name("Indexed") || items[0].is_name("I"))) {
        for (const Object& item : items) note(item, false);
        return object;
      }
      Array changed;
      bool is_here = false;
      changed.reserve(items.size());
      for (const Object& item : items) {
        note(item, is_text);
        LUMVET_TRY(Object one, changed_object(item, is_here));
        changed.push_back(std::move(one));
      }
      is_changed = is_changed || is_here;
      return is_here ? Object(std::move(changed)) : object;
    }
    if (object.is_dict()) {
      bool is_here = false;
      LUMVET_TRY(Dict changed, changed_dict(object.as_dict(), is_here));
      is_changed = is_changed || is_here;
      return is_here ? Object(std::move(changed)) : object;
    }
    if (const Stream* stream = object.as_stream())
      return changed_stream(*stream, object, is_changed, is_text);
    return object;
  }

  Result<Dict> changed_dict(const Dict& dict, bool& is_changed) {
    Dict changed = dict;
    const bool is_signature = dict.contains("ByteRange");
    for (const auto& [key, value] : dict) {
      if (is_one_of(key, kNoTexts) || (is_signature && key == "Contents")) continue;
      note(value, is_one_of(key, kTextStreams));
      bool is_here = false;
      LUMVET_TRY(Object one, changed_object(value, is_here));
      if (is_here) changed.set(key, std::move(one));
      is_changed = is_changed || is_here;
    }
    return changed;
  }

  Result<Object> changed_stream(const Stream& stream, const Object& as_it_is, bool& is_changed,
                                bool is_text) {
    bool is_here = false;
    LUMVET_TRY(Dict dict, changed_dict(stream.dict, is_here));
    const bool is_xml = ledger_.get(dict, "Subtype").is_name("XML");
    if (is_text || is_xml) {
      Budget budget(limits_);
      Findings unheard;
      auto bytes = filters::decode_whole(stream, ledger_, budget, unheard);
      if (bytes.ok()) {
        const std::string text(as_text(bytes->view()));
        LUMVET_TRY(auto changed, is_xml ? changed_xml(text) : changed_text(text));
        if (changed) {
          ++count_;
          is_changed = true;
          for (const char* key : {"DecodeParms", "Length"}) dict.remove(key);
          dict.set("Filter", Object::name("FlateDecode"));
          return Object(Stream::of(std::move(dict), filters::deflate(as_bytes(*changed))));
        }
      }
    }
    if (!is_here) return as_it_is;
    is_changed = true;
    Stream changed = stream;
    changed.dict = std::move(dict);
    return Object(std::move(changed));
  }

  Result<std::optional<std::string>> changed_text(const std::string& text) {
    LUMVET_TRY(auto changed, change_(objects::text_to_utf8(text)));
    if (changed) changed = objects::utf8_to_text(*changed);
    return changed;
  }

  // Texts and attributes, and no markup.
  Result<std::optional<std::string>> changed_xml(const std::string& text) {
    pugi::xml_document xml;
    std::optional<std::string> none;
    if (!xml.load_buffer(text.data(), text.size(), pugi::parse_full)) return none;
    bool is_changed = false;
    for (pugi::xml_node at = xml.first_child(); at;) {
      LUMVET_RETURN_IF_ERROR(change_node(at, is_changed));
      pugi::xml_node next = at.first_child();
      while (!next && at) {
        next = at.next_sibling();
        if (!next) at = at.parent();
      }
      at = next;
    }
    if (!is_changed) return none;
    std::ostringstream out;
    xml.save(out, "", pugi::format_raw | pugi::format_no_declaration);
    return std::optional(out.str());
  }

  Status change_node(pugi::xml_node node, bool& is_changed) {
    const bool is_text = node.type() == pugi::node_pcdata || node.type() == pugi::node_cdata ||
                         node.type() == pugi::node_comment;
    if (is_text) {
      LUMVET_TRY(const auto text, change_(node.value()));
      if (text) node.set_value(text->c_str());
      is_changed = is_changed || text;
    }
    for (pugi::xml_attribute attribute : node.attributes()) {
      if (std::string_view(attribute.name()).starts_with("xmlns")) continue;
      LUMVET_TRY(const auto text, change_(attribute.value()));
      if (text) attribute.set_value(text->c_str());
      is_changed = is_changed || text;
    }
    return Done{};
  }

  file::Ledger& ledger_;
  const Limits& limits_;
  const ChangeText& change_;
  std::vector<std::pair<ObjectId, bool>> open_;
  std::set<ObjectId> seen_;
  int count_ = 0;
};

}  // namespace

Status Needles::add_words(const std::string& words) {
  const std::size_t begin = words.find_first_not_of(' ');
  if (begin == std::string::npos) return Done{};
  const std::string trimmed = words.substr(begin, words.find_last_not_of(' ') - begin + 1);
  constexpr std::size_t kLeast = 4;  // bytes
  if (trimmed.size() < kLeast || !words_.insert(trimmed).second) return Done{};
  auto search = TextSearch::of(trimmed);
  if (search.ok()) searches_.push_back(*std::move(search));
  return Done{};
}

Result<bool> Needles::are_in(const std::string& text) const {
  for (const TextSearch& search : searches_) {
    LUMVET_TRY(const auto hits, search.in(text));
    if (!hits.empty()) return true;
  }
  return false;
}

Result<std::optional<std::string>> Needles::taken_from(const std::string& text) const {
  std::optional<std::string> left;
  for (const TextSearch& search : searches_) {
    const std::string& now = left ? *left : text;
    LUMVET_TRY(const auto hits, search.in(now));
    if (hits.empty()) continue;
    std::string without;
    std::size_t at = 0;
    for (const TextSpan& hit : hits) {
      without += now.substr(at, hit.begin - at);
      without += "\xE2\x80\xA6";  // an ellipsis
      at = hit.end;
    }
    without += now.substr(at);
    left = std::move(without);
  }
  return left;
}

Result<int> change_texts(file::Ledger& ledger, const Dict& trailer, const Limits& limits,
                         const ChangeText& change) {
  return TextChanger(ledger, limits, change).run(trailer);
}

std::vector<ObjectId> reachable_from(const file::Ledger& ledger, const std::vector<Object>& roots) {
  std::vector<ObjectId> order;
  std::set<ObjectId> seen;
  std::vector<Object> open = roots;
  while (!open.empty() && !Attempt::is_stopped()) {
    const Object object = std::move(open.back());
    open.pop_back();
    if (object.is_reference()) {
      if (!seen.insert(object.as_reference()).second) continue;
      order.push_back(object.as_reference());
      open.push_back(ledger.resolve(object));
      continue;
    }
    for (const Object& item : object.as_array())
      if (item.is_reference() || item.is_array() || item.is_dict()) open.push_back(item);
    const Dict& dict = object.as_stream() != nullptr ? object.as_stream()->dict : object.as_dict();
    for (const auto& [key, value] : dict)
      if (value.is_reference() || value.is_array() || value.is_dict()) open.push_back(value);
  }
  return order;
}

}  // namespace lumvet::redacting
