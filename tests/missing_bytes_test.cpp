// SPDX-License-Identifier: Apache-2.0
// Bytes that are not there just now: every public call over a source that withholds each range
// once, and over one that fails once, answers with that error or with exactly what the whole file
// gives. Asked again, it gives it; nothing is left behind, in what is kept or in the findings.
#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <functional>
#include <sstream>

#include "crypto/digest.h"
#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/interrupted_source.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/public_calls.h"
#include "tests/support/sanitized.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::ArrivingSource;
using test::Call;
using test::FailingOnceSource;

namespace {

std::shared_ptr<const ByteSource> source_of(const std::string& path) {
  return open_file_source(path).value();
}

// A page's worth of everything that is read by following references.
std::string one_of_each() {
  test::PdfBuilder pdf;
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Outlines 20 0 R/AcroForm 30 0 R/Names 40 0 R/PageLabels "
             "50 0 R/OCProperties 60 0 R/StructTreeRoot 70 0 R/OutputIntents 80 0 R/Lang 90 0 R"
             "/MarkInfo 91 0 R/OpenAction 92 0 R/AA 93 0 R/Metadata 94 0 R/Extensions 95 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[10 0 R 11 0 R]/Count 2/MediaBox 96 0 R>>");
  pdf.object(3, "<</Title(Day 12)/Author(Ostrel Valley)>>");
  pdf.object(10,
             "<</Type/Page/Parent 2 0 R/Contents[12 0 R 13 0 R]/Resources 14 0 R/Annots[31 0 R "
             "33 0 R]/Rotate 97 0 R/Tabs 98 0 R/TrimBox 99 0 R/AA 93 0 R>>");
  pdf.object(11, "<</Type/Page/Parent 2 0 R/Contents 13 0 R/Resources 14 0 R>>");
  pdf.stream(12, "", "/C cs 1 sc 0 0 9 9 re f /F 5 Tf BT 3 3 Td (day) Tj ET");
  pdf.stream(13, "", "/P <</MCID 0>> BDC 9 0 0 9 20 20 cm /I Do /X Do EMC");
  pdf.object(14, "<</Font<</F 15 0 R>>/XObject<</I 16 0 R/X 17 0 R>>/ColorSpace<</C 18 0 R>>>>");
  pdf.object(15, "<</Type/Font/Subtype/Type1/BaseFont/Helvetica/Encoding 19 0 R>>");
  pdf.stream(16,
             "/Type/XObject/Subtype/Image/Width 2/Height 2/ColorSpace 18 0 R/BitsPerComponent 8",
             "abcd");
  pdf.stream(17, "/Type/XObject/Subtype/Form/BBox[0 0 9 9]/OC 61 0 R", "0 0 1 1 re f");
  pdf.object(18, "/DeviceGray");
  pdf.object(19, "<</Type/Encoding/Differences[100/d/e]>>");
  pdf.object(20, "<</First 21 0 R/Last 21 0 R/Count 1>>");
  pdf.object(21, "<</Title 22 0 R/Parent 20 0 R/Dest(plan)>>");
  pdf.object(22, "(Bearings)");
  pdf.object(30, "<</Fields[31 0 R]/DA(/F 9 Tf)/DR 14 0 R>>");
  pdf.object(31,
             "<</Type/Annot/Subtype/Widget/FT/Tx/T 32 0 R/V(gap)/Rect[1 1 9 9]/P 10 0 R"
             "/AP<</N 17 0 R>>>>");
  pdf.object(32, "(reading)");
  pdf.object(33, "<</Type/Annot/Subtype/Link/Rect[9 9 20 20]/A 92 0 R/Border[0 0 1]>>");
  pdf.object(40, "<</Dests 41 0 R/EmbeddedFiles 42 0 R>>");
  pdf.object(41, "<</Names[(plan)[11 0 R/XYZ 1 2 0]]>>");
  pdf.object(42, "<</Names[(notes)43 0 R]>>");
  pdf.object(43, "<</Type/Filespec/F(notes.txt)/EF<</F 44 0 R>>>>");
  pdf.stream(44, "/Type/EmbeddedFile/Params<</Size 5>>", "notes");
  pdf.object(50, "<</Nums[0<</S/r>>1<</S/D>>]>>");
  pdf.object(60, "<</OCGs[61 0 R]/D 62 0 R>>");
  pdf.object(61, "<</Type/OCG/Name(Grid)>>");
  pdf.object(62, "<</ON[61 0 R]/Order[61 0 R]>>");
  pdf.object(70, "<</Type/StructTreeRoot/K 71 0 R/ParentTree 73 0 R>>");
  pdf.object(71, "<</Type/StructElem/S/H1/P 70 0 R/Pg 10 0 R/K 72 0 R/T(Bearings)>>");
  pdf.object(72, "<</Type/MCR/Pg 10 0 R/MCID 0>>");
  pdf.object(73, "<</Nums[0[71 0 R]]>>");
  pdf.object(80, "[<</S/GTS_PDFX/OutputConditionIdentifier(Ostrel)>>]");
  pdf.object(90, "(en-GB)").object(91, "<</Marked true>>");
  pdf.object(92, "<</S/GoTo/D[11 0 R/Fit]>>");
  pdf.object(93, "<</O<</S/JavaScript/JS(1)>>>>");
  pdf.stream(94, "/Type/Metadata/Subtype/XML", "<x:xmpmeta xmlns:x='adobe:ns:meta/'/>");
  pdf.object(95, "<</OST<</BaseVersion/1.7/ExtensionLevel 1>>>>");
  pdf.object(96, "[0 0 90 90]").object(97, "90").object(98, "/R").object(99, "[1 1 80 80]");
  return pdf.finish("/Root 1 0 R/Info 3 0 R");
}

