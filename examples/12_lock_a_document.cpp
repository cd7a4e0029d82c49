// SPDX-License-Identifier: Apache-2.0
// Locks a document: a password opens it, and nobody but its owner may copy from it or change it.
#include <lumvet/save/save.h>

#include <cstdlib>
#include <iostream>

int main(int argc, char** argv) {
  const char* reader = std::getenv("READER_PASSWORD");
  const char* owner = std::getenv("OWNER_PASSWORD");
  if (argc != 3 || reader == nullptr || owner == nullptr) {
    std::cerr << "usage: READER_PASSWORD=… OWNER_PASSWORD=… 12_lock_a_document INPUT OUTPUT\n";
    return 2;
  }
  try {  // value() throws what went wrong
    lumvet::NewProtection protection{.user_password = reader, .owner_password = owner};
    protection.permissions.copy = false;
    protection.permissions.change = false;
    const auto document = lumvet::Document::open(argv[1]).value();
    lumvet::save(document, argv[2], {.protection = protection}).value();

    const auto locked = lumvet::Document::open(argv[2], {.password = reader}).value();
    const lumvet::Encryption how = locked.encryption().value();
    std::cout << argv[2] << ": " << how.cipher << ", " << how.key_bits << " bits; copying is "
              << (how.permissions.copy ? "allowed" : "not allowed") << '\n';
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
