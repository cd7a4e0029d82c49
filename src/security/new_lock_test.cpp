// SPDX-License-Identifier: Apache-2.0
// Documents locked anew: opened again by the reader, which is held against other producers, and
// their bytes undone step by step by OpenSSL's ciphers alone.
#include "security/new_lock.h"

#include <openssl/evp.h>
#include <openssl/pem.h>
#include <openssl/pkcs12.h>
#include <openssl/x509.h>

#include "lumvet/document/document.h"
#include "lumvet/save/save.h"
#include "security/standard_key.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using Cipher = NewProtection::Cipher;

namespace {

constexpr const char* kContent = "BT (a page that only some may read) Tj ET";

Document statement() {
  test::PdfBuilder pdf;
  pdf.page(kContent, "/MediaBox[0 0 9 9]");
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Metadata 6 0 R/Names<</EmbeddedFiles<</Names[(a)7 0 "
             "R]>>>>>>");
  pdf.object(5, "<</Title(Statement)>>");
  pdf.stream(6, "/Type/Metadata/Subtype/XML", "<x>in clear or not</x>");
  pdf.object(7, "<</Type/Filespec/F(a)/EF<</F 8 0 R>>>>");
  pdf.stream(8, "/Type/EmbeddedFile", "bridge;grade");
  return test::open(pdf.finish("/Root 1 0 R/Info 5 0 R")).value();
}

Bytes locked(const NewProtection& protection, FileLayout layout = FileLayout::compact) {
  BufferSink sink;
  const auto saved = save(statement(), sink, {.layout = layout, .protection = protection});
  if (!saved.ok()) FAIL(saved.error().to_string());
  return sink.take();
}

Result<Document> opened(const Bytes& bytes, const std::string& password) {
  return Document::open(Bytes(bytes), {.password = password});
}

bool contains(const Bytes& bytes, std::string_view text) {
  return as_text(bytes).find(text) != std::string_view::npos;
}

void check_whole(const Document& document) {
  CHECK(document.findings().empty());
  CHECK(document.info().value().title == "Statement");
  CHECK_THAT(std::string(as_text(document.page(0)->content().value())),
             Catch::StartsWith(kContent));
  const ByteSlice metadata = document.decoded(document.catalog()["Metadata"]).value();
  CHECK(as_text(metadata.view()) == "<x>in clear or not</x>");
  const AttachedBytes attached =
      document.attached_bytes(document.attachments().value().at(0)).value();
  CHECK(as_text(attached.bytes.view()) == "bridge;grade");
}

// By OpenSSL alone.
std::string aes_256(std::string_view key, std::string_view vector, std::string_view data,
                    bool padded) {
  const auto bytes = [](std::string_view text) {
    return reinterpret_cast<const unsigned char*>(text.data());
  };
  EVP_CIPHER_CTX* context = EVP_CIPHER_CTX_new();
  EVP_DecryptInit_ex(context, EVP_aes_256_cbc(), nullptr, bytes(key), bytes(vector));
  EVP_CIPHER_CTX_set_padding(context, padded ? 1 : 0);
  std::string out(data.size() + 16, '\0');
  int first = 0;
  int last = 0;
  auto* into = reinterpret_cast<unsigned char*>(out.data());
  EVP_DecryptUpdate(context, into, &first, bytes(data), static_cast<int>(data.size()));
  const bool good = EVP_DecryptFinal_ex(context, into + first, &last) == 1;
  EVP_CIPHER_CTX_free(context);
  out.resize(good ? static_cast<std::size_t>(first + last) : 0);
  return out;
}

// A certificate of a made-up inspector with its key, and both as a PKCS#12 file.
struct Inspector {
  Bytes certificate;
  CertificateKey key;
};

Inspector inspector(const char* name) {
  EVP_PKEY* key = EVP_RSA_gen(2048);
  X509* certificate = X509_new();
  X509_set_version(certificate, 2);
  ASN1_INTEGER_set(X509_get_serialNumber(certificate), 7);
  X509_gmtime_adj(X509_getm_notBefore(certificate), 0);
  X509_gmtime_adj(X509_getm_notAfter(certificate), 3600);
  X509_set_pubkey(certificate, key);
  X509_NAME_add_entry_by_txt(X509_get_subject_name(certificate), "CN", MBSTRING_ASC,
                             reinterpret_cast<const unsigned char*>(name), -1, -1, 0);
  X509_set_issuer_name(certificate, X509_get_subject_name(certificate));
  X509_sign(certificate, key, EVP_sha256());
  unsigned char* der = nullptr;
  const int size = i2d_X509(certificate, &der);
  Bytes bytes(der, der + size);
  OPENSSL_free(der);
  PKCS12* store = PKCS12_create("pass", name, key, certificate, nullptr, 0, 0, 0, 0, 0);
  unsigned char* packed = nullptr;
  const int packed_size = i2d_PKCS12(store, &packed);
  Inspector both{
      std::move(bytes),
      CertificateKey::from_pkcs12(ByteView(packed, static_cast<std::size_t>(packed_size)), "pass")
          .value()};
  OPENSSL_free(packed);
  PKCS12_free(store);
  X509_free(certificate);
  EVP_PKEY_free(key);
  return both;
}

}  // namespace

