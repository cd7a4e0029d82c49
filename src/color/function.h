// SPDX-License-Identifier: Apache-2.0
// Functions of every type (ISO 32000-2, 7.10).
//
// Threads: immutable, share freely.
#pragma once

#include <memory>
#include <span>
#include <vector>

#include "base/budget.h"
#include "base/findings_list.h"
#include "objects/resolver.h"

namespace lumvet::color {

class Function {
 public:
  virtual ~Function() = default;
  // Appends the outputs for the inputs, which may be fewer or more than the function takes.
  virtual void evaluate(std::span<const double> inputs, std::vector<double>& outputs) const = 0;

  // Errors: malformed, limit.
  static Result<std::shared_ptr<const Function>> make(const Object& object,
                                                      const objects::Resolver& resolver,
                                                      Budget& budget, Findings& findings);
};

}  // namespace lumvet::color
