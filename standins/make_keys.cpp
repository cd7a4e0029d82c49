// SPDX-License-Identifier: Apache-2.0
// make-keys FOLDER: the keys of the people of the office, the certificates of those who answer for
// them, and what was taken back. Passphrases are "ostrel".
#include <chrono>
#include <filesystem>
#include <fstream>
#include <iostream>

#include "standins/identity.h"

namespace {

void write(const std::filesystem::path& path, const std::string& text) {
  std::ofstream(path, std::ios::binary) << text;
}
void write(const std::filesystem::path& path, const lumvet::Bytes& bytes) {
  write(path, std::string(bytes.begin(), bytes.end()));
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: make-keys FOLDER\n";
    return 2;
  }
  const std::filesystem::path folder = argv[1];
  std::filesystem::create_directories(folder);
  constexpr std::int64_t kDay = 86'400;
  const std::int64_t now = std::chrono::duration_cast<std::chrono::seconds>(
                               std::chrono::system_clock::now().time_since_epoch())
                               .count();
  const auto root = standins::Identity::root({.name = "Ostrel Valley root"});
  const auto authority =
      root.issue({.name = "Ostrel Valley signatures", .is_authority = true, .path_length = 0});
  const auto chief = authority.issue({.name = "Ida Verlan, chief inspector"});
  const auto office = authority.issue({.name = "Office seal", .key = standins::KeyKind::rsa_2048});
  const auto former = authority.issue({.name = "Tomas Brel, former inspector"});
  const auto alone = standins::Identity::root(
      {.name = "Rilla Onsk", .usage = "critical,digitalSignature,keyCertSign"});
  write(folder / "root.pem", root.pem());
  write(folder / "chief.p12", chief.pkcs12("ostrel"));
  write(folder / "office.p12", office.pkcs12("ostrel"));
  write(folder / "former.p12", former.pkcs12("ostrel"));
  write(folder / "alone.p12", alone.pkcs12("ostrel"));
  write(folder / "alone.pem", alone.pem());
  write(folder / "passphrase.txt", "ostrel\n");
  write(folder / "revoked.crl", authority.revocation_list({{former.certificate(), now - 30 * kDay}},
                                                          now - kDay, now + 30 * kDay));
  return 0;
}
