// SPDX-License-Identifier: Apache-2.0
#include "assemble/used_resources.h"

#include <algorithm>
#include <array>
#include <set>
#include <string>

#include "document/inside.h"
#include "objects/lexer.h"

namespace lumvet::assemble {
namespace {

bool is_regular(char c) {
  return static_cast<unsigned char>(c) > ' ' &&
         std::string_view("()<>[]{}/%").find(c) == std::string_view::npos;
}

// Whatever looks like a name, be it within a string or an image: a few too many do no harm.
std::set<std::string> names_in(std::string_view content) {
  std::set<std::string> names;
  for (std::size_t at = content.find('/'); at != std::string_view::npos;
       at = content.find('/', at)) {
    std::string name;
    for (++at; at < content.size() && is_regular(content[at]); ++at) {
      const auto digit = [&](std::size_t behind) {
        return objects::hex_digit(static_cast<std::uint8_t>(content[at + behind]));
      };
      const int high = content[at] == '#' && at + 2 < content.size() ? digit(1) : -1;
      const int low = high >= 0 ? digit(2) : -1;
      name += low >= 0 ? static_cast<char>(high * 16 + low) : content[at];
      if (low >= 0) at += 2;
    }
    names.insert(std::move(name));
  }
  return names;
}

// Forms, and fonts whose glyphs are drawn like pages, may use the page's resources for lack of
// their own.
bool leans_on_page(const Dict& dict) {
  const bool draws = dict["Subtype"].is_name("Form") || dict["Subtype"].is_name("Type3");
  return draws && !dict.contains("Resources");
}

}  // namespace

Object used_resources(const Document& document, const Page& page) {
  const Object stated = page.dict()["Resources"];
  const Object resources = store_of(document).resolve(stated);
  constexpr std::size_t kMany = 8;  // fewer are not worth the search
  static constexpr std::array<std::string_view, 7> kNamed = {
      "Font", "XObject", "Pattern", "Shading", "ColorSpace", "ExtGState", "Properties"};
  std::size_t count = 0;
  for (const std::string_view kind : kNamed)
    count += store_of(document).resolve(resources.as_dict()[kind]).as_dict().size();
  if (count < kMany) return stated;
  const Result<Bytes> content = page.content();
  if (!content.ok()) return stated;
  const std::set<std::string> names = names_in(as_text(*content));
  Dict used = resources.as_dict();
  for (const std::string_view kind : kNamed) {
    const Object entries = store_of(document).resolve(used[kind]);
    Dict kept;
    for (const auto& [name, value] : entries.as_dict()) {
      const bool is_implied = name.starts_with("Default");  // 8.6.5.6
      if (!names.contains(name) && !is_implied) continue;
      if (leans_on_page(store_of(document).resolve(value).as_dict())) return stated;
      kept.set(name, value);
    }
    used.set(kind, kept.is_empty() ? Object() : Object(std::move(kept)));
  }
  return used;
}

}  // namespace lumvet::assemble