struct Sample {
  std::string name;
  std::shared_ptr<const ByteSource> whole;
  std::string password = {};
};

// Some real documents of a folder that the environment may name, no larger than can be withheld in
// reasonable time.
std::vector<std::filesystem::path> small_field_documents() {
  const char* folder = std::getenv("LUMVET_MISSING_BYTES_FOLDER");
  if (folder == nullptr) return {};
  constexpr std::uintmax_t kMostBytes = 40'000;
  constexpr std::size_t kMost = 10;
  std::vector<std::filesystem::path> paths;
  for (const auto& entry : std::filesystem::recursive_directory_iterator(folder))
    if (entry.path().extension() == ".pdf" && entry.file_size() < kMostBytes)
      paths.push_back(entry.path());
  std::sort(paths.begin(), paths.end());
  REQUIRE_FALSE(paths.empty());
  // From all over the list, since neighbors are alike.
  std::vector<std::filesystem::path> some;
  for (std::size_t i = 0; i < std::min(kMost, paths.size()); ++i)
    some.push_back(paths[i * paths.size() / std::min(kMost, paths.size())]);
  return some;
}

std::vector<Sample> samples() {
  const std::string producers = std::string(LUMVET_SOURCE_DIR) + "/demo/producers/";
  std::vector<Sample> samples;
  const auto in_memory = [](const std::string& bytes) {
    return make_buffer_source(Bytes(bytes.begin(), bytes.end()));
  };
  samples.push_back({"one of each", in_memory(one_of_each())});
  BufferSink linearized;
  const Document document = Document::open(samples[0].whole).value();
  REQUIRE(save(document, linearized, {.layout = FileLayout::linearized}).ok());
  samples.push_back({"one of each, linearized", make_buffer_source(linearized.take())});
  BufferSink compact;
  REQUIRE(save(document, compact, {.layout = FileLayout::compact}).ok());
  samples.push_back({"one of each, compact", make_buffer_source(compact.take())});
  for (const char* name : {"drawing", "notice", "tariff"})
    samples.push_back({name, source_of(producers + name + ".pdf")});
  samples.push_back({"locked", source_of(producers + "locked-r6.pdf"), "ostrel"});
  const std::string corpus = std::string(LUMVET_SOURCE_DIR) + "/fuzz/corpus/signatures/";
  samples.push_back({"signed and stamped", source_of(corpus + "lasting.pdf")});
  // Without its end, so that its objects are looked for.
  const ByteSlice all = samples[3].whole->slice(0, samples[3].whole->size()).value();
  const ByteView most = all.view().first(all.size() - 300);
  samples.push_back({"cut off", make_buffer_source(Bytes(most.begin(), most.end()))});
  for (const std::filesystem::path& path : small_field_documents())
    samples.push_back({path.filename().string(), source_of(path.string())});
  return samples;
}

// Opens and asks again until the answer is something else than "need more data".
template <typename Ask>
auto asked_until_there(const Ask& ask, std::uint64_t most, int& interruptions) {
  for (;;) {
    auto answer = ask();
    if (answer.ok() || answer.error().code() != ErrorCode::need_more_data) return answer;
    REQUIRE(++interruptions <= static_cast<int>(most));
  }
}

std::vector<std::string> words_of(const std::vector<Finding>& findings) {
  std::vector<std::string> words;
  for (const Finding& finding : findings) words.push_back(finding.to_string());
  std::sort(words.begin(), words.end());
  return words;
}

}  // namespace

TEST_CASE("bytes that arrive late change no answer, and nothing is kept meanwhile",
          "[missing-bytes]") {
  int interruptions = 0;
  for (const Sample& sample : samples()) {
    const OpenOptions how{.password = sample.password};
    constexpr std::uint64_t kPiece = 256;
    const std::uint64_t most = sample.whole->size() / kPiece + 10;
    for (const Call& call : test::public_calls()) {
      CAPTURE(sample.name, call.name);
      const Document known = Document::open(sample.whole, how).value();
      const Result<std::string> expected = call.answer(known);
      const auto source = std::make_shared<ArrivingSource>(sample.whole, kPiece);
      const Result<Document> document =
          asked_until_there([&] { return Document::open(source, how); }, most, interruptions = 0);
      REQUIRE(document.ok());
      const Result<std::string> answer =
          asked_until_there([&] { return call.answer(*document); }, most, interruptions = 0);
      REQUIRE(answer.ok() == expected.ok());
      if (expected.ok())
        CHECK(*answer == *expected);
      else
        CHECK(answer.error().to_string() == expected.error().to_string());
      CHECK(words_of(document->findings()) == words_of(known.findings()));
    }
  }
}

