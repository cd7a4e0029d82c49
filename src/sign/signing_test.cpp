// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/signing.h"

#include "document/inside.h"
#include "lumvet/forms/fields.h"
#include "lumvet/forms/filling.h"
#include "lumvet/render/render.h"
#include "tests/support/attacks.h"
#include "tests/support/inspection_form.h"
#include "tests/support/saved.h"

using namespace lumvet;
using namespace test;
using standins::KeyKind;

namespace {

Document page_document(const std::string& entries = "/MediaBox[0 0 300 200]") {
  return opened_again(PdfBuilder().page("0 0 1 rg 240 140 30 30 re f", entries).finish());
}

const Office& office() {
  static const Office one = Office::with();
  return one;
}

Error refusal(const Document& document, const SignRequest& request) {
  BufferSink sink;
  const auto report =
      lumvet::sign(EditableDocument::of(document), key_of(office().chief), request, sink);
  REQUIRE_FALSE(report.ok());
  CHECK(sink.bytes().empty());
  return report.error();
}

bool says(const Error& error, const std::string& words) {
  CAPTURE(error.message());
  const bool is_there = error.message().find(words) != std::string::npos;
  CHECK(is_there);
  return is_there;
}

void check_valid(const std::string& file) {
  const auto judged = first_judged(file, office().root);
  CAPTURE(judged.reasons);
  CHECK(judged.verdict == Verdict::valid);
  CHECK(confirmed(file, office().root).code == 0);
}

}  // namespace

TEST_CASE("signatures of every kind of key and digest are confirmed by another program", "[sign]") {
  for (const KeyKind kind : {KeyKind::p256, KeyKind::p384, KeyKind::p521, KeyKind::rsa_2048}) {
    const Office own = Office::with(kind);
    for (const SignatureDigest digest :
         {SignatureDigest::sha256, SignatureDigest::sha384, SignatureDigest::sha512})
      for (const SignatureForm form : {SignatureForm::pades, SignatureForm::pkcs7}) {
        SignRequest request = request_at();
        request.digest = digest;
        request.form = form;
        const std::string file = sign_bytes(page_document(), own.chief, request);
        const CommandResult result = confirmed(file, own.root);
        CAPTURE(result.printed, static_cast<int>(kind), static_cast<int>(digest));
        CHECK(result.code == 0);
        CHECK(first_judged(file, own.root).verdict == Verdict::valid);
      }
  }
}

