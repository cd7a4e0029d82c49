// SPDX-License-Identifier: Apache-2.0
#include "lumvet/io/file_name.h"

#include "tests/support/catch.h"

using lumvet::safe_file_name;

TEST_CASE("names of files lead nowhere and are allowed everywhere", "[io]") {
  CHECK(safe_file_name("readings, day 12.csv") == "readings, day 12.csv");
  CHECK(safe_file_name("Deck: new/old") == "Deck new old");
  CHECK(safe_file_name("../../.profile") == "profile");
  CHECK(safe_file_name("C:\\boot.ini") == "C boot.ini");
  CHECK(safe_file_name(" a\n\tb . ") == "a b");
  for (const char* nothing : {"", "/", "..", " . ", "\x01"}) CHECK(safe_file_name(nothing).empty());
  // Not cut off within a character.
  std::string bridges;
  for (int i = 0; i < 80; ++i) bridges += "ü";
  CHECK(safe_file_name("x" + bridges) == "x" + bridges.substr(0, 118));
}
