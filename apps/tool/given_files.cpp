// SPDX-License-Identifier: Apache-2.0
#include "given_files.h"

#include <array>
#include <fstream>
#include <iostream>
#include <map>

namespace tool {

lumvet::Result<std::string> given_file(const std::string& path, const std::string& what) {
  static std::map<std::string, std::string> read_before;
  if (const auto known = read_before.find(path); known != read_before.end()) return known->second;
  std::ifstream file;
  if (path != "-") file.open(path, std::ios::binary);
  std::istream& in = path == "-" ? std::cin : file;
  std::string bytes;
  std::array<char, 4096> part{};
  while (in.read(part.data(), part.size()) || in.gcount() > 0)
    bytes.append(part.data(), static_cast<std::size_t>(in.gcount()));
  // A folder opens, and only reading it fails.
  if (in.bad() || (path != "-" && !file.is_open()))
    return lumvet::Error(lumvet::ErrorCode::io, "the " + what + " " + path + " cannot be read");
  return read_before.emplace(path, std::move(bytes)).first->second;
}

}  // namespace tool
