// SPDX-License-Identifier: Apache-2.0
// A hostile file for each of Limits' fields: the call that meets the limit ends with an error that
// says so by the field's name, and the rest of the document stays readable. What is asked of the
// limits here is small; that the defaults let sane documents pass is shown by every other test.
#include "filters/deflate.h"
#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

Document open(PdfBuilder& pdf, const Limits& limits) {
  return Document::open(test::to_bytes(pdf.finish()), {.limits = limits}).value();
}

std::string all_findings(const Document& document) {
  std::string text;
  for (const Finding& finding : document.findings()) text += finding.to_string() + "\n";
  return text;
}

// What is said of a page that is shown as far as a limit let it.
std::string cut_off(const Page& page) {
  const auto scene = Scene::record(page);
  REQUIRE(scene.ok());
  CHECK_FALSE(scene->is_whole());
  return all_findings(page.document());
}

// What is said by a call that met a limit.
template <typename T>
std::string refused(const Result<T>& result) {
  REQUIRE_FALSE(result.ok());
  CHECK(result.error().code() == ErrorCode::limit);
  return result.error().message();
}

std::string reference(int number) { return std::to_string(number) + " 0 R"; }

std::string deflated(const std::string& text) {
  return std::string(as_text(filters::deflate(as_bytes(text))));
}

}  // namespace

TEST_CASE("nesting: arrays in arrays and forms in forms end", "[limits]") {
  PdfBuilder pdf;
  pdf.page("/F Do", "/MediaBox[0 0 9 9]/Resources<</XObject<</F 20 0 R>>>>");
  pdf.object(10, std::string(50, '[') + std::string(50, ']'));
  for (int i = 20; i < 60; ++i)
    pdf.stream(i,
               "/Subtype/Form/BBox[0 0 9 9]/Resources<</XObject<</F " + reference(i + 1) + ">>>>",
               "/F Do");
  const Document document = open(pdf, {.nesting = 30});
  CHECK_THAT(refused(document.resolve(ObjectId{10, 0})),
             Catch::Contains("nested deeper than Limits::nesting"));
  CHECK(Scene::record(*document.page(0)).ok());
  CHECK_THAT(all_findings(document), Catch::Contains("forms call one another deeper"));
}

TEST_CASE("page_tree_depth: trees in trees end", "[limits]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 10 0 R>>");
  for (int i = 10; i < 30; ++i)
    pdf.object(i, "<</Type/Pages/Count 1/MediaBox[0 0 9 9]/Kids[" + reference(i + 1) + "]>>");
  pdf.object(30, "<</Type/Page/Parent 29 0 R>>");
  PdfBuilder same = pdf;
  CHECK(open(same, {.page_tree_depth = 20}).page(0).ok());
  const Document document = open(pdf, {.page_tree_depth = 19});
  CHECK_THAT(refused(document.page(0)), Catch::Contains("Limits::page_tree_depth"));
  CHECK(document.outline().ok());
}

TEST_CASE("name_tree_depth: trees of names end", "[limits]") {
  PdfBuilder pdf;
  pdf.page("").object(1, "<</Type/Catalog/Pages 2 0 R/Names<</Dests 10 0 R>>>>");
  for (int i = 10; i < 30; ++i) pdf.object(i, "<</Limits[(a)(z)]/Kids[" + reference(i + 1) + "]>>");
  pdf.object(30, "<</Limits[(a)(z)]/Names[(plan)[3 0 R/Fit]]>>");
  PdfBuilder same = pdf;
  CHECK(open(same, {.name_tree_depth = 21}).named_destinations().value().size() == 1);
  const Document document = open(pdf, {.name_tree_depth = 20});
  CHECK_THAT(refused(document.named_destinations()), Catch::Contains("Limits::name_tree_depth"));
  CHECK(render(*document.page(0)).ok());
}

