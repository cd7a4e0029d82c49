// SPDX-License-Identifier: Apache-2.0
// Signatures as older programs write them, made by OpenSSL's command.
#include "lumvet/sign/long_life.h"
#include "sign/der.h"
#include "tests/support/attacks.h"

using namespace test;

namespace {

constexpr std::int64_t k2012 = 1'335'000'000;

standins::CertificateRequest long_ago(standins::CertificateRequest request) {
  request.from = 1'262'304'000;  // 2010-01-01
  request.key = standins::KeyKind::rsa_2048;
  return request;
}

struct OldOffice {
  standins::Identity root = standins::Identity::root(long_ago({.name = "Ostrel Valley root"}));
  standins::Identity chief = root.issue(long_ago({.name = "Ida Verlan"}));
  standins::Identity times =
      root.issue(long_ago({.name = "Ostrel times", .extended_usage = "critical,timeStamping"}));
};

const OldOffice& office() {
  static const OldOffice one;
  return one;
}

// A signed file whose dictionary was changed, so that the signature in it is good for nothing yet.
std::string prepared(const std::string& form, const std::string& reason = "",
                     const std::string& in_its_place = "") {
  SignRequest request = request_at(k2012);
  request.form = SignatureForm::pkcs7;
  request.reason = reason;
  std::string file = sign_bytes(
      opened_again(PdfBuilder().page("0 0 1 rg 9 9 30 30 re f", "/MediaBox[0 0 99 99]").finish()),
      office().chief, request);
  file = overwritten(file, "/adbe.pkcs7.detached", "/" + form);
  if (!in_its_place.empty()) file = overwritten(file, "/Reason(" + reason + ")", in_its_place);
  return file;
}

std::string hex(const std::string& bytes) {
  std::string out;
  for (const char c : bytes) {
    std::array<char, 3> two{};
    std::snprintf(two.data(), two.size(), "%02x", static_cast<unsigned char>(c));
    out += two.data();
  }
  return out;
}

std::string with_message(const std::string& file, const std::string& message) {
  const SignedParts parts = parts_of(file);
  const std::size_t room = parts.range[2] - parts.range[1] - 2;
  std::string digits = hex(message);
  REQUIRE(digits.size() <= room);
  digits.resize(room, '0');
  return file.substr(0, parts.range[1] + 1) + digits + file.substr(parts.range[2] - 1);
}

// What OpenSSL's command makes of a text: "{}" stands for the folder in which text, key and
// certificate are.
std::string made(const std::string& text, const std::string& line) {
  const TemporaryFolder folder;
  write_file(folder / "text", text);
  write_file(folder / "key.pem", office().chief.key_pem());
  write_file(folder / "chief.pem", office().chief.pem());
  std::string filled;
  for (const char c : line) filled += c == '@' ? folder.path().string() + "/" : std::string(1, c);
  const CommandResult result = command("openssl " + filled);
  CAPTURE(result.printed);
  REQUIRE(result.code == 0);
  return read_file(folder / "out");
}

std::string sha1(const std::string& text) {
  return made(text, "dgst -sha1 -binary -out @out @text");
}

SignatureJudgement verdict(const std::string& file) { return first_judged(file, office().root); }

// Stamped as a whole in 2012, when SHA-1 was good enough.
std::string stamped(const std::string& file) {
  ProlongRequest request;
  REQUIRE(request.trust.add(to_bytes(office().root.pem())).ok());
  request.timestamps = [](ByteView asked) -> Result<Bytes> {
    return office().times.timestamp(asked, {.when = k2012});
  };
  request.time = k2012;
  BufferSink sink;
  const auto report = prolong(opened_again(file), request, sink);
  CAPTURE(report.ok() ? "" : report.error().to_string());
  REQUIRE(report.ok());
  return string_of(sink.take());
}

void check_old(const std::string& file) {
  const SignatureJudgement now = verdict(file);
  CAPTURE(now.reasons);
  CHECK(now.signer == "Ida Verlan");
  CHECK(now.verdict == Verdict::invalid);
  CHECK(now.sub_indication == "CRYPTO_CONSTRAINTS_FAILURE_NO_POE");
  const SignatureJudgement then = verdict(stamped(file));
  CAPTURE(then.reasons);
  CHECK(then.verdict == Verdict::valid);
  CHECK(then.proven_time == k2012);
  const SignatureJudgement changed = verdict(stamped(replaced(file, "9 9 30 30", "9 9 31 30")));
  CHECK(changed.verdict == Verdict::invalid);
  CHECK(changed.sub_indication == "HASH_FAILURE");
}

// The three outermost elements without their lengths, as programs write them that do not know these
// beforehand.
std::string without_lengths(const std::string& message) {
  using namespace signing;
  ByteView whole = as_bytes(message);
  ByteView outer = der::take(whole)->content;
  const ByteView before = outer;
  der::take(outer);
  const std::string kind(as_text(before.first(before.size() - outer.size())));
  ByteView tagged = der::take(outer)->content;
  const std::string data(as_text(der::take(tagged)->content));
  const std::string ends(6, '\0');
  return "\x30\x80" + kind + "\xA0\x80\x30\x80" + data + ends;
}

}  // namespace

