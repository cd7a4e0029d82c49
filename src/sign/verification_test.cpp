// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/verification.h"

#include <algorithm>

#include "sign/certificate_chain.h"
#include "tests/support/attacks.h"

using namespace lumvet;
using namespace test;
using standins::CertificateRequest;
using standins::Identity;

namespace {

Document page_document() {
  return opened_again(PdfBuilder().page("0 0 1 rg 40 40 60 60 re f").finish());
}

Trust trusting(const Identity& identity) {
  Trust trust;
  REQUIRE(trust.add(identity.certificate()).ok());
  return trust;
}

SignatureJudgement judge(const std::string& file, const Trust& trust, std::int64_t time = kSigned) {
  const auto all = verify_signatures(opened_again(file), trust, {.time = time}).value();
  REQUIRE(all.size() == 1);
  return all[0];
}

// What comes of a certificate that the authority below a root issued.
SignatureJudgement judge_with(const CertificateRequest& request, std::int64_t time = kSigned) {
  const Office office = Office::with();
  const Identity signer = office.authority.issue(request);
  return judge(sign_bytes(page_document(), signer), trusting(office.root), time);
}

TimestampSource stamping(const Identity& authority, std::int64_t when,
                         standins::StampRequest how = {}) {
  how.when = when;
  return [=](ByteView request) -> Result<Bytes> { return authority.timestamp(request, how); };
}

struct Stamper {
  Office office = Office::with();
  Identity authority = office.authority.issue(
      {.name = "Ostrel Valley time", .extended_usage = "critical,timeStamping"});
};

std::string stamped(const Stamper& stamper, std::int64_t when, standins::StampRequest how = {}) {
  SignRequest request = request_at();
  request.timestamps = stamping(stamper.authority, when, how);
  return sign_bytes(page_document(), stamper.office.chief, request);
}

}  // namespace

TEST_CASE("who signed, when and why is told", "[sign]") {
  const Office office = Office::with();
  SignRequest request = request_at();
  request.name = "Ida Vérlan";
  request.reason = "Inspected";
  request.place = "Ostrel";
  request.contact = "ida@ostrel.example";
  const auto judged =
      judge(sign_bytes(page_document(), office.chief, request), trusting(office.root));
  CHECK(judged.verdict == Verdict::valid);
  CHECK(judged.signer == "Ida Verlan");
  CHECK(judged.name == request.name);
  CHECK(judged.reason == request.reason);
  CHECK(judged.place == request.place);
  CHECK(judged.contact == request.contact);
  CHECK(judged.claimed_time == kSigned);
  CHECK_FALSE(judged.proven_time);
  CHECK(judged.form == "ETSI.CAdES.detached");
  CHECK(judged.digest == "SHA256");
  CHECK(judged.covers_document);
  CHECK(judged.revision == 1);
  REQUIRE(judged.chain.size() == 3);
  CHECK(judged.chain[2].common_name() == "Ostrel Valley root");
}

TEST_CASE("nobody is believed without an anchor, and a certificate of one's own as one", "[sign]") {
  const Office office = Office::with();
  const auto nobody = judge(sign_bytes(page_document(), office.chief), Trust());
  CHECK(nobody.verdict == Verdict::untrusted);
  CHECK(nobody.sub_indication == "NO_CERTIFICATE_CHAIN_FOUND");
  CHECK(nobody.indication == "INDETERMINATE");
  const Identity alone = Identity::root({.name = "Rilla Onsk"});
  const std::string file = sign_bytes(page_document(), alone);
  CHECK(judge(file, trusting(office.root)).verdict == Verdict::untrusted);
  CHECK(judge(file, trusting(alone)).verdict == Verdict::valid);
  // An anchor may stand anywhere in a chain.
  const std::string chief = sign_bytes(page_document(), office.chief);
  CHECK(judge(chief, trusting(office.authority)).verdict == Verdict::valid);
  CHECK(judge(chief, trusting(office.chief)).verdict == Verdict::valid);
}

