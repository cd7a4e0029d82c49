// SPDX-License-Identifier: Apache-2.0
// office-services FOLDER [--keys-only | --fault NAME]
//
// Writes the keys of the people of the office, whose passphrases are "ostrel", and the certificates
// of those who answer for them, into a folder; then offers timestamps (/time), lists and statuses
// on this machine until it is stopped. Where is in FOLDER/address.txt.
#include <csignal>
#include <filesystem>
#include <fstream>
#include <iostream>

#include "standins/services.h"

namespace {

void write(const std::filesystem::path& path, const std::string& text) {
  std::ofstream(path, std::ios::binary) << text;
}
void write(const std::filesystem::path& path, const lumvet::Bytes& bytes) {
  write(path, std::string(bytes.begin(), bytes.end()));
}

void write_keys(const std::filesystem::path& folder, const standins::SigningOffice& office) {
  std::filesystem::create_directories(folder);
  write(folder / "root.pem", office.root.pem());
  write(folder / "chief.p12", office.chief.pkcs12("ostrel"));
  write(folder / "seal.p12", office.seal.pkcs12("ostrel"));
  write(folder / "former.p12", office.former.pkcs12("ostrel"));
  write(folder / "alone.p12", office.alone.pkcs12("ostrel"));
  write(folder / "alone.pem", office.alone.pem());
  write(folder / "passphrase.txt", "ostrel\n");
}

}  // namespace

int main(int argc, char** argv) {
  const std::string option = argc > 2 ? argv[2] : "";
  const bool is_right =
      argc == 2 || (argc == 3 && option == "--keys-only") || (argc == 4 && option == "--fault");
  if (!is_right) {
    std::cerr << "usage: office-services FOLDER [--keys-only | --fault NAME]\n";
    return 2;
  }
  const std::filesystem::path folder = argv[1];
  if (option == "--keys-only") {
    write_keys(folder, standins::SigningOffice::at(""));
    return 0;
  }
  sigset_t ends;
  sigemptyset(&ends);
  sigaddset(&ends, SIGTERM);
  sigaddset(&ends, SIGINT);
  pthread_sigmask(SIG_BLOCK, &ends, nullptr);
  standins::Services services;
  const auto office = standins::SigningOffice::at(services.address());
  services.serve(office);
  if (option == "--fault") services.set_fault(standins::fault_named(argv[3]));
  write_keys(folder, office);
  // Last, so that whoever waits for it finds everything.
  write(folder / "address.txt", services.address() + "\n");
  int signal = 0;
  sigwait(&ends, &signal);
  return 0;
}
