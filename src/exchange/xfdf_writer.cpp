// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <pugixml.hpp>

#include "annotate/hex_color.h"
#include "base/attempt.h"
#include "exchange/hex_bytes.h"
#include "exchange/look_in_xml.h"
#include "exchange/marks_of_document.h"
#include "exchange/xfdf_names.h"
#include "exchange/xml_text.h"
#include "lumvet/exchange/exchange.h"
#include "objects/serializer.h"
#include "objects/text_string.h"

namespace lumvet {
namespace {

using Kind = Annotation::Kind;

// What XML can hold of a text.
std::string xml_text(const std::string& text) {
  std::string kept;
  for (const char c : text)
    if (static_cast<unsigned char>(c) >= 0x20 || c == '\n' || c == '\t') kept += c;
  return kept;
}

std::string numbers(const std::vector<double>& values) {
  std::string text;
  for (const double value : values) {
    if (!text.empty()) text += ',';
    objects::serialize_number(value, text);
  }
  return text;
}

std::string number(double value) { return numbers({value}); }

template <typename Points>
std::string points(const Points& list, char between) {
  std::string text;
  for (const Point p : list) {
    if (!text.empty()) text += between;
    text += numbers({p.x, p.y});
  }
  return text;
}

std::string date(const std::string& of_people) {
  return of_people.empty() ? std::string()
                           : objects::date_from_people(of_people).value_or(of_people);
}

// One mark as an element.
class MarkElement {
 public:
  MarkElement(pugi::xml_node element, const NewMark& mark)
      : element_(element), mark_(mark), own_(mark.annotation) {}

  Status write() {
    put("page", std::to_string(mark_.page));
    put("rect", numbers({own_.rect.left, own_.rect.bottom, own_.rect.right, own_.rect.top}));
    if (!own_.color.empty()) put("color", annotate::hex_color(own_.color));
    if (!own_.interior_color.empty())
      put("interior-color", annotate::hex_color(own_.interior_color));
    put("flags", flags());
    put("name", own_.name);
    put("title", own_.author);
    put("subject", own_.subject);
    put("creationdate", date(own_.created));
    put("date", date(own_.modified));
    if (own_.opacity < 1) put("opacity", number(own_.opacity));
    put("icon", own_.icon);
    put("IT", own_.intent);
    if (own_.rotation != 0) put("rotation", std::to_string(own_.rotation));
    put("inreplyto", mark_.reply_to);
    if (!mark_.reply_to.empty() && own_.is_grouped) put("replyType", "group");
    put("state", own_.review_state);
    put("statemodel", own_.review_model);
    if (own_.is_open) put("open", "yes");
    border();
    shape();
    texts();
    if (own_.kind == Kind::link) target();
    if (mark_.parts.file) file();
    if (!mark_.parts.form) return Done{};
    LUMVET_TRY(const std::string look, exchange::look_as_xml(*mark_.parts.form));
    put_text("appearance", look);
    return Done{};
  }

 private:
  void put(const char* name, const std::string& value) {
    if (!value.empty()) element_.append_attribute(name).set_value(xml_text(value).c_str());
  }
  void put_text(const char* name, const std::string& value) {
    if (!value.empty()) element_.append_child(name).text().set(xml_text(value).c_str());
  }

  std::string flags() const {
    std::string names;
    for (std::size_t bit = 0; bit < exchange::kXfdfFlags.size(); ++bit)
      if ((own_.flags >> bit & 1) != 0)
        names += (names.empty() ? "" : ",") + std::string(exchange::kXfdfFlags[bit]);
    return names;
  }

  void border() {
    if (!own_.has_border && own_.border == AnnotationBorder()) return;
    put("width", number(own_.border.width));
    std::string style = own_.border.cloud > 0 ? "cloudy" : "solid";
    for (const auto& [name, known] : exchange::kXfdfBorders)
      if (own_.border.cloud <= 0 && own_.border.style == known) style = name;
    put("style", style);
    if (own_.border.cloud > 0) put("intensity", number(own_.border.cloud));
    put("dashes", numbers(own_.border.dash));
  }

  void shape() {
    std::string corners;
    for (const auto& quad : own_.quads) corners += (corners.empty() ? "" : ",") + points(quad, ',');
    put("coords", corners);
    if (own_.inset != std::array<double, 4>())
      put("fringe", numbers({own_.inset.begin(), own_.inset.end()}));
    put("head", own_.line_ends[0]);
    put("tail", own_.line_ends[1]);
    if (own_.kind == Kind::line && own_.vertices.size() == 2) {
      put("start", points(std::array{own_.vertices[0]}, ','));
      put("end", points(std::array{own_.vertices[1]}, ','));
      if (own_.leaders.length != 0) put("leaderLength", number(own_.leaders.length));
      if (own_.leaders.extension != 0) put("leaderExtend", number(own_.leaders.extension));
      if (own_.leaders.offset != 0) put("leader-offset", number(own_.leaders.offset));
      if (own_.has_caption) put("caption", "yes");
      if (own_.has_caption && own_.caption_is_above) put("caption-style", "Top");
    } else if (own_.kind == Kind::free_text) {
      put("callout", points(own_.vertices, ','));
    } else {
      put_text("vertices", points(own_.vertices, ';'));
    }
    if (own_.strokes.empty()) return;
    pugi::xml_node list = element_.append_child("inklist");
    for (const auto& stroke : own_.strokes)
      list.append_child("gesture").text().set(points(stroke, ';').c_str());
  }

