// SPDX-License-Identifier: Apache-2.0
// Judges the signatures of a document, for somebody who trusts one certificate.
#include <fstream>
#include <iostream>
#include <iterator>

#include <lumvet/sign/verification.h>

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "24_verify SIGNED.pdf ANCHOR.pem\n";
    return 2;
  }
  try {
    std::ifstream file(argv[2], std::ios::binary);
    const lumvet::Bytes bytes((std::istreambuf_iterator<char>(file)), {});

    lumvet::Trust trust;
    trust.add(bytes).value();
    const auto document = lumvet::Document::open(argv[1]).value();
    bool all_valid = true;
    for (const auto& signature : lumvet::verify_signatures(document, trust).value()) {
      std::cout << signature.signer << ": " << lumvet::name_of(signature.verdict) << '\n';
      for (const std::string& reason : signature.reasons) std::cout << "  " << reason << '\n';
      for (const auto& change : signature.changes) std::cout << "  since: " << change.what << '\n';
      all_valid = all_valid && signature.verdict == lumvet::Verdict::valid;
    }
    return all_valid ? 0 : 1;
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
