// SPDX-License-Identifier: Apache-2.0
// What is saved has the pages that were shown, under a tree that is as it should be.
#include "save/page_mending.h"

#include "lumvet/linear/linear_check.h"
#include "lumvet/save/save.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

// Pages 10 to 12 tell themselves apart by their widths, 110 to 112.
Document with_tree(const std::string& root, const std::string& inner, const std::string& parents) {
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<<" + root + ">>");
  pdf.object(3, "<<" + inner + ">>");
  for (int i = 10; i < 13; ++i)
    pdf.object(i, "<</Type/Page" + parents + "/MediaBox[0 0 " + std::to_string(100 + i) + " 9]>>");
  return test::open(pdf.finish()).value();
}

std::vector<double> widths_of(const Document& document) {
  std::vector<double> widths;
  for (int i = 0; i < document.page_count(); ++i) widths.push_back(document.page(i)->width());
  return widths;
}

struct Tree {
  const char* what;
  const char* root;
  const char* inner;
  const char* parents;
  bool is_sound;
};

const Tree kTrees[] = {
    {"as it should be", "/Type/Pages/Kids[10 0 R 11 0 R 12 0 R]/Count 3", "", "/Parent 2 0 R",
     true},
    {"a count that lies", "/Type/Pages/Kids[10 0 R 11 0 R 12 0 R]/Count 7", "", "/Parent 2 0 R",
     false},
    {"no parents", "/Type/Pages/Kids[10 0 R 11 0 R 12 0 R]/Count 3", "", "", false},
    {"another's child", "/Type/Pages/Kids[10 0 R 11 0 R 12 0 R]/Count 3", "/Type/Pages/Count 0",
     "/Parent 3 0 R", false},
    {"a page that stands there twice", "/Type/Pages/Kids[10 0 R 11 0 R 10 0 R]/Count 3", "",
     "/Parent 2 0 R", false},
    {"a kid that is no page", "/Type/Pages/Kids[10 0 R 3 0 R 12 0 R 99 0 R]/Count 4",
     "/Type/Font/BaseFont/Helvetica", "/Parent 2 0 R", false},
    {"a kid without a number",
     "/Type/Pages/Kids[10 0 R<</Type/Page/MediaBox[0 0 50 9]>>12 0 R]/Count 3", "", "/Parent 2 0 R",
     false},
    {"a node that leads back", "/Type/Pages/Kids[10 0 R 3 0 R]/Count 2",
     "/Type/Pages/Parent 2 0 R/Kids[11 0 R 2 0 R]/Count 1", "/Parent 2 0 R", false},
    {"a type that lies", "/Type/Catalog/Kids[10 0 R 11 0 R]/Count 2", "", "/Parent 2 0 R", false},
};

}  // namespace

TEST_CASE("what is saved has the pages that were shown, in every layout", "[save]") {
  for (const Tree& tree : kTrees) {
    const Document document = with_tree(tree.root, tree.inner, tree.parents);
    CAPTURE(tree.what);
    CHECK(saving::has_sound_pages(document) == tree.is_sound);
    const std::vector<double> shown = widths_of(document);
    REQUIRE_FALSE(shown.empty());
    for (const FileLayout layout : {FileLayout::compact, FileLayout::classic,
                                    FileLayout::linearized, FileLayout::linearized_classic}) {
      BufferSink sink;
      const auto saved = save(document, sink, {.layout = layout});
      REQUIRE(saved.ok());
      CHECK(saved->pages == static_cast<int>(shown.size()));
      const Document again = Document::open(make_buffer_source(sink.take())).value();
      CHECK(widths_of(again) == shown);
      CHECK(saving::has_sound_pages(again));
      CHECK(again.findings().empty());
      if (layout == FileLayout::linearized || layout == FileLayout::linearized_classic) {
        const LinearCheck check = check_linearized(again).value();
        CHECK(check.state == LinearCheck::State::yes);
        CHECK(check.differences.empty());
      }
    }
  }
}

TEST_CASE("what stands in the place of the information dictionary is not taken along", "[save]") {
  for (const char* what : {"(text)", "[1 2]", "7"}) {
    test::PdfBuilder pdf;
    pdf.page("", "/MediaBox[0 0 9 9]").object(20, what);
    const Document damaged = test::open(pdf.finish("/Root 1 0 R/Info 20 0 R")).value();
    for (const FileLayout layout :
         {FileLayout::compact, FileLayout::classic, FileLayout::linearized}) {
      BufferSink sink;
      REQUIRE(save(damaged, sink, {.layout = layout}).ok());
      const Document saved = Document::open(sink.take()).value();
      CHECK(saved.trailer()["Info"].is_null());
      CHECK(saved.page_count() == 1);
    }
  }
}

TEST_CASE("a document without a page is not saved", "[save]") {
  const Document document = with_tree("/Type/Pages/Kids[]/Count 0", "", "");
  const test::TemporaryFolder folder;
  const auto saved = save(document, folder / "none.pdf");
  REQUIRE_FALSE(saved.ok());
  CHECK(saved.error().code() == ErrorCode::malformed);
  CHECK(std::filesystem::is_empty(folder.path()));
}

// A soft hyphen is not part of what a password is once it is prepared, so that this one came to an
// empty password, which opens the document for everybody.
TEST_CASE("a password that comes to nothing protects nothing, and is refused", "[save]") {
  const Document document = with_tree(kTrees[0].root, "", kTrees[0].parents);
  const SaveOptions locked{
      .protection = NewProtection{.user_password = "\xC2\xAD", .owner_password = "valley"}};
  const test::TemporaryFolder folder;
  const auto saved = save(document, folder / "open.pdf", locked);
  REQUIRE_FALSE(saved.ok());
  CHECK(saved.error().code() == ErrorCode::invalid_argument);
  CHECK(std::filesystem::is_empty(folder.path()));
  class OneWay : public ByteSink {
   public:
    Status write(ByteView more) override {
      bytes += more.size();
      return Done{};
    }
    std::size_t bytes = 0;
  };
  OneWay sink;
  CHECK_FALSE(save(document, sink, locked).ok());
  CHECK(sink.bytes == 0);
  const SaveOptions sound{.protection = NewProtection{.user_password = "ostrel"}};
  CHECK(save(document, sink, sound).ok());
  CHECK(sink.bytes > 0);
}