  void texts() {
    if (own_.alignment != Annotation::Alignment::left)
      put("justification",
          std::string(exchange::kXfdfSides[static_cast<std::size_t>(own_.alignment)]));
    put("overlay-text", own_.overlay_text);
    if (own_.repeats_overlay) put("overlay-text-repeat", "true");
    put_text("contents", own_.contents);
    rich_contents();
    put_text("defaultappearance", own_.default_appearance);
    put_text("defaultstyle", own_.default_style);
  }

  // XHTML as elements, where it is XML.
  void rich_contents() {
    if (own_.rich_contents.empty()) return;
    pugi::xml_document rich;
    if (!rich.load_buffer(own_.rich_contents.data(), own_.rich_contents.size())) return;
    pugi::xml_node held = element_.append_child("contents-richtext");
    for (const pugi::xml_node child : rich.children()) held.append_copy(child);
  }

  void target() {
    pugi::xml_node action = element_.append_child("OnActivation").append_child("Action");
    action.append_attribute("Trigger").set_value("U");
    if (!own_.actions.empty() && own_.actions[0].kind == Action::Kind::uri) {
      action.append_child("URI").append_attribute("Name").set_value(
          xml_text(own_.actions[0].target).c_str());
    } else if (own_.destination && !own_.destination->name.empty()) {
      action.append_child("GoTo")
          .append_child("Dest")
          .append_child("Named")
          .append_attribute("Name")
          .set_value(xml_text(own_.destination->name).c_str());
    } else if (own_.destination && own_.destination->page) {
      action.append_child("GoTo")
          .append_child("Dest")
          .append_child("Fit")
          .append_attribute("Page")
          .set_value(std::to_string(*own_.destination->page).c_str());
    } else {
      element_.remove_child("OnActivation");
    }
  }

  void file() {
    put("file", mark_.parts.file->name);
    put("mimetype", mark_.parts.file->media_type);
    put("size", std::to_string(mark_.parts.file->bytes.size()));
    pugi::xml_node data = element_.append_child("data");
    data.append_attribute("MODE").set_value("raw");
    data.append_attribute("encoding").set_value("hex");
    data.append_attribute("length").set_value(
        std::to_string(mark_.parts.file->bytes.size()).c_str());
    data.text().set(exchange::as_hex(mark_.parts.file->bytes).c_str());
  }

  pugi::xml_node element_;
  const NewMark& mark_;
  const Annotation& own_;
};

// In the elements of the groups that it stands in.
void write_value(pugi::xml_node fields, const FieldValue& value) {
  pugi::xml_node at = fields;
  std::string_view rest = value.name;
  while (!rest.empty()) {
    const std::size_t dot = std::min(rest.find('.'), rest.size());
    const std::string own(rest.substr(0, dot));
    rest.remove_prefix(std::min(dot + 1, rest.size()));
    // The last one is the one that may be meant; fields stand in the order of the form.
    pugi::xml_node last = at.last_child();
    if (rest.empty() || own != last.attribute("name").value() ||
        std::string_view(last.name()) != "field") {
      last = at.append_child("field");
      last.append_attribute("name").set_value(xml_text(own).c_str());
    }
    at = last;
  }
  if (value.values.empty()) at.append_child("value");
  for (const std::string& one : value.values)
    at.append_child("value").text().set(xml_text(one).c_str());
}

Result<std::string> document_as_xfdf(const Document& document, ExchangeParts parts,
                                     const std::vector<Annotation::Kind>& kinds) {
  pugi::xml_document xml;
  pugi::xml_node declaration = xml.append_child(pugi::node_declaration);
  declaration.append_attribute("version").set_value("1.0");
  declaration.append_attribute("encoding").set_value("UTF-8");
  pugi::xml_node root = xml.append_child("xfdf");
  root.append_attribute("xmlns").set_value("http://ns.adobe.com/xfdf/");
  root.append_attribute("xml:space").set_value("preserve");
  if (parts != ExchangeParts::values) {
    LUMVET_TRY(const std::vector<NewMark> marks, exchange::marks_of(document, kinds));
    pugi::xml_node list = root.append_child("annots");
    for (const NewMark& mark : marks)
      for (const auto& [name, kind] : exchange::kXfdfKinds)
        if (kind == mark.annotation.kind)
          LUMVET_RETURN_IF_ERROR(
              MarkElement(list.append_child(std::string(name).c_str()), mark).write());
  }
  if (parts != ExchangeParts::marks) {
    LUMVET_TRY(const Form form, document.form());
    pugi::xml_node fields = root.append_child("fields");
    for (const FieldValue& value : values_of(form)) write_value(fields, value);
  }
  return exchange::xml_text_of(xml, pugi::format_raw) + "\n";
}

}  // namespace

Result<std::string> as_xfdf(const Document& document, ExchangeParts parts,
                            const std::vector<Annotation::Kind>& kinds) {
  return attempted([&] { return document_as_xfdf(document, parts, kinds); });
}

}  // namespace lumvet
