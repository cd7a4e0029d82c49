// SPDX-License-Identifier: Apache-2.0
// Keys on tokens, driven over a token in software.
#include <thread>

#include "tests/support/attacks.h"
#include "tests/support/token.h"

using namespace test;
using standins::KeyKind;

namespace {

TokenAccess access(const std::string& pin = kPin) { return {.module = kTokenModule, .pin = pin}; }

TokenAccess with_issuer(const Office& office, TokenAccess how = access()) {
  how.certificates = read_certificates(as_bytes(office.authority.pem())).value();
  return how;
}

ErrorCode refusal(const std::string& address, const TokenAccess& how) {
  const auto key = SigningKey::from_token(address, how);
  REQUIRE_FALSE(key.ok());
  CAPTURE(key.error().message());
  return key.error().code();
}

std::string signed_by(const SigningKey& key, SignatureScheme scheme) {
  const Document page =
      opened_again(PdfBuilder().page("0 0 1 rg 9 9 30 30 re f", "/MediaBox[0 0 99 99]").finish());
  const SignRequest request = request_at();
  const auto waiting =
      PendingSignature::of(EditableDocument::of(page), {key.chain(), scheme}, request).value();
  const auto signature = key.sign(waiting.to_sign(), scheme, request.digest);
  CAPTURE(signature.ok() ? "" : signature.error().to_string());
  REQUIRE(signature.ok());
  BufferSink sink;
  REQUIRE(waiting.finish(*signature, sink).ok());
  return string_of(sink.take());
}

}  // namespace

TEST_CASE("keys on tokens sign, of each kind", "[sign]") {
  int number = 1;
  for (const auto& [kind, scheme] : {std::pair(KeyKind::rsa_2048, SignatureScheme::rsa_pkcs1),
                                     std::pair(KeyKind::rsa_2048, SignatureScheme::rsa_pss),
                                     std::pair(KeyKind::p256, SignatureScheme::ecdsa),
                                     std::pair(KeyKind::p384, SignatureScheme::ecdsa)}) {
    const Office office = Office::with(kind);
    const std::string name = std::to_string(number++);
    const std::string address = Token::office().put(office.chief, "chief-" + name, "0" + name);
    const auto key = SigningKey::from_token(address, with_issuer(office)).value();
    CHECK(key.chain().size() == 2);
    CHECK(key.chain().front().common_name() == "Ida Verlan");
    const std::string file = signed_by(key, scheme);
    CHECK(confirmed(file, office.root).code == 0);
    CHECK(first_judged(file, office.root).verdict == Verdict::valid);
  }
}

TEST_CASE("the certificate of a key on a token may be kept elsewhere", "[sign]") {
  const Office office = Office::with();
  const std::string address = Token::office().put(office.chief, "bare", "21", false);
  CHECK(refusal(address, access()) == ErrorCode::malformed);
  TokenAccess how = access();
  how.certificates = read_certificates(as_bytes(office.chief.chain_pem())).value();
  const auto key = SigningKey::from_token(address, how).value();
  CHECK(confirmed(signed_by(key, key.scheme()), office.root).code == 0);
  how.certificates = read_certificates(as_bytes(office.root.pem())).value();
  CHECK(refusal(address, how) == ErrorCode::malformed);
}

TEST_CASE("an address may name module and PIN, and a key by its identifier", "[sign]") {
  const Office office = Office::with();
  Token::office().put(office.chief, "named", "2a");
  const std::string address =
      std::string("pkcs11:token=Office;id=%2A?module-path=") + kTokenModule + "&pin-value=" + kPin;
  const auto key = SigningKey::from_token(address, with_issuer(office, {})).value();
  CHECK(confirmed(signed_by(key, key.scheme()), office.root).code == 0);
}

TEST_CASE("a PIN is shown to no token that it may not be for", "[sign]") {
  const Office office = Office::with();
  Token::office().put(office.chief, "alone", "2b");
  Token::office().add_token("Archive");
  const auto key = SigningKey::from_token("pkcs11:object=alone", access());
  REQUIRE_FALSE(key.ok());
  CHECK(key.error().message().find("2 tokens fit the address") != std::string::npos);
}

TEST_CASE("a key that wants its owner's word each time signs each time", "[sign]") {
  const Office office = Office::with();
  Token::office().put(office.chief, "careful", "2c");
  Token::office().put_careful(office.chief, "careful-2", "2d");
  const auto key =
      SigningKey::from_token("pkcs11:token=Office;object=careful-2", with_issuer(office)).value();
  for (int round = 0; round < 2; ++round)
    CHECK(confirmed(signed_by(key, key.scheme()), office.root).code == 0);
}

TEST_CASE("what is wrong with a token is told apart", "[sign]") {
  const Office office = Office::with();
  const std::string address = Token::office().put(office.chief, "apart", "22");
  CHECK(refusal(address, access("1111")) == ErrorCode::password);
  CHECK(refusal(address, {.module = kTokenModule, .pin = {}, .certificates = {}}) ==
        ErrorCode::password);
  CHECK(refusal("pkcs11:token=Office;object=nobody", access()) == ErrorCode::invalid_argument);
  CHECK(refusal("pkcs11:token=Elsewhere;object=apart", access()) == ErrorCode::invalid_argument);
  CHECK(refusal("no address", access()) == ErrorCode::invalid_argument);
  CHECK(refusal("pkcs11:token=Office;shape=round", access()) == ErrorCode::invalid_argument);
  // Two keys fit.
  Token::office().put(office.authority, "apart-2", "2f");
  CHECK(refusal("pkcs11:token=Office", access()) == ErrorCode::invalid_argument);
  TokenAccess how = access();
  how.module = "/no/such/module.so";
  CHECK(refusal(address, how) == ErrorCode::io);
  const TemporaryFolder folder;
  write_file(folder / "module.so", "not a library");
  how.module = folder / "module.so";
  CHECK(refusal(address, how) == ErrorCode::unsupported);
  // None of that harms who asks rightly.
  CHECK(SigningKey::from_token(address, access()).ok());
}

TEST_CASE("keys of one token sign whatever became of the others, from several threads", "[sign]") {
  const Office office = Office::with();
  const std::string first_address = Token::office().put(office.chief, "first", "23");
  const std::string second_address = Token::office().put(office.chief, "second", "24");
  auto first =
      std::make_unique<SigningKey>(SigningKey::from_token(first_address, access()).value());
  const SigningKey second = SigningKey::from_token(second_address, access()).value();
  const Bytes text = to_bytes("Ostrel Valley");
  CHECK(first->sign(text, SignatureScheme::ecdsa, SignatureDigest::sha256).ok());
  first.reset();
  std::atomic<int> made = 0;
  std::vector<std::thread> threads;
  for (int each = 0; each < 4; ++each)
    threads.emplace_back([&] {
      for (int round = 0; round < 5; ++round)
        if (second.sign(text, SignatureScheme::ecdsa, SignatureDigest::sha256).ok()) ++made;
    });
  for (std::thread& thread : threads) thread.join();
  CHECK(made == 20);
}
