// SPDX-License-Identifier: Apache-2.0
// XML as text.
//
// Threads: free functions.
#pragma once

#include <pugixml.hpp>
#include <string>

namespace lumvet::exchange {

inline std::string xml_text_of(const pugi::xml_document& xml, unsigned flags) {
  struct Writer final : pugi::xml_writer {
    void write(const void* data, std::size_t size) override {
      text.append(static_cast<const char*>(data), size);
    }
    std::string text;
  } writer;
  xml.save(writer, "", flags);
  return std::move(writer.text);
}

}  // namespace lumvet::exchange