TEST_CASE("reference_chain: references to references end", "[limits]") {
  PdfBuilder pdf;
  pdf.page("").object(1, "<</Type/Catalog/Pages 2 0 R/Lang 10 0 R>>");
  for (int i = 10; i < 20; ++i) pdf.object(i, reference(i + 1));
  pdf.object(20, "(de)").object(21, reference(22)).object(22, reference(21));
  PdfBuilder same = pdf;
  CHECK(open(same, {.reference_chain = 11}).language().value() == "de");
  const Document document = open(pdf, {.reference_chain = 10});
  CHECK(document.language().value().empty());
  CHECK_THAT(all_findings(document), Catch::Contains("Limits::reference_chain"));
  CHECK(document.resolve(ObjectId{21, 0}).value().is_null());
}

TEST_CASE("object_stream_depth: objects that are needed to read objects end", "[limits]") {
  PdfBuilder pdf;
  pdf.page("");
  for (int i = 10; i < 40; ++i)
    pdf.object(i, "<</Length " + reference(i + 1) + ">>\nstream\nabc\nendstream");
  const Document document = open(pdf, {.object_stream_depth = 8});
  CHECK_THAT(refused(document.decoded(ObjectId{10, 0})),
             Catch::Contains("Limits::object_stream_depth"));
  const auto bytes = document.decoded(ObjectId{38, 0});
  REQUIRE(bytes.ok());
  CHECK(as_text(bytes->view()) == "abc");  // its end was looked for instead
}

TEST_CASE("lengths that need one another in a circle are damage, and are looked for", "[limits]") {
  PdfBuilder pdf;
  pdf.page("");
  pdf.object(10, "<</Length 11 0 R>>\nstream\nabc\nendstream");
  pdf.object(11, "<</Length 10 0 R>>\nstream\nde\nendstream");
  const Document document = open(pdf, {});
  CHECK(as_text(document.decoded(ObjectId{10, 0}).value().view()) == "abc");
  CHECK_THAT(all_findings(document), Catch::Contains("in a circle"));
}

TEST_CASE("objects: cross references that promise millions are refused", "[limits]") {
  PdfBuilder pdf;
  std::string bytes = pdf.page("").finish();
  bytes.replace(bytes.find("\n3 1\n"), 5, "\n99999999 1\n");
  const auto document = Document::open(test::to_bytes(bytes), {.limits = {.objects = 1000}});
  REQUIRE_FALSE(document.ok());
  CHECK(document.error().code() == ErrorCode::limit);
  CHECK_THAT(document.error().to_string(), Catch::Contains("Limits::objects"));
}

TEST_CASE("decoded_bytes: a stream that unpacks to more is refused", "[limits]") {
  PdfBuilder pdf;
  pdf.page("").stream(4, "/Filter/FlateDecode", deflated(std::string(1 << 20, ' ')));
  const Document document = open(pdf, {.decoded_bytes = 1 << 19});
  const auto content = document.page(0)->content();
  REQUIRE_FALSE(content.ok());
  CHECK(content.error().code() == ErrorCode::limit);
  CHECK_THAT(content.error().to_string(), Catch::Contains("Limits::decoded_bytes"));
}

TEST_CASE("decoded_ratio: a bomb within a bomb is refused", "[limits]") {
  const std::string bomb = deflated(deflated(std::string(20 << 20, ' ')));
  CHECK(bomb.size() < 1000);
  PdfBuilder pdf;
  pdf.page("").stream(4, "/Filter[/FlateDecode/FlateDecode]", bomb);
  PdfBuilder same = pdf;
  const Document document = open(pdf, {});
  const auto content = document.page(0)->content();
  REQUIRE_FALSE(content.ok());
  CHECK(content.error().code() == ErrorCode::limit);
  CHECK_THAT(content.error().to_string(), Catch::Contains("Limits::decoded_ratio"));
  CHECK(open(same, {.decoded_ratio = 1'000'000}).page(0)->content().ok());
}

