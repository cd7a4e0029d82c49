// SPDX-License-Identifier: Apache-2.0
#include <map>
#include <numeric>

#include "base/attempt.h"
#include "content/scene_data.h"
#include "lumvet/text/font_readings.h"
#include "lumvet/text/page_words.h"
#include "lumvet/text/text_search.h"
#include "text/each_scene.h"
#include "text/hits_in_order.h"

namespace lumvet {
namespace {

// What a page shows in each font.
std::map<std::string, FontReading> readings_of(const content::SceneText& text) {
  std::map<std::string, FontReading> fonts;
  for (std::size_t run = 0; run < text.page_runs; ++run) {
    FontReading& reading = fonts[text.font_of(text.runs[run]).traits().name];
    bool is_replaced = false;  // by what marked content says
    for (int mark = text.runs[run].mark; mark >= 0;
         mark = text.marks[static_cast<std::size_t>(mark)].outer)
      is_replaced |= text.marks[static_cast<std::size_t>(mark)].actual_text >= 0;
    for (std::size_t i = text.runs[run].first_glyph; i < text.glyphs_end(run); ++i) {
      ++reading.characters;
      if (text.glyphs[i].characters() == 0 && !is_replaced) ++reading.unknown;
    }
  }
  return fonts;
}

}  // namespace

Result<std::vector<FontReading>> font_readings(const Document& document,
                                               const ReadOptions& options) {
  std::vector<int> pages(static_cast<std::size_t>(document.page_count()));
  std::iota(pages.begin(), pages.end(), 0);
  std::map<std::string, FontReading> all;
  using Readings = std::map<std::string, FontReading>;
  LUMVET_RETURN_IF_ERROR(text::each_scene<Readings>(
      document, pages, options,
      [](int, const Scene& scene) -> Result<Readings> { return readings_of(data_of(scene).text); },
      [&](int, const Readings& readings) -> Status {
        for (const auto& [name, reading] : readings) {
          all[name].characters += reading.characters;
          all[name].unknown += reading.unknown;
        }
        return Done{};
      }));
  std::vector<FontReading> list;
  list.reserve(all.size());
  for (auto& [name, reading] : all) list.push_back({name, reading.characters, reading.unknown});
  return list;
}

Status read_pages(const Document& document, const std::vector<int>& pages,
                  const ReadOptions& options, const TakeWords& take) {
  return text::each_scene<PageWords>(
      document, pages, options,
      [&](int, const Scene& scene) -> Result<PageWords> {
        return PageWords::of(scene, options.letters);
      },
      [&](int page, const PageWords& words) { return called_back(take, page, words); });
}

Status find_in(const Document& document, const std::vector<int>& pages, const TextSearch& search,
               const ReadOptions& options, const TakeHits& take) {
  text::HitsInOrder found(search);
  found.begin(take, [](int, const Error& error) { return Status(error); });
  LUMVET_RETURN_IF_ERROR(text::each_scene<text::SearchedPage>(
      document, pages, options,
      [&](int, const Scene& scene) {
        return text::SearchedPage::of(search, PageWords::of(scene, options.letters));
      },
      [&](int page, const text::SearchedPage& searched) { return found.add(page, searched); }));
  return found.finish();
}

}  // namespace lumvet
