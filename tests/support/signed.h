// SPDX-License-Identifier: Apache-2.0
// Documents that are signed by people who are made up, and what an independent program says of
// their signatures.
#pragma once

#include <array>
#include <cstdio>

#include "lumvet/sign/signing.h"
#include "standins/identity.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

namespace test {

using namespace lumvet;

inline constexpr std::int64_t kDay = 86'400;
inline constexpr std::int64_t kSigned = 1'790'000'000;  // 2026-09-21 14:13:20 UTC

// A root, the authority below it, and somebody who signs.
struct Office {
  standins::Identity root;
  standins::Identity authority;
  standins::Identity chief;

  static Office with(standins::KeyKind key = standins::KeyKind::p256) {
    const auto root = standins::Identity::root({.name = "Ostrel Valley root"});
    const auto authority =
        root.issue({.name = "Ostrel Valley signatures", .is_authority = true, .path_length = 0});
    return {root, authority, authority.issue({.name = "Ida Verlan", .key = key})};
  }
};

inline SigningKey key_of(const standins::Identity& identity) {
  return SigningKey::from_pkcs12(identity.pkcs12("ostrel"), "ostrel").value();
}

inline std::string string_of(const Bytes& bytes) { return std::string(bytes.begin(), bytes.end()); }

inline SignRequest request_at(std::int64_t time = kSigned) {
  SignRequest request;
  request.time = time;
  return request;
}

inline std::string sign_bytes(const Document& document, const standins::Identity& who,
                              const SignRequest& request = request_at()) {
  BufferSink sink;
  const auto report = lumvet::sign(EditableDocument::of(document), key_of(who), request, sink);
  CAPTURE(report.ok() ? "" : report.error().to_string());
  REQUIRE(report.ok());
  return string_of(sink.take());
}

inline Document opened_again(const std::string& bytes) {
  return Document::open(to_bytes(bytes)).value();
}

// Where a signature's bytes lie, by its own words, which are looked for as text.
struct SignedParts {
  std::array<std::uint64_t, 4> range = {};
  std::string content;  // the bytes that are signed
  std::string message;  // what stands in the gap, zeros and all
};
inline SignedParts parts_of(const std::string& file, std::size_t number = 0) {
  std::size_t at = file.find("/ByteRange");
  for (; number > 0; --number) at = file.find("/ByteRange", at + 1);
  REQUIRE(at != std::string::npos);
  SignedParts parts;
  REQUIRE(std::sscanf(file.c_str() + at, "/ByteRange [%lu %lu %lu %lu", &parts.range[0],
                      &parts.range[1], &parts.range[2], &parts.range[3]) == 4);
  const auto& range = parts.range;
  REQUIRE(range[2] + range[3] <= file.size());
  parts.content = file.substr(range[0], range[1]) + file.substr(range[2], range[3]);
  const std::string digits = file.substr(range[1] + 1, range[2] - range[1] - 2);
  for (std::size_t i = 0; i + 1 < digits.size(); i += 2)
    parts.message += static_cast<char>(std::stoi(digits.substr(i, 2), nullptr, 16));
  return parts;
}

// OpenSSL's own command, which gives what it prints.
struct CommandResult {
  int code = 0;
  std::string printed;
};
inline CommandResult command(const std::string& line) {
  FILE* pipe = popen((line + " 2>&1").c_str(), "r");
  REQUIRE(pipe != nullptr);
  CommandResult result;
  std::array<char, 512> buffer{};
  while (std::fgets(buffer.data(), buffer.size(), pipe) != nullptr) result.printed += buffer.data();
  result.code = pclose(pipe);
  return result;
}

// Whether that command confirms a signature of the file, for the root.
inline CommandResult confirmed(const std::string& file, const standins::Identity& root,
                               std::size_t number = 0) {
  const TemporaryFolder folder;
  const SignedParts parts = parts_of(file, number);
  write_file(folder / "content", parts.content);
  write_file(folder / "message", parts.message);
  write_file(folder / "root.pem", root.pem());
  return command("openssl cms -verify -binary -inform DER -in " + (folder / "message").string() +
                 " -content " + (folder / "content").string() + " -CAfile " +
                 (folder / "root.pem").string() + " -purpose any -attime " +
                 std::to_string(kSigned) + " -out /dev/null");
}

}  // namespace test
