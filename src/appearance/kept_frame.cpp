// SPDX-License-Identifier: Apache-2.0
#include "appearance/kept_frame.h"

#include <set>

#include "document/appearance.h"
#include "document/tree_builder.h"
#include "filters/stream_decoder.h"
#include "objects/content_numbers.h"
#include "objects/parser.h"

namespace lumvet::appearance {
namespace {

constexpr std::string_view kName = "FieldText";

// Where the text of a look stands: the operators that begin and end it.
struct TextPlace {
  std::size_t begin = 0;
  std::size_t end = 0;
  bool changes_state = false;  // what stands before it
};

bool leaves_state(const std::string& name) {
  static const std::set<std::string, std::less<>> kAll = {
      "q",  "Q", "m",  "l", "c", "v", "y",  "h",  "re", "f",  "F",   "f*",  "B",
      "B*", "b", "b*", "s", "S", "n", "Do", "sh", "MP", "DP", "BMC", "BDC", "EMC"};
  return kAll.contains(name);
}

// Nothing where it stands within other text or in a state that was saved, or where content is
// damaged.
std::optional<TextPlace> find_text(ByteView content, int nesting) {
  objects::Parser parser(content, 0, objects::References::none, nesting);
  std::optional<TextPlace> place;
  Object operand;
  std::size_t begin = 0;
  int saved = 0;
  int marked = 0;  // contents that are open
  int own = 0;     // how many were when that of the text began
  bool is_new = true;
  bool changes_state = false;
  for (;;) {
    if (is_new) {
      parser.lexer().skip_white();
      begin = parser.lexer().position();
    }
    const auto parsed = parser.next();
    if (!parsed.ok() || parsed->kind == objects::Parsed::Kind::end) return std::nullopt;
    is_new = parsed->kind == objects::Parsed::Kind::keyword;
    if (!is_new) {
      operand = parsed->value;
      continue;
    }
    const std::string& name = parsed->keyword;
    const bool is_marked = name == "BMC" || name == "BDC";
    if (!place) {
      if (name == "BT" || name == "BI") return std::nullopt;
      if (name == "q" || name == "Q") saved += name == "q" ? 1 : -1;
      if (saved == 0 && !leaves_state(name)) changes_state = true;
      if (is_marked && name == "BMC" && operand.is_name("Tx")) {
        if (saved != 0) return std::nullopt;
        place = TextPlace{begin, 0, changes_state};
        own = marked;
      }
    } else if (name == "BI") {
      return std::nullopt;
    }
    if (is_marked) ++marked;
    if (name == "EMC" && --marked == own && place) {
      place->end = parser.lexer().position();
      return place;
    }
  }
}

bool has_operators(std::string_view content) {
  return content.find_first_not_of(" \t\r\n\f") != std::string_view::npos;
}

}  // namespace

std::optional<KeptFrame> frame_around_text(const file::Ledger& ledger, const Dict& widget) {
  const Object stated = ledger.get(widget, "MK");
  const Dict& own = stated.as_dict();
  const auto has_numbers = [&](const char* key) {
    return !ledger.get(own, key).as_array().empty();
  };
  if (has_numbers("BG") || has_numbers("BC") || ledger.get(own, "R").as_integer() % 360 != 0)
    return std::nullopt;
  const Object look = document::normal_appearance(ledger, widget);
  if (!look.is_stream() || document::matrix_of(ledger, look.as_dict()) != Matrix())
    return std::nullopt;
  const auto box = document::rect_of(ledger, look.as_dict()["BBox"]);
  if (!box || box->is_empty()) return std::nullopt;
  const auto store = ledger.store();
  Budget budget(store->limits());
  const auto bytes = filters::decode_whole(*look.as_stream(), ledger, budget, store->findings());
  if (!bytes.ok()) return std::nullopt;
  const auto place = find_text(bytes->view(), store->limits().nesting);
  if (!place) return std::nullopt;
  const std::string content(bytes->view().begin(), bytes->view().end());
  KeptFrame frame{look.as_dict(), content.substr(0, place->begin), content.substr(place->end),
                  place->changes_state};
  // What stands behind may need what stands before, as it was.
  const bool has_behind = has_operators(frame.behind);
  if (has_behind ? frame.changes_state : !has_operators(frame.before)) return std::nullopt;
  return frame;
}

Object with_text(const KeptFrame& frame, const file::Ledger& ledger, ObjectId form, double width,
                 double height) {
  const Rect box = document::rect_of(ledger, frame.look["BBox"]).value_or(Rect{});
  // The name of a text before is free again.
  const std::string name = document::free_name(std::string(kName), [&](const std::string& other) {
    return (frame.before + frame.behind).find("/" + other) != std::string::npos;
  });
  Dict resources = ledger.get(frame.look, "Resources").as_dict();
  Dict objects = ledger.get(resources, "XObject").as_dict();
  objects.set(name, form);
  resources.set("XObject", std::move(objects));
  Dict dict = frame.look;
  for (const char* const key : {"Filter", "DecodeParms", "Length"}) dict.remove(key);
  dict.set("Resources", std::move(resources));
  // Whatever state the frame leaves behind, text begins as looks do.
  std::string content = frame.changes_state ? "q\n" + frame.before + "\nQ\n" : frame.before;
  content += "/Tx BMC\nq\n";
  objects::append_rounded({box.width() / width, 0, 0, box.height() / height, box.left, box.bottom},
                          content);
  content += "cm\n/" + name + " Do\nQ\nEMC" + frame.behind;
  return Stream::of(std::move(dict), Bytes(content.begin(), content.end()));
}

}  // namespace lumvet::appearance