TEST_CASE("certificates out of their time", "[sign]") {
  const auto expired = judge_with({.name = "Late", .until = kSigned - kDay});
  CHECK(expired.verdict == Verdict::unjudged);
  CHECK(expired.sub_indication == "OUT_OF_BOUNDS_NO_POE");
  CHECK(judge_with({.name = "Late", .until = kSigned - kDay}, kSigned - 2 * kDay).verdict ==
        Verdict::valid);
  CHECK(judge_with({.name = "Early", .from = kSigned + kDay}).verdict == Verdict::invalid);
}

TEST_CASE("certificates for other purposes do not sign documents", "[sign]") {
  for (const CertificateRequest& request :
       {CertificateRequest{.name = "Keys", .usage = "critical,keyEncipherment"},
        CertificateRequest{.name = "Server", .extended_usage = "serverAuth"},
        CertificateRequest{.name = "Code", .extended_usage = "codeSigning"},
        CertificateRequest{.name = "Time", .extended_usage = "critical,timeStamping"}}) {
    const auto judged = judge_with(request);
    CAPTURE(request.name);
    CHECK(judged.verdict == Verdict::invalid);
    CHECK(judged.sub_indication == "SIG_CONSTRAINTS_FAILURE");
  }
  for (const char* usage : {"emailProtection", "1.3.6.1.5.5.7.3.36", "anyExtendedKeyUsage"})
    CHECK(judge_with({.name = "People", .extended_usage = usage}).verdict == Verdict::valid);
}

TEST_CASE("chains that break their own rules", "[sign]") {
  const Identity root = Identity::root({.name = "Root"});
  const auto judged_under = [&](const Identity& authority, const CertificateRequest& request) {
    return judge(sign_bytes(page_document(), authority.issue(request)), trusting(root)).verdict;
  };
  const Identity narrow = root.issue({.name = "Narrow", .is_authority = true, .path_length = 0});
  CHECK(judged_under(narrow, {.name = "Fine"}) == Verdict::valid);
  const Identity below = narrow.issue({.name = "Below", .is_authority = true});
  CHECK(judged_under(below, {.name = "Too deep"}) == Verdict::invalid);
  const Identity nobody = root.issue({.name = "No authority"});
  CHECK(judged_under(nobody, {.name = "By nobody"}) == Verdict::untrusted);
  const Identity bound = root.issue({.name = "Bound",
                                     .is_authority = true,
                                     .name_constraints = "critical,permitted;DNS:ostrel.example"});
  CHECK(judged_under(bound, {.name = "In", .alternative_name = "DNS:a.ostrel.example"}) ==
        Verdict::valid);
  CHECK(judged_under(bound, {.name = "Out", .alternative_name = "DNS:other.example"}) ==
        Verdict::invalid);
}

TEST_CASE("algorithms that can be forged", "[sign]") {
  const Identity root = Identity::root({.name = "Root", .key = standins::KeyKind::rsa_2048});
  for (const char* digest : {"SHA1", "MD5"}) {
    const Identity old = root.issue({.name = "Old", .digest = digest});
    const auto judged = judge(sign_bytes(page_document(), old), trusting(root));
    CHECK(judged.verdict == Verdict::invalid);
    CHECK(judged.sub_indication == "CRYPTO_CONSTRAINTS_FAILURE_NO_POE");
  }
}

TEST_CASE("certificates that were taken back", "[sign]") {
  const Office office = Office::with();
  const std::string file = sign_bytes(page_document(), office.chief);
  const auto with_list = [&](std::int64_t when, std::int64_t until) {
    Trust trust = trusting(office.root);
    const Bytes list =
        office.authority.revocation_list({{office.chief.certificate(), when}}, when, until);
    REQUIRE(trust.add_revocations(list).ok());
    return judge(file, trust);
  };
  const auto revoked = with_list(kSigned - kDay, kSigned + kDay);
  CHECK(revoked.verdict == Verdict::invalid);
  CHECK(revoked.sub_indication == "REVOKED_NO_POE");
  // A list of somebody else says nothing.
  Trust trust = trusting(office.root);
  const Office other = Office::with();
  REQUIRE(trust
              .add_revocations(other.authority.revocation_list(
                  {{office.chief.certificate(), kSigned - kDay}}, kSigned - kDay, kSigned + kDay))
              .ok());
  CHECK(judge(file, trust).verdict == Verdict::valid);
  // The answer of a responder.
  for (const bool is_revoked : {false, true}) {
    Trust answered = trusting(office.root);
    REQUIRE(answered
                .add_revocations(office.authority.status_of(office.chief.certificate(), is_revoked,
                                                            kSigned - kDay))
                .ok());
    CHECK(judge(file, answered).verdict == (is_revoked ? Verdict::invalid : Verdict::valid));
  }
}

