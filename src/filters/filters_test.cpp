// SPDX-License-Identifier: Apache-2.0
// What every filter promises, and byte-exact cases for each.
#include <zlib.h>

#include <random>

#include "base/findings_list.h"
#include "filters/decoder.h"
#include "filters/deflate.h"
#include "filters/stream_decoder.h"
#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"

using namespace lumvet;
using filters::Decoded;

namespace {

Result<Decoded> decode(std::string_view filter, ByteView input, const Dict& parameters = {},
                       std::uint64_t most = 1 << 20) {
  return filters::decode(*filters::find_filter(filter), {input, parameters, most});
}

std::string text(const Result<Decoded>& decoded) {
  return std::string(as_text(decoded.value().bytes));
}

struct Sample {
  std::string filter;
  Bytes encoded;
  Bytes plain;
};

Bytes bytes(std::string_view t) { return {as_bytes(t).begin(), as_bytes(t).end()}; }

std::vector<Sample> samples() {
  const Bytes plain = bytes("Alder Weir Alder Weir Alder Weir, 1961");
  return {{"FlateDecode", filters::deflate(plain), plain},
          // ISO 32000-2, 7.4.4.2, example 1.
          {"LZWDecode",
           {0x80, 0x0B, 0x60, 0x50, 0x22, 0x0C, 0x0C, 0x85, 0x01},
           {45, 45, 45, 45, 45, 65, 45, 45, 45, 66}},
          {"ASCII85Decode", bytes("87cURD]i,\"Ebo80~>"), bytes("Hello World!")},
          {"ASCIIHexDecode", bytes("48 65 6C6c 6F 2>"), bytes("Hello ")},
          {"RunLengthDecode", {2, 'a', 'b', 'c', 254, 'x', 0, '!', 128}, bytes("abcxxx!")}};
}

}  // namespace

TEST_CASE("every filter decodes its sample", "[filters]") {
  for (const Sample& sample : samples()) {
    CAPTURE(sample.filter);
    const auto decoded = decode(sample.filter, sample.encoded);
    REQUIRE(decoded.ok());
    CHECK(decoded->bytes == sample.plain);
    CHECK_FALSE(decoded->damage);
  }
}

