// SPDX-License-Identifier: Apache-2.0
// Encrypted documents: those of a typesetter that knows each revision, steps worked out apart from
// this code, and documents locked here by the standard's algorithms run the other way.
#include <openssl/cms.h>
#include <openssl/evp.h>
#include <openssl/pkcs12.h>
#include <openssl/x509.h>

#include <filesystem>

#include "crypto/cipher.h"
#include "crypto/digest.h"
#include "lumvet/lumvet.h"
#include "lumvet/save/save.h"
#include "security/password.h"
#include "security/security_handler.h"
#include "security/standard_key.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using security::hardened_hash;
using test::PdfBuilder;
using test::to_bytes;

namespace {

std::string producer_file(const std::string& name) {
  return test::read_file(std::filesystem::path(LUMVET_SOURCE_DIR) / "demo/producers" / name);
}

Result<Document> open_with(const std::string& bytes, const std::string& password) {
  return Document::open(to_bytes(bytes), {.password = password});
}

std::string hex(ByteView bytes) {
  std::string text;
  for (const std::uint8_t byte : bytes) {
    constexpr char kDigits[] = "0123456789abcdef";
    text += kDigits[byte >> 4];
    text += kDigits[byte & 15];
  }
  return text;
}

std::string hex(std::string_view text) { return hex(as_bytes(text)); }

// A document of one page whose strings, content and attachment are locked with AES-256 in the way
// of revision 5 or 6; `cf_entries` says what is encrypted.
struct Locked {
  int revision = 6;
  std::string user = "ostrel";
  std::string owner = "valley";
  std::string filters = "/StmF/StdCF/StrF/StdCF";
  bool encrypts_metadata = true;

  const std::string key = std::string("0123456789abcdef0123456789ABCDEF");
  const std::string vector = std::string("ostrel valley iv");

  std::string text(const Result<Bytes>& bytes) const { return std::string(as_text(*bytes)); }

  std::string locked(std::string plain) const {
    const std::size_t padding = 16 - plain.size() % 16;
    plain.append(padding, static_cast<char>(padding));
    return vector + text(crypto::aes_cbc_encrypt(as_bytes(key), as_bytes(vector), as_bytes(plain)));
  }

  std::string wrapped(const std::string& password, const std::string& salt,
                      const std::string& entry) const {
    const std::string none(16, '\0');
    return text(
        crypto::aes_cbc_encrypt(*hardened_hash(revision, password, as_bytes(salt), as_bytes(entry)),
                                as_bytes(none), as_bytes(key)));
  }

  std::string dict() const {
    const std::string u =
        text(hardened_hash(revision, user, as_bytes("usersalt"), {})) + "usersalt" + "user-key";
    const std::string o = text(hardened_hash(revision, owner, as_bytes("ownrsalt"), as_bytes(u))) +
                          "ownrsalt" + "ownr-key";
    return "<</Filter/Standard/V 5/Length 256/R " + std::to_string(revision) + "/P -44" + filters +
           "/CF<</StdCF<</CFM/AESV3/Length 32>>>>/U<" + hex(u) + ">/O<" + hex(o) + ">/UE<" +
           hex(wrapped(user, "user-key", "")) + ">/OE<" + hex(wrapped(owner, "ownr-key", u)) + ">" +
           (encrypts_metadata ? "" : "/EncryptMetadata false") + ">>";
  }

  std::string attachment_entries = "/Type/EmbeddedFile";

