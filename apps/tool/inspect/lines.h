// SPDX-License-Identifier: Apache-2.0
// How inspect lays out what it tells a person.
#pragma once

#include <algorithm>
#include <iomanip>
#include <ostream>
#include <string>
#include <vector>

#include "sections.h"

namespace tool {

// Line ends in what documents say are no line ends of what is told of them.
inline std::string without_line_ends(std::string text) {
  std::replace(text.begin(), text.end(), '\n', ' ');
  return text;
}

// "  Title         Day 12"; nothing when there is no text.
inline void line(std::ostream& out, const std::string& label, const std::string& text) {
  constexpr int kLabelWidth = 14;
  if (text.empty()) return;
  out << "  " << std::left << std::setw(kLabelWidth) << label << without_line_ends(text) << '\n';
}

// One entry of a list.
inline void item(std::ostream& out, const std::string& text) {
  out << "  " << without_line_ends(text) << '\n';
}

// The words of a JSON array with commas between them.
std::string joined(const Json& words);
// "1-4, 8, 10-12", not much longer than a line.
std::string ranges(const std::vector<int>& pages);
// To one decimal, without needless zeros.
std::string number(double value);
// "210 × 297 mm (595 × 842 points)".
std::string size_in_words(double width, double height);
// "A4", "A3 landscape", "Letter", or as size_in_words.
std::string paper_in_words(double width, double height);
// Text on one line, cut to what fits beside other things; invalid UTF-8 replaced.
std::string on_one_line(const std::string& text);
// Where a destination or a first action leads, in words; empty when nowhere.
std::string goal(const Json& destination, const Json& actions);

// Prints the facts of a section, for the list of sections.
namespace listing {
// "12 pages, A4", "553 kB, PDF 1.7, not linearized, not encrypted".
void at_a_glance(const Facts& overview, const Facts& protection, std::ostream& out);
// What of the overview is not told at a glance.
void details(const Facts& facts, std::ostream& out);
void overview(const Facts& facts, std::ostream& out);
void properties(const Facts& facts, std::ostream& out);
void protection(const Facts& facts, std::ostream& out);
void view(const Facts& facts, std::ostream& out);
void outline(const Facts& facts, std::ostream& out);
void destinations(const Facts& facts, std::ostream& out);
void triggers(const Facts& facts, std::ostream& out);
void intents(const Facts& facts, std::ostream& out);
void articles(const Facts& facts, std::ostream& out);
void attachments(const Facts& facts, std::ostream& out);
void findings(const Facts& facts, std::ostream& out);
void pages(const Facts& facts, std::ostream& out);
void fonts(const Facts& facts, std::ostream& out);
void images(const Facts& facts, std::ostream& out);
void annotations(const Facts& facts, std::ostream& out);
std::string signature_line(const Json& signature);
void form(const Facts& facts, std::ostream& out);
void layers(const Facts& facts, std::ostream& out);
void tags(const Facts& facts, std::ostream& out);
}  // namespace listing

}  // namespace tool
