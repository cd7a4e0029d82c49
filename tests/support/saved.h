// SPDX-License-Identifier: Apache-2.0
// What is saved, opened again.
#pragma once

#include <vector>

#include "lumvet/edit/editable_document.h"
#include "lumvet/io/byte_sink.h"
#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

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

// A document of a file, saved whole, linearized, locked and with its changes appended.
inline std::vector<lumvet::Document> saved_each_way(const lumvet::EditableDocument& changes) {
  std::vector<lumvet::Document> all;
  const auto add = [&](const lumvet::SaveOptions& options, const std::string& password = "") {
    lumvet::BufferSink sink;
    REQUIRE(changes.save(sink, options).ok());
    all.push_back(lumvet::Document::open(sink.take(), {.password = password}).value());
  };
  add({});
  add({.layout = lumvet::FileLayout::linearized});
  add({.protection = lumvet::NewProtection{.user_password = "ostrel"}}, "ostrel");
  const TemporaryFolder folder;
  REQUIRE(changes.save_appended(folder / "appended.pdf").ok());
  all.push_back(lumvet::Document::open(folder / "appended.pdf").value());
  for (const lumvet::Document& document : all) CHECK(document.findings().empty());
  return all;
}

}  // namespace test