  std::string document(bool strings, bool streams, bool attachment) const {
    const auto maybe = [&](bool lock, const std::string& plain) {
      return lock ? locked(plain) : plain;
    };
    PdfBuilder pdf("%PDF-2.0\n");
    pdf.page(maybe(streams, "0 0 9 9 re f"));
    pdf.object(1,
               "<</Type/Catalog/Pages 2 0 R/Metadata 8 0 R/Names<</EmbeddedFiles<</Names[(a)<</F(" +
                   std::string("a.csv") + ")/EF<</F 7 0 R>>>>]>>>>>>");
    pdf.object(5, dict()).object(6, "<</Title<" + hex(maybe(strings, "Notice 14")) + ">>>");
    pdf.stream(7, attachment_entries, maybe(attachment, "1,2"));
    pdf.stream(8, "/Type/Metadata", maybe(streams && encrypts_metadata, "<x/>"));
    return pdf.finish("/Root 1 0 R/Info 6 0 R/Encrypt 5 0 R/ID[(id)(id)]");
  }
};

// A certificate with its key as OpenSSL makes them, and envelopes for it.
class Inspector {
 public:
  explicit Inspector(const char* name) : key_(EVP_RSA_gen(2048)), certificate_(X509_new()) {
    X509_set_version(certificate_, 2);
    ASN1_INTEGER_set(X509_get_serialNumber(certificate_), 14);
    X509_gmtime_adj(X509_getm_notBefore(certificate_), 0);
    X509_gmtime_adj(X509_getm_notAfter(certificate_), 3600);
    X509_set_pubkey(certificate_, key_);
    X509_NAME* subject = X509_get_subject_name(certificate_);
    X509_NAME_add_entry_by_txt(subject, "CN", MBSTRING_ASC,
                               reinterpret_cast<const unsigned char*>(name), -1, -1, 0);
    X509_set_issuer_name(certificate_, subject);
    X509_sign(certificate_, key_, EVP_sha256());
  }
  ~Inspector() {
    EVP_PKEY_free(key_);
    X509_free(certificate_);
  }
  Inspector(const Inspector&) = delete;
  Inspector& operator=(const Inspector&) = delete;

  Bytes pkcs12(const char* passphrase) const {
    PKCS12* store = PKCS12_create(passphrase, "key", key_, certificate_, nullptr, 0, 0, 0, 0, 0);
    unsigned char* der = nullptr;
    const int size = i2d_PKCS12(store, &der);
    Bytes bytes(der, der + size);
    OPENSSL_free(der);
    PKCS12_free(store);
    return bytes;
  }

  std::string envelope(const std::string& content) const {
    STACK_OF(X509)* recipients = sk_X509_new_null();
    sk_X509_push(recipients, certificate_);
    BIO* in = BIO_new_mem_buf(content.data(), static_cast<int>(content.size()));
    CMS_ContentInfo* message = CMS_encrypt(recipients, in, EVP_aes_256_cbc(), CMS_BINARY);
    unsigned char* der = nullptr;
    const int size = i2d_CMS_ContentInfo(message, &der);
    std::string bytes(der, der + size);
    OPENSSL_free(der);
    CMS_ContentInfo_free(message);
    BIO_free(in);
    sk_X509_free(recipients);
    return bytes;
  }

 private:
  EVP_PKEY* key_;
  X509* certificate_;
};

}  // namespace

TEST_CASE("documents that a typesetter locked open with either password", "[security]") {
  const auto [name, cipher, bits, revision] = GENERATE(table<std::string, std::string, int, int>({
      {"locked-r2.pdf", "RC4", 40, 2},
      {"locked-r3.pdf", "RC4", 128, 3},
      {"locked-r4.pdf", "AES", 128, 4},
      {"locked-r6.pdf", "AES", 256, 6},
  }));
  CAPTURE(name);
  const std::string bytes = producer_file(name);
  for (const char* password : {"", "Ostrel", "wrong"}) {
    const auto refused = open_with(bytes, password);
    REQUIRE_FALSE(refused.ok());
    CHECK(refused.error().code() == ErrorCode::password);
  }
  const auto waiting = LockedDocument::open(make_buffer_source(to_bytes(bytes))).value();
  CHECK(waiting.encryption()->access == Access::locked);
  CHECK(waiting.unlock("no").error().code() == ErrorCode::password);  // and may be tried again
  const Document user = waiting.unlock("ostrel").value();
  const Document owner = waiting.unlock("valley").value();
  CHECK(user.encryption()->access == Access::user);
  CHECK(owner.encryption()->access == Access::owner);
  CHECK(owner.encryption()->permissions == Permissions());
  CHECK(user.encryption()->permissions.print);
  CHECK(user.encryption()->permissions.change == (revision == 2));
  CHECK(user.encryption()->cipher == cipher);
  CHECK(user.encryption()->key_bits == bits);
  CHECK(user.encryption()->revision == revision);
  for (const Document& document : {user, owner}) {
    CHECK(document.info().value().title == "Notice 14");
    CHECK(document.info().value().author == "Ida Verlan");
    const Bytes content = document.page(0)->content().value();
    CHECK_THAT(std::string(as_text(content)), Catch::Contains("Tf") && Catch::Contains("TJ"));
    CHECK(document.findings().empty());
  }
}

