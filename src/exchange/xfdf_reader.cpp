// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <charconv>
#include <cmath>
#include <map>
#include <pugixml.hpp>
#include <sstream>

#include "annotate/fitted_marks.h"
#include "annotate/kept_looks.h"
#include "base/text_place.h"
#include "exchange/hex_bytes.h"
#include "exchange/look_in_xml.h"
#include "exchange/xfdf_names.h"
#include "lumvet/exchange/exchange.h"
#include "objects/text_string.h"

namespace lumvet {
namespace {

using Kind = Annotation::Kind;

constexpr double kFarthest = 1e6;  // points

// "1,2.5;3 4" as numbers; nothing for what is none, or is no place on a page.
std::optional<std::vector<double>> numbers_in(std::string_view text) {
  std::vector<double> numbers;
  std::size_t at = 0;
  const auto skip = [&] {
    while (at < text.size() && std::string_view(" ,;\t\r\n").find(text[at]) != text.npos) ++at;
  };
  for (skip(); at < text.size(); skip()) {
    if (text[at] == '+') ++at;
    double value = 0;
    const auto read = std::from_chars(text.data() + at, text.data() + text.size(), value);
    if (read.ec != std::errc() || !(std::abs(value) <= kFarthest)) return std::nullopt;
    numbers.push_back(value);
    at = static_cast<std::size_t>(read.ptr - text.data());
  }
  return numbers;
}

std::vector<Point> points_of(const std::vector<double>& numbers) {
  std::vector<Point> points;
  points.reserve(numbers.size() / 2);
  for (std::size_t i = 0; i + 1 < numbers.size(); i += 2)
    points.push_back({numbers[i], numbers[i + 1]});
  return points;
}

// None for what is no color.
std::vector<double> color_of(std::string_view hex) {
  const auto color = Color::parse(hex);
  return color.ok() ? color->parts() : std::vector<double>();
}

std::string date_of(const char* date) {
  return objects::date_for_people(date).value_or(std::string(date));
}

// The markup of an element's content.
std::string inner_xml(pugi::xml_node element) {
  std::ostringstream text;
  for (const pugi::xml_node child : element.children())
    child.print(text, "", pugi::format_raw | pugi::format_no_declaration);
  return text.str();
}

// One mark of a file. What makes no sense in it is told.
class MarkReader {
 public:
  MarkReader(pugi::xml_node element, Kind kind, const std::string& place,
             std::vector<Finding>& findings)
      : element_(element), place_(place), findings_(findings) {
    own_.kind = kind;
  }

  // Nothing for one without a place on a page.
  std::optional<NewMark> read() {
    NewMark mark;
    const auto page = numbers("page");
    const auto rect = numbers("rect");
    if (page.size() != 1 || page[0] < 0 || page[0] != std::floor(page[0])) return none("page");
    if (rect.size() != 4) return none("rect");
    mark.page = static_cast<int>(page[0]);
    own_.rect = {std::min(rect[0], rect[2]), std::min(rect[1], rect[3]), std::max(rect[0], rect[2]),
                 std::max(rect[1], rect[3])};
    own_.color = color_of(text("color"));
    own_.interior_color = color_of(text("interior-color"));
    own_.flags = flags();
    own_.name = text("name");
    own_.author = text("title");
    own_.subject = text("subject");
    own_.created = date_of(text("creationdate"));
    own_.modified = date_of(text("date"));
    if (const auto opacity = numbers("opacity"); opacity.size() == 1)
      own_.opacity = std::clamp(opacity[0], 0.0, 1.0);
    own_.icon = text("icon");
    own_.intent = text("IT");
    if (own_.intent.empty()) own_.intent = text("intent");
    if (const double turn = number("rotation", 0); std::fmod(turn, 90) == 0)
      own_.rotation = (static_cast<int>(std::fmod(turn, 360)) + 360) % 360;
    mark.reply_to = text("inreplyto");
    own_.is_grouped = std::string_view(text("replyType")) == "group";
    own_.review_state = text("state");
    own_.review_model = text("statemodel");
    own_.is_open = is_yes("open");
    border();
    shape();
    texts();
    if (own_.kind == Kind::link) target();
    if (own_.kind == Kind::file_attachment) mark.parts.file = file();
    if (const pugi::xml_node look = element_.child("appearance")) {
      mark.parts.form = exchange::look_from_xml(look.text().get());
      if (!mark.parts.form || !annotate::is_usable_form(*mark.parts.form)) {
        mark.parts.form.reset();
        findings_.push_back({place_ + ": its look could not be read, and is made anew", {}, {}});
      }
    }
    mark.annotation = std::move(own_);
    return mark;
  }

