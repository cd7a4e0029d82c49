// SPDX-License-Identifier: Apache-2.0
#include "objects.h"

#include <algorithm>
#include <map>
#include <set>

namespace tool {
namespace {

using lumvet::Document;
using lumvet::Object;
using lumvet::ObjectId;

std::string name_of(ObjectId id) {
  return std::to_string(id.number) + " " + std::to_string(id.generation);
}

bool is_readable(std::string_view bytes) {
  const auto is_odd = [](char c) {
    const auto code = static_cast<unsigned char>(c);
    return (code < ' ' && c != '\n' && c != '\r' && c != '\t') || code >= 127;
  };
  constexpr std::size_t kJudged = 1024;
  const std::string_view beginning = bytes.substr(0, kJudged);
  const auto odd = std::count_if(beginning.begin(), beginning.end(), is_odd);
  return static_cast<std::size_t>(odd) * 20 <= beginning.size();
}

std::string in_hex(std::string_view bytes) {
  constexpr std::string_view kDigits = "0123456789ABCDEF";
  std::string text;
  for (const char c : bytes) {
    text += kDigits[static_cast<unsigned char>(c) >> 4];
    text += kDigits[static_cast<unsigned char>(c) & 15];
  }
  return text;
}

// As it is written, but strings that are no text in hexadecimal.
std::string flat(const Object& value) {
  if (value.is_string() && !is_readable(value.as_string()))
    return "<" + in_hex(value.as_string()) + ">";
  std::string text;
  const auto add = [&text](const std::string& part) {
    constexpr std::string_view kSelfDelimited = "/[<(";
    const bool touches = !text.empty() && kSelfDelimited.find(part.front()) == std::string::npos &&
                         text.back() != '[';
    text += (touches ? " " : "") + part;
  };
  if (value.is_array()) {
    text = "[";
    for (const Object& item : value.as_array()) add(flat(item));
    return text + "]";
  }
  if (!value.is_dict() && !value.is_stream()) return lumvet::to_text(value);
  text = "<<";
  for (const auto& [key, item] : value.as_dict()) {
    text += lumvet::to_text(Object::name(key));
    add(flat(item));
  }
  return text + ">>";
}

std::string filters_of(const Document& document, const Object& stream) {
  const Object filter = document.resolve(stream.as_dict()["Filter"]).value();
  if (filter.is_name()) return std::string(filter.as_name());
  std::string text;
  for (const Object& one : filter.as_array())
    text += (text.empty() ? "" : ", ") + document.resolve(one).value().as_name();
  return text;
}

std::string place_in_words(const Document& document, ObjectId id) {
  const auto place = document.place_of(id).value();
  if (!place) return "nowhere";
  const std::string offset = "at " + std::to_string(place->offset);
  if (!place->packed_in) return offset;
  return "packed in " + name_of(*place->packed_in) + " " + offset;
}

// Text with every byte that would upset a terminal shown as a dot, or rows of hexadecimal.
void print_bytes(std::string_view bytes, const std::string& margin, std::size_t most_lines,
                 std::ostream& out) {
  std::size_t lines = 0;
  if (is_readable(bytes)) {
    while (!bytes.empty() && lines < most_lines) {
      const std::size_t end = std::min(bytes.find_first_of("\r\n"), bytes.size());
      constexpr std::size_t kLongest = 200;
      std::string text(bytes.substr(0, std::min(end, kLongest)));
      for (char& c : text)
        if (static_cast<unsigned char>(c) < ' ' || static_cast<unsigned char>(c) >= 127) c = '.';
      out << margin << text << (end > kLongest ? "…" : "") << '\n';
      bytes.remove_prefix(std::min(end + 1, bytes.size()));
      ++lines;
    }
  } else {
    constexpr std::size_t kRow = 16;
    while (!bytes.empty() && lines < most_lines) {
      const std::string_view row = bytes.substr(0, kRow);
      for (std::size_t i = 0; i < row.size(); i += 2) {
        out << (i == 0 ? margin : " ") << in_hex(row.substr(i, 2));
      }
      out << '\n';
      bytes.remove_prefix(row.size());
      ++lines;
    }
  }
  if (!bytes.empty()) out << margin << "… " << bytes.size() << " bytes more\n";
}

void print_stream(const Document& document, const Object& object, const std::string& margin,
                  std::size_t most_lines, std::ostream& out) {
  const std::string filters = filters_of(document, object);
  out << margin << "stream, " << object.as_stream()->length << " bytes";
  if (!filters.empty()) out << " (" << filters << ")";
  const auto decoded = document.decoded(object);
  if (!decoded.ok()) {
    out << "; " << decoded.error().message() << '\n';
    return;
  }
  if (!filters.empty()) out << ", " << decoded->size() << " decoded";
  out << '\n';
  print_bytes(lumvet::as_text(decoded->view()), margin + "| ", most_lines, out);
}

// Values as lines, without following references; nesting is bounded by what was parsed.
void print_value(const Object& value, const std::string& margin, const std::string& label,
                 std::ostream& out) {
  constexpr std::size_t kFitsOnLine = 90;
  const std::string text = flat(value);
  const bool is_nested = value.is_array() || value.is_dict() || value.is_stream();
  if (!is_nested || (!value.is_stream() && text.size() <= kFitsOnLine)) {
    out << margin << label << text << '\n';
    return;
  }
  if (value.is_array()) {
    out << margin << label << "[\n";
    for (const Object& item : value.as_array()) print_value(item, margin + "  ", "", out);
    out << margin << "]\n";
    return;
  }
  out << margin << label << "<<\n";
  for (const auto& [key, item] : value.as_dict())
    print_value(item, margin + "  ", lumvet::to_text(Object::name(key)) + " ", out);
  out << margin << ">>\n";
}

// Walks everything that the trailer leads to, depth first, each object once.
class Tree {
 public:
  Tree(const Document& document, std::ostream& out) : document_(document), out_(out) {
    for (int i = 0; i < document.page_count(); ++i)
      if (const auto page = document.page(i); page.ok() && page->id().number != 0)
        pages_.emplace(page->id(), i + 1);
  }