TEST_CASE("messages that are written in BER are read", "[sign]") {
  const std::string file = prepared("adbe.pkcs7.detached");
  for (const std::string how : {"-md sha256", "-md sha512 -keyid"}) {
    const std::string message = without_lengths(made(
        parts_of(file).content, "cms -sign -binary -nosmimecap -outform DER " + how +
                                    " -signer @chief.pem -inkey @key.pem -in @text -out @out"));
    const std::string loose = with_message(file, message);
    const SignatureJudgement judged = verdict(loose);
    CAPTURE(judged.reasons, how);
    CHECK(judged.verdict == Verdict::valid);
    CHECK(digest_alone_holds(loose, office().root));
    CHECK(verdict(with_message(replaced(file, "9 9 30 30", "9 9 31 30"), message)).sub_indication ==
          "HASH_FAILURE");
    CHECK(verdict(with_message(file, message.substr(0, message.size() - 9))).verdict ==
          Verdict::invalid);
  }
}

TEST_CASE("BER is read as the DER that says the same", "[sign]") {
  using namespace signing;
  const auto read = [](const Bytes& ber) {
    ByteView rest = ber;
    const auto der = der::from_ber(rest);
    return der && rest.empty() ? *der : Bytes();
  };
  // A string in two pieces, in a sequence without a length.
  CHECK(read({0x30, 0x80, 0x24, 0x80, 0x04, 0x01, 0x61, 0x04, 0x81, 0x01, 0x62, 0, 0, 0, 0}) ==
        Bytes{0x30, 0x04, 0x04, 0x02, 0x61, 0x62});
  CHECK(read({0xA0, 0x82, 0x00, 0x02, 0x05, 0x00}) == Bytes{0xA0, 0x02, 0x05, 0x00});
  // Cut off, of pieces that are no strings, numbers without a length, and too deep.
  CHECK(read({0x30, 0x80, 0x05, 0x00, 0x00}).empty());
  CHECK(read({0x24, 0x02, 0x05, 0x00}).empty());
  CHECK(read({0x02, 0x80, 0x01, 0x00, 0x00}).empty());
  CHECK(read({0x22, 0x03, 0x02, 0x01, 0x01}).empty());
  Bytes deep;
  for (int i = 0; i < 200'000; ++i) deep.insert(deep.end(), {0x30, 0x80});
  CHECK(read(deep).empty());
}

TEST_CASE("messages that carry the document's digest are judged by the time of SHA-1", "[sign]") {
  const std::string file = prepared("adbe.pkcs7.sha1");
  const std::string message =
      made(sha1(parts_of(file).content),
           "cms -sign -binary -nodetach -outform DER -md sha256 -signer @chief.pem -inkey "
           "@key.pem -in @text -out @out");
  check_old(with_message(file, message));
  // In BER, with what it carries in pieces.
  const std::string streamed =
      made(sha1(parts_of(file).content),
           "cms -sign -binary -stream -outform DER -md sha256 -signer @chief.pem -inkey "
           "@key.pem -in @text -out @out");
  REQUIRE(streamed.starts_with("\x30\x80"));
  check_old(with_message(file, streamed));
  // A message that carries nothing is not of this form, and one that does is not of the others.
  const std::string bare = made(parts_of(file).content,
                                "cms -sign -binary -outform DER -signer @chief.pem -inkey "
                                "@key.pem -in @text -out @out");
  CHECK(verdict(with_message(file, bare)).sub_indication == "FORMAT_FAILURE");
  CHECK(verdict(with_message(prepared("adbe.pkcs7.detached"), message)).sub_indication ==
        "FORMAT_FAILURE");
}

TEST_CASE("bare signatures beside their certificates are judged by the time of SHA-1", "[sign]") {
  const std::string certificate = "/Cert<" + hex(string_of(office().chief.certificate())) + ">";
  const std::string file =
      prepared("adbe.x509.rsa_sha1", std::string(certificate.size(), 'R'), certificate);
  const std::string signature =
      made(parts_of(file).content, "dgst -sha1 -sign @key.pem -out @out @text");
  check_old(with_message(file, string_of(signing::der::octets(as_bytes(signature)))));
  const std::string without = prepared("adbe.x509.rsa_sha1");
  CHECK(verdict(with_message(without, string_of(signing::der::octets(as_bytes(signature)))))
            .sub_indication == "NO_SIGNING_CERTIFICATE_FOUND");
}