TEST_CASE("operator_ratio: operators beyond what the page's streams weigh are not run",
          "[limits]") {
  std::string ends_of_paths;
  for (int i = 0; i < 2'000'010; ++i) ends_of_paths += "n\n";
  const auto page_with = [&](std::uint64_t ratio) {
    PdfBuilder pdf;
    pdf.page("", "/MediaBox[0 0 9 9]").stream(4, "/Filter/FlateDecode", deflated(ends_of_paths));
    Limits limits{.page_milliseconds = 600'000};
    if (ratio != 0) limits.operator_ratio = ratio;
    return open(pdf, limits).page(0).value();
  };
  CHECK_THAT(cut_off(page_with(0)), Catch::Contains("more than 2000000 operators") &&
                                        Catch::Contains("Limits::operator_ratio"));
  CHECK(Scene::record(page_with(100'000)).value().is_whole());
}

TEST_CASE("pixels: images and rasters of impossible sizes are refused", "[limits]") {
  PdfBuilder pdf;
  pdf.page("9 0 0 9 0 0 cm /I Do", "/MediaBox[0 0 100 100]/Resources<</XObject<</I 9 0 R>>>>")
      .stream(9, "/Subtype/Image/Width 60000/Height 60000/ColorSpace/DeviceGray/BitsPerComponent 8",
              "");
  const Document document = open(pdf, {.pixels = 1'000'000});
  CHECK_THAT(refused(render(*document.page(0))), Catch::Contains("Limits::pixels"));
  const auto raster = render(*document.page(0), {.dpi = 720'000});
  REQUIRE_FALSE(raster.ok());
  CHECK(raster.error().code() == ErrorCode::limit);
}

TEST_CASE("operators and page_milliseconds: forms that call forms that call forms end",
          "[limits]") {
  const auto page_of = [](const Limits& limits) {
    PdfBuilder pdf;
    pdf.page("/F Do", "/MediaBox[0 0 9 9]/Resources<</XObject<</F 10 0 R>>>>");
    std::string calls;
    for (int i = 0; i < 20; ++i) calls += "/F Do ";
    for (int i = 10; i < 30; ++i)
      pdf.stream(i,
                 "/Subtype/Form/BBox[0 0 9 9]/Resources<</XObject<</F " + reference(i + 1) + ">>>>",
                 calls);
    return open(pdf, limits).page(0).value();
  };
  CHECK_THAT(cut_off(page_of({.operators = 10'000})), Catch::Contains("Limits::operators"));
  constexpr std::uint64_t kWithoutEnd = std::uint64_t{1} << 60;
  CHECK_THAT(cut_off(page_of({.operators = kWithoutEnd, .page_milliseconds = 20})),
             Catch::Contains("Limits::page_milliseconds"));
}

TEST_CASE("page_memory: pages that are kept as more than there is room for end", "[limits]") {
  const auto page_of = [](const Limits& limits) {
    PdfBuilder pdf;
    std::string many;
    for (int i = 0; i < 5000; ++i) many += "0 0 9 9 re f 1 1 5 5 re S ";
    pdf.page(many, "/MediaBox[0 0 9 9]");
    return open(pdf, limits).page(0).value();
  };
  CHECK(Scene::record(page_of({})).ok());
  CHECK_THAT(cut_off(page_of({.page_memory = 1 << 20})), Catch::Contains("Limits::page_memory"));
  // Of drawing the same: the scene fits, its edges don't.
  const Scene scene = Scene::record(page_of({})).value();
  CHECK(render(scene, {.dpi = 36}).ok());
  CHECK_THAT(refused(render(scene, {.dpi = 36, .limits = {.page_memory = 1 << 16}})),
             Catch::Contains("Limits::page_memory"));
}

TEST_CASE("page_milliseconds: drawing ends as well", "[limits]") {
  PdfBuilder pdf;
  std::string program = "{ pop ";
  for (int i = 0; i < 4000; ++i) program += "dup mul ";
  pdf.page("/S sh", "/MediaBox[0 0 200 200]/Resources<</Shading<</S 10 0 R>>>>");
  pdf.object(10, "<</ShadingType 1/ColorSpace/DeviceGray/Domain[0 200 0 200]/Function 11 0 R>>");
  pdf.stream(11, "/FunctionType 4/Domain[0 200 0 200]/Range[0 1]", program + "}");
  const Scene scene = Scene::record(*open(pdf, {}).page(0)).value();
  CHECK_THAT(refused(render(scene, {.dpi = 720, .limits = {.page_milliseconds = 20}})),
             Catch::Contains("Limits::page_milliseconds"));
}

TEST_CASE("followed_bytes and followed_ratio: what a few bytes lead to ends", "[limits]") {
  PdfBuilder labels;
  labels.page("").object(1, "<</Type/Catalog/Pages 2 0 R/PageLabels 10 0 R>>");
  for (int i = 10; i < 28; ++i)
    labels.object(i, "[<</Kids " + reference(i + 1) + ">><</Kids " + reference(i + 1) + ">>]");
  labels.object(10, "<</Kids 11 0 R>>").object(28, "[<</Nums[0<</S/D>>]>>]");
  PdfBuilder same = labels;
  PdfBuilder larger = labels;
  CHECK(open(labels, {}).page_label(0).value() == "1");  // 262,144 leaves, and it is still told
  CHECK_THAT(refused(open(same, {.followed_bytes = 1 << 20, .followed_ratio = 1}).page_label(0)),
             Catch::Contains("Limits::followed_bytes"));
  // The same is allowed to a file that is larger.
  larger.stream(40, "", std::string(1 << 20, ' '));
  CHECK(open(larger, {.followed_bytes = 1 << 20, .followed_ratio = 256}).page_label(0).ok());
}

TEST_CASE("followed_bytes: a list of numbers that much shares counts each time", "[limits]") {
  std::string marks;
  for (int i = 0; i < 300; ++i)
    marks += "<</Type/Annot/Subtype/Highlight/Rect[0 0 9 9]/QuadPoints 9 0 R>>";
  std::string numbers;
  for (int i = 0; i < 4000; ++i) numbers += "7 ";
  PdfBuilder strict;
  strict.page("", "/MediaBox[0 0 100 100]/Annots[" + marks + "]").object(9, "[" + numbers + "]");
  PdfBuilder usual = strict;
  const Page page = open(strict, {.followed_bytes = 1 << 20, .followed_ratio = 1}).page(0).value();
  CHECK_THAT(refused(page.annotations()), Catch::Contains("Limits::followed_bytes"));
  CHECK(open(usual, {}).page(0).value().annotations().value().size() == 300);
}

TEST_CASE("followed_bytes: pages that share what leads everywhere count each way", "[limits]") {
  PdfBuilder strict;
  std::string kids;
  std::string ways;
  for (int i = 0; i < 300; ++i) {
    kids += reference(100 + i) + " ";
    strict.object(100 + i, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Own 9 0 R>>");
  }
  for (int i = 0; i < 2000; ++i) ways += "10 0 R ";
  strict.object(1, "<</Type/Catalog/Pages 2 0 R>>").object(9, "[" + ways + "]").object(10, "(a)");
  strict.object(2, "<</Type/Pages/Count 300/Kids[" + kids + "]>>");
  PdfBuilder usual = strict;
  BufferSink sink;
  CHECK_THAT(refused(save(open(strict, {.followed_bytes = 1 << 20, .followed_ratio = 1}), sink,
                          {.layout = FileLayout::linearized})),
             Catch::Contains("Limits::followed_bytes"));
  CHECK(save(open(usual, {}), sink, {.layout = FileLayout::linearized}).ok());
}

TEST_CASE("kept_bytes: objects that are dropped are read again, the same", "[limits]") {
  PdfBuilder pdf;
  pdf.page("");
  for (int i = 10; i < 200; ++i)
    pdf.object(i, "[(" + std::string(2000, static_cast<char>('a' + i % 26)) + ")" +
                      std::to_string(i) + "]");
  const Document small = open(pdf, {.kept_bytes = 20'000});
  for (int round = 0; round < 2; ++round)
    for (int i = 10; i < 200; ++i) {
      const Object object = small.resolve(ObjectId{static_cast<std::uint32_t>(i), 0}).value();
      REQUIRE(object.as_array().size() == 2);
      CHECK(object.as_array()[1].as_integer() == i);
    }
  CHECK(small.findings().empty());
}

TEST_CASE("what a person no longer waits for is stopped", "[limits]") {
  PdfBuilder pdf;
  pdf.page("0 0 9 9 re f");
  const CancelToken stop;
  stop.cancel();
  const auto raster = render(*open(pdf, {}).page(0), {.cancel = stop});
  REQUIRE_FALSE(raster.ok());
  CHECK(raster.error().code() == ErrorCode::cancelled);
}