  void print() {
    out_ << "trailer\n";
    print_from(Object(document_.trailer()), 1);
    bool is_first = true;
    for (std::uint32_t number = 1; number < document_.first_unused_number().value(); ++number) {
      if (met_.contains(number)) continue;
      const auto object = document_.object({number, 0});
      if (!object.ok() || object->is_null()) continue;
      if (is_first) out_ << "objects that the trailer does not lead to, such as object streams\n";
      is_first = false;
      open_.push_back({Object(ObjectId{number, 0}), "", 1, false});
      print_open();
    }
  }

 private:
  // Something to be printed: a value under its key, or the bytes of a stream.
  struct Open {
    Object value;
    std::string label;
    int depth = 0;
    bool is_kid = false;  // of a page tree, where pages are shown in full
  };

  void print_from(const Object& value, int depth) {
    push_inside(value, depth, "");
    print_open();
  }

  void print_open() {
    while (!open_.empty()) {
      const Open at = std::move(open_.back());
      open_.pop_back();
      print_one(at);
    }
  }

  void print_one(const Open& at) {
    if (at.value.is_stream()) {  // its dictionary stands above
      constexpr std::size_t kMostLines = 12;
      print_stream(document_, at.value, margin(at.depth), kMostLines, out_);
      return;
    }
    out_ << margin(at.depth) << at.label;
    if (!at.label.empty() && !(at.value.is_dict() && is_nested(at.value))) out_ << ' ';
    if (at.value.is_reference()) {
      print_object(at);
    } else if (is_nested(at.value)) {
      if (at.value.is_array()) out_ << '[' << at.value.as_array().size() << ']';
      out_ << '\n';
      push_inside(at.value, at.depth + 1, at.label);
    } else {
      out_ << flat(at.value) << '\n';
    }
  }

  void print_object(const Open& at) {
    const ObjectId id = at.value.as_reference();
    out_ << "→ " << name_of(id);
    const auto page = pages_.find(id);
    if (page != pages_.end()) out_ << ", page " << page->second;
    if (page != pages_.end() && !at.is_kid) {
      out_ << '\n';
      return;
    }
    if (!met_.insert(id.number).second) {
      out_ << ", shown above\n";
      return;
    }
    const auto object = document_.object(id);
    if (!object.ok()) {
      out_ << ", " << object.error().message() << '\n';
      return;
    }
    if (object->is_null()) {
      out_ << ", null\n";
      return;
    }
    out_ << ' ' << place_in_words(document_, id);
    if (!is_nested(*object)) {
      out_ << ": " << flat(*object) << '\n';
      return;
    }
    out_ << '\n';
    if (object->is_stream()) open_.push_back({*object, "", at.depth + 1, false});
    push_inside(*object, at.depth + 1, at.label);
  }

