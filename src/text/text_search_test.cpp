// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/text_search.h"

#include "tests/support/catch.h"

using namespace lumvet;

namespace {

// What is found, parted by bars.
std::string found(const std::string& wanted, const std::string& text,
                  const SearchOptions& options = {}) {
  std::string all;
  const auto search = TextSearch::of(wanted, options);
  if (!search.ok()) return search.error().message();
  for (const TextSpan& hit : search->in(text).value())
    all += (all.empty() ? "" : "|") + text.substr(hit.begin, hit.end - hit.begin);
  return all;
}

}  // namespace

TEST_CASE("case, accents, widths, ligatures and line ends make no difference", "[text]") {
  CHECK(found("bridge", "Bridge, BRIDGES and a bridge") == "Bridge|BRIDGE|bridge");
  CHECK(found("metallique", "pont MÉTALLIQUE") == "MÉTALLIQUE");
  CHECK(found("métallique", "pont me\u0301tallique") == "me\u0301tallique");
  CHECK(found("office", "the o\uFB03ce") == "o\uFB03ce");
  CHECK(found("größe", "GRÖSSE") == "GRÖSSE");
  CHECK(found("strasse", "Straße") == "Straße");
  CHECK(found("ABC1", "\uFF21\uFF22\uFF23\uFF11") == "\uFF21\uFF22\uFF23\uFF11");
  CHECK(found("swing bridge", "a swing\nbridge, a swing  bridge") == "swing\nbridge|swing  bridge");
  CHECK(found("footbridge", "a foot-\nbridge") == "foot-\nbridge");
  CHECK(found("foot bridge", "a foot-\nbridge").empty());
  CHECK(found("Foot-Bridge", "a Foot-\nBridge").empty());
  CHECK(found("foot- bridge", "a Foot-\nBridge") == "Foot-\nBridge");
  CHECK(found("ΣΟΦΟΣ", "ο σοφός") == "σοφός");
  CHECK(found("桥", "采石场旁边的桥已经关闭") == "桥");
}

TEST_CASE("what counts when it is asked for", "[text]") {
  CHECK(found("bridge", "Bridge bridge", {.match_case = true}) == "bridge");
  CHECK(found("metal", "métal metal", {.match_accents = true}) == "metal");
  CHECK(found("métal", "me\u0301tal metal", {.match_accents = true}) == "me\u0301tal");
  CHECK(found("cost", "costs cost, the_cost cost2 cost", {.whole_words = true}) == "cost|cost");
  CHECK(found("bill no [0-9]+", "Bill\nno 17, bill no x", {.is_pattern = true}) == "Bill\nno 17");
  CHECK(found("é+", "aéé🚧é", {.is_pattern = true}) == "éé|é");
  CHECK(found("[0-9]+", "a1 22", {.whole_words = true, .is_pattern = true}) == "22");
}

TEST_CASE("hits do not overlap, and nothing cannot be looked for", "[text]") {
  CHECK(found("aa", "aaaaa") == "aa|aa");
  CHECK(found("s", "\u00DF") == "\u00DF");  // both halves of it, once
  for (const char* nothing : {"", " ", "\n\t", "\u00AD"})
    CHECK(TextSearch::of(nothing).error().code() == ErrorCode::invalid_argument);
  CHECK(TextSearch::of("(a", {.is_pattern = true}).error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("a snippet is one line with whole words around the hit", "[text]") {
  const std::string text =
      "The hangers on the eastern cable of the Quarry swing\nbridge are replaced one after the "
      "other, in twenty nights.";
  const std::size_t at = text.find("swing");
  const Snippet snippet = snippet_around(text, {at, at + 12}, 20);
  CHECK(snippet.before == "cable of the Quarry ");
  CHECK(snippet.hit == "swing bridge");
  CHECK(snippet.after == " are replaced one");
  const Snippet edge = snippet_around("é橋é", {2, 5}, 1);
  CHECK(edge.before + edge.hit + edge.after == "橋");
  CHECK(snippet_around("abc", {7, 9}).hit.empty());
}
