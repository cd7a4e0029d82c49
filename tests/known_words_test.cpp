// SPDX-License-Identifier: Apache-2.0
// Pages that a browser set from texts that are known: Latin, Greek, Cyrillic, Arabic, Hebrew,
// Devanagari, Chinese, Japanese and Korean, in one to three columns, justified, with tables, raised
// letters and spaced-out headings.
#include <filesystem>
#include <map>
#include <sstream>

#include "lumvet/lumvet.h"
#include "objects/text_string.h"
#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
namespace fs = std::filesystem;

namespace {

const fs::path kFolder = fs::path(LUMVET_SOURCE_DIR) / "demo/producers/words";

// By white space; of scripts that have none between words, each character.
std::vector<std::string> words_in(const std::string& text) {
  std::vector<std::string> words;
  std::istringstream in(text);
  for (std::string word; in >> word;) {
    constexpr std::uint32_t kFirst = 0x2E80;  // of the Chinese and Japanese characters
    std::size_t at = 0;
    if (objects::next_code_point(word, at) < kFirst) {
      words.push_back(word);
      continue;
    }
    for (at = 0; at < word.size();) {
      const std::size_t begin = at;
      objects::next_code_point(word, at);
      words.push_back(word.substr(begin, at - begin));
    }
  }
  return words;
}

// How many of one list are in the other, whatever their order.
std::size_t common(const std::vector<std::string>& a, const std::vector<std::string>& b) {
  std::map<std::string, std::size_t> counts;
  for (const std::string& word : a) ++counts[word];
  std::size_t both = 0;
  for (const std::string& word : b)
    if (const auto known = counts.find(word); known != counts.end() && known->second > 0) {
      --known->second;
      ++both;
    }
  return both;
}

// How many stand in the same order in both: the longest common subsequence.
std::size_t in_order(const std::vector<std::string>& a, const std::vector<std::string>& b) {
  std::vector<std::size_t> above(b.size() + 1);
  for (const std::string& word : a) {
    std::vector<std::size_t> row(b.size() + 1);
    for (std::size_t j = 0; j < b.size(); ++j)
      row[j + 1] = word == b[j] ? above[j] + 1 : std::max(above[j + 1], row[j]);
    above = std::move(row);
  }
  return above.back();
}

}  // namespace

TEST_CASE("words of a browser's pages are read as they were written, in their order", "[text]") {
  std::size_t documents = 0;
  double all_f1 = 0;
  for (const auto& entry : fs::directory_iterator(kFolder)) {
    if (entry.path().extension() != ".pdf") continue;
    ++documents;
    const Document document = Document::open(entry.path()).value();
    std::string read;
    for (int i = 0; i < document.page_count(); ++i)
      read += text_of(document.page(i).value()).value() + "\n";
    const auto got = words_in(read);
    const auto known = words_in(test::read_file(fs::path(entry.path()).replace_extension(".txt")));
    const std::size_t both = common(known, got);
    const double f1 =
        2.0 * static_cast<double>(both) / static_cast<double>(known.size() + got.size());
    all_f1 += f1;
    CAPTURE(entry.path().filename().string());
    CHECK(f1 > 0.98);
    CHECK(static_cast<double>(in_order(known, got)) > 0.98 * static_cast<double>(both));
  }
  CHECK(documents == 12);
  CHECK(all_f1 / static_cast<double>(documents) > 0.99);
}

TEST_CASE("tables of a browser come out as they were written, cells over several columns too",
          "[text]") {
  const Document document = Document::open(kFolder / "spans.pdf").value();
  const PageWords words = PageWords::of(document.page(0).value()).value();
  const std::string head = ",Loads,,Deflection,\r\nBridge,dead,live,mid,end\r\n";
  const std::string rows =
      "Alder Weir,12.4,3.1,8,2\r\nMerrow Ford,22.4,5.1,9,3\r\nTannery steps,9.0,1.1,4,1\r\n";
  CHECK(tables_as_csv(words) ==
        head + rows +
            // In the second one "Bridge" takes two rows.
            "\r\nBridge,Loads,,Deflection,\r\n,dead,live,mid,end\r\n" + rows +
            "Sum,not to be added,,,\r\n" +
            "\r\nBridge,dead,live\r\nAlder Weir,12.4,3.1\r\nMerrow Ford,22.4,5.1\r\n"
            "Tannery steps,9.0,1.1\r\nHollin Mill,9.0,1.1\r\n");
  const std::string html = as_html(words);
  CHECK_THAT(html, Catch::Contains("<td colspan=\"4\">not to be added</td></tr>"));
  CHECK_THAT(html, Catch::Contains("<th colspan=\"2\">Loads</th>"));
  CHECK_THAT(words.text(), Catch::Contains("The office of the bridges was asked"));
}
