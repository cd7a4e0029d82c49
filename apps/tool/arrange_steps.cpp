// SPDX-License-Identifier: Apache-2.0
#include "arrange_steps.h"

#include <array>
#include <sstream>

#include "files.h"

namespace tool {
namespace {

using lumvet::Arrangement;
using lumvet::PageSelection;
using lumvet::Status;
using Words = std::vector<std::string>;

constexpr double kPointsPerMillimetre = 72 / 25.4;

lumvet::Error wrong(const std::string& form) {
  return lumvet::Error(lumvet::ErrorCode::invalid_argument, "write " + form);
}

// "before 3", "behind last", which must be the last two words.
lumvet::Result<int> place_of(const Words& words, const Arrangement& pages) {
  if (words.size() < 2) return wrong("before or behind a page");
  const std::string& side = words[words.size() - 2];
  if (side != "before" && side != "behind") return wrong("before or behind a page");
  LUMVET_TRY(const PageSelection page, PageSelection::parse(words.back()));
  LUMVET_TRY(const std::vector<int> indices, page.in(pages.page_count()));
  if (indices.size() != 1) return wrong("before or behind one page");
  return indices[0] + (side == "behind" ? 1 : 0);
}

Status turn(const Words& words, Arrangement& pages) {
  const int degrees = words.size() != 2      ? 0
                      : words[1] == "right"  ? 90
                      : words[1] == "left"   ? 270
                      : words[1] == "around" ? 180
                                             : 0;
  if (degrees == 0) return wrong("turn PAGES left, right or around");
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  return pages.turn(selection, degrees);
}

Status move(const Words& words, Arrangement& pages) {
  if (words.size() != 3) return wrong("move PAGES before PAGE, or behind it");
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  LUMVET_TRY(const int before, place_of(words, pages));
  return pages.move(selection, before);
}

Status blank(const Words& words, Arrangement& pages) {
  const std::string form = "blank COUNT before PAGE SIZE, or behind it; without a size A4";
  if (words.size() < 3) return wrong(form);
  const std::string& count = words[0];
  if (count.empty() || count.size() > 5 || count.find_first_not_of("0123456789") != count.npos)
    return wrong(form);
  std::string size;
  for (std::size_t i = 3; i < words.size(); ++i) size += (i > 3 ? " " : "") + words[i];
  LUMVET_TRY(const lumvet::PaperSize paper, lumvet::PaperSize::parse(size.empty() ? "A4" : size));
  LUMVET_TRY(const int before, place_of({words[1], words[2]}, pages));
  return pages.insert_blank(before, std::stoi(count), paper);
}

// The file's name may have blanks in it.
Status insert(const Words& words, const Secrets& secrets, Arrangement& pages) {
  if (words.size() < 3) return wrong("insert FILE before PAGE, or FILE@PAGES behind it");
  std::string argument;
  for (std::size_t i = 0; i + 2 < words.size(); ++i) argument += (i > 0 ? " " : "") + words[i];
  const PagesOf parts = split_input(argument);
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(parts.pages));
  LUMVET_TRY(const int before, place_of(words, pages));
  LUMVET_TRY(const lumvet::Document other, open_input(parts.path, secrets));
  return pages.insert(other, selection, before);
}

Status crop(const Words& words, Arrangement& pages) {
  const std::string form = "crop PAGES LEFT,TOP,RIGHT,BOTTOM, in millimetres";
  if (words.size() != 2) return wrong(form);
  std::array<double, 4> sides{};
  std::istringstream numbers(words[1]);
  for (std::size_t i = 0; i < sides.size(); ++i) {
    char comma = ',';
    if ((i > 0 && !(numbers >> comma)) || comma != ',' || !(numbers >> sides[i]))
      return wrong(form);
  }
  if (numbers.peek() != std::istringstream::traits_type::eof()) return wrong(form);
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  const auto points = [&](std::size_t i) { return sides[i] * kPointsPerMillimetre; };
  return pages.crop(selection, {points(0), points(1), points(2), points(3)});
}

Status do_words(const std::string& verb, const Words& words, const Secrets& secrets,
                Arrangement& pages) {
  if (verb == "turn") return turn(words, pages);
  if (verb == "move") return move(words, pages);
  if (verb == "blank") return blank(words, pages);
  if (verb == "insert") return insert(words, secrets, pages);
  if (verb == "crop") return crop(words, pages);
  if (verb == "interleave") {
    if (words.size() > 1 || (words.size() == 1 && words[0] != "reversed"))
      return wrong("interleave, or interleave reversed");
    return pages.interleave(!words.empty());
  }
  if (verb == "reverse" && words.empty()) return pages.reverse();
  if (verb != "drop" && verb != "keep" && verb != "copy" && verb != "reverse")
    return wrong(kArrangeSteps);
  if (words.size() != 1) return wrong(verb + " PAGES");
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  if (verb == "drop") return pages.drop(selection);
  if (verb == "keep") return pages.keep(selection);
  if (verb == "copy") return pages.duplicate(selection);
  return pages.reverse(selection);
}

}  // namespace

const char* const kArrangeSteps =
    "turn PAGES left|right|around, move PAGES before|behind PAGE, drop PAGES, keep PAGES, copy "
    "PAGES, reverse PAGES, interleave, interleave reversed, blank COUNT before|behind PAGE SIZE, "
    "insert FILE@PAGES before|behind PAGE, or crop PAGES LEFT,TOP,RIGHT,BOTTOM in millimetres";

Status do_step(const std::string& step, const Secrets& secrets, Arrangement& arrangement) {
  std::istringstream text(step);
  std::string verb;
  text >> verb;
  Words words;
  for (std::string word; text >> word;) words.push_back(word);
  Status done = do_words(verb, words, secrets, arrangement);
  if (!done.ok()) return std::move(done).error().during("doing '" + step + "'");
  return done;
}

}  // namespace tool
