// SPDX-License-Identifier: Apache-2.0
// Signs with a key that is elsewhere, in two steps: what is to be signed goes out, and the
// signature comes back when it does. Here "elsewhere" is a function; it may be a service, or a
// card.
#include <fstream>
#include <iostream>
#include <iterator>

#include <lumvet/sign/signing.h>

namespace {

class Elsewhere {
 public:
  explicit Elsewhere(lumvet::SigningKey key) : key_(std::move(key)) {}
  std::vector<lumvet::Certificate> certificates() const { return key_.chain(); }
  lumvet::Bytes sign(lumvet::ByteView what, lumvet::SignatureScheme scheme) const {
    return key_.sign(what, scheme, lumvet::SignatureDigest::sha256).value();
  }

 private:
  lumvet::SigningKey key_;
};

}  // namespace

int main(int argc, char** argv) {
  if (argc != 5) {
    std::cerr << "25_remote_signer REPORT.pdf KEY.p12 PASSPHRASE SIGNED.pdf\n";
    return 2;
  }
  try {
    std::ifstream file(argv[2], std::ios::binary);
    const lumvet::Bytes bytes((std::istreambuf_iterator<char>(file)), {});
    const Elsewhere service(lumvet::SigningKey::from(bytes, argv[3]).value());

    const auto edited = lumvet::EditableDocument::of(lumvet::Document::open(argv[1]).value());
    const lumvet::Signer signer{.chain = service.certificates()};
    const auto waiting = lumvet::PendingSignature::of(edited, signer, {}).value();
    std::cout << waiting.digest().size() << " bytes of digest go out\n";

    const lumvet::Bytes signature = service.sign(waiting.to_sign(), waiting.scheme());
    waiting.finish(signature, argv[4]).value();
    std::cout << "signed in field " << waiting.field() << '\n';
    return 0;
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
