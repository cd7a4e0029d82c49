// SPDX-License-Identifier: Apache-2.0
// Damaged copies of good files: whatever happens, it is an error or a drawing, never a crash.
#include <random>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

// What an application would do with a file that somebody sent.
void use(const std::string& bytes) {
  const Limits limits{.decoded_bytes = 16 << 20,
                      .pixels = 4'000'000,
                      .operators = 200'000,
                      .page_milliseconds = 5000};
  const auto document = Document::open(Bytes(bytes.begin(), bytes.end()), {.limits = limits});
  if (!document.ok()) {
    CHECK_FALSE(document.error().message().empty());
    return;
  }
  document->outline();
  document->attachments();
  document->fonts();
  document->info();
  Assembly book;
  for (int i = 0; i < std::min(document->page_count(), 2); ++i) {
    const auto page = document->page(i);
    if (!page.ok()) continue;
    const auto sheet = render(*page, {.dpi = 30, .limits = limits});
    if (sheet.ok()) CHECK(sheet->width() > 0);
    const Status added = book.add(*document, PageSelection::of({i}));
    if (!added.ok()) CHECK_FALSE(added.error().message().empty());
  }
  BufferSink sink;
  const auto saved = book.save(sink);
  if (saved.ok()) CHECK(Document::open(sink.take()).ok());
}

}  // namespace

TEST_CASE("flipped bytes, cuts and wrong numbers are survived", "[damage]") {
  std::mt19937 random(2026);
  for (const char* name : {"notice.pdf", "drawing.pdf", "tariff.pdf", "loads.pdf"}) {
    const std::string good =
        test::read_file(std::filesystem::path(LUMVET_SOURCE_DIR) / "demo/producers" / name);
    REQUIRE(good.size() > 1000);
    use(good);
    for (int round = 0; round < 60; ++round) {
      std::string bad = good;
      switch (round % 4) {
        case 0:
          for (int i = 0; i < 1 + round / 4; ++i)
            bad[random() % bad.size()] = static_cast<char>(random());
          break;
        case 1: bad.resize(random() % bad.size()); break;
        case 2: {  // another digit in a number
          std::size_t at = random() % bad.size();
          while (at < bad.size() && (bad[at] < '0' || bad[at] > '9')) ++at;
          if (at < bad.size()) bad[at] = static_cast<char>('0' + random() % 10);
          break;
        }
        default: {  // a piece moved to somewhere else
          const std::size_t length = random() % 200;
          const std::size_t from = random() % (bad.size() - length);
          bad.replace(random() % (bad.size() - length), length, bad.substr(from, length));
        }
      }
      use(bad);
    }
  }
}
