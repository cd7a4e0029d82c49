// SPDX-License-Identifier: Apache-2.0
#include "layout_steps.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <map>

#include <lumvet/compose/page_text.h>

#include "colors.h"
#include "files.h"
#include "lengths.h"

namespace tool {
namespace {

using lumvet::PageSelection;
using lumvet::Status;

Status read_number(const std::string& word, double& number) {
  std::size_t used = 0;
  try {
    number = std::stod(word, &used);
  } catch (const std::exception&) {
    used = 0;
  }
  if (used == word.size() && used > 0 && std::isfinite(number)) return lumvet::Done{};
  return lumvet::Error(lumvet::ErrorCode::invalid_argument, "'" + word + "' is not a number");
}

// What may follow a step, in any order: single words, and words with a value behind.
class Choices {
 public:
  using Take = std::function<Status(const std::string& value)>;

  void flag(const std::string& word, bool& chosen) {
    flags_[word] = [&chosen] { chosen = true; };
  }
  void value(const std::string& word, Take take) { values_[word] = std::move(take); }
  void number(const std::string& word, double factor, double& number) {
    value(word, [factor, &number](const std::string& text) -> Status {
      LUMVET_RETURN_IF_ERROR(read_number(text, number));
      number *= factor;
      return lumvet::Done{};
    });
  }

  void length(const std::string& word, double& points, BareLength bare = BareLength::millimeters) {
    value(word, [&points, bare](const std::string& text) -> Status {
      LUMVET_TRY(points, parse_length(text, bare));
      return lumvet::Done{};
    });
  }

  Status read(const Words& words, std::size_t from, const std::string& form) const {
    for (std::size_t i = from; i < words.size(); ++i) {
      if (const auto flag = flags_.find(words[i]); flag != flags_.end()) {
        flag->second();
      } else if (const auto value = values_.find(words[i]);
                 value != values_.end() && i + 1 < words.size()) {
        LUMVET_RETURN_IF_ERROR(value->second(words[++i]));
      } else {
        return wrong_step(form);
      }
    }
    return lumvet::Done{};
  }

 private:
  std::map<std::string, std::function<void()>> flags_;
  std::map<std::string, Take> values_;
};

Status read_anchor(const std::string& word, lumvet::Anchor& anchor) {
  using lumvet::Anchor;
  static const std::map<std::string, Anchor> kAnchors = {{"top-left", Anchor::top_left},
                                                         {"top", Anchor::top},
                                                         {"top-right", Anchor::top_right},
                                                         {"left", Anchor::left},
                                                         {"center", Anchor::center},
                                                         {"right", Anchor::right},
                                                         {"bottom-left", Anchor::bottom_left},
                                                         {"bottom", Anchor::bottom},
                                                         {"bottom-right", Anchor::bottom_right}};
  const auto found = kAnchors.find(word);
  if (found == kAnchors.end())
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "'" + word + "' is not a place; write top, bottom-left, center and so on");
  anchor = found->second;
  return lumvet::Done{};
}

// The words before `on`, which may be a file's name with blanks in it, and those behind.
lumvet::Result<std::size_t> place_of_on(const Words& words, const std::string& form) {
  for (std::size_t i = words.size(); i-- > 1;)
    if (words[i] == "on" && i + 1 < words.size()) return i;
  return wrong_step(form);
}

Status resize(const Words& words, const Secrets&, ArrangedPages& pages) {
  const std::string form = "resize PAGES SIZE, as in resize all A4, and unscaled after it";
  if (words.size() < 2) return wrong_step(form);
  bool unscaled = false;
  Choices choices;
  choices.flag("unscaled", unscaled);
  LUMVET_RETURN_IF_ERROR(choices.read(words, 2, form));
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[0]));
  LUMVET_TRY(const lumvet::PaperSize paper, lumvet::PaperSize::parse(words[1]));
  return pages.document().resize(selection, paper, !unscaled);
}

Status overlay(const Words& words, const Secrets& secrets, ArrangedPages& pages) {
  const std::string form =
      "overlay FILE on PAGES, and after it beneath, at ANCHOR, margin LENGTH, scale PERCENT or "
      "opacity "
      "PERCENT";
  LUMVET_TRY(const std::size_t on, place_of_on(words, form));
  std::string file;
  for (std::size_t i = 0; i < on; ++i) file += (i > 0 ? " " : "") + words[i];
  lumvet::Overlay how;
  double scale = 0;
  Choices choices;
  choices.flag("beneath", how.beneath);
  choices.value("at", [&](const std::string& word) { return read_anchor(word, how.anchor); });
  choices.length("margin", how.margin);
  choices.number("scale", 0.01, scale);
  choices.number("opacity", 0.01, how.opacity);
  LUMVET_RETURN_IF_ERROR(choices.read(words, on + 2, form));
  if (scale != 0) how.scale = scale;
  const PagesOf parts = split_input(file);
  LUMVET_TRY(const PageSelection from, PageSelection::parse(parts.pages));
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[on + 1]));
  LUMVET_TRY(const lumvet::Document other, open_input(parts.path, secrets));
  return lumvet::overlay(pages.document(), selection, other, from, how);
}