TEST_CASE("where an issuer tells of what it took back, that has to be known", "[sign]") {
  const Office office = Office::with();
  const Identity signer = office.authority.issue(
      {.name = "Listed", .revocation_list = "http://lists.ostrel.example/signatures.crl"});
  const std::string file = sign_bytes(page_document(), signer);
  Trust trust = trusting(office.root);
  const auto unknown = judge(file, trust);
  CHECK(unknown.verdict == Verdict::unjudged);
  CHECK(unknown.sub_indication == "TRY_LATER");
  REQUIRE(
      trust.add_revocations(office.authority.revocation_list({}, kSigned - kDay, kSigned + kDay))
          .ok());
  CHECK(judge(file, trust).verdict == Verdict::valid);
  CHECK(judge(file, trust, kSigned + 2 * kDay).verdict == Verdict::unjudged);  // an old list
}

TEST_CASE("a timestamp proves when it was signed", "[sign]") {
  const Stamper stamper;
  const std::string file = stamped(stamper, kSigned + 5);
  CHECK(confirmed(file, stamper.office.root).code == 0);
  const Trust trust = trusting(stamper.office.root);
  const auto judged = judge(file, trust);
  CHECK(judged.verdict == Verdict::valid);
  CHECK(judged.proven_time == kSigned + 5);
  // What was taken back later was good then.
  Trust later = trust;
  REQUIRE(later
              .add_revocations(stamper.office.authority.revocation_list(
                  {{stamper.office.chief.certificate(), kSigned + 10 * kDay}}, kSigned,
                  kSigned + 90 * kDay))
              .ok());
  CHECK(judge(file, later, kSigned + 20 * kDay).verdict == Verdict::valid);
  CHECK(judge(sign_bytes(page_document(), stamper.office.chief), later, kSigned + 20 * kDay)
            .verdict == Verdict::invalid);
}

TEST_CASE("timestamps that prove nothing", "[sign]") {
  const Stamper stamper;
  const Trust trust = trusting(stamper.office.root);
  const auto old = judge(stamped(stamper, kSigned - kDay), trust);
  CHECK(old.verdict == Verdict::unjudged);
  CHECK(old.sub_indication == "TIMESTAMP_ORDER_FAILURE");
  // Of an authority that nobody knows, and of somebody who is none.
  Stamper stranger;
  stranger.office = stamper.office;
  CHECK(judge(stamped(stranger, kSigned), trust).verdict == Verdict::unjudged);
  // Signed by its authority in a way that anybody can forge.
  const auto weak = judge(stamped(stamper, kSigned, {.digest = "SHA1"}), trust);
  CHECK(weak.verdict == Verdict::unjudged);
  CHECK(weak.reasons.at(0).find("SHA1, which can be forged") != std::string::npos);
  CHECK_FALSE(weak.proven_time);
}

TEST_CASE("what an authority answers is held against what it was asked", "[sign]") {
  const Stamper stamper;
  SignRequest request = request_at();
  const auto refused = [&](const TimestampSource& source) {
    request.timestamps = source;
    BufferSink sink;
    const auto report = lumvet::sign(EditableDocument::of(page_document()),
                                     key_of(stamper.office.chief), request, sink);
    REQUIRE_FALSE(report.ok());
    CHECK(sink.bytes().empty());
    return report.error().message();
  };
  CHECK(refused(stamping(stamper.authority, kSigned, {.refuses = true})).find("refuses") !=
        std::string::npos);
  CHECK(refused(stamping(stamper.authority, kSigned, {.changes_nonce = true}))
            .find("another question") != std::string::npos);
  CHECK(refused(stamping(stamper.authority, kSigned, {.changes_digest = true}))
            .find("something else") != std::string::npos);
  CHECK(refused([](ByteView) -> Result<Bytes> {
          return to_bytes("<html>503</html>");
        }).find("something else than a timestamp") != std::string::npos);
  CHECK(refused([](ByteView) -> Result<Bytes> { return Error(ErrorCode::io, "nobody answers"); }) ==
        "nobody answers");
}

