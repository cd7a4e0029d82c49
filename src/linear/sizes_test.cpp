// SPDX-License-Identifier: Apache-2.0
// Parts of known sizes are found again, whatever the layout, and all parts together are the file.
#include "lumvet/linear/sizes.h"

#include <random>

#include "lumvet/edit/editable_document.h"
#include "tests/support/catch.h"
#include "tests/support/manual.h"

using namespace lumvet;

namespace {

std::string noise(std::size_t count) {
  std::mt19937 random(static_cast<unsigned>(count));
  std::string bytes(count, ' ');
  for (char& byte : bytes) byte = static_cast<char>(random());
  return bytes;
}

// A page with an image of 9,000 bytes, a font program of 8,000, a content of 7,000 that uses a
// form of 6,000, properties of 5,000, and 2,000 bytes that nothing leads to.
Document parts() {
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Metadata 9 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3,
             "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Contents 4 0 R/Resources<</Font<</F "
             "5 0 R>>/XObject<</I 8 0 R/X 10 0 R>>>>>>");
  const auto coded = [](const std::string& rest) { return rest + "/Filter/DCTDecode"; };
  pdf.stream(4, coded(""), noise(7000));
  pdf.object(5, "<</Type/Font/Subtype/TrueType/BaseFont/A/FontDescriptor 6 0 R>>");
  pdf.object(6, "<</Type/FontDescriptor/FontName/A/FontFile2 7 0 R>>");
  pdf.stream(7, coded(""), noise(8000));
  pdf.stream(8, coded("/Type/XObject/Subtype/Image/Width 9/Height 9"), noise(9000));
  pdf.stream(9, coded("/Type/Metadata/Subtype/XML"), noise(5000));
  pdf.stream(10, coded("/Subtype/Form/BBox[0 0 9 9]"), noise(6000));
  pdf.stream(11, coded(""), noise(2000));
  return test::open(pdf.finish("/Root 1 0 R")).value();
}

Document saved(const Document& document, const SaveOptions& options) {
  BufferSink sink;
  REQUIRE(save(document, sink, options).ok());
  return Document::open(sink.take()).value();
}

// Heads, ends and small objects around them.
void expect_about(std::uint64_t size, std::uint64_t bytes) {
  CHECK(size >= bytes);
  CHECK(size < bytes + 500);
}

void expect_parts(const Document& document) {
  const Sizes sizes = sizes_of(document).value();
  CHECK(sizes.all() == document.file_size());
  expect_about(sizes.fonts, 8000);
  expect_about(sizes.images, 9000);
  expect_about(sizes.content, 13000);
  expect_about(sizes.other, 5000);
}

}  // namespace

TEST_CASE("bytes are told by what they are for", "[save]") {
  const Document document = parts();
  expect_parts(document);
  expect_about(sizes_of(document).value().unused, 2000);
  for (const FileLayout layout : {FileLayout::compact, FileLayout::classic, FileLayout::linearized,
                                  FileLayout::linearized_classic}) {
    expect_parts(saved(document, {.layout = layout}));
    CHECK(sizes_of(saved(document, {.layout = layout})).value().unused == 0);
    expect_parts(saved(
        document, {.layout = layout, .protection = NewProtection{.owner_password = "ostrel"}}));
  }
}

TEST_CASE("attached files and old states are told", "[save]") {
  const Document document = parts();
  EditableDocument changes = EditableDocument::of(document);
  const std::string data = noise(4000);
  REQUIRE(changes.attach({.name = "a.bin", .bytes = Bytes(data.begin(), data.end())}).ok());
  BufferSink sink;
  REQUIRE(changes.save(sink, {.layout = FileLayout::classic}).ok());
  Bytes updated = sink.take();
  const Document attached = Document::open(updated).value();
  expect_about(sizes_of(attached).value().attachments, 4000);

  EditableDocument without = EditableDocument::of(attached);
  REQUIRE(without.detach("a.bin").ok());
  const Bytes more = without.appended().value();
  updated.insert(updated.end(), more.begin(), more.end());
  const Document detached = Document::open(updated).value();
  CHECK(sizes_of(detached).value().attachments < 500);
  CHECK(sizes_of(detached).value().unused >= 4000);
  CHECK(sizes_of(detached).value().all() == updated.size());
}

TEST_CASE("a document of many pages is all told", "[save]") {
  const Document document = test::manual(30);
  for (const FileLayout layout : {FileLayout::compact, FileLayout::linearized}) {
    const Document written = saved(document, {.layout = layout});
    const Sizes sizes = sizes_of(written).value();
    CHECK(sizes.all() == written.file_size());
    CHECK(sizes.unused == 0);
    CHECK(sizes.fonts > 0);
  }
}
