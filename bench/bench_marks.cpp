// SPDX-License-Identifier: Apache-2.0
// Marks added to the manual of 3,200 pages and appended, beside writing what was added alone; all
// marks listed on all cores, beside walking its pages on one; a form filled in, beside drawing the
// same looks.
#include <benchmark/benchmark.h>

#include <string>

#include "bench/inputs.h"
#include "lumvet/annotate/annotations.h"
#include "lumvet/draw/new_document.h"
#include "lumvet/forms/fields.h"
#include "lumvet/forms/filling.h"
#include "lumvet/io/byte_sink.h"

namespace {

int count() { return bench::is_short() ? 200 : 10'000; }
int field_count() { return bench::is_short() ? 100 : 5'000; }
constexpr int kOnPage = 50;  // fields

const lumvet::Document& manual() {
  static const lumvet::Document kManual =
      lumvet::Document::open(bench::input("manual.pdf")).value();
  return kManual;
}

const std::vector<lumvet::NewMark>& highlights() {
  static const std::vector<lumvet::NewMark> kMarks = [] {
    std::vector<lumvet::NewMark> marks;
    const int pages = manual().page_count();
    for (int i = 0; i < count(); ++i) {
      const int index = i % pages;
      const double top = 90 + 14.0 * (i / pages);
      const lumvet::Page page = manual().page(index).value();
      lumvet::NewMark mark{
          .page = index,
          .annotation = lumvet::text_mark(
              page, lumvet::Annotation::Kind::highlight,
              {{lumvet::Point{70, top}, {270, top}, {270, top + 12}, {70, top + 12}}})};
      mark.annotation.author = "Ilse Marren";
      mark.annotation.contents = "Look at this again, no. " + std::to_string(i);
      marks.push_back(std::move(mark));
    }
    return marks;
  }();
  return kMarks;
}

void append_alone(benchmark::State& state) {
  auto edited = lumvet::EditableDocument::of(manual());
  lumvet::add_annotations(edited, highlights()).value();
  std::size_t bytes = 0;
  for (auto _ : state) bytes = edited.appended()->size();
  state.SetLabel(std::to_string(bytes / static_cast<std::size_t>(count())) + " bytes a mark");
}
BENCHMARK(append_alone)
    ->Name("marks/limit: write what 10000 highlights add")
    ->Unit(benchmark::kMillisecond);

void add_and_append(benchmark::State& state) {
  highlights();
  for (auto _ : state) {
    auto edited = lumvet::EditableDocument::of(manual());
    lumvet::add_annotations(edited, highlights()).value();
    benchmark::DoNotOptimize(edited.appended().value());
  }
}
BENCHMARK(add_and_append)
    ->Name("marks/lumvet: add 10000 highlights and append")
    ->Unit(benchmark::kMillisecond);

const lumvet::Bytes& marked() {
  static const lumvet::Bytes kMarked = [] {
    auto edited = lumvet::EditableDocument::of(manual());
    lumvet::add_annotations(edited, highlights()).value();
    lumvet::BufferSink sink;
    edited.save(sink).value();
    return sink.take();
  }();
  return kMarked;
}

void walk_pages(benchmark::State& state) {
  marked();
  for (auto _ : state) {
    const auto document = lumvet::Document::open(marked()).value();
    for (int i = 0; i < document.page_count(); ++i)
      benchmark::DoNotOptimize(document.page(i).value());
  }
}
BENCHMARK(walk_pages)
    ->Name("listing/limit: walk the pages of the marked manual")
    ->Unit(benchmark::kMillisecond);

void list_marks(benchmark::State& state) {
  marked();
  for (auto _ : state) {
    const auto document = lumvet::Document::open(marked()).value();
    int marks = 0;
    for (const auto& of_page : document.annotations().value())
      marks += static_cast<int>(of_page.size());
    if (marks < count()) state.SkipWithError("marks are missing");
  }
}
BENCHMARK(list_marks)->Name("listing/lumvet: list its 10000 marks")->Unit(benchmark::kMillisecond);

std::string value(int i) { return "Reading " + std::to_string(i * 7919 % 100'000) + " mm"; }

void draw_texts(benchmark::State& state) {
  for (auto _ : state) {
    lumvet::NewDocument document;
    for (int i = 0; i < field_count(); i += kOnPage) {
      lumvet::Drawing& page = document.add_page({595, 842});
      for (int at = 0; at < kOnPage; ++at) {
        lumvet::Drawing look(200, 14);
        look.stroke(lumvet::box({0.4, 0.4, 199.2, 13.2}), lumvet::Color::gray(0.5),
                    {.width = 0.75});
        look.write(value(i + at), {2, 10}, {.size = 9});
        page.draw(look, {60, 46 + 15.0 * at});
      }
    }
    lumvet::BufferSink sink;
    document.save(sink).value();
  }
}
BENCHMARK(draw_texts)
    ->Name("fields/limit: draw 5000 framed texts and save")
    ->Unit(benchmark::kMillisecond);

void fill_fields(benchmark::State& state) {
  lumvet::NewDocument blank;
  std::vector<lumvet::NewField> fields;
  std::vector<lumvet::FieldValue> values;
  for (int i = 0; i < field_count(); ++i) {
    if (i % kOnPage == 0) blank.add_page({595, 842});
    const std::string name = "reading-" + std::to_string(i);
    fields.push_back(
        {.name = name,
         .places = {{.page = i / kOnPage, .area = {60, 46 + 15.0 * (i % kOnPage), 200, 14}}},
         .size = 9});
    values.push_back({name, {value(i)}});
  }
  auto made = lumvet::EditableDocument::of(blank.as_document().value());
  lumvet::add_fields(made, fields).value();
  const auto form = made.now().value();
  for (auto _ : state) {
    auto filled = lumvet::EditableDocument::of(form);
    if (lumvet::fill_fields(filled, values)->filled != field_count())
      state.SkipWithError("fields are missing");
    lumvet::BufferSink sink;
    filled.save(sink).value();
  }
}
BENCHMARK(fill_fields)
    ->Name("fields/lumvet: fill 5000 fields and save")
    ->Unit(benchmark::kMillisecond);

}  // namespace