TEST_CASE("a locked document without usable cross references is repaired and opened",
          "[security][repair]") {
  for (const char* name : {"locked-r3.pdf", "locked-r4.pdf", "locked-r6.pdf"}) {
    std::string bytes = producer_file(name);
    bytes.resize(bytes.rfind("startxref"));
    const Document document = open_with(bytes, "valley").value();
    CHECK(document.was_repaired());
    CHECK(document.info().value().title == "Notice 14");
    CHECK(document.page(0)->content().value() ==
          open_with(producer_file(name), "valley")->page(0)->content().value());
  }
}

TEST_CASE("a saved copy of a locked document is as locked, whoever made it", "[security]") {
  for (const char* name : {"locked-r2.pdf", "locked-r3.pdf", "locked-r4.pdf", "locked-r6.pdf"}) {
    CAPTURE(name);
    const Document document = open_with(producer_file(name), "ostrel").value();
    BufferSink sink;
    REQUIRE(save(document, sink).ok());
    const std::string bytes(as_text(sink.bytes()));
    CHECK_FALSE(open_with(bytes, "").ok());
    const Document copy = open_with(bytes, "ostrel").value();
    CHECK(copy.encryption()->permissions == document.encryption()->permissions);
    CHECK(copy.info().value().title == "Notice 14");
    CHECK(copy.page(0)->content().value() == document.page(0)->content().value());
    CHECK(open_with(bytes, "valley")->encryption()->access == Access::owner);
  }
}

TEST_CASE("revision 6 hardens passwords as the standard says", "[security]") {
  // Worked out step by step with Python's hashlib and OpenSSL's command line.
  CHECK(hex(*hardened_hash(5, "ostrel", as_bytes("saltsalt"), {})) ==
        "2bc25ee8b539d5ab305ffa57ca084e3e8cc28f80188875af6114fd9a3d8bbce0");
  CHECK(hex(*hardened_hash(6, "ostrel", as_bytes("saltsalt"), {})) ==
        "efe7e70299f235c94d98c32a79741e2235a8e48096cb599e6d4bc578a1e97b9c");
  CHECK(hex(*hardened_hash(6, "valley", as_bytes("saltsalt"),
                           as_bytes("an entry /U of forty-eight bytes, as it stands .."))) ==
        "78ba5882b188ea6dfd93d25c694de0fd72be9b947cb46c058dff7642d88ccb38");
}

TEST_CASE("passwords are prepared as each revision hashes them", "[security]") {
  using security::password_forms;
  CHECK(password_forms("caf\xC3\xA9", 4).front() == "caf\xE9");
  // RFC 4013, section 3: mapped to nothing, case kept, compatibility forms composed.
  CHECK(password_forms("I\xC2\xADX", 6).front() == "IX");
  CHECK(password_forms("USER", 6).front() == "USER");
  CHECK(password_forms("\xC2\xAA", 6).front() == "a");
  CHECK(password_forms("\xE2\x85\xA8", 6).front() == "IX");
  CHECK(password_forms("\x07", 6) == std::vector<std::string>{"\x07"});  // prohibited: as it is
  CHECK(password_forms(std::string(200, 'x'), 6).front().size() == 127);
}

TEST_CASE("each part is locked by the filter that is named for it", "[security]") {
  const Locked all;
  for (const int revision : {5, 6}) {
    Locked locked;
    locked.revision = revision;
    const Document document = open_with(locked.document(true, true, true), "valley").value();
    CHECK(document.info().value().title == "Notice 14");
    CHECK(as_text(document.page(0)->content().value()) == "0 0 9 9 re f\n");
    CHECK(document.encryption()->access == Access::owner);
    // /P was not sealed by /Perms here.
    CHECK_THAT(document.findings().front().what, Catch::Contains("permissions"));
  }
  Locked strings_only;
  strings_only.filters = "/StmF/Identity/StrF/StdCF/EFF/Identity";
  const Document plain = open_with(strings_only.document(true, false, false), "ostrel").value();
  CHECK(plain.info().value().title == "Notice 14");
  CHECK(as_text(plain.page(0)->content().value()) == "0 0 9 9 re f\n");
  Locked clear_metadata;
  clear_metadata.encrypts_metadata = false;
  const Document clear = open_with(clear_metadata.document(true, true, true), "ostrel").value();
  CHECK(as_text(clear.decoded(clear.catalog()["Metadata"])->view()) == "<x/>");
  CHECK_FALSE(clear.encryption()->encrypts_metadata);
}

