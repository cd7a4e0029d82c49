// SPDX-License-Identifier: Apache-2.0
// Calculator functions, type 4 (ISO 32000-2, 7.10.5): a program without loops, so that it ends
// after as many steps as it has instructions.
//
// Threads: immutable, share freely.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::color {

class Calculator {
 public:
  // Errors: malformed when it is no such program; limit.
  static Result<Calculator> compile(ByteView source, int nesting);

  // Takes the numbers on its stack and gives what is on it at the end, the top last; nothing when
  // the program fails (7.10.5.2), by taking the root of a negative number perhaps.
  std::optional<std::vector<double>> run(std::span<const double> inputs) const;

 private:
  friend class CalculatorCompiler;

  // Numbers that are whole, that are not, and true or false, which are 1 and 0.
  enum class Kind { integer, real, truth };
  struct Value {
    Kind kind;
    double number;
  };
  struct Instruction {
    int op = 0;              // an operator's place in the table, or one of the two below
    Value value = {};        // of kPush
    std::size_t target = 0;  // of kJumpUnless and kJump
  };
  static constexpr int kPush = -1;
  static constexpr int kJumpUnless = -2;
  static constexpr int kJump = -3;

  class Stack;
  class Machine;

  std::vector<Instruction> program_;
};

}  // namespace lumvet::color
