// SPDX-License-Identifier: Apache-2.0
#include "base/findings_list.h"
#include "images/image_reader.h"

#include "base/allowance.h"
#include "filters/deflate.h"
#include "objects/parser.h"
#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"

using namespace lumvet;
using images::Image;
using images::SampleBytes;

namespace {

struct Reader {
  test::PlainResolver resolver;
  Budget budget{Limits{}};
  Findings findings;
  int reduction = 1;
  Result<std::shared_ptr<const Image>> read(const std::string& entries, Bytes bytes) {
    Dict dict = objects::Parser(as_bytes("<<" + entries + ">>"), 0, objects::References::none, 50)
                    .value()
                    ->as_dict();
    return read(Stream::of(std::move(dict), std::move(bytes)));
  }
  Result<std::shared_ptr<const Image>> read(const Stream& stream) {
    return images::read_image(stream, {.resources = Dict(),
                                       .resolver = resolver,
                                       .budget = budget,
                                       .findings = findings,
                                       .reduction = reduction});
  }
};

}  // namespace

TEST_CASE("samples of every depth become the same grays", "[images]") {
  Reader reader;
  const auto [bits, bytes] = GENERATE(table<int, Bytes>({{1, {0b10000000, 0b01000000}},
                                                         {2, {0b11000000, 0b00110000}},
                                                         {4, {0xF0, 0x0F}},
                                                         {8, {255, 0, 0, 255}},
                                                         {16, {255, 255, 0, 0, 0, 0, 255, 255}}}));
  const auto image =
      reader
          .read("/Width 2/Height 2/ColorSpace/DeviceGray/BitsPerComponent " + std::to_string(bits),
                bytes)
          .value();
  CHECK(image->kind == Image::Kind::gray);
  CHECK(image->samples == SampleBytes{255, 0, 0, 255});
  CHECK(reader.findings.list().empty());
}

TEST_CASE("decode arrays turn values round", "[images]") {
  Reader reader;
  CHECK(
      reader
          .read("/Width 2/Height 1/ColorSpace/DeviceGray/BitsPerComponent 8/Decode[1 0]", {0, 255})
          .value()
          ->samples == SampleBytes{255, 0});
  CHECK(reader
            .read("/Width 1/Height 1/ColorSpace/DeviceRGB/BitsPerComponent 8/Decode[1 0 0 1 0 0.5]",
                  {255, 255, 255})
            .value()
            ->samples == SampleBytes{0, 255, 128});
  CHECK(reader.read("/W 2/H 1/CS[/I/RGB 1<0A0B0C 010203>]/BPC 1/D[1 0]", {0b01000000})
            .value()
            ->samples == SampleBytes{1, 2, 3, 10, 11, 12});
}

TEST_CASE("what was mixed with a matte is taken apart again", "[images]") {
  // Red of full strength and of half, mixed with white: c' = m + alpha (c - m).
  Reader reader;
  Dict mask{{"Width", 3},
            {"Height", 1},
            {"ColorSpace", Object::name("DeviceGray")},
            {"BitsPerComponent", 8},
            {"Matte", Array{1, 1, 1}}};
  Dict dict{{"Width", 3},
            {"Height", 1},
            {"ColorSpace", Object::name("DeviceRGB")},
            {"BitsPerComponent", 8},
            {"SMask", Stream::of(mask, {255, 128, 0})}};
  const auto image =
      reader.read(Stream::of(dict, {200, 0, 0, 227, 127, 127, 255, 255, 255})).value();
  const Bytes expected = {200, 0, 0, 199, 0, 0, 255, 255, 255};
  for (std::size_t i = 0; i < expected.size(); ++i)
    CHECK(std::abs(image->samples[i] - expected[i]) <= 1);
  CHECK(reader.findings.list().empty());
  mask.set("Matte", Array{1});
  dict.set("SMask", Stream::of(mask, {255, 128, 0}));
  reader.read(Stream::of(dict, Bytes(9))).value();
  CHECK(reader.findings.list().size() == 1);
}

TEST_CASE("a matte is taken out of large sheets in black and white, too", "[images]") {
  Reader reader;
  static constexpr int kSide = 600;
  const auto of_bits = [](int bits) {
    return Dict{{"Width", kSide},
                {"Height", kSide},
                {"ColorSpace", Object::name("DeviceGray")},
                {"BitsPerComponent", bits}};
  };
  const std::size_t row_bytes = (kSide + 7) / 8;
  Dict mask = of_bits(GENERATE(1, 8));
  mask.set("Matte", Array{1});
  Dict dict = of_bits(1);
  dict.set("SMask", Stream::of(mask, Bytes(std::size_t{kSide} * kSide, 0xFF)));
  const auto image = reader.read(Stream::of(dict, Bytes(row_bytes * kSide, 0xF0))).value();
  CHECK_FALSE(image->is_packed);
  CHECK_FALSE(image->mask->is_packed);
  CHECK(Bytes(image->samples.begin(), image->samples.begin() + 8) ==
        Bytes{255, 255, 255, 255, 0, 0, 0, 0});
}

