// SPDX-License-Identifier: Apache-2.0
#include "document/metadata.h"

#include <algorithm>
#include <array>
#include <pugixml.hpp>

#include "document/text_entries.h"
#include "document/xmp_names.h"
#include "filters/stream_decoder.h"

namespace lumvet::document {
namespace {

constexpr std::string_view kPdfA = "http://www.aiim.org/pdfa/ns/id/";
constexpr std::string_view kPdfUa = "http://www.aiim.org/pdfua/ns/id/";
constexpr std::string_view kPdfX = "http://www.npes.org/pdfx/ns/id/";
constexpr std::string_view kPdfXOld = "http://ns.adobe.com/pdfx/1.3/";

std::string trimmed(std::string_view text) {
  constexpr const char* kWhite = " \t\r\n";
  const std::size_t first = text.find_first_not_of(kWhite);
  if (first == std::string_view::npos) return {};
  return std::string(text.substr(first, text.find_last_not_of(kWhite) - first + 1));
}

// The text of a property: itself, or the items of its list, of alternatives the default one.
std::string value_of(pugi::xml_node property) {
  for (const pugi::xml_node list : property.children()) {
    const bool alternatives = is_named(list, list.name(), kRdf, "Alt");
    if (!alternatives && !is_named(list, list.name(), kRdf, "Seq") &&
        !is_named(list, list.name(), kRdf, "Bag"))
      continue;
    std::string joined;
    std::string chosen;
    for (const pugi::xml_node item : list.children()) {
      if (!is_named(item, item.name(), kRdf, "li")) continue;
      const std::string text = trimmed(item.text().get());
      if (chosen.empty() || item.attribute("xml:lang").value() == std::string_view("x-default"))
        chosen = text;
      joined += (joined.empty() ? "" : ", ") + text;
    }
    return alternatives ? chosen : joined;
  }
  return trimmed(property.text().get());
}

// A property of any of the descriptions, as an element or as an attribute.
std::string property(const std::vector<pugi::xml_node>& descriptions, std::string_view space,
                     std::string_view name) {
  for (const pugi::xml_node description : descriptions) {
    for (const pugi::xml_attribute attribute : description.attributes())
      if (is_named(description, attribute.name(), space, name)) return trimmed(attribute.value());
    for (const pugi::xml_node child : description.children())
      if (is_named(child, child.name(), space, name)) return value_of(child);
  }
  return {};
}

// "2026-11-23T07:40:00+01:00" as dates of the information dictionary are shown.
std::string date_for_people(std::string date) {
  const std::size_t t = date.find('T');
  if (t == std::string::npos) return date;
  date[t] = ' ';
  const std::size_t zone = date.find_first_of("Z+-", t);
  std::string time = date.substr(0, zone);
  if (const std::size_t fraction = time.find('.'); fraction != std::string::npos)
    time.resize(fraction);
  if (time.size() == std::string_view("2026-11-23 07:40").size()) time += ":00";
  if (zone == std::string::npos) return time;
  return date[zone] == 'Z' ? time + " UTC" : time + " " + date.substr(zone);
}

std::string conformance(const std::vector<pugi::xml_node>& descriptions) {
  std::string claims;
  const auto add = [&](const std::string& claim) {
    claims += (claims.empty() ? "" : ", ") + claim;
  };
  if (const std::string part = property(descriptions, kPdfA, "part"); !part.empty())
    add("PDF/A-" + part + property(descriptions, kPdfA, "conformance"));
  if (const std::string part = property(descriptions, kPdfUa, "part"); !part.empty())
    add("PDF/UA-" + part);
  std::string press = property(descriptions, kPdfX, "GTS_PDFXVersion");
  if (press.empty()) press = property(descriptions, kPdfXOld, "GTS_PDFXVersion");
  if (!press.empty()) add(press);
  return claims;
}

struct Field {
  std::string DocumentInfo::*value;
  const char* words;
  bool is_date;
};

constexpr std::array<Field, 8> kFields = {{{&DocumentInfo::title, "title", false},
                                           {&DocumentInfo::author, "author", false},
                                           {&DocumentInfo::subject, "subject", false},
                                           {&DocumentInfo::keywords, "keywords", false},
                                           {&DocumentInfo::creator, "creator", false},
                                           {&DocumentInfo::producer, "producer", false},
                                           {&DocumentInfo::created, "creation date", true},
                                           {&DocumentInfo::modified, "modification date", true}}};

// Zones and seconds are often left out in one of the two places; "UTC" and "+00:00" are one.
bool same(const Field& field, const std::string& a, const std::string& b) {
  if (!field.is_date) return a == b;
  constexpr std::size_t kMinutes = std::string_view("2026-11-23 07:40").size();
  return std::string_view(a).substr(0, kMinutes) == std::string_view(b).substr(0, kMinutes);
}

// Read into a tree that is some ten times as large.
Result<XmpProperties> parse_packet(ByteView packet) {
  constexpr std::size_t kMost = 8 << 20;  // bytes
  if (packet.size() > kMost)
    return Error(ErrorCode::malformed, "an XMP packet of " + std::to_string(packet.size()) +
                                           " bytes is more than anybody writes");
  return parse_xmp(packet);
}

}  // namespace

DocumentInfo read_info(const Core& core) {
  const Object info = core.store().get(core.store().trailer(), "Info");
  return info_of(core.store(), info.as_dict());
}

DocumentInfo info_of(const file::ObjectStore& store, const Dict& info) {
  return {.title = text_entry(store, info, "Title"),
          .author = text_entry(store, info, "Author"),
          .subject = text_entry(store, info, "Subject"),
          .keywords = text_entry(store, info, "Keywords"),
          .creator = text_entry(store, info, "Creator"),
          .producer = text_entry(store, info, "Producer"),
          .created = date_entry(store, info, "CreationDate"),
          .modified = date_entry(store, info, "ModDate")};
}

Result<XmpProperties> parse_xmp(ByteView packet) {
  pugi::xml_document document;
  const pugi::xml_parse_result parsed =
      document.load_buffer(packet.data(), packet.size(), pugi::parse_default, pugi::encoding_auto);
  std::vector<pugi::xml_node> descriptions;
  find_descriptions(document, descriptions);
  if (!parsed && descriptions.empty())
    return Error(ErrorCode::malformed,
                 std::string("the XMP metadata is no XML: ") + parsed.description())
        .at_offset(static_cast<std::uint64_t>(std::max<std::ptrdiff_t>(parsed.offset, 0)));
  XmpProperties xmp;
  xmp.info.title = property(descriptions, kDublinCore, "title");
  xmp.info.author = property(descriptions, kDublinCore, "creator");
  xmp.info.subject = property(descriptions, kDublinCore, "description");
  xmp.info.keywords = property(descriptions, kPdf, "Keywords");
  if (xmp.info.keywords.empty()) xmp.info.keywords = property(descriptions, kDublinCore, "subject");
  xmp.info.creator = property(descriptions, kXmp, "CreatorTool");
  xmp.info.producer = property(descriptions, kPdf, "Producer");
  xmp.info.created = date_for_people(property(descriptions, kXmp, "CreateDate"));
  xmp.info.modified = date_for_people(property(descriptions, kXmp, "ModifyDate"));
  xmp.conformance = conformance(descriptions);
  return xmp;
}

Metadata read_metadata(const Core& core) {
  const file::ObjectStore& store = core.store();
  Metadata metadata;
  const DocumentInfo info = read_info(core);
  metadata.properties = info;
  const Object dict = store.get(store.trailer(), "Info");
  for (const auto& [key, value] : dict.as_dict()) {
    constexpr std::array<std::string_view, 9> kKnown = {"Title",        "Author",  "Subject",
                                                        "Keywords",     "Creator", "Producer",
                                                        "CreationDate", "ModDate", "Trapped"};
    const Object resolved = store.resolve(value);
    if (std::find(kKnown.begin(), kKnown.end(), key) == kKnown.end() && resolved.is_string())
      metadata.custom.emplace_back(objects::text_to_utf8(key),
                                   objects::text_to_utf8(resolved.as_string()));
  }
  metadata.trapped = store.get(dict.as_dict(), "Trapped").as_name();
  const Object stream = store.get(core.catalog(), "Metadata");
  if (!stream.is_stream()) return metadata;
  Budget budget(store.limits());
  const auto packet = filters::decode_whole(*stream.as_stream(), store, budget, store.findings());
  const Result<XmpProperties> xmp =
      packet.ok() ? parse_packet(packet->view()) : Result<XmpProperties>(packet.error());
  if (!xmp.ok()) {
    store.findings().add({xmp.error().message() + "; the information dictionary was taken",
                          stream.as_stream()->offset, core.catalog()["Metadata"].as_reference()});
    return metadata;
  }
  metadata.has_xmp = true;
  metadata.conformance = xmp->conformance;
  for (const Field& field : kFields) {
    const std::string& in_xmp = xmp->info.*field.value;
    const std::string& in_dict = info.*field.value;
    if (in_xmp.empty()) continue;
    metadata.properties.*field.value = in_xmp;
    if (!in_dict.empty() && !same(field, in_xmp, in_dict))
      metadata.disagreements.push_back(std::string(field.words) + ": '" + in_dict +
                                       "' in the information, '" + in_xmp + "' in XMP");
  }
  return metadata;
}

}  // namespace lumvet::document