TEST_CASE("a locked document opens with either password and no other", "[security]") {
  const auto cipher = GENERATE(Cipher::aes_256, Cipher::aes_128, Cipher::rc4_128);
  const auto layout = GENERATE(FileLayout::compact, FileLayout::classic);
  const Bytes bytes = locked({.user_password = "ostrel",
                              .owner_password = "valley",
                              .permissions = {.copy = false, .change = false, .assemble = false},
                              .cipher = cipher},
                             layout);
  CAPTURE(static_cast<int>(cipher), static_cast<int>(layout));
  CHECK_FALSE(contains(bytes, "Statement"));
  CHECK_FALSE(contains(bytes, "in clear"));
  CHECK_FALSE(contains(bytes, "bridge;grade"));
  CHECK_FALSE(opened(bytes, "").ok());
  CHECK(opened(bytes, "wrong").error().code() == ErrorCode::password);
  const Document as_reader = opened(bytes, "ostrel").value();
  check_whole(as_reader);
  CHECK(as_reader.encryption()->access == Access::user);
  CHECK(as_reader.encryption()->permissions ==
        Permissions{.copy = false, .change = false, .assemble = false});
  const Document as_owner = opened(bytes, "valley").value();
  check_whole(as_owner);
  CHECK(as_owner.encryption()->access == Access::owner);

  // It stays locked, with the same passwords, until its owner says otherwise.
  BufferSink kept;
  REQUIRE(save(as_reader, kept, {.layout = layout}).ok());
  check_whole(opened(kept.bytes(), "valley").value());
  CHECK_FALSE(opened(kept.bytes(), "").ok());
  BufferSink refused;
  const auto not_owner = save(as_reader, refused, {.remove_protection = true});
  REQUIRE_FALSE(not_owner.ok());
  CHECK(not_owner.error().code() == ErrorCode::password);
  BufferSink open;
  REQUIRE(save(as_owner, open, {.remove_protection = true}).ok());
  const Document plain = opened(open.bytes(), "").value();
  check_whole(plain);
  CHECK_FALSE(plain.encryption());
  CHECK(contains(locked({.user_password = "a", .cipher = cipher}, layout),
                 cipher == Cipher::aes_256   ? "%PDF-2.0"
                 : cipher == Cipher::aes_128 ? "%PDF-1.7"
                                             : "%PDF-1.7"));
}

TEST_CASE("what AES-256 wrote is undone by OpenSSL alone", "[security]") {
  const Bytes bytes =
      locked({.user_password = "ostrel", .owner_password = "valley"}, FileLayout::classic);
  const Document document = opened(bytes, "ostrel").value();
  const Dict encrypt = document.resolve(document.trailer()["Encrypt"]).value().as_dict();
  const std::string user(encrypt["U"].as_string());
  REQUIRE(user.size() == 48);
  const Bytes wrapping =
      security::hardened_hash(6, "ostrel", as_bytes(user).subspan(40, 8), {}).value();
  const std::string no_vector(16, '\0');
  const std::string key = aes_256(as_text(wrapping), no_vector, encrypt["UE"].as_string(), false);
  REQUIRE(key.size() == 32);
  // The content's own bytes, as they lie in the file.
  const ObjectId content = document.page(0)->dict()["Contents"].as_reference();
  const std::string_view file = as_text(bytes);
  const std::size_t object = document.place_of(content).value()->offset;
  const std::size_t begin = file.find("stream\n", object) + 7;
  const std::size_t end = file.find("\nendstream", begin);
  const std::string_view hidden = file.substr(begin, end - begin);
  CHECK(hidden.size() % 16 == 0);
  CHECK(aes_256(key, hidden.substr(0, 16), hidden.substr(16), true) == kContent);
}

