// SPDX-License-Identifier: Apache-2.0
// Objects as text, and a resolver for those that refer to nothing.
#pragma once

#include <string>

#include "objects/parser.h"
#include "objects/resolver.h"

namespace test {

class PlainResolver final : public lumvet::objects::Resolver {
 public:
  lumvet::Object resolve(const lumvet::Object& object) const override { return object; }
};

inline lumvet::Object parse(const std::string& text) {
  using namespace lumvet::objects;
  return Parser(lumvet::as_bytes(text), 0, References::none, 50).value().value();
}

}  // namespace test
