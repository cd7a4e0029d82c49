// SPDX-License-Identifier: Apache-2.0
#include "lines.h"

#include <cmath>
#include <sstream>

#include <lumvet/assemble/paper.h>

namespace tool {

std::string joined(const Json& words) {
  std::string text;
  for (const Json& word : words) text += (text.empty() ? "" : ", ") + word.get<std::string>();
  return text;
}

std::string ranges(const std::vector<int>& pages) {
  std::string text;
  for (std::size_t i = 0; i < pages.size();) {
    std::size_t last = i;
    while (last + 1 < pages.size() && pages[last + 1] == pages[last] + 1) ++last;
    if (!text.empty()) text += ", ";
    text += std::to_string(pages[i]);
    if (last > i) text += "-" + std::to_string(pages[last]);
    i = last + 1;
  }
  constexpr std::size_t kLongest = 60;
  if (text.size() > kLongest) text = text.substr(0, text.rfind(',', kLongest)) + ", …";
  return text;
}

std::string number(double value) {
  std::ostringstream text;
  text << std::setprecision(10) << std::round(value * 10) / 10;
  return text.str();
}

std::string size_in_words(double width, double height) {
  constexpr double kMillimetersPerPoint = 25.4 / 72;
  return number(width * kMillimetersPerPoint) + " × " + number(height * kMillimetersPerPoint) +
         " mm (" + number(width) + " × " + number(height) + " points)";
}

std::string paper_in_words(double width, double height) {
  constexpr double kNear = 1.5;  // points
  const auto are_near = [](double a, double b) { return std::abs(a - b) < kNear; };
  for (const char* name : {"A0", "A1", "A2", "A3", "A4", "A5", "A6", "Letter", "Legal"}) {
    const auto paper = lumvet::PaperSize::parse(name);
    if (!paper.ok()) continue;
    if (are_near(width, paper->width) && are_near(height, paper->height)) return name;
    if (are_near(height, paper->width) && are_near(width, paper->height))
      return std::string(name) + " landscape";
  }
  return size_in_words(width, height);
}

std::string on_one_line(const std::string& text) {
  constexpr std::size_t kLongest = 70;
  std::string line;
  for (const char c : text) line += static_cast<unsigned char>(c) < ' ' ? ' ' : c;
  if (line.size() <= kLongest) return line;
  std::size_t end = kLongest;
  while (end > 0 && (static_cast<unsigned char>(line[end]) & 0xC0) == 0x80) --end;
  return line.substr(0, end) + "…";
}

std::string goal(const Json& destination, const Json& actions) {
  if (!destination.is_null()) {
    const Json& page = destination["page"];
    return page.is_null() ? "nowhere in this document" : "page " + page.dump();
  }
  if (actions.empty()) return {};
  const std::string type = actions[0]["type"];
  const std::string target = on_one_line(actions[0]["target"]);
  const std::string more = actions.size() > 1 ? ", then more" : "";
  return type + (target.empty() ? "" : " " + target) + more;
}

}  // namespace tool
