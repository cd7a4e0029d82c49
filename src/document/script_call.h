// SPDX-License-Identifier: Apache-2.0
// One call of a function with nothing but literals in it, read as data from a script.
//
// Threads: values and free functions.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace lumvet::document {

struct ScriptCall {
  using Texts = std::vector<std::string>;
  using Argument = std::variant<double, bool, std::string, Texts>;

  std::string function = {};
  std::vector<Argument> arguments = {};

  // What stands at a place, or the other value.
  template <typename T>
  T at(std::size_t place, T otherwise) const {
    if (place >= arguments.size()) return otherwise;
    const T* held = std::get_if<T>(&arguments[place]);
    return held != nullptr ? *held : otherwise;
  }
};

// Nothing for every other script.
std::optional<ScriptCall> read_script_call(std::string_view script);
// A text as a literal.
std::string script_text(std::string_view text);

}  // namespace lumvet::document