TEST_CASE("in pieces of any size every filter gives the same as in one go", "[filters]") {
  std::mt19937 random(17);
  Bytes large(300'000);
  for (std::size_t i = 0; i < large.size(); ++i)
    large[i] = static_cast<std::uint8_t>(i / 7 % 5 == 0 ? random() : i / 100);
  std::vector<Sample> all = samples();
  all.push_back({"FlateDecode", filters::deflate(large), large});
  for (const Sample& sample : all)
    for (const Dict& parameters :
         {Dict(), Dict{{"Predictor", 2}, {"Columns", 5}}, Dict{{"Predictor", 15}, {"Columns", 6}}})
      for (const std::size_t piece : {1u, 3u, 1000u, 400'000u})
        for (const std::size_t length : {sample.encoded.size(), sample.encoded.size() * 2 / 3}) {
          CAPTURE(sample.filter, piece, length);
          const ByteView input = ByteView(sample.encoded).first(length);
          const auto whole = decode(sample.filter, input, parameters);
          const auto start = filters::find_filter(sample.filter)->start;
          const auto pieces = start(filters::decoding_of(input), parameters);
          REQUIRE(whole.ok());
          REQUIRE(pieces.ok());
          Bytes joined;
          Bytes part(piece);
          std::size_t read = 0;
          do {
            read = (*pieces)->read(part).value();
            joined.insert(joined.end(), part.begin(),
                          part.begin() + static_cast<std::ptrdiff_t>(read));
          } while (read == piece);
          CHECK(joined == whole->bytes);
          CHECK((*pieces)->damage().has_value() == whole->damage.has_value());
        }
}

TEST_CASE("every truncation gives a beginning of the plain bytes and names the damage",
          "[filters]") {
  for (const Sample& sample : samples()) {
    for (std::size_t length = 0; length < sample.encoded.size(); ++length) {
      CAPTURE(sample.filter, length);
      const auto decoded = decode(sample.filter, ByteView(sample.encoded).first(length));
      REQUIRE(decoded.ok());
      const bool hex_half = sample.filter == "ASCIIHexDecode" || sample.filter == "ASCII85Decode";
      const std::size_t sure =
          decoded->bytes.size() - (hex_half && !decoded->bytes.empty() ? 1 : 0);
      REQUIRE(sure <= sample.plain.size());
      CHECK(std::equal(decoded->bytes.begin(),
                       decoded->bytes.begin() + static_cast<std::ptrdiff_t>(sure),
                       sample.plain.begin()));
      // The last four bytes of Flate are a checksum, and an empty stream has nothing to miss.
      if (length > 0 && decoded->bytes.size() < sample.plain.size())
        CHECK(decoded->damage.has_value());
    }
  }
}

TEST_CASE("no filter gives more than the limit", "[filters]") {
  for (const Sample& sample : samples()) {
    CAPTURE(sample.filter);
    const auto decoded = decode(sample.filter, sample.encoded, {}, sample.plain.size() - 1);
    REQUIRE_FALSE(decoded.ok());
    CHECK(decoded.error().code() == ErrorCode::limit);
  }
  const Bytes bomb = filters::deflate(Bytes(50'000'000));
  CHECK(decode("FlateDecode", bomb, {}, 1'000'000).error().code() == ErrorCode::limit);
}

TEST_CASE("no filter fails on bytes it does not expect", "[filters]") {
  std::mt19937 random(3);
  for (const Sample& sample : samples())
    for (int i = 0; i < 300; ++i) {
      Bytes noise(random() % 60);
      for (auto& byte : noise) byte = static_cast<std::uint8_t>(random());
      const auto decoded = decode(sample.filter, noise, {}, 5000);
      if (decoded.ok()) CHECK(decoded->bytes.size() <= 5000);
    }
}

TEST_CASE("ASCII85 knows z for four zeros and a short last group", "[filters]") {
  CHECK(decode("A85", bytes("z!!~>"))->bytes == Bytes{0, 0, 0, 0, 0});
  CHECK(text(decode("A85", bytes("<~9jqo^~>"))) == "Man ");
}

TEST_CASE("LZW switches code widths late when EarlyChange is 0", "[filters]") {
  // 300 different pairs make the table grow past 511; the encoder here never reuses the table, so
  // what counts is the width at which each single byte is read.
  for (const int early : {0, 1}) {
    Bytes packed;
    std::uint32_t bits = 0;
    unsigned count = 0;
    unsigned table = 258;
    unsigned width = 9;
    const auto put = [&](unsigned code) {
      bits = bits << width | code;
      count += width;
      while (count >= 8) packed.push_back(static_cast<std::uint8_t>(bits >> (count -= 8)));
    };
    Bytes plain;
    put(256);
    for (unsigned i = 0; i < 600; ++i) {
      const auto byte = static_cast<std::uint8_t>(i * 7 + i / 256);
      plain.push_back(byte);
      put(byte);
      if (i > 0) ++table;
      if (table + static_cast<unsigned>(early) >= 1024)
        width = 11;
      else if (table + static_cast<unsigned>(early) >= 512)
        width = 10;
    }
    put(257);
    bits <<= 8;
    count += 8;
    packed.push_back(static_cast<std::uint8_t>(bits >> (count - 8)));
    CAPTURE(early);
    const auto decoded = decode("LZW", packed, Dict{{"EarlyChange", early}});
    REQUIRE(decoded.ok());
    CHECK(decoded->bytes == plain);
  }
}

TEST_CASE("predictors are undone for every kind and depth", "[filters]") {
  std::mt19937 random(11);
  for (const int bits : {1, 2, 4, 8, 16})
    for (const int colors : {1, 3, 4})
      for (int predictor : {2, 10, 11, 12, 13, 14, 15}) {
        const int columns = 7;
        const std::size_t row = static_cast<std::size_t>((colors * bits * columns + 7) / 8);
        const std::size_t pixel = static_cast<std::size_t>((colors * bits + 7) / 8);
        Bytes plain(row * 5);
        for (auto& byte : plain) byte = static_cast<std::uint8_t>(random());
        const auto sample = [&](const std::uint8_t* at, int i) {
          unsigned value = 0;
          for (int b = 0; b < bits; ++b)
            value = value << 1 | (at[(i * bits + b) / 8] >> (7 - (i * bits + b) % 8) & 1);
          return value;
        };
        Bytes predicted;
        for (std::size_t y = 0; y < 5; ++y) {
          const std::uint8_t* now = &plain[y * row];
          if (predictor == 2) {  // sample by sample, bit by bit: slow and plain
            Bytes out(row);
            for (int i = 0; i < colors * columns; ++i) {
              const unsigned before = i >= colors ? sample(now, i - colors) : 0;
              const unsigned difference = (sample(now, i) - before) & ((1u << bits) - 1);
              for (int b = 0; b < bits; ++b)
                out[static_cast<std::size_t>((i * bits + b) / 8)] |= static_cast<std::uint8_t>(
                    (difference >> (bits - 1 - b) & 1) << (7 - (i * bits + b) % 8));
            }
            // Bits that pad the row are no samples and stay as they are.
            const int used = colors * columns * bits;
            if (used % 8 != 0)
              plain[y * row + row - 1] &= static_cast<std::uint8_t>(0xFF << (8 - used % 8));
            predicted.insert(predicted.end(), out.begin(), out.end());
            continue;
          }
          const unsigned kind =
              predictor == 15 ? static_cast<unsigned>(y) : static_cast<unsigned>(predictor - 10);
          predicted.push_back(static_cast<std::uint8_t>(kind));
          for (std::size_t i = 0; i < row; ++i) {
            const int a = i >= pixel ? now[i - pixel] : 0;
            const int b = y > 0 ? plain[(y - 1) * row + i] : 0;
            const int c = y > 0 && i >= pixel ? plain[(y - 1) * row + i - pixel] : 0;
            const int p = a + b - c;
            int guess = 0;
            if (kind == 1) guess = a;
            if (kind == 2) guess = b;
            if (kind == 3) guess = (a + b) / 2;
            if (kind == 4)
              guess = std::abs(p - a) <= std::abs(p - b) && std::abs(p - a) <= std::abs(p - c) ? a
                      : std::abs(p - b) <= std::abs(p - c)                                     ? b
                                                                                               : c;
            predicted.push_back(static_cast<std::uint8_t>(now[i] - guess));
          }
        }
        CAPTURE(bits, colors, predictor);
        const auto decoded = decode("Fl", filters::deflate(predicted),
                                    Dict{{"Predictor", predictor},
                                         {"BitsPerComponent", bits},
                                         {"Colors", colors},
                                         {"Columns", columns}});
        REQUIRE(decoded.ok());
        CHECK(decoded->bytes == plain);
      }
}

TEST_CASE("predictor parameters that make no sense are refused", "[filters]") {
  const Bytes packed = filters::deflate(Bytes(20));
  for (const Dict& parameters :
       {Dict{{"Predictor", 3}}, Dict{{"Predictor", 12}, {"Colors", 0}},
        Dict{{"Predictor", 12}, {"BitsPerComponent", 7}}, Dict{{"Predictor", 2}, {"Columns", -4}}})
    CHECK(decode("Fl", packed, parameters).error().code() == ErrorCode::malformed);
  CHECK(decode("Fl", packed,
               Dict{{"Predictor", 12},
                    {"Columns", 200'000'000},
                    {"Colors", 1000},
                    {"BitsPerComponent", 16}})
            .ok());
}

TEST_CASE("damaged Flate data gives what came before the damage", "[filters]") {
  Bytes plain(200'000);
  std::mt19937 random(5);
  for (auto& byte : plain) byte = static_cast<std::uint8_t>(random() % 7);
  Bytes packed = filters::deflate(plain);
  packed[packed.size() / 2] ^= 0x55;
  const auto decoded = decode("Fl", packed);
  REQUIRE(decoded.ok());
  CHECK(decoded->damage.has_value());
  CHECK(decoded->bytes.size() > plain.size() / 4);
  CHECK(std::equal(decoded->bytes.begin(), decoded->bytes.begin() + 50'000, plain.begin()));
}

TEST_CASE("chains of filters are undone in order, and codecs are left to others", "[filters]") {
  const test::PlainResolver resolver;
  Findings findings;
  const Bytes hex = bytes("48656C6C6F>");
  const Stream stream =
      Stream::of({{"Filter", Array{Object::name("FlateDecode"), Object::name("AHx")}},
                  {"DecodeParms", Array{Object(), Object()}}},
                 filters::deflate(hex));
  Budget budget(Limits{});
  CHECK(as_text(filters::decode_whole(stream, resolver, budget, findings).value().view()) ==
        "Hello");
  const Stream image =
      Stream::of({{"Filter", Array{Object::name("AHx"), Object::name("DCTDecode")}}}, hex);
  const auto content = filters::decode_stream(image, resolver, budget, findings);
  REQUIRE(content.ok());
  CHECK(as_text(content->bytes.view()) == "Hello");
  REQUIRE(content->left.size() == 1);
  CHECK(content->left[0].name == "DCTDecode");
  const Stream unknown = Stream::of({{"Filter", Object::name("Secret")}}, hex);
  CHECK(filters::decode_stream(unknown, resolver, budget, findings).error().code() ==
        ErrorCode::unsupported);
}

TEST_CASE("piece by piece a chain meets the limit in its middle, and tells damage of any filter",
          "[filters]") {
  // Blanks that unpack a thousandfold and of which the last filter gives nothing at all: what comes
  // out stays small, so counting that alone would never end the work.
  const auto name = [](const char* text) { return Object::name(text); };
  const Bytes blanks = filters::deflate(Bytes(5'000'000, ' '));
  const Stream bomb =
      Stream::of(Dict{{"Filter", Array{name("FlateDecode"), name("ASCIIHexDecode")}}}, blanks);
  Bytes piece(100);
  const auto pieces = filters::decode_pieces(bomb, test::PlainResolver(), 1'000'000);
  REQUIRE(pieces.ok());
  const auto read = pieces->bytes->read(piece);
  REQUIRE_FALSE(read.ok());
  CHECK(read.error().code() == ErrorCode::limit);
  Bytes packed = filters::deflate(Bytes(1000, 'x'));
  packed.resize(packed.size() - 8);
  std::string hex;
  for (const std::uint8_t byte : packed)
    for (const int digit : {byte >> 4, byte & 15}) hex += "0123456789ABCDEF"[digit];
  hex.insert(4, "?");  // the inner filter's damage comes first
  const Stream damaged = Stream::of(
      Dict{{"Filter", Array{name("ASCIIHexDecode"), name("FlateDecode")}}}, bytes(hex + ">"));
  const auto both = filters::decode_pieces(damaged, test::PlainResolver(), 1'000'000);
  Bytes out(2000);
  REQUIRE(both->bytes->read(out).ok());
  REQUIRE(both->bytes->damage());
  CHECK(both->bytes->damage()->what == "a byte that is no hexadecimal digit was passed over");
}