  // Worth lines of its own: what leads on, or is long.
  static bool is_nested(const Object& value) {
    if (value.is_stream()) return true;
    if (!value.is_array() && !value.is_dict()) return false;
    constexpr std::size_t kFitsOnLine = 70;
    const std::string text = flat(value);
    return text.size() > kFitsOnLine || text.find(" R") != std::string::npos;
  }

  void push_inside(const Object& value, int depth, const std::string& label) {
    const bool are_kids = label == "/Kids";
    std::vector<Open> inside;
    for (const Object& item : value.as_array()) inside.push_back({item, "", depth, are_kids});
    for (const auto& [key, item] : value.as_dict())
      inside.push_back({item, lumvet::to_text(Object::name(key)), depth, false});
    std::move(inside.rbegin(), inside.rend(), std::back_inserter(open_));
  }

  static std::string margin(int depth) {
    constexpr int kDeepest = 40;
    return std::string(static_cast<std::size_t>(2 * std::min(depth, kDeepest)), ' ');
  }

  const Document& document_;
  std::ostream& out_;
  std::map<ObjectId, int> pages_;
  std::set<std::uint32_t> met_;
  std::vector<Open> open_;
};

lumvet::Result<Object> existing(const Document& document, ObjectId id) {
  LUMVET_TRY(Object object, document.object(id));
  LUMVET_TRY(const auto place, document.place_of(id));
  if (object.is_null() && !place)
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "there is no object " + name_of(id) + "; the greatest number in use is " +
                             std::to_string(document.first_unused_number().value() - 1));
  return object;
}

Json facts_of(const Document& document, ObjectId id, const Object& object) {
  Json json{{"object", name_of(id)}};
  const auto place = document.place_of(id).value();
  json["offset"] = place ? Json(place->offset) : Json();
  json["packed_in"] = place && place->packed_in ? Json(name_of(*place->packed_in)) : Json();
  json["value"] = flat(object);
  json["stream"] = Json();
  if (object.is_stream()) {
    const auto decoded = document.decoded(object);
    json["stream"] = {{"bytes", object.as_stream()->length},
                      {"filters", filters_of(document, object)},
                      {"decoded_bytes", decoded.ok() ? Json(decoded->size()) : Json()}};
  }
  return json;
}

}  // namespace

lumvet::Status print_object(const Document& document, ObjectId id, std::ostream& out) {
  LUMVET_TRY(const Object object, existing(document, id));
  out << name_of(id) << ' ' << place_in_words(document, id) << '\n';
  print_value(object, "  ", "", out);
  constexpr std::size_t kAll = static_cast<std::size_t>(-1);
  if (object.is_stream()) print_stream(document, object, "  ", kAll, out);
  return lumvet::Done{};
}

lumvet::Result<Json> object_facts(const Document& document, ObjectId id) {
  LUMVET_TRY(const Object object, existing(document, id));
  Json json = facts_of(document, id, object);
  if (object.is_stream())
    if (const auto decoded = document.decoded(object); decoded.ok()) {
      const std::string_view bytes = lumvet::as_text(decoded->view());
      const bool is_text = is_readable(bytes);
      json["stream"][is_text ? "text" : "hex"] = is_text ? std::string(bytes) : in_hex(bytes);
    }
  return json;
}

void print_tree(const Document& document, std::ostream& out) { Tree(document, out).print(); }

Facts tree_facts(const Document& document) {
  std::vector<ObjectId> there;
  for (std::uint32_t number = 1; number < document.first_unused_number().value(); ++number) {
    const auto object = document.object({number, 0});
    if (object.ok() && !object->is_null()) there.push_back({number, 0});
  }
  const std::size_t count = there.size();
  return {Json{{"trailer", flat(Object(document.trailer()))}}, "objects",
          FactList(count, [&document, there = std::move(there)](std::size_t i) {
            const auto object = document.object(there[i]);
            return facts_of(document, there[i], object.ok() ? *object : Object());
          })};
}

}  // namespace tool
