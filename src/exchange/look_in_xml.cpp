// SPDX-License-Identifier: Apache-2.0
#include "exchange/look_in_xml.h"

#include <pugixml.hpp>

#include "crypto/base64.h"
#include "exchange/hex_bytes.h"
#include "exchange/xml_text.h"
#include "objects/serializer.h"

namespace lumvet::exchange {
namespace {

constexpr int kDeepest = 64;  // elements within one another

bool is_plain(std::string_view text) {
  for (const char c : text)
    if (c < 0x20 || c > 0x7E) return false;
  return true;
}

std::string number_text(double value) {
  std::string text;
  objects::serialize_number(value, text);
  return text;
}

class LookWriter {
 public:
  Status put(pugi::xml_node parent, const std::string* key, const Object& object) {
    if (object.is_array()) {
      pugi::xml_node list = element(parent, "ARRAY", key);
      for (const Object& item : object.as_array()) LUMVET_RETURN_IF_ERROR(put(list, nullptr, item));
      return Done{};
    }
    if (const Stream* stream = object.as_stream()) {
      LUMVET_TRY(const ByteSlice bytes, stream->encoded());
      pugi::xml_node held = element(parent, "STREAM", key);
      Dict dict = stream->dict;
      dict.set("Length", static_cast<std::int64_t>(bytes.size()));
      LUMVET_RETURN_IF_ERROR(entries(held, dict));
      pugi::xml_node data = held.append_child("DATA");
      data.append_attribute("MODE").set_value("RAW");
      data.append_attribute("ENCODING").set_value("HEX");
      data.text().set(as_hex(bytes.view()).c_str());
      return Done{};
    }
    if (object.is_dict()) return entries(element(parent, "DICT", key), object.as_dict());
    plain(parent, key, object);
    return Done{};
  }

 private:
  static pugi::xml_node element(pugi::xml_node parent, const char* name, const std::string* key) {
    pugi::xml_node made = parent.append_child(name);
    if (key != nullptr) made.append_attribute("KEY").set_value(key->c_str());
    return made;
  }

  Status entries(pugi::xml_node held, const Dict& dict) {
    for (const auto& [key, value] : dict) LUMVET_RETURN_IF_ERROR(put(held, &key, value));
    return Done{};
  }

  static void plain(pugi::xml_node parent, const std::string* key, const Object& object) {
    const auto put = [&](const char* name, const std::string& value) {
      element(parent, name, key).append_attribute("VAL").set_value(value.c_str());
    };
    if (object.is_name()) return put_text(parent, "NAME", key, object.as_name());
    if (object.is_string()) return put_text(parent, "STRING", key, object.as_string());
    if (object.is_bool()) return put("BOOL", object.as_bool() ? "true" : "false");
    if (object.is_integer()) return put("INT", std::to_string(object.as_integer()));
    if (object.is_number()) return put("FIXED", number_text(object.as_number()));
    element(parent, "NULL", key);
  }

  static void put_text(pugi::xml_node parent, const char* name, const std::string* key,
                       std::string_view text) {
    pugi::xml_node made = element(parent, name, key);
    const std::string value = is_plain(text) ? std::string(text) : as_hex(as_bytes(text));
    made.append_attribute("VAL").set_value(value.c_str());
    if (!is_plain(text)) made.append_attribute("ENCODING").set_value("HEX");
  }
};

bool is_hex(pugi::xml_node element) {
  return std::string_view(element.attribute("ENCODING").value()) == "HEX";
}

// What a name or a string says.
std::string text(pugi::xml_node element) {
  const char* stated = element.attribute("VAL").value();
  const auto bytes = is_hex(element) ? bytes_of_hex(stated) : std::nullopt;
  return bytes ? std::string(as_text(*bytes)) : stated;
}

class LookReader {
 public:
  // Null for what is no value.
  static Object value(pugi::xml_node element, int depth) {
    const std::string_view name = element.name();
    if (depth > kDeepest) return Object();
    if (name == "NAME") return Object::name(text(element));
    if (name == "STRING") return Object::string(text(element));
    if (name == "BOOL") return Object(element.attribute("VAL").as_bool());
    if (name == "INT") return Object(std::int64_t{element.attribute("VAL").as_llong()});
    if (name == "FIXED") return Object(element.attribute("VAL").as_double());
    if (name == "ARRAY") {
      Array items;
      for (const pugi::xml_node item : element.children())
        if (item.type() == pugi::node_element) items.push_back(value(item, depth + 1));
      return items;
    }
    if (name == "DICT") return Object(entries(element, depth));
    return name == "STREAM" ? stream(element, depth) : Object();
  }

 private:
  static Dict entries(pugi::xml_node element, int depth) {
    std::vector<Dict::Entry> read;
    for (const pugi::xml_node entry : element.children())
      if (const pugi::xml_attribute key = entry.attribute("KEY"))
        read.emplace_back(key.value(), value(entry, depth + 1));
    return Dict(std::move(read));
  }

  static Object stream(pugi::xml_node element, int depth) {
    const pugi::xml_node data = element.child("DATA");
    const std::string_view text = data.text().get();
    const auto bytes =
        is_hex(data) ? bytes_of_hex(text) : std::optional(Bytes(text.begin(), text.end()));
    if (!data || !bytes) return Object();
    Dict dict = entries(element, depth);
    // Bytes that went through the filters already.
    if (std::string_view(data.attribute("MODE").value()) == "FILTERED")
      for (const char* key : {"Filter", "DecodeParms"}) dict.remove(key);
    dict.set("Length", static_cast<std::int64_t>(bytes->size()));
    return Stream::of(std::move(dict), *bytes);
  }
};

}  // namespace

Result<std::string> look_as_xml(const Object& form) {
  pugi::xml_document xml;
  LUMVET_RETURN_IF_ERROR(LookWriter().put(xml, nullptr, Object(Dict{{"N", form}})));
  xml.first_child().append_attribute("KEY").set_value("AP");
  const std::string text = xml_text_of(xml, pugi::format_raw | pugi::format_no_declaration);
  return crypto::base64(as_bytes(text));
}

std::optional<Object> look_from_xml(std::string_view base64) {
  const auto bytes = crypto::from_base64(base64);
  if (!bytes) return std::nullopt;
  pugi::xml_document xml;
  if (!xml.load_buffer(bytes->data(), bytes->size())) return std::nullopt;
  for (const pugi::xml_node entry : xml.child("DICT").children("STREAM"))
    if (std::string_view(entry.attribute("KEY").value()) == "N") return LookReader::value(entry, 0);
  return std::nullopt;
}

}  // namespace lumvet::exchange
