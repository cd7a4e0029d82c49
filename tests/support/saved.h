// SPDX-License-Identifier: Apache-2.0
// What is saved, opened again.
#pragma once

#include "lumvet/document/document.h"
#include "lumvet/io/byte_sink.h"
#include "tests/support/catch.h"

namespace test {

// Of an arrangement, changes or an assembly; nothing may be wrong with the result.
template <typename Saves>
lumvet::Document saved(const Saves& what) {
  lumvet::BufferSink sink;
  REQUIRE(what.save(sink).ok());
  lumvet::Document document = lumvet::Document::open(sink.take()).value();
  document.structure().value();
  CHECK(document.findings().empty());
  return document;
}

}  // namespace test
