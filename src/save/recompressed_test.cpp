// SPDX-License-Identifier: Apache-2.0
// Streams packed by others, badly, by zlib: what comes out of them stays the same.
#include "save/recompressed.h"
#include "base/findings_list.h"

#include <zlib.h>

#include <random>

#include "filters/stream_decoder.h"
#include "lumvet/save/save.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/plain_resolver.h"

using namespace lumvet;

namespace {

std::string text(std::size_t count) {
  std::mt19937 random(5);
  std::string text;
  while (text.size() < count) text += std::to_string(random() % 1000) + " 0 l ";
  return text;
}

std::string stored(const std::string& plain) {
  uLongf size = compressBound(plain.size());
  std::string packed(size, '\0');
  compress2(reinterpret_cast<Bytef*>(packed.data()), &size,
            reinterpret_cast<const Bytef*>(plain.data()), plain.size(), Z_NO_COMPRESSION);
  packed.resize(size);
  return packed;
}

std::string hexed(const std::string& bytes) {
  std::string out;
  for (const char byte : bytes) {
    constexpr const char* kDigits = "0123456789ABCDEF";
    out += kDigits[static_cast<unsigned char>(byte) >> 4];
    out += kDigits[static_cast<unsigned char>(byte) & 15];
  }
  return out + ">";
}

Stream stream_of(Dict dict, const std::string& bytes) {
  return Stream::of(std::move(dict), Bytes(bytes.begin(), bytes.end()));
}

// As far as there is no image codec.
std::string content_of(const Stream& stream) {
  Budget budget{Limits()};
  Findings findings;
  const auto content =
      filters::decode_stream(stream, test::PlainResolver(), budget, findings).value();
  CHECK(findings.list().empty());
  return std::string(as_text(content.bytes.view()));
}

Stream anew(const Stream& stream) {
  auto result = saving::recompressed(stream, test::PlainResolver());
  REQUIRE(result);
  return Stream::of(result->dict, result->bytes);
}

}  // namespace

TEST_CASE("streams without loss are packed smaller and stay the same", "[save]") {
  const std::string plain = text(20'000);
  const auto name = [](const char* filter) { return Object::name(filter); };
  const std::vector<Stream> streams = {
      stream_of({{"Filter", name("FlateDecode")}}, stored(plain)),
      stream_of({{"Filter", name("ASCIIHexDecode")}, {"Own", 5}}, hexed(plain)),
      stream_of({{"Filter", Array{name("ASCIIHexDecode"), name("FlateDecode")}},
                 {"DecodeParms", Array{Object(), Object()}}},
                hexed(stored(plain)))};
  for (const Stream& stream : streams) {
    const Stream packed = anew(stream);
    CHECK(packed.length < plain.size() / 2);
    CHECK(content_of(packed) == plain);
    CHECK(packed.dict["Filter"].is_name("FlateDecode"));
    CHECK(packed.dict["Own"] == stream.dict["Own"]);
    CHECK_FALSE(packed.dict.contains("DecodeParms"));
    CHECK_FALSE(saving::recompressed(packed, test::PlainResolver()));  // as small as can be
  }
}

TEST_CASE("predicted rows stay predicted", "[save]") {
  // 100 rows of 60 bytes, each with the tag of the Up predictor, whose differences are all 1.
  std::string rows;
  for (int i = 0; i < 100; ++i) rows += std::string(1, '\x02') + std::string(60, '\x01');
  const Dict parameters{{"Predictor", 12}, {"Columns", 20}, {"Colors", 3}};
  const Stream stream = stream_of(
      {{"Filter", Object::name("FlateDecode")}, {"DecodeParms", parameters}}, stored(rows));
  const Stream packed = anew(stream);
  CHECK(packed.dict["DecodeParms"].as_dict() == parameters);
  CHECK(packed.length < 100);
  CHECK(content_of(packed) == content_of(stream));
  CHECK(content_of(packed).size() == 6000);
}

TEST_CASE("what an image codec made is not touched", "[save]") {
  std::mt19937 random(6);
  std::string image(5000, '\0');
  for (char& byte : image) byte = static_cast<char>(random());
  const Object codec = Object::name("DCTDecode");
  CHECK_FALSE(saving::recompressed(stream_of({{"Filter", codec}}, image), test::PlainResolver()));
  const Dict own{{"ColorTransform", 0}};
  const Stream packed = anew(stream_of({{"Filter", Array{Object::name("ASCIIHexDecode"), codec}},
                                        {"DecodeParms", Array{Object(), Object(own)}}},
                                       hexed(image)));
  CHECK(packed.dict["Filter"] == codec);
  CHECK(packed.dict["DecodeParms"].as_dict() == own);
  CHECK(as_text(packed.encoded()->view()) == image);
}

TEST_CASE("damaged streams stay as they are", "[save]") {
  std::string damaged = stored(text(9000));
  damaged.resize(5000);
  CHECK_FALSE(saving::recompressed(stream_of({{"Filter", Object::name("FlateDecode")}}, damaged),
                                   test::PlainResolver()));
  CHECK_FALSE(saving::recompressed(stream_of({{"Filter", Object::name("OddDecode")}}, damaged),
                                   test::PlainResolver()));
}

TEST_CASE("a document packed anew is smaller and the same, on any number of threads", "[save]") {
  test::PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < 20; ++i) {
    const int number = 10 + 2 * i;
    kids += std::to_string(number) + " 0 R ";
    pdf.object(number, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Contents " +
                           std::to_string(number + 1) + " 0 R>>");
    pdf.stream(number + 1, "/Filter/FlateDecode",
               stored(text(4000 + 10 * static_cast<std::size_t>(i))));
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count 20>>");
  const Document document = test::open(pdf.finish("/Root 1 0 R")).value();
  for (const FileLayout layout : {FileLayout::compact, FileLayout::classic, FileLayout::linearized,
                                  FileLayout::linearized_classic}) {
    const auto written = [&](bool recompress, int threads) {
      BufferSink sink;
      REQUIRE(save(document, sink, {.layout = layout, .recompress = recompress, .threads = threads})
                  .ok());
      return sink.take();
    };
    const Bytes once = written(true, 1);
    CHECK(once.size() < written(false, 1).size() / 2);
    CHECK(once == written(true, 5));
    CHECK(written(false, 1) == written(false, 3));
    const Document again = Document::open(once).value();
    for (int i = 0; i < 20; ++i)
      CHECK(again.page(i)->content().value() == document.page(i)->content().value());
  }
}
