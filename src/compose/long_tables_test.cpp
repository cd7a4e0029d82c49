// SPDX-License-Identifier: Apache-2.0
// Tables whose rows come one after the other: pages are written while rows are still asked for.
#include <algorithm>

#include "compose/data_rows.h"
#include "lumvet/compose/brief.h"
#include "lumvet/compose/flow.h"
#include "lumvet/text/page_words.h"
#include "tests/support/catch.h"

using namespace lumvet;

namespace {

const TextStyle& look() {
  static const TextStyle kLook{.face = Typeface::named("Liberation Serif").value(), .size = 10};
  return kLook;
}

// Counts what is written into it.
class CountingSink final : public ByteSink {
 public:
  Status write(ByteView bytes) override {
    size_ += bytes.size();
    return Done{};
  }
  std::uint64_t size() const { return size_; }

 private:
  std::uint64_t size_ = 0;
};

TableRow row(std::size_t number) {
  return {.cells = {{std::to_string(number), look()}, {"Grease the bearing", look()}}};
}

RowSource rows(std::size_t count) {
  return [count](std::size_t number) -> Result<std::optional<TableRow>> {
    return number < count ? std::optional(row(number)) : std::nullopt;
  };
}

Bytes saved(const Table& table, const SaveOptions& options = {}) {
  Flow flow({.footer = {.middle = "{page} of {pages}"}});
  flow.add(table);
  BufferSink sink;
  flow.save(sink, options).value();
  return sink.take();
}

}  // namespace

TEST_CASE("rows that come later are the same as rows that are there", "[compose]") {
  Table given{.head_rows = 1};
  for (std::size_t i = 0; i < 200; ++i) given.rows.push_back(row(i));
  // A cell over two rows, of which the second is the last there is.
  given.rows[198].cells[0].rows = 3;
  given.rows[199].cells = {TableCell("end", look())};
  Table later = given;
  later.rows.resize(50);
  later.more_rows = [&](std::size_t number) -> Result<std::optional<TableRow>> {
    return number < 150 ? std::optional(given.rows[50 + number]) : std::nullopt;
  };
  CHECK(saved(given) == saved(later));
  later.rows.clear();
  later.more_rows = [&](std::size_t number) -> Result<std::optional<TableRow>> {
    return number < 200 ? std::optional(given.rows[number]) : std::nullopt;
  };
  CHECK(saved(given) == saved(later));
}

TEST_CASE("pages are written while rows are asked for, and each row once", "[compose]") {
  constexpr std::size_t kRows = 12'000;
  CountingSink sink;
  std::vector<std::size_t> asked;
  std::uint64_t half_way = 0;
  Table table{.columns = {{.width = 60}, {.width = 200}}};
  table.more_rows = [&](std::size_t number) -> Result<std::optional<TableRow>> {
    asked.push_back(number);
    if (number == kRows / 2) half_way = sink.size();
    return number < kRows ? std::optional(row(number)) : std::nullopt;
  };
  Flow flow({.footer = {.middle = "{page} of {pages}"}});
  flow.add(table);
  const SaveReport report = flow.save(sink).value();
  CHECK(report.bytes == sink.size());
  CHECK(half_way > report.bytes / 3);
  CHECK(half_way < report.bytes * 2 / 3);
  CHECK(asked.size() == kRows + 1);
  CHECK(std::is_sorted(asked.begin(), asked.end()));
}

TEST_CASE("what a source of rows says goes wrong is told", "[compose]") {
  Table table{.columns = {{.width = 60}, {.width = 200}}};
  table.more_rows = [](std::size_t number) -> Result<std::optional<TableRow>> {
    if (number == 300) return Error(ErrorCode::io, "the meters cannot be read");
    return std::optional(row(number));
  };
  Flow flow;
  flow.add(table);
  const auto document = flow.as_document();
  CHECK(document.error().code() == ErrorCode::io);
  CHECK_THAT(document.error().message(), Catch::Contains("meters"));
  // Rows that do not fit the columns, wherever they come.
  table.more_rows = [](std::size_t number) -> Result<std::optional<TableRow>> {
    TableRow next = row(number);
    if (number == 300) next.cells.push_back({"more", look()});
    return number < 301 ? std::optional(next) : std::nullopt;
  };
  Flow wide;
  wide.add(table);
  CHECK_THAT(wide.as_document().error().message(),
             Catch::Contains("3 columns") && Catch::Contains("2 are described"));
}

