// SPDX-License-Identifier: Apache-2.0
// Signs a document with the key of a certificate, with a mark on its first page.
#include <fstream>
#include <iostream>
#include <iterator>

#include <lumvet/sign/signing.h>

int main(int argc, char** argv) {
  if (argc != 5) {
    std::cerr << "23_sign REPORT.pdf KEY.p12 PASSPHRASE SIGNED.pdf\n";
    return 2;
  }
  try {
    std::ifstream file(argv[2], std::ios::binary);
    const lumvet::Bytes bytes((std::istreambuf_iterator<char>(file)), {});

    const auto report = lumvet::Document::open(argv[1]).value();
    const auto key = lumvet::SigningKey::from(bytes, argv[3]).value();
    lumvet::SignRequest request{.reason = "Inspected", .place = "Ostrel"};
    request.mark = lumvet::SignatureMark{.page = 0, .area = {20, 20, 160, 48}};
    const auto signed_file = lumvet::sign(report, key, request, argv[4]).value();

    std::cout << "signed by " << key.chain().front().common_name() << " in field "
              << signed_file.field << '\n';
    for (const auto& note : signed_file.findings) std::cout << note.what << '\n';
    return 0;
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
