// SPDX-License-Identifier: Apache-2.0
// What documents say comes to a terminal as text only: control characters, and those that turn the
// direction of text, are written as "\u001b", so that no document moves the cursor, changes colors
// or hides what else is said. In JSON, where strings have nothing else to escape them, the same
// signs stand for the same characters.
#pragma once

#include <iosfwd>
#include <memory>
#include <string>
#include <string_view>

namespace tool {

// Text in UTF-8; line ends and tabs stay as they are. Bytes that are no text are escaped as well.
std::string printable(std::string_view text);

// While it lives, standard output and standard error print nothing else.
class PrintableOutput {
 public:
  PrintableOutput();
  ~PrintableOutput();
  PrintableOutput(const PrintableOutput&) = delete;
  PrintableOutput& operator=(const PrintableOutput&) = delete;

 private:
  class Filter;
  std::unique_ptr<Filter> out_;
  std::unique_ptr<Filter> error_;
};

// The same streams for bytes of files, and for the tool's own signs to a terminal.
std::ostream& raw_output();
std::ostream& raw_errors();

}  // namespace tool