TEST_CASE("metadata stays in clear, or attachments alone are locked, as asked", "[security]") {
  const auto cipher = GENERATE(Cipher::aes_256, Cipher::aes_128);
  const Bytes clear =
      locked({.user_password = "ostrel", .cipher = cipher, .metadata_in_clear = true});
  CHECK(contains(clear, "<x>in clear or not</x>"));
  check_whole(opened(clear, "ostrel").value());
  const Bytes attachments =
      locked({.user_password = "ostrel", .cipher = cipher, .attachments_only = true});
  const Document without = opened(attachments, "").value();
  CHECK(without.info().value().title == "Statement");
  CHECK(without.encryption()->attachments_only);
  CHECK(without.attached_bytes(without.attachments().value().at(0)).error().code() ==
        ErrorCode::password);
  check_whole(opened(attachments, "ostrel").value());
}

TEST_CASE("recipients open a document with their keys, others do not", "[security]") {
  const auto cipher = GENERATE(Cipher::aes_256, Cipher::aes_128);
  const Inspector ida = inspector("Ida Verlan");
  const Inspector tobin = inspector("Tobin Achterhuis");
  const Inspector other = inspector("Somebody Else");
  const Bytes bytes = locked({.permissions = {.print = false, .print_sharply = false},
                              .cipher = cipher,
                              .recipients = {ida.certificate, tobin.certificate}});
  CHECK_FALSE(opened(bytes, "").ok());
  for (const Inspector* person : {&ida, &tobin}) {
    const Document document = Document::open(Bytes(bytes), {.key = person->key}).value();
    check_whole(document);
    CHECK_FALSE(document.encryption()->permissions.print);
  }
  CHECK(Document::open(Bytes(bytes), {.key = other.key}).error().code() == ErrorCode::password);
  // What their crypt filter says of the metadata belongs to the key.
  const Bytes clear =
      locked({.cipher = cipher, .metadata_in_clear = true, .recipients = {ida.certificate}});
  CHECK(contains(clear, "<x>in clear or not</x>"));
  const Document with_clear = Document::open(Bytes(clear), {.key = ida.key}).value();
  check_whole(with_clear);
  CHECK_FALSE(with_clear.encryption()->encrypts_metadata);
}

TEST_CASE("locks that protect from nothing, or cannot be made, are refused", "[security]") {
  const auto refused = [](const NewProtection& protection, const char* why) {
    BufferSink sink;
    const auto saved = save(statement(), sink, {.protection = protection});
    REQUIRE_FALSE(saved.ok());
    CHECK(saved.error().code() == ErrorCode::invalid_argument);
    CHECK_THAT(saved.error().to_string(), Catch::Contains(why));
    CHECK(sink.bytes().empty());
  };
  refused({}, "protects from nothing");
  refused({.user_password = "пароль", .cipher = Cipher::aes_128}, "older ciphers");
  refused({.user_password = std::string(40, 'a'), .cipher = Cipher::rc4_128}, "older ciphers");
  refused({.user_password = "a", .cipher = Cipher::rc4_128, .metadata_in_clear = true}, "RC4");
  refused({.permissions = {.copy = false}, .attachments_only = true}, "attachments alone");
  refused({.recipients = {Bytes{1, 2, 3}}}, "certificate");
  refused({.cipher = Cipher::rc4_128, .recipients = {Bytes{1}}}, "AES");
  check_whole(opened(locked({.user_password = "пароль"}), "пароль").value());
  check_whole(opened(locked({.permissions = {.copy = false}}), "").value());
}
