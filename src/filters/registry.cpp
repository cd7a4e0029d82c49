// SPDX-License-Identifier: Apache-2.0
#include <array>

#include "filters/decoder.h"

namespace lumvet::filters {
namespace {

struct Entry {
  std::string_view name;
  std::string_view short_name;
  Decoder decoder;
};

constexpr std::array<Entry, 8> kFilters = {{
    {"FlateDecode", "Fl", decode_flate},
    {"LZWDecode", "LZW", decode_lzw},
    {"ASCII85Decode", "A85", decode_ascii85},
    {"ASCIIHexDecode", "AHx", decode_ascii_hex},
    {"RunLengthDecode", "RL", decode_run_length},
    {"DCTDecode", "DCT", nullptr},
    {"CCITTFaxDecode", "CCF", nullptr},
    {"JBIG2Decode", "", nullptr},
}};

}  // namespace

Decoder find_decoder(std::string_view name) {
  for (const Entry& entry : kFilters)
    if (entry.name == name || entry.short_name == name) return entry.decoder;
  return nullptr;
}

std::string_view full_filter_name(std::string_view name) {
  for (const Entry& entry : kFilters)
    if (entry.short_name == name) return entry.name;
  return name;
}

Error output_limit(std::string_view filter, std::uint64_t most_bytes) {
  return Error(ErrorCode::limit, std::string(filter) + " data unpacks to more than the " +
                                     std::to_string(most_bytes) + " bytes allowed");
}

}  // namespace lumvet::filters