 private:
  const char* text(const char* name) const { return element_.attribute(name).value(); }
  std::string child(const char* name) const { return element_.child(name).text().get(); }
  bool is_yes(const char* name) const {
    const std::string_view value = text(name);
    return value == "yes" || value == "true";
  }
  std::nullopt_t none(const char* what) {
    findings_.push_back(
        {place_ + " has no " + what + " that could be read; it was left out", {}, {}});
    return std::nullopt;
  }
  // None, and told, for what are no numbers.
  std::vector<double> numbers_from(const std::string& value, const char* name) {
    const auto read = numbers_in(value);
    if (!read)
      findings_.push_back({place_ + ": '" + name + "' has numbers that could not be read", {}, {}});
    return read.value_or(std::vector<double>());
  }
  std::vector<double> numbers(const char* name) { return numbers_from(text(name), name); }
  double number(const char* name, double otherwise) {
    const auto read = numbers(name);
    return read.size() == 1 ? read[0] : otherwise;
  }

  std::int64_t flags() const {
    std::int64_t bits = 0;
    std::string_view rest = text("flags");
    while (!rest.empty()) {
      const std::size_t end = std::min(rest.find(','), rest.size());
      for (std::size_t bit = 0; bit < exchange::kXfdfFlags.size(); ++bit)
        if (rest.substr(0, end) == exchange::kXfdfFlags[bit]) bits |= std::int64_t{1} << bit;
      rest.remove_prefix(std::min(end + 1, rest.size()));
    }
    return bits;
  }

  void border() {
    const std::string_view style = text("style");
    own_.has_border = element_.attribute("width") || !style.empty();
    own_.border.width = std::clamp(number("width", 1), 0.0, 100.0);
    for (const auto& [name, known] : exchange::kXfdfBorders)
      if (style == name) own_.border.style = known;
    if (style == "cloudy") own_.border.cloud = std::clamp(number("intensity", 1), 0.0, 2.0);
    own_.border.dash = numbers("dashes");
  }

  void shape() {
    const std::vector<Point> corners = points_of(numbers("coords"));
    for (std::size_t i = 0; i + 3 < corners.size(); i += 4)
      own_.quads.push_back({corners[i], corners[i + 1], corners[i + 2], corners[i + 3]});
    const auto fringe = numbers("fringe");
    for (std::size_t i = 0; fringe.size() == 4 && i < 4; ++i)
      own_.inset[i] = std::max(fringe[i], 0.0);
    own_.line_ends = {text("head"), text("tail")};
    own_.leaders = {number("leaderLength", 0), number("leaderExtend", 0),
                    number("leader-offset", 0)};
    own_.has_caption = is_yes("caption");
    own_.caption_is_above = std::string_view(text("caption-style")) == "Top";
    if (own_.kind == Kind::line) {
      for (const char* end : {"start", "end"}) {
        const auto points = points_of(numbers(end));
        own_.vertices.insert(own_.vertices.end(), points.begin(), points.end());
      }
    } else if (own_.kind == Kind::free_text) {
      own_.vertices = points_of(numbers("callout"));
    } else {
      own_.vertices = points_of(numbers_from(child("vertices"), "vertices"));
    }
    for (const pugi::xml_node stroke : element_.child("inklist").children("gesture"))
      own_.strokes.push_back(points_of(numbers_from(stroke.text().get(), "gesture")));
  }

  void texts() {
    const std::string_view side = text("justification");
    for (std::size_t i = 0; i < exchange::kXfdfSides.size(); ++i)
      if (side == exchange::kXfdfSides[i]) own_.alignment = static_cast<Annotation::Alignment>(i);
    own_.overlay_text = text("overlay-text");
    own_.repeats_overlay = is_yes("overlay-text-repeat");
    own_.contents = child("contents");
    const pugi::xml_node rich = element_.child("contents-richtext");
    if (rich) own_.rich_contents = inner_xml(rich);
    if (rich && !element_.child("contents")) own_.contents = plain_text(rich);
    own_.default_appearance = child("defaultappearance");
    own_.default_style = child("defaultstyle");
  }

  // What a rich text says, a line for each paragraph.
  static std::string plain_text(pugi::xml_node rich) {
    std::string text;
    for (pugi::xml_node at = rich.first_child(); at;) {
      const bool is_paragraph =
          std::string_view(at.name()) == "p" || std::string_view(at.name()) == "br";
      if (is_paragraph && !text.empty()) text += '\n';
      if (at.type() == pugi::node_pcdata) text += at.value();
      pugi::xml_node next = at.first_child();
      while (!next && at && at != rich) {
        next = at.next_sibling();
        if (!next) at = at.parent();
        if (at == rich) break;
      }
      at = next;
    }
    return text;
  }