TEST_CASE("a source that fails for a moment is told, and no call makes do without its bytes",
          "[missing-bytes]") {
  constexpr std::uint64_t kMost = test::kIsSanitized ? 5 : 25;  // readings of a call that fail
  int told = 0;
  for (const Sample& sample : samples()) {
    const OpenOptions how{.password = sample.password};
    for (const Call& call : test::public_calls()) {
      const Document known = Document::open(sample.whole, how).value();
      const Result<std::string> expected = call.answer(known);
      constexpr std::uint64_t kNever = ~std::uint64_t{0};
      const auto counting = std::make_shared<FailingOnceSource>(sample.whole, kNever);
      const Document counted = Document::open(counting, how).value();
      const std::uint64_t first = counting->readings();
      static_cast<void>(call.answer(counted).ok());
      const std::uint64_t readings = counting->readings();
      const std::uint64_t step = 1 + (readings - first) / kMost;
      for (std::uint64_t at = first; at < readings; at += step) {
        CAPTURE(sample.name, call.name, at);
        const auto source = std::make_shared<FailingOnceSource>(sample.whole, at);
        const Document document = Document::open(source, how).value();
        Result<std::string> answer = call.answer(document);
        if (!answer.ok() && answer.error().code() == ErrorCode::io) {
          ++told;
          answer = call.answer(document);
        }
        REQUIRE(answer.ok() == expected.ok());
        if (expected.ok()) CHECK(*answer == *expected);
        CHECK(words_of(document.findings()) == words_of(known.findings()));
      }
    }
  }
  CHECK(told > 200);  // the test does what it is for
}

TEST_CASE("a document that cannot be read when it is opened is not looked for elsewhere",
          "[missing-bytes]") {
  for (const Sample& sample : samples()) {
    const OpenOptions how{.password = sample.password};
    constexpr std::uint64_t kNever = ~std::uint64_t{0};
    const auto counting = std::make_shared<FailingOnceSource>(sample.whole, kNever);
    const Document known = Document::open(counting, how).value();
    for (std::uint64_t at = 0; at < counting->readings(); ++at) {
      CAPTURE(sample.name, at);
      const auto source = std::make_shared<FailingOnceSource>(sample.whole, at);
      const Result<Document> document = Document::open(source, how);
      if (!document.ok()) {
        CHECK(document.error().code() == ErrorCode::io);
        CHECK(source->readings() == at + 1);
        continue;
      }
      CHECK(document->was_repaired() == known.was_repaired());
      CHECK(words_of(document->findings()) == words_of(known.findings()));
    }
  }
}

TEST_CASE("a save whose source fails at any reading leaves no file", "[missing-bytes]") {
  const test::TemporaryFolder folder;
  int refused = 0;
  for (const Sample& sample : samples())
    for (const FileLayout layout : {FileLayout::compact, FileLayout::linearized}) {
      const OpenOptions how{.password = sample.password};
      const SaveOptions options{.layout = layout, .threads = 2};
      BufferSink whole;
      REQUIRE(save(Document::open(sample.whole, how).value(), whole, options).ok());
      constexpr std::uint64_t kNever = ~std::uint64_t{0};
      const auto counting = std::make_shared<FailingOnceSource>(sample.whole, kNever);
      const Document counted = Document::open(counting, how).value();
      const std::uint64_t first = counting->readings();
      BufferSink again;
      REQUIRE(save(counted, again, options).ok());
      const std::uint64_t step = 1 + (counting->readings() - first) / 40;
      for (std::uint64_t at = first; at < counting->readings(); at += step) {
        CAPTURE(sample.name, at);
        const auto source = std::make_shared<FailingOnceSource>(sample.whole, at);
        const Document document = Document::open(source, how).value();
        const auto path = folder.path() / (std::to_string(refused) + ".pdf");
        const auto saved = save(document, path, options);
        if (!saved.ok()) {
          CHECK(saved.error().code() == ErrorCode::io);
          CHECK_FALSE(std::filesystem::exists(path));
          ++refused;
        }
        const auto once_more = save(document, path, {.layout = layout, .replace = true});
        REQUIRE(once_more.ok());
        const auto written = open_file_source(path).value();
        const ByteSlice bytes = written->slice(0, written->size()).value();
        const Bytes copy(bytes.view().begin(), bytes.view().end());
        if (sample.password.empty())
          CHECK(as_text(copy) == as_text(whole.bytes()));
        else
          CHECK(Document::open(copy, how)->page(0)->content().ok());
        std::filesystem::remove(path);
      }
    }
  CHECK(refused > 200);
}