TEST_CASE("large sheets in black and white stay packed and give the same samples", "[images]") {
  Reader reader;
  constexpr int kWidth = 1003;
  constexpr int kHeight = 300;
  constexpr std::size_t kRow = (kWidth + 7) / 8;
  Bytes bits(kRow * kHeight);
  for (std::size_t i = 0; i < bits.size(); ++i) bits[i] = static_cast<std::uint8_t>(i * i / 7);
  const bool is_stencil = GENERATE(true, false);
  const auto image =
      reader
          .read("/Width 1003/Height 300/BitsPerComponent 1" +
                    std::string(is_stencil ? "/ImageMask true" : "/ColorSpace/DeviceGray"),
                bits)
          .value();
  CHECK(image->is_packed);
  CHECK(image->memory() == bits.size());
  Bytes room;
  int wrong = 0;
  for (const int first : {0, 1, 7, 8, 500, 1002})
    for (const int y : {0, 1, 299}) {
      const std::uint8_t* row = image->row(y, first, kWidth - first, room);
      for (int x = first; x < kWidth; ++x) {
        const auto at = static_cast<std::size_t>(y) * kRow + static_cast<std::size_t>(x) / 8;
        const bool is_set = (bits[at] >> (7 - x % 8) & 1) != 0;
        wrong += row[x - first] != (is_set != is_stencil ? 255 : 0);
      }
    }
  CHECK(wrong == 0);
  CHECK_FALSE(image->only_value(0, 0, kWidth));
}

TEST_CASE("blank stretches of packed sheets are seen at once", "[images]") {
  Reader reader;
  Bytes bits(128 * 300, 0);
  bits[128 * 2 + 50] = 1;
  std::fill_n(bits.begin() + 128 * 5, 128, std::uint8_t{255});
  const auto image =
      reader.read("/Width 1024/Height 300/BitsPerComponent 1/ColorSpace/DeviceGray", bits).value();
  CHECK(image->only_value(1, 0, 1024) == 0);
  CHECK(image->only_value(5, 0, 1024) == 255);
  CHECK(image->only_value(5, 1023, 1) == 255);
  CHECK_FALSE(image->only_value(2, 0, 1024));
  CHECK_FALSE(image->only_value(2, 400, 8));
  CHECK(image->only_value(2, 0, 400) == 0);
  CHECK(image->only_value(2, 408, 616) == 0);
}

TEST_CASE("stencils paint where the bit is 0, or 1 when turned round", "[images]") {
  Reader reader;
  const auto stencil = reader.read("/Width 3/Height 1/ImageMask true", {0b01000000}).value();
  CHECK(stencil->kind == Image::Kind::coverage);
  CHECK(stencil->samples == SampleBytes{255, 0, 255});
  CHECK(reader.read("/Width 3/Height 1/IM true/D[1 0]", {0b01000000}).value()->samples ==
        SampleBytes{0, 255, 0});
}

TEST_CASE("soft, explicit and color-key masks become opacities", "[images]") {
  Reader reader;
  const Dict gray{{"Width", 2},
                  {"Height", 1},
                  {"ColorSpace", Object::name("DeviceGray")},
                  {"BitsPerComponent", 8}};
  Dict soft = gray;
  soft.set("SMask", Stream::of(gray, {10, 200}));
  CHECK(reader.read(Stream::of(soft, {1, 2})).value()->mask->samples == SampleBytes{10, 200});
  Dict hard = gray;
  hard.set("Mask", Stream::of({{"Width", 2}, {"Height", 1}, {"ImageMask", true}}, {0b01000000}));
  CHECK(reader.read(Stream::of(hard, {1, 2})).value()->mask->samples == SampleBytes{255, 0});
  Dict key = gray;
  key.set("Mask", Array{Object(2), Object(5)});
  CHECK(reader.read(Stream::of(key, {1, 2})).value()->mask->samples == SampleBytes{255, 0});
  CHECK(reader.findings.list().empty());
}

TEST_CASE("data that is short leaves the rest white; next to none is an error", "[images]") {
  Reader reader;
  const auto image =
      reader.read("/Width 2/Height 3/ColorSpace/DeviceGray/BitsPerComponent 8", {1, 2, 3}).value();
  CHECK(image->samples == SampleBytes{1, 2, 3, 255, 255, 255});
  CHECK(reader.findings.list().size() == 1);
  CHECK(reader.read("/Width 20000/Height 20000/ColorSpace/DeviceGray/BitsPerComponent 8", {1, 2, 3})
            .error()
            .code() == ErrorCode::malformed);
}