TEST_CASE("Ed25519 signs by RFC 8419", "[sign]") {
  const Office own = Office::with(KeyKind::ed25519);
  CHECK(key_of(own.chief).scheme() == SignatureScheme::ed25519);
  for (const SignatureForm form : {SignatureForm::pades, SignatureForm::pkcs7}) {
    SignRequest request = request_at();
    request.form = form;
    const auto pending = PendingSignature::of(EditableDocument::of(page_document()),
                                              {key_of(own.chief).chain(), {}}, request)
                             .value();
    CHECK(pending.scheme() == SignatureScheme::ed25519);
    const Bytes signature =
        key_of(own.chief).sign(pending.to_sign(), pending.scheme(), request.digest).value();
    // OpenSSL knows no such messages, but such signatures.
    const TemporaryFolder folder;
    write_file(folder / "text",
               string_of(Bytes(pending.to_sign().begin(), pending.to_sign().end())));
    write_file(folder / "signature", string_of(signature));
    write_file(folder / "chief.pem", own.chief.pem());
    const std::string at = folder.path().string();
    CHECK(command("openssl pkeyutl -verify -certin -inkey " + at + "/chief.pem -rawin -in " + at +
                  "/text -sigfile " + at + "/signature")
              .code == 0);
    BufferSink sink;
    REQUIRE(pending.finish(signature, sink).ok());
    const std::string file = string_of(sink.take());
    const SignatureJudgement judged = first_judged(file, own.root);
    CAPTURE(judged.reasons);
    CHECK(judged.verdict == Verdict::valid);
    CHECK(judged.digest == "SHA512");
    CHECK(file == sign_bytes(page_document(), own.chief, request));
    // Each byte of the attributes and of the signature counts.
    const SignedParts parts = parts_of(file);
    for (const std::string& part :
         {string_of(signature),
          string_of(Bytes(pending.to_sign().begin() + 2, pending.to_sign().end()))})
      for (std::size_t i = 0; i < part.size(); i += 7) {
        const std::size_t place = parts.message.find(part) + i;
        std::string changed = file;
        char& digit = changed[parts.range[1] + 1 + 2 * place];
        digit = digit == '0' ? '1' : '0';
        CHECK(first_judged(changed, own.root).verdict != Verdict::valid);
      }
    CHECK(first_judged(replaced(file, "240 140 30 30", "240 140 30 31"), own.root).sub_indication ==
          "HASH_FAILURE");
  }
  const auto other = key_of(own.chief).sign(to_bytes("a"), SignatureScheme::ecdsa, {});
  CHECK(other.error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("a key that is elsewhere signs in two steps", "[sign]") {
  for (const auto& [kind, scheme] : {std::pair(KeyKind::rsa_2048, SignatureScheme::rsa_pss),
                                     std::pair(KeyKind::rsa_2048, SignatureScheme::rsa_pkcs1),
                                     std::pair(KeyKind::p384, SignatureScheme::ecdsa)}) {
    const Office own = Office::with(kind);
    const SigningKey elsewhere = key_of(own.chief);
    const SignRequest request = request_at();
    const auto pending = PendingSignature::of(EditableDocument::of(page_document()),
                                              {elsewhere.chain(), scheme}, request)
                             .value();
    CHECK(pending.digest().size() == 32);
    const Bytes signature = elsewhere.sign(pending.to_sign(), scheme, request.digest).value();
    BufferSink sink;
    REQUIRE(pending.finish(signature, sink).ok());
    const std::string file = string_of(sink.take());
    CHECK(confirmed(file, own.root).code == 0);
    CHECK(first_judged(file, own.root).verdict == Verdict::valid);
    // Nothing is written for what the certificate does not confirm.
    BufferSink other;
    Bytes wrong = signature;
    wrong.back() ^= 1;
    CHECK(pending.finish(wrong, other).error().code() == ErrorCode::invalid_argument);
    CHECK(other.bytes().empty());
  }
}

TEST_CASE("what was there stays, in files of every kind", "[sign]") {
  const auto edited = EditableDocument::of(page_document());
  for (const Document& document : saved_each_way(edited)) {
    const ByteSource& source = *store_of(document).source();
    const ByteSlice before = source.slice(0, source.size()).value();
    BufferSink sink;
    REQUIRE(lumvet::sign(EditableDocument::of(document), key_of(office().chief), request_at(), sink)
                .ok());
    const std::string file = string_of(sink.take());
    CHECK(file.starts_with(as_text(before.view())));
    CHECK(confirmed(file, office().root).code == 0);
    const auto opened = Document::open(to_bytes(file), {.password = "ostrel"}).value();
    Trust trust;
    REQUIRE(trust.add(office().root.certificate()).ok());
    const auto judged = verify_signatures(opened, trust, {.time = kSigned}).value();
    REQUIRE(judged.size() == 1);
    CAPTURE(judged[0].reasons);
    CHECK(judged[0].verdict == Verdict::valid);
    CHECK(opened.findings().empty());
  }
}

TEST_CASE("changes that were made before are signed with it", "[sign]") {
  auto edited = EditableDocument::of(page_document());
  REQUIRE(edited.set_properties({.title = "Signed"}).ok());
  BufferSink sink;
  REQUIRE(lumvet::sign(edited, key_of(office().chief), request_at(), sink).ok());
  const std::string file = string_of(sink.take());
  check_valid(file);
  CHECK(opened_again(file).info().value().title == "Signed");
  CHECK(edited.steps().size() == 1);
}

TEST_CASE("a mark is upright where it was put, on pages that are turned", "[sign]") {
  for (const int rotation : {0, 90, 180, 270}) {
    const Document document =
        page_document("/MediaBox[0 0 300 200]/Rotate " + std::to_string(rotation));
    SignRequest request = request_at();
    Drawing half(100, 40);
    half.fill(box({0, 0, 100, 20}), Color::rgb(1, 0, 0));
    half.fill(box({0, 20, 50, 20}), Color::rgb(0, 1, 0));
    request.mark = SignatureMark{.page = 0, .area = {20, 30, 100, 40}, .drawing = half};
    const std::string file = sign_bytes(document, office().chief, request);
    check_valid(file);
    const Raster raster = render(opened_again(file).page(0).value(), {.dpi = 72}).value();
    CAPTURE(rotation);
    CHECK(raster.at(70, 40).red > 200);
    CHECK(raster.at(70, 40).green < 60);
    CHECK(raster.at(40, 60).green > 200);
    CHECK(raster.at(40, 60).red < 60);
    CHECK(raster.at(100, 60).blue > 200);  // paper
    CHECK(raster.at(15, 40).blue > 200);
  }
}

TEST_CASE("text and pictures stay within the mark", "[sign]") {
  SignRequest request = request_at();
  request.reason = std::string(300, 'w') + " and more words than there is room for";
  const Bytes rows(40 * 40 * 3, 90);
  request.mark = SignatureMark{.page = 0, .area = {20, 30, 120, 40}};
  request.mark->picture = Picture::of_rows(rows, 40, 40, Picture::Pixels::rgb).value();
  const std::string file = sign_bytes(page_document(), office().chief, request);
  const Raster before = render(page_document().page(0).value(), {.dpi = 72}).value();
  const Raster after = render(opened_again(file).page(0).value(), {.dpi = 72}).value();
  int within = 0;
  int outside = 0;
  for (int y = 0; y < after.height(); ++y)
    for (int x = 0; x < after.width(); ++x) {
      if (before.at(x, y).red == after.at(x, y).red) continue;
      (x >= 20 && x < 140 && y >= 30 && y < 70 ? within : outside) += 1;
    }
  CHECK(within > 500);
  CHECK(outside == 0);
}

TEST_CASE("an empty field is signed in its own place, and once", "[sign]") {
  auto form = EditableDocument::of(page_document());
  NewField field{.name = "round.signature", .kind = FormField::Kind::signature};
  field.places = {{.page = 0, .area = {20, 30, 100, 40}}};
  REQUIRE(add_field(form, field).ok());
  const Document document = saved(form);
  SignRequest request = request_at();
  request.field = "round.signature";
  request.mark = SignatureMark();
  const std::string file = sign_bytes(document, office().chief, request);
  check_valid(file);
  CHECK(opened_again(file).form().value().append_only);
  CHECK(says(refusal(opened_again(file), request), "is signed already"));
  CHECK(judged(file, office().root).front().field == "round.signature");
}

TEST_CASE("a field that is there already locks others as well", "[sign]") {
  SignRequest request = request_at();
  request.field = "sign";
  request.lock = FieldLock{FieldLock::Which::these, {"bridge", "gap.sum"}};
  auto form = EditableDocument::of(inspection_form());
  REQUIRE(fill_fields(form, {{"gap.left", {"5"}}}).ok());
  const std::string file = sign_bytes(saved(form), office().chief, request);
  auto filled = EditableDocument::of(opened_again(file));
  for (const FormField& field : filled.now().value().form().value().fields) {
    CAPTURE(field.name);
    CHECK(field.locked_by == (field.name == "bridge" || field.name == "gap.sum" ? "sign" : ""));
  }
  // What would end the signature is refused.
  const std::string locked = "is locked by the signature in field 'sign'";
  CHECK(says(fill_fields(filled, {{"bridge", {"Alder Mill"}}}).error(), locked));
  CHECK(says(rename_field(filled, "bridge", "weir").error(), locked));
  CHECK(says(rename_field(filled, "gap", "space").error(), locked));
  CHECK(says(remove_fields(filled, {"gap"}).error(), locked));
  CHECK_FALSE(filled.can_undo());
  // What follows from others stays as it was signed.
  const auto report = fill_fields(filled, {{"gap.left", {"12"}}}).value();
  CHECK(report.reckoned == 0);
  REQUIRE(report.findings.size() == 2);  // a required field is empty besides
  CHECK(report.findings[0].what.starts_with("field 'gap.sum' keeps its value"));
  const auto reset = reset_fields(filled).value();
  CHECK(reset.filled > 0);
  REQUIRE_FALSE(reset.findings.empty());
  CHECK(reset.findings[0].what.starts_with("field 'gap.sum' keeps its value"));
  CHECK(says(reset_fields(filled, {"gap.sum"}).error(), locked));
  const std::string kept = file + string_of(filled.appended().value());
  const auto judged = first_judged(kept, office().root);
  CAPTURE(judged.reasons);
  CHECK(judged.verdict == Verdict::valid);
}

TEST_CASE("requests that cannot be are refused in words", "[sign]") {
  SignRequest request = request_at();
  request.mark = SignatureMark{.page = 0, .area = {250, 150, 100, 80}};
  CHECK(says(refusal(page_document(), request), "does not lie on page 1, which is 300.0 by 200.0"));
  request.mark->page = 4;
  CHECK(says(refusal(page_document(), request), "page 5 is asked for"));
  request = request_at();
  request.field = "sum.";
  CHECK(says(refusal(page_document(), request), "is no name of a field"));

  SignRequest certified = request_at();
  certified.certification = Certification::no_changes;
  const std::string file = sign_bytes(page_document(), office().chief, certified);
  check_valid(file);
  CHECK(says(refusal(opened_again(file), request_at()), "nothing in it may be changed"));
  certified.certification = Certification::fill_in;
  const std::string once = sign_bytes(page_document(), office().chief, certified);
  CHECK(says(refusal(opened_again(once), certified), "only the first signature can certify"));
  check_valid(sign_bytes(opened_again(once), office().chief));
  SignRequest seen = request_at();
  seen.mark = SignatureMark{.page = 0, .area = {20, 30, 100, 40}};
  CHECK(says(refusal(opened_again(once), seen), "nothing else changed"));
}

TEST_CASE("documents whose owners forbid it are not signed", "[sign]") {
  NewProtection locked{.user_password = "ostrel", .owner_password = "valley"};
  locked.permissions = Permissions();
  locked.permissions.annotate = false;
  locked.permissions.fill_forms = false;
  locked.permissions.change = false;
  BufferSink sink;
  REQUIRE(save(page_document(), sink, {.protection = locked}).ok());
  const Document document = Document::open(sink.take(), {.password = "ostrel"}).value();
  CHECK(refusal(document, request_at()).code() == ErrorCode::password);
}

TEST_CASE("what a field asks for is given, or refused", "[sign]") {
  const auto with_seeds = [](const std::string& seeds) {
    PdfBuilder pdf;
    pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[6 0 R]>>>>");
    pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
    pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 200]/Annots[6 0 R]>>");
    pdf.object(6, "<</Type/Annot/Subtype/Widget/FT/Sig/T(seal)/Rect[0 0 0 0]/P 3 0 R/SV<<" + seeds +
                      ">>>>");
    return opened_again(pdf.finish());
  };
  SignRequest request = request_at();
  request.field = "seal";
  request.reason = "Seen";
  CHECK(says(refusal(with_seeds("/Ff 64/DigestMethod[(SHA512)]"), request), "SHA512"));
  CHECK(says(refusal(with_seeds("/Ff 2/SubFilter[/adbe.pkcs7.detached]"), request), "adbe.pkcs7"));
  CHECK(says(refusal(with_seeds("/Ff 8/Reasons[(Inspected)(Repaired)]"), request),
             "'Inspected', 'Repaired'"));
  CHECK(says(refusal(with_seeds("/TimeStamp<</URL(http://time.ostrel.example)/Ff 1>>"), request),
             "time.ostrel.example"));
  request.digest = SignatureDigest::sha512;
  request.reason = "Repaired";
  const std::string file =
      sign_bytes(with_seeds("/Ff 72/DigestMethod[(SHA512)]/Reasons[(Repaired)]/MDP<</P 2>>"),
                 office().chief, request);
  check_valid(file);
  CHECK(first_judged(file, office().root).certification == Certification::fill_in);
}

TEST_CASE("keys are read with their certificates", "[sign]") {
  const Bytes store = office().chief.pkcs12("ostrel");
  CHECK(SigningKey::from_pkcs12(store, "other").error().code() == ErrorCode::password);
  CHECK(SigningKey::from_pkcs12(to_bytes("nothing"), "").error().code() == ErrorCode::malformed);
  CHECK(SigningKey::from_pkcs12(store, "ostrel")->chain().size() == 2);
  const std::string key = office().chief.key_pem();
  CHECK(SigningKey::from(to_bytes(key + office().chief.chain_pem()), "")->chain().size() == 3);
  CHECK(says(SigningKey::from_pem(to_bytes(key)).error(), "without its certificate"));
  CHECK(says(SigningKey::from_pem(to_bytes(office().chief.pem())).error(), "no private key"));
  CHECK(says(SigningKey::from_pem(to_bytes(key + office().root.pem())).error(),
             "none of the certificates"));
  const auto weak = office().authority.issue({.name = "Weak", .key = KeyKind::rsa_1024});
  CHECK(says(SigningKey::from_pkcs12(weak.pkcs12(""), "").error(), "1024 bits"));
}

TEST_CASE("certificates say whom they name, and for how long", "[sign]") {
  const auto own = Certificate::from_der(office().chief.certificate()).value();
  CHECK(own.common_name() == "Ida Verlan");
  CHECK(own.subject() == "O=Ostrel Valley bridge office, CN=Ida Verlan");
  CHECK(own.issuer() == "O=Ostrel Valley bridge office, CN=Ostrel Valley signatures");
  CHECK_FALSE(own.is_self_issued());
  CHECK(own.may_sign());
  CHECK(own.valid_from() == 1'735'689'600);
  CHECK(own.valid_until() == 2'051'222'400);
  CHECK(own.der() == office().chief.certificate());
  CHECK(own.fingerprint().size() == 64);
  CHECK(Certificate::from_der(office().root.certificate())->is_self_issued());
  // Other things may stand in a file of PEM; a damaged certificate is told by its place.
  const std::string pem = office().chief.pem();
  CHECK(read_certificates(to_bytes(office().chief.key_pem() + pem))->size() == 1);
  std::string damaged = pem;
  damaged.replace(damaged.find('\n') + 1, 4, "AAAA");
  CHECK(says(read_certificates(to_bytes(pem + damaged)).error(), "certificate 2 of the file"));
}

TEST_CASE("certificates that had better not sign are told of", "[sign]") {
  const auto notes = [](const standins::CertificateRequest& request) {
    BufferSink sink;
    return lumvet::sign(EditableDocument::of(page_document()),
                        key_of(office().authority.issue(request)), request_at(), sink)
        .value()
        .findings;
  };
  CHECK(notes({.name = "Fine"}).empty());
  CHECK(notes({.name = "Late", .until = kSigned - kDay}).size() == 1);
  CHECK(notes({.name = "Early", .from = kSigned + kDay}).size() == 1);
  CHECK(notes({.name = "Keys", .usage = "critical,keyEncipherment"}).size() == 1);
}

TEST_CASE("nothing is left behind where a file cannot be written", "[sign]") {
  const TemporaryFolder folder;
  write_file(folder / "there.pdf", "there");
  const auto document = EditableDocument::of(page_document());
  const auto key = key_of(office().chief);
  CHECK(lumvet::sign(document, key, request_at(), folder / "there.pdf").error().code() ==
        ErrorCode::exists);
  CHECK(read_file(folder / "there.pdf") == "there");
  const auto report = lumvet::sign(document, key, request_at(), folder / "new.pdf").value();
  CHECK(report.bytes == std::filesystem::file_size(folder / "new.pdf"));
  CHECK(report.field == "signature-1");
  CHECK(folder.file_count() == 2);
}
