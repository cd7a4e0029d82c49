// SPDX-License-Identifier: Apache-2.0
#include "compose/fields.h"

namespace lumvet::compose {
namespace {

std::string names_of(const Fields& fields) {
  constexpr std::size_t kMost = 12;
  std::string names;
  std::size_t count = 0;
  for (const auto& [name, value] : fields) {
    if (++count > kMost) return names + ", …";
    names += (names.empty() ? "{" : ", {") + name + "}";
  }
  return names;
}

}  // namespace

Result<std::string> filled(const std::string& text, const Fields& fields) {
  std::string out;
  for (std::size_t at = 0; at < text.size();) {
    if (text.compare(at, 2, "{{") == 0 || text.compare(at, 2, "}}") == 0) {
      out += text[at];
      at += 2;
    } else if (text[at] == '{') {
      const std::size_t end = text.find('}', at);
      const std::string word =
          text.substr(at + 1, end == std::string::npos ? std::string::npos : end - at - 1);
      const auto field = fields.find(word);
      if (end == std::string::npos || field == fields.end())
        return Error(ErrorCode::invalid_argument, "{" + word + "} means nothing; write " +
                                                      names_of(fields) + ", or {{ for a brace");
      out += field->second;
      at = end + 1;
    } else {
      out += text[at++];
    }
  }
  return out;
}

}  // namespace lumvet::compose
