// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <array>

#include "filters/decoder.h"

#include "base/attempt.h"

namespace lumvet::filters {
namespace {

constexpr std::array<Filter, 5> kFilters = {{
    {"FlateDecode", "Fl", start_flate, decode_flate},
    {"LZWDecode", "LZW", start_lzw, nullptr},
    {"ASCII85Decode", "A85", start_ascii85, nullptr},
    {"ASCIIHexDecode", "AHx", start_ascii_hex, nullptr},
    {"RunLengthDecode", "RL", start_run_length, nullptr},
}};

class OfBytes final : public Decoding {
 public:
  explicit OfBytes(ByteView bytes) : bytes_(bytes) {}
  Result<std::size_t> read(std::span<std::uint8_t> out) override {
    const std::size_t part = std::min(out.size(), bytes_.size());
    std::copy_n(bytes_.begin(), part, out.begin());
    bytes_ = bytes_.subspan(part);
    return part;
  }

 private:
  ByteView bytes_;
};

}  // namespace

const Filter* find_filter(std::string_view name) {
  for (const Filter& filter : kFilters)
    if (filter.name == name || filter.short_name == name) return &filter;
  return nullptr;
}

std::string_view full_filter_name(std::string_view name) {
  if (name == "DCT") return "DCTDecode";
  if (name == "CCF") return "CCITTFaxDecode";
  const Filter* filter = find_filter(name);
  return filter == nullptr ? name : filter->name;
}

DecodingPtr decoding_of(ByteView bytes) { return std::make_unique<OfBytes>(bytes); }

Result<Decoded> read_all(Decoding& decoding, std::string_view filter, std::uint64_t most_bytes) {
  constexpr std::uint64_t kFirstPiece = 16 * 1024;
  constexpr std::uint64_t kLargestPiece = 4 * 1024 * 1024;
  Decoded decoded;
  for (std::uint64_t piece = kFirstPiece;; piece = std::min(piece * 2, kLargestPiece)) {
    const std::size_t before = decoded.bytes.size();
    // One byte beyond the limit shows that there is more.
    const auto wanted = static_cast<std::size_t>(std::min(piece, most_bytes - before + 1));
    decoded.bytes.resize(before + wanted);
    LUMVET_TRY(const std::size_t read, decoding.read(std::span(decoded.bytes).subspan(before)));
    decoded.bytes.resize(before + read);
    if (decoded.bytes.size() > most_bytes) return output_limit(filter, most_bytes);
    if (read < wanted) break;
  }
  decoded.damage = decoding.damage();
  return decoded;
}

Result<Decoded> decode(const Filter& filter, const DecodeRequest& request) {
  if (filter.whole != nullptr) return filter.whole(request);
  LUMVET_TRY(const DecodingPtr decoding,
             filter.start(decoding_of(request.input), request.parameters));
  return read_all(*decoding, filter.name.substr(0, filter.name.find("Decode")), request.most_bytes);
}

Error output_limit(std::string_view filter, std::uint64_t most_bytes) {
  return met_limit(std::string(filter) + " data unpacks to more than the " +
                   std::to_string(most_bytes) +
                   " bytes allowed; raise Limits::decoded_bytes or "
                   "Limits::decoded_ratio if this file is trusted");
}

}  // namespace lumvet::filters
