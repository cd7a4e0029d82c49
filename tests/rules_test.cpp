// SPDX-License-Identifier: Apache-2.0
// The house's own rules: who may include whom, how long files may be, what headers must say.
#include <algorithm>
#include <map>
#include <regex>
#include <set>
#include <sstream>

#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

namespace fs = std::filesystem;

namespace {

const fs::path kRoot = LUMVET_SOURCE_DIR;

std::vector<fs::path> sources(const std::vector<std::string>& folders) {
  std::vector<fs::path> found;
  for (const std::string& folder : folders)
    for (const auto& entry : fs::recursive_directory_iterator(kRoot / folder))
      if (entry.path().extension() == ".h" || entry.path().extension() == ".cpp")
        found.push_back(entry.path());
  return found;
}

// The room a path lies in: "src/file/xref.cpp" and "include/lumvet/file/xref.h" are in "file".
std::string room_of(const std::string& path) {
  static const std::regex kRoom("^(?:src/|include/lumvet/|lumvet/)?([a-z]+)/");
  std::smatch match;
  return std::regex_search(path, match, kRoom) ? match[1].str() : "";
}

// docs/layers.md: "| room | may include |", all that is below included by name.
std::map<std::string, std::set<std::string>> allowed() {
  std::map<std::string, std::set<std::string>> rules;
  std::istringstream lines(test::read_file(kRoot / "docs/layers.md"));
  const std::regex row("^\\| `([a-z]+)` \\|[^|]*\\| ([a-z, ]*) \\|$");
  for (std::string line; std::getline(lines, line);) {
    std::smatch match;
    if (!std::regex_match(line, match, row)) continue;
    std::set<std::string>& rooms = rules[match[1]];
    std::istringstream names(match[2]);
    for (std::string name; names >> name;) {
      name.erase(std::remove(name.begin(), name.end(), ','), name.end());
      rooms.insert(name);
    }
    rooms.insert(match[1]);
    rooms.insert("base");
  }
  return rules;
}

std::vector<std::string> includes(const std::string& text) {
  static const std::regex kInclude("#include [\"<]([^\">]+)[\">]");
  std::vector<std::string> found;
  for (std::sregex_iterator at(text.begin(), text.end(), kInclude), end; at != end; ++at)
    found.push_back((*at)[1]);
  return found;
}

}  // namespace

TEST_CASE("includes run only downward", "[rules]") {
  const auto rules = allowed();
  REQUIRE(rules.size() >= 16);
  for (const fs::path& path : sources({"src", "include"})) {
    const std::string relative = fs::relative(path, kRoot).string();
    if (relative == "include/lumvet/lumvet.h" || relative.ends_with("_test.cpp")) continue;
    const std::string room = room_of(relative);
    INFO(relative);
    REQUIRE(rules.contains(room));
    for (const std::string& included : includes(test::read_file(path))) {
      const std::string other = room_of(included);
      if (!rules.contains(other)) continue;  // the standard library's or another library's
      INFO("includes " << included);
      CHECK(rules.at(room).contains(other));
    }
  }
}

TEST_CASE("no rule allows a circle", "[rules]") {
  // A room that nothing above lies below of can be taken away; so can all, one after the other,
  // unless some lie in a circle, however long.
  auto rules = allowed();
  for (auto& [room, below] : rules) below.erase(room);
  std::set<std::string> gone;
  for (std::size_t before = rules.size() + 1;
       gone.size() < rules.size() && before != gone.size();) {
    before = gone.size();
    for (const auto& [room, below] : rules)
      if (std::all_of(below.begin(), below.end(), [&](const std::string& other) {
            return gone.contains(other) || !rules.contains(other);
          }))
        gone.insert(room);
  }
  for (const auto& [room, below] : rules) {
    INFO(room << " lies in a circle, or above one");
    CHECK(gone.contains(room));
  }
}

TEST_CASE("the tool and the examples use public headers only", "[rules]") {
  for (const fs::path& path : sources({"apps", "examples"}))
    for (const std::string& included : includes(test::read_file(path))) {
      INFO(path << " includes " << included);
      const std::string room = room_of(included);
      CHECK((included.starts_with("lumvet/") || room.empty() || !allowed().contains(room)));
    }
}

TEST_CASE("files say their license and stay short", "[rules]") {
  for (const fs::path& path :
       sources({"src", "include", "apps", "examples", "tests", "bench", "fuzz", "demo"})) {
    const std::string text = test::read_file(path);
    INFO(path);
    CHECK(text.starts_with("// SPDX-License-Identifier: Apache-2.0\n"));
    CHECK(std::count(text.begin(), text.end(), '\n') <= 600);
    if (path.extension() == ".h") CHECK(text.find("#pragma once") != std::string::npos);
  }
}

TEST_CASE("public headers that define classes say what threads may do", "[rules]") {
  for (const fs::path& path : sources({"include"})) {
    const std::string text = test::read_file(path);
    if (text.find("class LUMVET_EXPORT") == std::string::npos) continue;
    INFO(path);
    CHECK(text.find("Threads: ") != std::string::npos);
  }
}

TEST_CASE("screenshots are few and linked from the README", "[rules]") {
  const std::string readme = test::read_file(kRoot / "README.md");
  std::size_t count = 0;
  for (const auto& entry : fs::directory_iterator(kRoot / "docs/screenshots")) {
    INFO(entry.path());
    CHECK(readme.find(entry.path().filename().string()) != std::string::npos);
    ++count;
  }
  CHECK(count < 20);
}

TEST_CASE("code in the guides and the README stands in an example", "[rules]") {
  const auto stripped = [](const std::string& line) {
    const std::size_t from = line.find_first_not_of(' ');
    return from == std::string::npos ? std::string() : line.substr(from);
  };
  std::set<std::string> known;
  for (const fs::path& path : sources({"examples", "tests/consumer"})) {
    std::istringstream lines(test::read_file(path));
    for (std::string line; std::getline(lines, line);) known.insert(stripped(line));
  }
  std::vector<fs::path> texts = {kRoot / "README.md"};
  for (const auto& entry : fs::directory_iterator(kRoot / "docs/guides"))
    texts.push_back(entry.path());
  int quoted = 0;
  for (const fs::path& path : texts) {
    std::istringstream lines(test::read_file(path));
    bool is_code = false;
    for (std::string line; std::getline(lines, line);) {
      if (line.starts_with("```")) {
        is_code = line == "```cpp";
        continue;
      }
      if (!is_code || line.empty()) continue;
      INFO(path.filename().string() << ": " << line);
      CHECK(known.contains(stripped(line)));
      ++quoted;
    }
  }
  CHECK(quoted > 20);
}

TEST_CASE("links in the documentation lead somewhere", "[rules]") {
  static const std::regex kLink("\\]\\(([^)#:]+)(#[^)]*)?\\)");
  std::vector<fs::path> texts = {kRoot / "README.md", kRoot / "CONTRIBUTING.md",
                                 kRoot / "SECURITY.md"};
  for (const auto& entry : fs::recursive_directory_iterator(kRoot / "docs"))
    if (entry.path().extension() == ".md") texts.push_back(entry.path());
  for (const fs::path& path : texts) {
    const std::string text = test::read_file(path);
    for (std::sregex_iterator at(text.begin(), text.end(), kLink), end; at != end; ++at) {
      INFO(path.filename().string() << " links to " << (*at)[1]);
      CHECK(fs::exists(path.parent_path() / (*at)[1].str()));
    }
  }
}
