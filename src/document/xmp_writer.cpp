// SPDX-License-Identifier: Apache-2.0
#include "document/xmp_writer.h"

#include <algorithm>
#include <array>
#include <pugixml.hpp>
#include <sstream>

#include "document/xmp_names.h"

namespace lumvet::document {
namespace {

using Kind = XmpProperty::Kind;

struct Word {
  std::string_view words;
  XmpProperty property;
};
constexpr std::array<Word, 5> kWords = {
    {{"title", {kDublinCore, "dc", "title", Kind::alternatives}},
     {"author", {kDublinCore, "dc", "creator", Kind::list}},
     {"subject", {kDublinCore, "dc", "description", Kind::alternatives}},
     {"keywords", {kPdf, "pdf", "Keywords", Kind::text}},
     {"creator", {kXmp, "xmp", "CreatorTool", Kind::text}}}};

constexpr const char* kEmptyPacket =
    "<?xpacket begin=\"\xEF\xBB\xBF\" id=\"W5M0MpCehiHzreSzNTczkc9d\"?>"
    "<x:xmpmeta xmlns:x=\"adobe:ns:meta/\">"
    "<rdf:RDF xmlns:rdf=\"http://www.w3.org/1999/02/22-rdf-syntax-ns#\">"
    "<rdf:Description rdf:about=\"\"/></rdf:RDF></x:xmpmeta><?xpacket end=\"w\"?>";

void take_away(const std::vector<pugi::xml_node>& descriptions, const XmpProperty& property) {
  for (pugi::xml_node description : descriptions) {
    for (pugi::xml_attribute at = description.first_attribute(); at;) {
      const pugi::xml_attribute next = at.next_attribute();
      if (is_named(description, at.name(), property.space, property.name))
        description.remove_attribute(at);
      at = next;
    }
    for (pugi::xml_node at = description.first_child(); at;) {
      const pugi::xml_node next = at.next_sibling();
      if (is_named(at, at.name(), property.space, property.name)) description.remove_child(at);
      at = next;
    }
  }
}

// The prefix that stands for a space at a node, which is declared there if none does.
std::string prefix_at(pugi::xml_node node, std::string_view space, std::string_view wanted) {
  for (pugi::xml_node at = node; at; at = at.parent())
    for (const pugi::xml_attribute attribute : at.attributes()) {
      const std::string_view name = attribute.name();
      constexpr std::string_view kDeclares = "xmlns:";
      if (!name.starts_with(kDeclares) || attribute.value() != space) continue;
      const std::string prefix(name.substr(kDeclares.size()));
      if (name_space(node, prefix) == space) return prefix;
    }
  std::string prefix(wanted);
  while (!name_space(node, prefix).empty()) prefix += "x";
  node.append_attribute(("xmlns:" + prefix).c_str()) = std::string(space).c_str();
  return prefix;
}

void put(pugi::xml_node description, const XmpProperty& property, const std::string& value) {
  const std::string prefix = prefix_at(description, property.space, property.prefix);
  pugi::xml_node node =
      description.append_child((prefix + ":" + std::string(property.name)).c_str());
  if (property.kind == Kind::text) {
    node.text() = value.c_str();
    return;
  }
  const std::string rdf = prefix_at(description, kRdf, "rdf");
  const bool is_list = property.kind == Kind::list;
  pugi::xml_node item = node.append_child((rdf + (is_list ? ":Seq" : ":Alt")).c_str())
                            .append_child((rdf + ":li").c_str());
  if (!is_list) item.append_attribute("xml:lang") = "x-default";
  item.text() = value.c_str();
}

}  // namespace

const XmpProperty* xmp_property(std::string_view words) {
  const auto* found = std::find_if(kWords.begin(), kWords.end(),
                                   [words](const Word& word) { return word.words == words; });
  return found == kWords.end() ? nullptr : &found->property;
}

Result<Bytes> changed_xmp(ByteView packet, const std::vector<XmpChange>& changes) {
  pugi::xml_document xml;
  const std::string text = packet.empty() ? kEmptyPacket : std::string(as_text(packet));
  constexpr unsigned kAll = pugi::parse_default | pugi::parse_pi | pugi::parse_comments;
  const auto parsed = xml.load_buffer(text.data(), text.size(), kAll);
  std::vector<pugi::xml_node> descriptions;
  find_descriptions(xml, descriptions);
  if (!parsed || descriptions.empty())
    return Error(ErrorCode::malformed, "the document's XMP cannot be read, and so not be changed");
  for (const XmpChange& change : changes) {
    take_away(descriptions, *change.property);
    if (!change.value.empty()) put(descriptions.front(), *change.property, change.value);
  }
  std::ostringstream out;
  xml.save(out, "", pugi::format_raw | pugi::format_no_declaration);
  const std::string written = out.str();
  return Bytes(written.begin(), written.end());
}

}  // namespace lumvet::document
