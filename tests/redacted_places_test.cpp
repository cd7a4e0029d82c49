// SPDX-License-Identifier: Apache-2.0
// Random places of documents of many kinds, redacted.
#include <filesystem>
#include <random>

#include "lumvet/annotate/annotations.h"
#include "tests/support/catch.h"
#include "tests/support/office.h"
#include "tests/support/redacted.h"
#include "tests/support/sanitized.h"

using namespace lumvet;
using namespace test;

namespace {

std::string_view said(const PageWords& words, const TextWord& word) {
  return std::string_view(words.text()).substr(word.begin, word.end - word.begin);
}

// Signs whose ink hangs out of the box that the line gives them (U+2200 to U+223F: roots, and the
// signs of sums that no font names).
bool is_mathematical(const PageWords& words, const TextWord& word) {
  const std::string_view text = said(words, word);
  return text.find("\xE2\x88") != std::string_view::npos ||
         text.find("\xEF\xBF\xBD") != std::string_view::npos;
}

// Full stops and the like ink the edge of their box alone, which may be out of an area.
bool is_small_sign(const PageWords& words, const TextWord& word) {
  return said(words, word).find_first_not_of(".,:;'\"-_*") == std::string_view::npos;
}

}  // namespace

TEST_CASE("200 random places of documents of all kinds are gone, and the rest is as it was",
          "[redact]") {
  std::vector<std::filesystem::path> files = {
      test::office("report.pdf"), test::office("annex.pdf"), test::office("inspection.pdf"),
      test::office("scans/sheet 1.pdf"), test::office("scans/sheet 2.pdf")};
  for (const auto& entry : std::filesystem::directory_iterator(LUMVET_SOURCE_DIR "/demo/producers"))
    if (entry.path().extension() == ".pdf" &&
        entry.path().filename().string().find("locked") == std::string::npos)
      files.push_back(entry.path());
  std::sort(files.begin() + 5, files.end());
  std::vector<Document> documents;
  for (const auto& file : files) documents.push_back(Document::open(file).value());
  std::mt19937 random(17);
  const auto up_to = [&](std::size_t most) {
    return std::uniform_int_distribution<std::size_t>(0, most)(random);
  };
  int letters = 0;
  int paths = 0;
  int images = 0;
  constexpr int kRounds = test::kIsSanitized ? 50 : 200;
  for (int round = 0; round < kRounds; ++round) {
    const Document& document = documents[static_cast<std::size_t>(round) % documents.size()];
    const int index = static_cast<int>(up_to(static_cast<std::size_t>(document.page_count()) - 1));
    const Page page = document.page(index).value();
    const PageWords words = PageWords::of(page).value();
    RedactRequest request;
    if (round % 3 != 0 && words.word_count() > 0) {
      const auto word = words.word(up_to(words.word_count() - 1));
      request.areas = {{.page = index, .quads = words.quads(word.begin, word.end)}};
    } else {
      // One after the other: the order in which arguments are reckoned is the compiler's choice.
      const auto left = static_cast<double>(up_to(static_cast<std::size_t>(page.width())));
      const auto top = static_cast<double>(up_to(static_cast<std::size_t>(page.height())));
      const auto width = static_cast<double>(20 + up_to(150));
      const auto height = static_cast<double>(10 + up_to(90));
      request = area(left, top, width, height, index);
    }
    const Quad& place = request.areas[0].quads[0];
    CAPTURE(round, document.name(), index, place[0].x, place[0].y, place[2].x, place[2].y);
    const Redacted after = redacted(document, request);
    letters += after.report.letters;
    paths += after.report.paths;
    images += after.report.images;
    std::vector<Rect> without = rects_of(after.report, index);
    const std::vector<Annotation> marks = page.annotations().value();
    for (const Annotation& mark : marks) {
      const PageArea shown = shown_area(page, mark.rect);
      without.push_back(
          {shown.left, shown.top, shown.left + shown.width, shown.top + shown.height});
    }
    // Letters that lie in an area in part go as a whole; signs of mathematics hang out of their
    // box.
    for (const Rect& r : rects_of(after.report, index))
      for (std::size_t i = 0; i < words.word_count(); ++i) {
        const auto word = words.word(i);
        Rect bounds = Rect::nothing();
        for (const Point p : word.quad) bounds.include(p);
        if (is_mathematical(words, word)) bounds = bounds.grown(bounds.height() * 1.5);
        const bool is_apart = bounds.right < r.left || r.right < bounds.left ||
                              bounds.top < r.bottom || r.top < bounds.bottom;
        if (!is_apart) without.push_back(bounds);
      }
    CHECK(different(document, after.document, index, without, after.report.images > 0 ? 8 : 2,
                    kCurved) <= kFewPixels);
    const PageWords left = PageWords::of(after.document.page(index).value()).value();
    for (const Rect& r : rects_of(after.report, index))
      for (std::size_t i = 0; i < left.word_count(); ++i) {
        const auto word = left.word(i);
        if (is_small_sign(left, word) || is_mathematical(left, word)) continue;
        const Quad& quad = word.quad;
        Point middle{};
        for (const Point p : quad) middle = {middle.x + p.x / 4, middle.y + p.y / 4};
        const bool is_inside =
            middle.x > r.left && middle.x < r.right && middle.y > r.bottom && middle.y < r.top;
        const bool is_small =
            quad[1].x - quad[0].x < r.width() && quad[2].y - quad[1].y < r.height();
        CHECK_FALSE((is_inside && is_small));
      }
  }
  CHECK(letters > 2 * kRounds);
  CHECK(paths > kRounds / 10);
  CHECK(images > kRounds / 40);
}
