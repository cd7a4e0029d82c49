// SPDX-License-Identifier: Apache-2.0
#include "filters/encoded_end.h"

#include <zlib.h>

#include "tests/support/catch.h"

using namespace lumvet;

namespace {

std::optional<std::size_t> end_of(const std::string& encoded, const char* filter) {
  const std::string followed = encoded + "\nEI Q >~>\x80\xFF\xD9";
  return filters::encoded_end(as_bytes(followed), filter, Dict());
}

}  // namespace

TEST_CASE("encoded data ends where its filter says", "[filters]") {
  std::string flate(200, '\0');
  uLongf size = flate.size();
  const std::string plain = "EI EI between the piers of the bridge EI";
  REQUIRE(compress(reinterpret_cast<Bytef*>(flate.data()), &size,
                   reinterpret_cast<const Bytef*>(plain.data()), plain.size()) == Z_OK);
  flate.resize(size);
  const std::string lzw = "\x80\x0B\x60\x50\x22\x0C\x0C\x85\x01";  // of 7.4.4.2
  const std::string dct = std::string("\xFF\xD8\xFF\xE0\x00\x06\xFF\xD9\x45\x49", 10) +
                          std::string("\xFF\xDA\x00\x02\x45\xFF\x00\x49\xFF\xD0\x20\xFF\xD9", 13);
  const std::vector<std::pair<const char*, std::string>> samples = {
      {"ASCIIHexDecode", "00 EI 80>"},
      {"ASCII85Decode", "5sd EI q,~>"},
      {"RunLengthDecode", std::string("\x02"
                                      "EI \xFE"
                                      "E\x80")},
      {"FlateDecode", flate},
      {"LZWDecode", lzw},
      {"DCTDecode", dct}};
  for (const auto& [filter, encoded] : samples) {
    CAPTURE(filter);
    CHECK(end_of(encoded, filter) == encoded.size());
    const std::string half = encoded.substr(0, encoded.size() / 2);
    CHECK(filters::encoded_end(as_bytes(half), filter, Dict()) == std::nullopt);
  }
  CHECK(end_of("anything", "CCITTFaxDecode") == std::nullopt);
}