Status write(const Words& words, const Secrets&, ArrangedPages& pages) {
  const std::string form =
      "write 'TEXT' on PAGES, and after it beneath, at ANCHOR, margin LENGTH, size LENGTH, font "
      "NAME "
      "or "
      "its file, "
      "color RRGGBB, rotated DEGREES or opacity PERCENT";
  if (words.size() < 3 || words[1] != "on") return wrong_step(form);
  lumvet::PageText text{.text = words[0]};
  double size = 0;
  bool has_anchor = false;
  Choices choices;
  choices.flag("beneath", text.beneath);
  choices.value("at", [&](const std::string& word) {
    has_anchor = true;
    return read_anchor(word, text.anchor);
  });
  choices.length("margin", text.margin);
  choices.length("size", size, BareLength::points);
  choices.number("rotated", 1, text.degrees);
  choices.number("opacity", 0.01, text.opacity);
  choices.value("font", [&](const std::string& word) -> Status {
    std::error_code ignored;
    if (!std::filesystem::is_regular_file(word, ignored)) {
      text.font = word;
      return lumvet::Done{};
    }
    text.fonts = lumvet::FontSupply(lumvet::FontSupply::System::left_out);
    return text.fonts.add_file(word);
  });
  choices.value("color", [&](const std::string& word) -> Status {
    LUMVET_TRY(text.color, parse_color(word));
    return lumvet::Done{};
  });
  LUMVET_RETURN_IF_ERROR(choices.read(words, 3, form));
  if (size != 0) text.size = size;
  if (!has_anchor && text.degrees != 0) text.anchor = lumvet::Anchor::center;
  for (std::size_t at = 0; (at = text.text.find("\\n", at)) != std::string::npos; ++at)
    text.text.replace(at, 2, "\n");
  LUMVET_TRY(const PageSelection selection, PageSelection::parse(words[2]));
  return lumvet::write_on_pages(pages.document(), selection, text);
}

// A size of paper where one is named; how many words it took.
lumvet::Result<std::size_t> read_paper(const Words& words, std::size_t at,
                                       lumvet::PaperSize& paper) {
  if (at >= words.size()) return std::size_t{0};
  const auto size = lumvet::PaperSize::parse(words[at]);
  if (!size.ok()) return std::size_t{0};
  paper = *size;
  return std::size_t{1};
}

Status sheets(const Words& words, const Secrets&, ArrangedPages& pages) {
  const std::string form =
      "sheets COLUMNSxROWS SIZE, as in sheets 2x2 A4, and after it framed, down, right-to-left, "
      "margin "
      "LENGTH or gap LENGTH";
  if (words.empty()) return wrong_step(form);
  const std::size_t times = words[0].find('x');
  double columns = 0;
  double rows = 0;
  if (times == std::string::npos || !read_number(words[0].substr(0, times), columns).ok() ||
      !read_number(words[0].substr(times + 1), rows).ok())
    return wrong_step(form);
  constexpr double kMost = 1000;
  lumvet::SheetLayout layout{.columns = static_cast<int>(std::clamp(columns, 0.0, kMost)),
                             .rows = static_cast<int>(std::clamp(rows, 0.0, kMost))};
  LUMVET_TRY(const std::size_t used, read_paper(words, 1, layout.paper));
  Choices choices;
  choices.flag("framed", layout.framed);
  choices.flag("down", layout.down_first);
  choices.flag("right-to-left", layout.right_to_left);
  choices.length("margin", layout.margin);
  choices.length("gap", layout.gap);
  LUMVET_RETURN_IF_ERROR(choices.read(words, 1 + used, form));
  return pages.lay_on_sheets(layout);
}

Status booklet(const Words& words, const Secrets&, ArrangedPages& pages) {
  lumvet::BookletLayout layout;
  double section = 0;
  LUMVET_TRY(const std::size_t used, read_paper(words, 0, layout.paper));
  Choices choices;
  choices.number("section", 1, section);
  choices.flag("right-to-left", layout.right_to_left);
  choices.length("margin", layout.margin);
  LUMVET_RETURN_IF_ERROR(
      choices.read(words, used,
                   "booklet SIZE, as in booklet A4, and after it section SHEETS, right-to-left "
                   "or margin LENGTH"));
  layout.sheets_in_a_section = static_cast<int>(std::clamp(section, -1.0, 10'000.0));
  return pages.lay_as_booklet(layout);
}

}  // namespace

lumvet::Error wrong_step(const std::string& form) {
  return lumvet::Error(lumvet::ErrorCode::invalid_argument, "such a step is " + form);
}

LayoutStep layout_step(const std::string& verb) {
  static const std::map<std::string, LayoutStep> kSteps = {{"resize", resize},
                                                           {"overlay", overlay},
                                                           {"write", write},
                                                           {"sheets", sheets},
                                                           {"booklet", booklet}};
  const auto found = kSteps.find(verb);
  return found == kSteps.end() ? nullptr : found->second;
}

}  // namespace tool
