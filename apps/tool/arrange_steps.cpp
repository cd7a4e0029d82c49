// SPDX-License-Identifier: Apache-2.0
#include "arrange_steps.h"

#include <array>
#include <sstream>

#include "files.h"
#include "layout_steps.h"

namespace tool {
namespace {

using lumvet::Arrangement;
using lumvet::PageSelection;
using lumvet::Status;

lumvet::Error wrong(const std::string& form) { return wrong_step(form); }

// Split at blanks; what stands in quotes is one word.
Words words_of(const std::string& step) {
  Words words;
  bool is_word = false;
  char quote = 0;
  for (const char c : step) {
    const bool opens = quote == 0 && (c == '"' || c == '\'') && !is_word;
    if (opens) {
      quote = c;
      words.emplace_back();
    } else if (quote != 0) {
      if (c == quote)
        quote = 0;
      else
        words.back() += c;
    } else if (c == ' ') {
      is_word = false;
    } else {
      if (!is_word) words.emplace_back();
      is_word = true;
      words.back() += c;
    }
  }
  return words;
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
  if (const auto step = layout_step(verb)) return step(words, secrets, pages);
  if (verb == "interleave") {
    if (words.size() > 1 || (words.size() == 1 && words[0] != "reversed"))
      return wrong("interleave, or interleave reversed");
    return pages.interleave(!words.empty());
  }
  if (verb == "reverse" && words.empty()) return pages.reverse();
  if (verb != "drop" && verb != "keep" && verb != "copy" && verb != "reverse")
    return wrong(
        "turn, move, drop, keep, copy, reverse, interleave, blank, insert, crop, resize, overlay, "
        "write, sheets or booklet, rather than '" +
        verb + "'; lumvet arrange --help tells what follows each");
  if (words.size() != 1) return wrong(verb + " PAGES");
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  if (verb == "drop") return pages.drop(selection);
  if (verb == "keep") return pages.keep(selection);
  if (verb == "copy") return pages.duplicate(selection);
  return pages.reverse(selection);
}

}  // namespace

const char* const kArrangeSteps =
    "  turn PAGES left|right|around        move PAGES before|behind PAGE\n"
    "  drop PAGES     keep PAGES           copy PAGES     reverse PAGES\n"
    "  interleave [reversed]               blank COUNT before|behind PAGE [SIZE]\n"
    "  insert FILE[@PAGES] before|behind PAGE\n"
    "  crop PAGES LEFT,TOP,RIGHT,BOTTOM    in millimetres\n"
    "  resize PAGES SIZE [unscaled]\n"
    "  overlay FILE[@PAGES] on PAGES       then any of: behind, at ANCHOR, margin MM, scale "
    "PERCENT,\n"
    "                                      opacity PERCENT\n"
    "  write 'TEXT' on PAGES               the same but scale, and: size POINTS, font NAME, color\n"
    "                                      RRGGBB, turned DEGREES; {number}, {pages}, {label},\n"
    "                                      {chapter} and {title} are filled in\n"
    "  sheets COLUMNSxROWS [SIZE]          then any of: framed, down, leftward, margin MM, gap MM\n"
    "  booklet [SIZE]                      then any of: fold SHEETS, leftward, margin MM\n"
    "ANCHOR is a side or a corner: top, bottom-left, center";

Status do_step(const std::string& step, const Secrets& secrets, Arrangement& arrangement) {
  Words words = words_of(step);
  const std::string verb = words.empty() ? "" : words.front();
  if (!words.empty()) words.erase(words.begin());
  Status done = do_words(verb, words, secrets, arrangement);
  if (!done.ok()) return std::move(done).error().during("doing '" + step + "'");
  return done;
}

}  // namespace tool