TEST_CASE("several signatures are judged each by what it signs", "[sign]") {
  const Office office = Office::with();
  const Identity second = office.authority.issue({.name = "Office seal"});
  const std::string once = sign_bytes(page_document(), office.chief);
  const std::string twice = sign_bytes(opened_again(once), second);
  CHECK(twice.starts_with(once));
  const auto all =
      verify_signatures(opened_again(twice), trusting(office.root), {.time = kSigned}).value();
  REQUIRE(all.size() == 2);
  CHECK(all[0].verdict == Verdict::valid);
  CHECK(all[1].verdict == Verdict::valid);
  CHECK(all[0].signer == "Ida Verlan");
  CHECK(all[1].signer == "Office seal");
  CHECK(all[0].revision == 1);
  CHECK_FALSE(all[0].covers_document);
  REQUIRE(all[0].changes.size() == 1);
  CHECK(all[0].changes[0].kind == LaterChange::Kind::signature);
  CHECK(all[1].covers_document);
  CHECK(confirmed(twice, office.root, 0).code == 0);
  CHECK(confirmed(twice, office.root, 1).code == 0);
  // The document as it was signed first is what it was.
  const Document first = opened_again(twice).revision(all[0].revision).value();
  CHECK(first.file_size() == once.size());
}

TEST_CASE("a chain is built once, however many signatures it answers for", "[sign]") {
  const Office office = Office::with();
  signing::ChainJudge chains(trusting(office.root), {}, {}, {});
  const auto signer = Certificate::from_der(office.chief.certificate()).value();
  const auto issuer = Certificate::from_der(office.authority.certificate()).value();
  for (int i = 0; i < 50; ++i) {
    const auto judged =
        chains.judge(signer, {issuer}, signing::Purpose::signatures, kSigned, false);
    CHECK(judged.opinion.verdict == Verdict::valid);
  }
  CHECK(chains.chains_built() == 1);
}

TEST_CASE("what a signature says of itself is listed unjudged", "[sign]") {
  const Office office = Office::with();
  SignRequest request = request_at();
  request.reason = "Inspected";
  std::string file = sign_bytes(page_document(), office.chief, request);
  file[20] = static_cast<char>(file[20] ^ 1);
  const auto claims = list_signatures(opened_again(file)).value();
  REQUIRE(claims.size() == 1);
  CHECK(claims[0].reason == "Inspected");
  CHECK(claims[0].name == "Ida Verlan");
  CHECK(claims[0].claimed_time == kSigned);
  CHECK_FALSE(claims[0].is_timestamp);
  CHECK(list_signatures(page_document()).value().empty());
}

TEST_CASE("anchors and lists come in one file of PEM", "[sign]") {
  const Office office = Office::with();
  Trust trust;
  const std::string pem = office.root.pem() + office.authority.pem();
  REQUIRE(trust.add(to_bytes("# the office\n" + pem)).ok());
  CHECK(trust.anchors.size() == 2);
  CHECK(trust.add(to_bytes("nothing of the kind")).error().code() == ErrorCode::malformed);
  CHECK(trust.add_revocations(to_bytes("nothing")).error().code() == ErrorCode::malformed);
}

TEST_CASE("what is saved whole has no signature that holds", "[sign]") {
  const Office office = Office::with();
  const Document document = opened_again(sign_bytes(page_document(), office.chief));
  for (const FileLayout layout : {FileLayout::compact, FileLayout::linearized_classic}) {
    BufferSink sink;
    const auto report = save(document, sink, {.layout = layout}).value();
    REQUIRE(report.findings.size() == 1);
    CHECK(report.findings[0].what.starts_with("1 signature ends here"));
    const auto saved = Document::open(sink.take()).value();
    for (const SignatureJudgement& judged :
         verify_signatures(saved, trusting(office.root), {.time = kSigned}).value())
      CHECK(judged.verdict == Verdict::invalid);
  }
}
