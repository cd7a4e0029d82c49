// SPDX-License-Identifier: Apache-2.0
#include "arrange_steps.h"

#include <sstream>

#include "files.h"
#include "layout_steps.h"
#include "lengths.h"

namespace tool {
namespace {

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

// "before 3", "after last", which must be the last two words.
lumvet::Result<int> place_of(const Words& words, const ArrangedPages& pages) {
  if (words.size() < 2) return wrong("before or after a page");
  const std::string& side = words[words.size() - 2];
  if (side != "before" && side != "after") return wrong("before or after a page");
  LUMVET_TRY(const int count, pages.page_count());
  LUMVET_TRY(const PageSelection page, PageSelection::parse(words.back()));
  LUMVET_TRY(const std::vector<int> indices, page.in(count));
  if (indices.size() != 1) return wrong("before or after one page");
  return indices[0] + (side == "after" ? 1 : 0);
}

Status rotate(const Words& words, ArrangedPages& pages) {
  const int degrees = words.size() != 2      ? 0
                      : words[1] == "right"  ? 90
                      : words[1] == "left"   ? 270
                      : words[1] == "around" ? 180
                                             : 0;
  if (degrees == 0) return wrong("rotate PAGES left, right or around");
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  return pages.document().rotate(selection, degrees);
}

Status move(const Words& words, ArrangedPages& pages) {
  if (words.size() != 3) return wrong("move PAGES before PAGE, or after it");
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  LUMVET_TRY(const int before, place_of(words, pages));
  return pages.document().move(selection, before);
}

Status blank(const Words& words, ArrangedPages& pages) {
  const std::string form = "blank COUNT before PAGE SIZE, or after it; without a size A4";
  if (words.size() < 3) return wrong(form);
  const std::string& count = words[0];
  if (count.empty() || count.size() > 5 || count.find_first_not_of("0123456789") != count.npos)
    return wrong(form);
  std::string size;
  for (std::size_t i = 3; i < words.size(); ++i) size += (i > 3 ? " " : "") + words[i];
  LUMVET_TRY(const lumvet::PaperSize paper, lumvet::PaperSize::parse(size.empty() ? "A4" : size));
  LUMVET_TRY(const int before, place_of({words[1], words[2]}, pages));
  return pages.document().insert_blank(before, std::stoi(count), paper);
}

// The file's name may have blanks in it.
Status insert(const Words& words, const Secrets& secrets, ArrangedPages& pages) {
  if (words.size() < 3) return wrong("insert FILE before PAGE, or FILE@PAGES after it");
  std::string argument;
  for (std::size_t i = 0; i + 2 < words.size(); ++i) argument += (i > 0 ? " " : "") + words[i];
  const PagesOf parts = split_input(argument);
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(parts.pages));
  LUMVET_TRY(const int before, place_of(words, pages));
  LUMVET_TRY(const lumvet::Document other, open_input(parts.path, secrets));
  return pages.document().insert(other, selection, before);
}

Status crop(const Words& words, ArrangedPages& pages) {
  const std::string form = "crop PAGES LEFT,TOP,RIGHT,BOTTOM, as in crop all 10mm,20mm,10mm,20mm";
  if (words.size() != 2) return wrong(form);
  std::vector<double> sides;
  std::istringstream parts(words[1]);
  for (std::string part; std::getline(parts, part, ',');) {
    LUMVET_TRY(const double side, parse_length(part));
    sides.push_back(side);
  }
  if (sides.size() != 4) return wrong(form);
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  return pages.document().crop(selection, {sides[0], sides[1], sides[2], sides[3]});
}

Status do_words(const std::string& verb, const Words& words, const Secrets& secrets,
                ArrangedPages& pages) {
  if (verb == "rotate") return rotate(words, pages);
  if (verb == "move") return move(words, pages);
  if (verb == "blank") return blank(words, pages);
  if (verb == "insert") return insert(words, secrets, pages);
  if (verb == "crop") return crop(words, pages);
  if (const auto step = layout_step(verb)) return step(words, secrets, pages);
  if (verb == "interleave") {
    if (words.size() > 1 || (words.size() == 1 && words[0] != "reversed"))
      return wrong("interleave, or interleave reversed");
    return pages.document().interleave(!words.empty());
  }
  if (verb == "reverse" && words.empty()) return pages.document().reverse();
  if (verb != "drop" && verb != "keep" && verb != "duplicate" && verb != "reverse")
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "a step begins with rotate, move, drop, keep, duplicate, reverse, "
                         "interleave, blank, insert, crop, resize, "
                         "overlay, "
                         "write, sheets or booklet, rather than '" +
                             verb + "'; lumvet arrange --help tells what follows each");
  if (words.size() != 1) return wrong(verb + " PAGES");
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  if (verb == "drop") return pages.document().drop(selection);
  if (verb == "keep") return pages.document().keep(selection);
  if (verb == "duplicate") return pages.document().duplicate(selection);
  return pages.document().reverse(selection);
}

}  // namespace

const char* const kArrangeSteps =
    "  rotate PAGES left|right|around      move PAGES before|after PAGE\n"
    "  drop PAGES     keep PAGES           duplicate PAGES     reverse PAGES\n"
    "  interleave [reversed]               blank COUNT before|after PAGE [SIZE]\n"
    "  insert FILE[@PAGES] before|after PAGE\n"
    "  crop PAGES LEFT,TOP,RIGHT,BOTTOM    resize PAGES SIZE [unscaled]\n"
    "  overlay FILE[@PAGES] on PAGES       then any of: beneath, at ANCHOR, margin LENGTH,\n"
    "                                      scale PERCENT, opacity PERCENT\n"
    "  write 'TEXT' on PAGES               the same but scale, and: size LENGTH, font NAME, color\n"
    "                                      RRGGBB, rotated DEGREES; {page}, {pages}, {label},\n"
    "                                      {chapter} and {title} are filled in\n"
    "  sheets COLUMNSxROWS [SIZE]          then any of: framed, down, right-to-left, margin "
    "LENGTH,\n"
    "                                      gap LENGTH\n"
    "  booklet [SIZE]                      then any of: section SHEETS, right-to-left, margin "
    "LENGTH\n"
    "ANCHOR is a side or a corner: top, bottom-left, center. LENGTH is 12mm, 1.5cm, 30pt or 2in; "
    "12 alone is 12mm, and for letters 12pt";

Status do_step(const std::string& step, const Secrets& secrets, ArrangedPages& arrangement) {
  Words words = words_of(step);
  const std::string verb = words.empty() ? "" : words.front();
  if (!words.empty()) words.erase(words.begin());
  Status done = do_words(verb, words, secrets, arrangement);
  const char* const quote = step.find('\'') == std::string::npos ? "'" : "\"";
  if (!done.ok()) return std::move(done).error().during("doing " + (quote + step + quote));
  return done;
}

}  // namespace tool
