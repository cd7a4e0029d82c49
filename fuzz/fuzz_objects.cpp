// SPDX-License-Identifier: Apache-2.0
// Any bytes as an object: no crash, and what was read is written and read back as the same.
#include "objects/parser.h"
#include "objects/serializer.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace lumvet;
  const auto read = [](ByteView bytes) {
    return objects::Parser(bytes, 0, objects::References::allowed, 60).value();
  };
  const auto object = read({data, size});
  if (!object.ok()) return 0;
  std::string text;
  objects::serialize(*object, text);
  const auto again = read(as_bytes(text));
  if (!again.ok()) __builtin_trap();
  std::string twice;
  objects::serialize(*again, twice);
  if (text != twice) __builtin_trap();
  return 0;
}