TEST_CASE("impossible images are refused", "[images]") {
  Reader reader;
  CHECK(reader.read("/Width 0/Height 1", {}).error().code() == ErrorCode::malformed);
  CHECK(reader.read("/Width 1/Height 1/BitsPerComponent 3", {}).error().code() ==
        ErrorCode::malformed);
  CHECK(reader.read("/Width 1000000/Height 1000000", {}).error().code() == ErrorCode::limit);
  CHECK(reader.read("/Width 8/Height 8/Filter[/JPXDecode/DCTDecode]", {1}).error().code() ==
        ErrorCode::unsupported);
}

TEST_CASE("a large image comes piece by piece and is the same as in one go", "[images]") {
  Reader reader;
  const int width = 1100;
  const int height = 1000;
  SampleBytes samples(static_cast<std::size_t>(width * height * 3));
  for (std::size_t i = 0; i < samples.size(); ++i)
    samples[i] = static_cast<std::uint8_t>(i * i / 1000);
  Dict dict{{"Width", width},
            {"Height", height},
            {"ColorSpace", Object::name("DeviceRGB")},
            {"BitsPerComponent", 8},
            {"Filter", Object::name("FlateDecode")}};
  Bytes packed = filters::deflate(ByteView(samples));
  CHECK((reader.read(Stream::of(dict, packed)).value()->samples == samples));
  CHECK(reader.findings.list().empty());
  packed.resize(packed.size() / 2);
  const auto cut = reader.read(Stream::of(dict, packed)).value();
  CHECK(std::equal(samples.begin(), samples.begin() + 3 * width * 100, cut->samples.begin()));
  CHECK(cut->samples.back() == 255);
  CHECK(reader.findings.list().size() == 2);  // the data ends, and so does the image
}

TEST_CASE("images that are shown small are made of means", "[images]") {
  Reader reader;
  reader.reduction = 2;
  const std::string size = "/Width 3/Height 3/BitsPerComponent 8";
  SECTION("the last column and row stand for what is left") {
    const auto image =
        reader.read(size + "/ColorSpace/DeviceGray", {10, 20, 30, 30, 40, 50, 7, 9, 200}).value();
    CHECK(image->width == 2);
    CHECK(image->height == 2);
    CHECK(image->across == 1.5);
    CHECK(image->down == 1.5);
    CHECK(image->samples == SampleBytes{25, 40, 8, 200});
  }
  SECTION("an index has no mean, the colors it stands for have") {
    const auto image =
        reader.read("/W 2/H 2/BPC 8/CS[/I/RGB 2<0000FF FF0000 00FF00>]", {0, 1, 1, 0}).value();
    CHECK(image->samples == SampleBytes{128, 0, 128});
  }
  SECTION("the mask is made as fine as its image, not finer") {
    const Dict gray{{"Width", 2},
                    {"Height", 2},
                    {"ColorSpace", Object::name("DeviceGray")},
                    {"BitsPerComponent", 8}};
    Dict dict = gray;
    dict.set("SMask", Stream::of(gray, {0, 100, 100, 200}));
    CHECK(reader.read(Stream::of(dict, {1, 2, 3, 4})).value()->mask->samples == SampleBytes{100});
    Dict coarse = gray;
    coarse.set("Width", 1);
    coarse.set("Height", 1);
    dict.set("SMask", Stream::of(coarse, {77}));
    CHECK(reader.read(Stream::of(dict, {1, 2, 3, 4})).value()->mask->samples == SampleBytes{77});
  }
  SECTION("what a key hides is told by samples as they are") {
    const auto image = reader.read("/W 2/H 2/BPC 8/CS/G/Mask[0 0]", {0, 90, 90, 0}).value();
    CHECK(image->mask->samples == SampleBytes{128});
    CHECK(image->samples == SampleBytes{45});
  }
  CHECK(reader.findings.list().empty());
}

TEST_CASE("decoding ends when it is cancelled, and says nothing about the image", "[images]") {
  const std::string size = "/Width 2/Height 2/BitsPerComponent 8/ColorSpace/DeviceGray";
  Dict dict{{"Width", 1},
            {"Height", 1},
            {"ColorSpace", Object::name("DeviceGray")},
            {"BitsPerComponent", 8}};
  dict.set("SMask", Stream::of(dict, {9}));
  Reader reader;
  CHECK(reader.read(size, {1, 2, 3, 4}).ok());
  const CancelToken cancel;
  const Allowance allowance({}, cancel);
  cancel.cancel();
  CHECK(reader.read(size, {1, 2, 3, 4}).error().code() == ErrorCode::cancelled);
  CHECK(reader.read(Stream::of(dict, {1})).error().code() == ErrorCode::cancelled);
  CHECK(reader.findings.list().empty());
}