TEST_CASE("of a document with locked attachments everything else opens without a password",
          "[security]") {
  Locked locked;
  locked.filters = "/StmF/Identity/StrF/Identity/EFF/StdCF";
  const std::string bytes = locked.document(false, false, true);
  const Document reader = open_with(bytes, "").value();
  CHECK(reader.encryption()->attachments_only);
  CHECK(reader.encryption()->access == Access::locked);
  CHECK(reader.info().value().title == "Notice 14");
  CHECK(as_text(reader.page(0)->content().value()) == "0 0 9 9 re f\n");
  const Object attachment = Object(ObjectId{7, 0});
  CHECK_FALSE(reader.decoded(attachment).ok());
  const Document opened = open_with(bytes, "ostrel").value();
  CHECK(as_text(opened.decoded(attachment)->view()) == "1,2");
}

TEST_CASE("attachments are told apart though they do not say what they are", "[security]") {
  for (const char* entries : {"", "/Params<</Size 3>>", "/Subtype/text#2Fcsv"})
    for (const char* filters :
         {"/StmF/Identity/StrF/Identity/EFF/StdCF", "/StmF/StdCF/StrF/StdCF/EFF/Identity"}) {
      CAPTURE(entries, filters);
      Locked locked;
      locked.filters = filters;
      locked.attachment_entries = entries;
      const bool is_alone = locked.filters.starts_with("/StmF/Identity");
      const std::string bytes = locked.document(!is_alone, !is_alone, is_alone);
      const Document document = open_with(bytes, "ostrel").value();
      CHECK(as_text(document.page(0)->content().value()) == "0 0 9 9 re f\n");
      const auto read = [](const Document& from) {
        const std::vector<Attachment> files = from.attachments().value();
        REQUIRE(files.size() == 1);
        return std::string(as_text(from.attached_bytes(files[0])->bytes.view()));
      };
      CHECK(read(document) == "1,2");
      BufferSink sink;
      REQUIRE(save(document, sink).ok());
      CHECK(read(Document::open(sink.take(), {.password = "ostrel"}).value()) == "1,2");
    }
}

TEST_CASE("a stream's own crypt filter comes before the document's", "[security]") {
  Locked locked;
  PdfBuilder pdf("%PDF-2.0\n");
  pdf.page(locked.locked("0 0 9 9 re f")).object(5, locked.dict());
  pdf.stream(6, "/Filter[/Crypt/ASCIIHexDecode]/DecodeParms[<</Name/Identity>>null]", "414243>");
  pdf.stream(7, "/Filter/Crypt/DecodeParms<</Name/StdCF>>", locked.locked("DEF"));
  pdf.stream(8, "/Filter/Crypt", "GHI");
  const Document document =
      open_with(pdf.finish("/Root 1 0 R/Encrypt 5 0 R/ID[(id)(id)]"), "ostrel").value();
  CHECK(as_text(document.decoded(Object(ObjectId{6, 0}))->view()) == "ABC");
  CHECK(as_text(document.decoded(Object(ObjectId{7, 0}))->view()) == "DEF");
  CHECK(as_text(document.decoded(Object(ObjectId{8, 0}))->view()) == "GHI");
}

TEST_CASE("encryption that cannot be undone is named, not guessed at", "[security]") {
  const auto [dict, code, words] = GENERATE(table<std::string, ErrorCode, std::string>({
      {"<</Filter/Standard/V 3/R 3>>", ErrorCode::unsupported, "not published"},
      {"<</Filter/Vault/V 1>>", ErrorCode::unsupported, "protected by 'Vault'"},
      {"<</Filter/Standard/V 4/R 4/CF<</X<</CFM/AESV9>>>>/StmF/X>>", ErrorCode::unsupported,
       "'AESV9'"},
      {"<</Filter/Standard/V 4/R 4/StmF/X>>", ErrorCode::malformed, "no crypt filter 'X'"},
      {"<</Filter/Standard/V 2/R 9>>", ErrorCode::unsupported, "revision 9"},
      {"<</Filter/Standard/V 5/R 6/U(x)/O(x)>>", ErrorCode::malformed, "too short"},
      {"(none)", ErrorCode::malformed, "how is lost"},
  }));
  CAPTURE(dict);
  PdfBuilder pdf;
  pdf.page("").object(5, dict);
  const auto document = test::open(pdf.finish("/Root 1 0 R/Encrypt 5 0 R"));
  REQUIRE_FALSE(document.ok());
  CHECK(document.error().code() == code);
  CHECK_THAT(document.error().message(), Catch::Contains(words));
}

