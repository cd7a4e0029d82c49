// SPDX-License-Identifier: Apache-2.0
// Pages of text set, beside HarfBuzz shaping the same words alone; and tables that grow.
#include <benchmark/benchmark.h>
#include <hb.h>

#include <memory>
#include <string>

#include "bench/inputs.h"
#include "lumvet/compose/flow.h"
#include "lumvet/io/byte_source.h"

namespace {

constexpr const char* kFont = "/usr/share/fonts/truetype/liberation/LiberationSerif-Regular.ttf";
constexpr int kWords = 500;  // a page

int pages() { return bench::is_short() ? 10 : 1000; }

// Words of a manual, none of which is alike its neighbors.
std::string paragraph(int number) {
  static const char* const kParts[] = {"inspect", "the",  "handrail", "before", "every",  "spring",
                                       "flood",   "with", "a",        "gauge",  "bridge", "office"};
  std::string text;
  for (int i = 0; i < kWords / 5; ++i) {
    if (i > 0) text += ' ';
    text += kParts[static_cast<std::size_t>(number * 7 + i * 5 + i / 3) % std::size(kParts)];
  }
  return text + ".";
}

void shape_alone(benchmark::State& state) {
  hb_blob_t* blob = hb_blob_create_from_file(kFont);
  hb_face_t* face = hb_face_create(blob, 0);
  hb_font_t* font = hb_font_create(face);
  for (auto _ : state)
    for (int i = 0; i < pages() * 5; ++i) {
      const std::string text = paragraph(i);
      hb_buffer_t* buffer = hb_buffer_create();
      hb_buffer_add_utf8(buffer, text.data(), static_cast<int>(text.size()), 0, -1);
      hb_buffer_guess_segment_properties(buffer);
      hb_shape(font, buffer, nullptr, 0);
      benchmark::DoNotOptimize(hb_buffer_get_length(buffer));
      hb_buffer_destroy(buffer);
    }
  hb_font_destroy(font);
  hb_face_destroy(face);
  hb_blob_destroy(blob);
}
BENCHMARK(shape_alone)
    ->Name("compose/limit: shape the words of 1000 pages")
    ->Unit(benchmark::kMillisecond);

void set_pages(benchmark::State& state) {
  const lumvet::TextStyle look{.face = lumvet::Typeface::of_file(kFont).value(), .size = 11};
  const lumvet::ParagraphStyle style{.align = lumvet::ParagraphStyle::Align::justified, .after = 6};
  int made = 0;
  for (auto _ : state) {
    lumvet::Flow flow;
    for (int i = 0; i < pages() * 5; ++i) flow.add(lumvet::Paragraph(paragraph(i), look, style));
    const auto document = flow.as_document();
    if (!document.ok()) state.SkipWithError(document.error().message().c_str());
    made = document.ok() ? document->page_count() : 0;
  }
  state.SetLabel(std::to_string(made) + " pages");
}
BENCHMARK(set_pages)
    ->Name("compose/lumvet: set 1000 pages of 500 words")
    ->Unit(benchmark::kMillisecond);

// Takes what is written, and keeps nothing.
class NoSink final : public lumvet::ByteSink {
 public:
  lumvet::Status write(lumvet::ByteView /*bytes*/) override { return lumvet::Done{}; }
};

void set_table(benchmark::State& state) {
  const lumvet::TextStyle look{.face = lumvet::Typeface::of_file(kFont).value(), .size = 9};
  const std::size_t rows = static_cast<std::size_t>(state.range(0)) / (bench::is_short() ? 100 : 1);
  for (auto _ : state)
    for (int times = 0; times < state.range(1); ++times) {
      lumvet::Table table{.columns = {{.width = 60}, {.share = 1}, {.width = 60}}};
      table.more_rows = [&](std::size_t i) -> lumvet::Result<std::optional<lumvet::TableRow>> {
        if (i >= rows) return std::optional<lumvet::TableRow>();
        return std::optional(lumvet::TableRow{.cells = {{std::to_string(i), look},
                                                        {"Grease the bearing", look},
                                                        {std::to_string(i % 97), look}}});
      };
      lumvet::Flow flow;
      flow.add(table);
      NoSink sink;
      const auto saved = flow.save(sink);
      if (!saved.ok()) state.SkipWithError(saved.error().message().c_str());
    }
}
BENCHMARK(set_table)
    ->Name("table/limit: ten tables of 10000 rows")
    ->Args({10'000, 10})
    ->Unit(benchmark::kMillisecond);
BENCHMARK(set_table)
    ->Name("table/lumvet: a table of 100000 rows")
    ->Args({100'000, 1})
    ->Unit(benchmark::kMillisecond);

}  // namespace