  void target() {
    const pugi::xml_node action = element_.child("OnActivation").child("Action");
    if (const pugi::xml_node address = action.child("URI")) {
      own_.actions = {
          {.kind = Action::Kind::uri, .type = "URI", .target = address.attribute("Name").value()}};
      return;
    }
    const pugi::xml_node place = action.child("GoTo").child("Dest").first_child();
    if (std::string_view(place.name()) == "Named")
      own_.destination = Destination{.name = place.attribute("Name").value()};
    else if (const auto page = numbers_in(place.attribute("Page").value());
             page && page->size() == 1 && (*page)[0] >= 0)
      own_.destination = Destination{.page = static_cast<int>((*page)[0])};
  }

  std::optional<NewAttachment> file() {
    const pugi::xml_node data = element_.child("data");
    const std::string_view encoding = data.attribute("encoding").value();
    if (!data || (!encoding.empty() && encoding != "hex")) return std::nullopt;
    auto bytes = exchange::bytes_of_hex(data.text().get());
    if (!bytes) return std::nullopt;
    own_.file = text("file");
    return NewAttachment{
        .name = text("file"), .bytes = *std::move(bytes), .media_type = text("mimetype")};
  }

  pugi::xml_node element_;
  const std::string& place_;
  std::vector<Finding>& findings_;
  Annotation own_;
};

void read_values(pugi::xml_node fields, std::vector<FieldValue>& values) {
  struct Open {
    pugi::xml_node next;
    std::string prefix;
  };
  std::vector<Open> open{{fields.child("field"), ""}};
  constexpr std::size_t kDeepest = 64;
  while (!open.empty()) {
    const pugi::xml_node field = open.back().next;
    if (!field) {
      open.pop_back();
      continue;
    }
    open.back().next = field.next_sibling("field");
    const std::string name = open.back().prefix + field.attribute("name").value();
    if (field.child("value")) {
      FieldValue value{name, {}};
      for (const pugi::xml_node one : field.children("value"))
        value.values.emplace_back(one.text().get());
      values.push_back(std::move(value));
    }
    if (field.child("field") && open.size() < kDeepest)
      open.push_back({field.child("field"), name + "."});
  }
}

// Declarations of entities, which stay what they are.
bool declares_entities(std::string_view file) {
  const std::size_t begin = file.find("<!DOCTYPE");
  return begin != std::string_view::npos && file.find("<!ENTITY", begin) != std::string_view::npos;
}

}  // namespace

Result<Exchange> read_xfdf(std::string_view file, const Document& document) {
  pugi::xml_document xml;
  const pugi::xml_parse_result parsed =
      xml.load_buffer(file.data(), file.size(), pugi::parse_default | pugi::parse_ws_pcdata_single);
  if (!parsed)
    return Error(
        ErrorCode::malformed,
        text_place(file, static_cast<std::size_t>(std::max<std::ptrdiff_t>(parsed.offset, 0))) +
            ": this is no XML: " + parsed.description());
  const pugi::xml_node root = xml.child("xfdf");
  if (!root) return Error(ErrorCode::malformed, "this is no XFDF, whose first element is 'xfdf'");
  Exchange read;
  if (declares_entities(file))
    read.findings.push_back({"the file declares entities, which are not expanded", {}, {}});
  read.file = root.child("f").attribute("href").value();
  std::vector<annotate::ListedMark> marks;
  std::size_t number = 0;
  for (const pugi::xml_node element : root.child("annots").children()) {
    if (element.type() != pugi::node_element) continue;
    const std::string place = "mark " + std::to_string(++number) + " (" + element.name() + ")";
    const auto known = std::find_if(exchange::kXfdfKinds.begin(), exchange::kXfdfKinds.end(),
                                    [&](const auto& one) { return one.first == element.name(); });
    if (known == exchange::kXfdfKinds.end()) {
      if (std::string_view(element.name()) != "popup")
        read.findings.push_back(
            {place + " is of a kind that is not made; it was left out", {}, {}});
      continue;
    }
    if (auto mark = MarkReader(element, known->second, place, read.findings).read())
      marks.push_back({*std::move(mark), place});
  }
  read_values(root.child("fields"), read.values);
  LUMVET_TRY(read.marks, annotate::fitted(std::move(marks), document, read.findings));
  return read;
}

}  // namespace lumvet
