// SPDX-License-Identifier: Apache-2.0
#include "outline_file.h"

#include <nlohmann/json.hpp>
#include <sstream>

#include "colors.h"
#include "given_files.h"

namespace tool {
namespace {

using lumvet::Error;
using lumvet::ErrorCode;
using lumvet::OutlineEntry;
using Entries = std::vector<OutlineEntry>;

constexpr int kDeepest = 100;

Error wrong(const std::string& what) { return Error(ErrorCode::invalid_argument, what); }

lumvet::Result<OutlineEntry> read_line(const std::string& line) {
  OutlineEntry entry;
  std::size_t at = 0;
  std::size_t blanks = 0;
  for (; at < line.size() && (line[at] == ' ' || line[at] == '\t'); ++at)
    blanks += line[at] == '\t' ? 2 : 1;
  entry.depth = static_cast<int>(blanks / 2);
  const std::size_t end = std::min(line.find(' ', at), line.size());
  const std::string page = line.substr(at, end - at);
  const bool is_number =
      !page.empty() && page.size() < 9 && page.find_first_not_of("0123456789") == page.npos;
  if (!is_number && page != "-")
    return wrong("'" + page + "' is not a page; write a page and a title, as in 3 Bridges");
  if (is_number) entry.page = std::stoi(page) - 1;
  const std::size_t title = line.find_first_not_of(' ', end);
  if (title == std::string::npos) return wrong("there is no title behind the page");
  entry.title = line.substr(title);
  return entry;
}

lumvet::Result<Entries> from_text(std::istream& text) {
  Entries entries;
  int number = 0;
  for (std::string line; std::getline(text, line);) {
    ++number;
    if (!line.empty() && line.back() == '\r') line.pop_back();
    if (line.find_first_not_of(" \t") == std::string::npos) continue;
    auto entry = read_line(line);
    if (!entry.ok())
      return std::move(entry).error().during("reading line " + std::to_string(number));
    entries.push_back(*std::move(entry));
  }
  return entries;
}

lumvet::Status add_json(const nlohmann::json& list, int depth, Entries& entries) {
  if (!list.is_array() || depth > kDeepest) return wrong("entries are lists of entries");
  for (const nlohmann::json& item : list) {
    OutlineEntry entry;
    entry.depth = depth;
    if (!item.is_object() || !item.contains("title") || !item["title"].is_string())
      return wrong("entry " + std::to_string(entries.size() + 1) + " has no title");
    entry.title = item["title"];
    const auto flag = [&](const char* key) {
      return item.contains(key) && item[key].is_boolean() && item[key].get<bool>();
    };
    entry.is_open = flag("open");
    entry.bold = flag("bold");
    entry.italic = flag("italic");
    if (item.contains("page") && item["page"].is_number_integer())
      entry.page = item["page"].get<int>() - 1;
    else if (item.contains("page") && !item["page"].is_null())
      return wrong("the page of '" + entry.title + "' is not a number");
    if (item.contains("uri") && item["uri"].is_string())
      entry.actions.push_back(
          {.kind = lumvet::Action::Kind::uri, .type = "URI", .target = item["uri"]});
    if (item.contains("color")) {
      const std::string color = item["color"].is_string() ? item["color"].get<std::string>() : "";
      LUMVET_TRY(entry.color, parse_color(color));
    }
    entries.push_back(std::move(entry));
    if (item.contains("entries"))
      LUMVET_RETURN_IF_ERROR(add_json(item["entries"], depth + 1, entries));
  }
  return lumvet::Done{};
}

lumvet::Result<Entries> read(std::istream& file) {
  if ((file >> std::ws).peek() != '[') {
    file.seekg(0);
    return from_text(file);
  }
  const nlohmann::json list = nlohmann::json::parse(file, nullptr, false);
  if (list.is_discarded()) return wrong("it begins as JSON does, but is none");
  Entries entries;
  LUMVET_RETURN_IF_ERROR(add_json(list, 0, entries));
  return entries;
}

}  // namespace

lumvet::Result<Entries> read_outline_file(const std::string& path) {
  LUMVET_TRY(const std::string text, given_file(path, "outline file"));
  std::istringstream file(text);
  auto entries = read(file);
  if (!entries.ok()) return std::move(entries).error().during("reading " + path);
  if (entries->empty())
    return wrong("the outline file " + path +
                 " has no entries; say --outline none to take the "
                 "outline away");
  return entries;
}

}  // namespace tool
