// SPDX-License-Identifier: Apache-2.0
// Names in XMP (ISO 16684-1): the parser knows prefixes only, and what they stand for differs.
//
// Threads: free functions.
#pragma once

#include <pugixml.hpp>
#include <string>
#include <string_view>
#include <vector>

namespace lumvet::document {

constexpr std::string_view kDublinCore = "http://purl.org/dc/elements/1.1/";
constexpr std::string_view kXmp = "http://ns.adobe.com/xap/1.0/";
constexpr std::string_view kPdf = "http://ns.adobe.com/pdf/1.3/";
constexpr std::string_view kRdf = "http://www.w3.org/1999/02/22-rdf-syntax-ns#";

// The name space that a prefix stands for at a node; the parser knows prefixes only.
inline std::string_view name_space(pugi::xml_node node, std::string_view prefix) {
  const std::string declared = prefix.empty() ? "xmlns" : "xmlns:" + std::string(prefix);
  constexpr int kDeepest = 200;
  for (int depth = 0; node && depth < kDeepest; node = node.parent(), ++depth)
    if (const pugi::xml_attribute found = node.attribute(declared.c_str())) return found.value();
  return {};
}

inline bool is_named(pugi::xml_node at, std::string_view full, std::string_view space,
                     std::string_view local) {
  const std::size_t colon = full.find(':');
  const std::string_view prefix = colon == std::string_view::npos ? "" : full.substr(0, colon);
  const std::string_view name = colon == std::string_view::npos ? full : full.substr(colon + 1);
  return name == local && name_space(at, prefix) == space;
}

// Those that hold properties.
inline void find_descriptions(pugi::xml_node root, std::vector<pugi::xml_node>& found) {
  std::vector<pugi::xml_node> open = {root};
  constexpr std::size_t kMost = 10'000;
  while (!open.empty() && found.size() < kMost) {
    const pugi::xml_node at = open.back();
    open.pop_back();
    if (is_named(at, at.name(), kRdf, "Description")) {
      found.push_back(at);
      continue;  // what is inside belongs to its properties
    }
    for (const pugi::xml_node child : at.children()) open.push_back(child);
  }
}

}  // namespace lumvet::document