TEST_CASE("a table over many pages is one element, each of its rows too", "[compose]") {
  Table table{.head_rows = 1};
  table.more_rows = rows(300);
  Flow flow;
  flow.add_heading("Bearings");
  flow.add(table);
  flow.add(Paragraph("Done.", look()));
  const Document document = flow.as_document().value();
  CHECK(document.page_count() > 5);
  const Structure structure = document.structure().value();
  const auto count = [&](const std::string& type) {
    return std::count_if(structure.elements.begin(), structure.elements.end(),
                         [&](const StructureElement& element) { return element.type == type; });
  };
  CHECK(count("Table") == 1);
  CHECK(count("TR") == 300);
  CHECK(count("THead") == 1);
  CHECK(count("TBody") == 5);  // of 64 rows each, whatever pages they are on
  CHECK(count("TH") == 2);
  CHECK(count("TD") == 598);
}

TEST_CASE("any layout has the same pages, and any number of threads the same bytes", "[compose]") {
  Table table{.head_rows = 1};
  table.more_rows = rows(400);
  const Bytes compact = saved(table, {.threads = 1});
  CHECK(compact == saved(table, {.threads = 4}));
  const Document document = Document::open(Bytes(compact)).value();
  for (const SaveOptions& options :
       {SaveOptions{.layout = FileLayout::classic}, SaveOptions{.layout = FileLayout::linearized},
        SaveOptions{.recompress = true},
        SaveOptions{.protection = NewProtection{.owner_password = "bridge"}}}) {
    const Document other = Document::open(saved(table, options)).value();
    CHECK(other.findings().empty());
    REQUIRE(other.page_count() == document.page_count());
    for (int i = 0; i < document.page_count(); ++i)
      CHECK(text_of(other.page(i).value()).value() == text_of(document.page(i).value()).value());
  }
}

TEST_CASE("rows of data keep every value", "[compose]") {
  compose::DataRows rows;
  const std::vector<compose::Fields> given = {{{"a", std::string("\0x\1\1", 4)}, {"b", ""}},
                                              {},
                                              {{"c", "Steg über die Ostrel"}},
                                              {{"a", ""}, {"b", std::string(1, '\0')}}};
  for (const compose::Fields& fields : given) rows.add(fields);
  REQUIRE(rows.size() == given.size());
  for (std::size_t i = 0; i < given.size(); ++i) CHECK(rows.row(i) == given[i]);
}

TEST_CASE("a brief that goes wrong behind a table leaves nothing behind", "[compose]") {
  const auto flow =
      flow_of_brief(R"({"blocks": [{"table": {"each": "rows", "row": ["{a}"]}}, {"tabel": {}}]})",
                    {.data = R"([{"a": 1}, {"a": 3}])"});
  CHECK_THAT(flow.error().message(), Catch::Contains("'tabel'"));
}

TEST_CASE("what is wrong with a later row of a brief is told when it is set", "[compose]") {
  const Flow flow = flow_of_brief(R"({"blocks": [{"table": {"each": "rows", "row": ["{a}{b}"]}}]})",
                                  {.data = R"([{"a": 1, "b": 2}, {"a": 3}])"})
                        .value();
  const auto document = flow.as_document();
  CHECK(document.error().code() == ErrorCode::invalid_argument);
  CHECK_THAT(document.error().message(), Catch::Contains("{b}") && Catch::Contains("line 1"));
}