TEST_CASE("permissions are told in words", "[security]") {
  const Permissions none = Permissions::from_bits(0, 3);
  CHECK(none.allowed().empty());
  CHECK(none.refused().size() == 7);
  const Permissions print = Permissions::from_bits(1u << 2, 3);
  CHECK(print.allowed() == std::vector<std::string>{"printing"});
  CHECK(Permissions::from_bits(1u << 2 | 1u << 11, 3).print_sharply);
  CHECK(Permissions::from_bits(1u << 2, 2).print_sharply);  // revision 2 knows no difference
  CHECK(Permissions::from_bits(1u << 8, 3).fill_forms);
  CHECK(Permissions::from_bits(~0u, 3) == Permissions());
}

TEST_CASE("a document locked for certificates opens with the key of each of them", "[security]") {
  const Inspector ida("Ida Verlan");
  const Inspector oto("Oto Brenn");
  const Inspector stranger("Somebody Else");
  const std::string seed = "twenty random bytes!";
  // Reader's rights are little-endian behind the seed; bit 2 makes an owner (table 24).
  const std::string for_ida = ida.envelope(seed + std::string("\x04\x00\x00\x00", 4));
  const std::string for_oto = oto.envelope(seed + std::string("\x02\x00\x00\x00", 4));
  struct Kind {
    std::string method;
    std::string entries;
    crypto::DigestKind digest;
    std::size_t key_bytes;
  };
  const std::string recipients = "/Recipients[<" + hex(for_ida) + "><" + hex(for_oto) + ">]";
  for (const Kind& kind :
       {Kind{"RC4", "/SubFilter/adbe.pkcs7.s4/V 2/Length 128" + recipients,
             crypto::DigestKind::sha1, 16},
        Kind{"AES",
             "/SubFilter/adbe.pkcs7.s5/V 5/Length 256/StmF/DefaultCryptFilter/StrF/"
             "DefaultCryptFilter/CF<</DefaultCryptFilter<</CFM/AESV3/Length 256" +
                 recipients + ">>>>",
             crypto::DigestKind::sha256, 32}}) {
    CAPTURE(kind.method);
    Bytes key = crypto::digest(kind.digest, {as_bytes(seed), as_bytes(for_ida), as_bytes(for_oto)});
    key.resize(kind.key_bytes);
    std::string title = "Notice 14";
    if (kind.method == "RC4") {
      // Algorithm 1 for object 6.
      Bytes own =
          crypto::digest(crypto::DigestKind::md5, {key, as_bytes(std::string("\x06\0\0\0\0", 5))});
      title = as_text(*crypto::rc4(own, as_bytes(title)));
    } else {
      title += std::string(7, '\x07');
      const std::string vector(16, 'v');
      const Bytes encrypted = *crypto::aes_cbc_encrypt(key, as_bytes(vector), as_bytes(title));
      title = vector + std::string(as_text(encrypted));
    }
    PdfBuilder pdf;
    pdf.page("").object(6, "<</Title<" + hex(title) + ">>>");
    pdf.object(5, "<</Filter/Adobe.PubSec" + kind.entries + ">>");
    const auto source =
        make_buffer_source(to_bytes(pdf.finish("/Root 1 0 R/Info 6 0 R/Encrypt 5 0 R")));
    const LockedDocument waiting = LockedDocument::open(source).value();
    CHECK(waiting.encryption()->by_certificate);
    CHECK(waiting.unlock("password").error().code() == ErrorCode::password);
    const auto key_of = [](const Inspector& inspector) {
      return CertificateKey::from_pkcs12(inspector.pkcs12("phrase"), "phrase").value();
    };
    CHECK(key_of(ida).subject() == "CN=Ida Verlan");
    const Document reader = waiting.unlock(key_of(ida)).value();
    CHECK(reader.info().value().title == "Notice 14");
    CHECK(reader.encryption()->permissions.allowed() == std::vector<std::string>{"printing"});
    const Document owner = waiting.unlock(key_of(oto)).value();
    CHECK(owner.info().value().title == "Notice 14");
    CHECK(owner.encryption()->access == Access::owner);
    CHECK(waiting.unlock(key_of(stranger)).error().code() == ErrorCode::password);
  }
  CHECK(CertificateKey::from_pkcs12(ida.pkcs12("phrase"), "no").error().code() ==
        ErrorCode::password);
  CHECK(CertificateKey::from_pkcs12(as_bytes("no key"), "").error().code() == ErrorCode::malformed);
}
