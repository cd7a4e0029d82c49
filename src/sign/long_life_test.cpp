// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/long_life.h"

#include <map>
#include <set>

#include "lumvet/forms/filling.h"
#include "tests/support/attacks.h"
#include "tests/support/inspection_form.h"

using namespace lumvet;
using namespace test;
using standins::Identity;

namespace {

constexpr const char* kList = "http://lists.ostrel.example/signatures.crl";
constexpr const char* kResponder = "http://status.ostrel.example/";
constexpr std::int64_t kYear = 365 * kDay;

// Authorities that tell of what they took back, and stamp times.
struct World {
  Identity root = Identity::root({.name = "Root", .until = kSigned + 40 * kYear});
  Identity authority = root.issue({.name = "Signatures",
                                   .until = kSigned + 30 * kYear,
                                   .is_authority = true,
                                   .revocation_list = kList});
  Identity chief =
      authority.issue({.name = "Ida Verlan", .until = kSigned + kYear, .responder = kResponder});
  Identity clock = authority.issue({.name = "Time",
                                    .until = kSigned + 3 * kYear,
                                    .extended_usage = "critical,timeStamping",
                                    .revocation_list = kList});
  Identity later_clock = authority.issue({.name = "Later time",
                                          .until = kSigned + 20 * kYear,
                                          .extended_usage = "critical,timeStamping",
                                          .revocation_list = kList});
  bool is_revoked = false;
  int fetched = 0;

  TimestampSource stamp(std::int64_t when, bool is_later = false) const {
    return [=, this](ByteView request) -> Result<Bytes> {
      return (is_later ? later_clock : clock).timestamp(request, {.when = when});
    };
  }
  IssuerSource issuers(std::int64_t now) {
    return [=, this](const std::string& address, ByteView request) -> Result<Bytes> {
      ++fetched;
      if (address == kResponder) {
        CHECK_FALSE(request.empty());
        return authority.status_of(chief.certificate(), is_revoked, now);
      }
      CHECK(address == kList);
      CHECK(request.empty());
      // One file holds what both authorities tell; each list is found by who signed it.
      return lists == 0 ? authority.revocation_list({}, now - kDay, now + 30 * kDay)
                        : root.revocation_list({}, now - kDay, now + 30 * kDay);
    };
  }
  int lists = 0;

  Trust trust() const {
    Trust all;
    REQUIRE(all.add(root.certificate()).ok());
    return all;
  }
  Trust informed(std::int64_t now) const {
    Trust all = trust();
    for (const Bytes& list : {authority.revocation_list({}, now - kDay, now + 30 * kDay),
                              root.revocation_list({}, now - kDay, now + 30 * kDay)})
      REQUIRE(all.add_revocations(list).ok());
    return all;
  }
  std::string file(TimestampSource timestamps = {}) const {
    SignRequest request = request_at();
    request.timestamps = std::move(timestamps);
    return sign_bytes(opened_again(PdfBuilder().page("0 0 9 9 re f").finish()), chief, request);
  }
};

std::string prolonged(const std::string& file, const ProlongRequest& request) {
  BufferSink sink;
  const auto report = prolong(opened_again(file), request, sink);
  CAPTURE(report.ok() ? "" : report.error().to_string());
  REQUIRE(report.ok());
  std::string bytes = string_of(sink.take());
  CHECK(report->bytes == bytes.size());
  CHECK(bytes.starts_with(file));
  return bytes;
}

std::vector<SignatureJudgement> judge_all(const std::string& file, const Trust& trust,
                                          std::int64_t time) {
  return verify_signatures(opened_again(file), trust, {.time = time}).value();
}

}  // namespace

TEST_CASE("levels are reached one after the other", "[sign]") {
  const World world;
  const Trust informed = world.informed(kSigned);
  CHECK(judge_all(world.file(), informed, kSigned)[0].level == "B-B");
  const std::string stamped = world.file(world.stamp(kSigned));
  CHECK(judge_all(stamped, informed, kSigned)[0].level == "B-T");
  const std::string lasting = prolonged(stamped, {.trust = informed, .time = kSigned});
  const auto lasting_judged = judge_all(lasting, world.trust(), kSigned);
  CAPTURE(lasting_judged[0].reasons);
  CHECK(lasting_judged[0].verdict == Verdict::valid);
  CHECK(lasting_judged[0].level == "B-LT");
  CHECK(lasting_judged[0].changes.at(0).kind == LaterChange::Kind::material);
  const std::string kept = prolonged(
      stamped, {.trust = informed, .timestamps = world.stamp(kSigned + 60), .time = kSigned});
  const auto kept_judged = judge_all(kept, world.trust(), kSigned + kDay);
  REQUIRE(kept_judged.size() == 2);
  CHECK(kept_judged[0].level == "B-LTA");
  CHECK(kept_judged[0].verdict == Verdict::valid);
  CHECK(kept_judged[1].is_timestamp);
  CHECK(kept_judged[1].field == "timestamp-1");
  CHECK(kept_judged[1].proven_time == kSigned + 60);
}

TEST_CASE("a court asks in nine years", "[sign]") {
  const World world;
  const std::int64_t nine = kSigned + 9 * kYear;
  const std::string stamped = world.file(world.stamp(kSigned));
  // Whoever only signed is not believed any more, nor whoever only stamped.
  CHECK(judge_all(world.file(), world.informed(nine), nine)[0].verdict == Verdict::unjudged);
  CHECK(judge_all(stamped, world.informed(nine), nine)[0].verdict == Verdict::unjudged);
  const std::string kept = prolonged(stamped, {.trust = world.informed(kSigned),
                                               .timestamps = world.stamp(kSigned + kDay),
                                               .time = kSigned + kDay});
  // In the second year, before the clock's certificate expires, once more.
  const std::int64_t second = kSigned + 2 * kYear;
  CHECK(judge_all(kept, world.informed(second), second).at(0).verdict == Verdict::valid);
  const std::string renewed = prolonged(
      kept,
      {.trust = world.informed(second), .timestamps = world.stamp(second, true), .time = second});
  const auto all = judge_all(renewed, world.informed(nine), nine);
  REQUIRE(all.size() == 3);
  for (const SignatureJudgement& each : all) {
    CAPTURE(each.field, each.reasons);
    CHECK(each.verdict == Verdict::valid);
  }
  CHECK(all[0].proven_time == kSigned);
  CHECK(all[0].level == "B-LTA");
  // Not renewed, nothing proves it any more.
  CHECK(judge_all(kept, world.informed(nine), nine)[0].verdict == Verdict::unjudged);
}

TEST_CASE("signed twice, filled in where it is allowed, and prolonged: all still judged right",
          "[sign]") {
  const World world;
  const Identity seal = world.authority.issue(
      {.name = "Office seal", .until = kSigned + kYear, .responder = kResponder});
  SignRequest first = request_at();
  first.field = "sign";
  first.certification = Certification::fill_in;
  first.lock = FieldLock{FieldLock::Which::these, {"bridge"}};
  first.timestamps = world.stamp(kSigned);
  SignRequest second = request_at(kSigned + 60);
  second.timestamps = world.stamp(kSigned + 60);
  const std::string once = sign_bytes(inspection_form(), world.chief, first);
  const std::string twice = sign_bytes(opened_again(once), seal, second);
  auto filling = EditableDocument::of(opened_again(twice));
  REQUIRE(fill_fields(filling, {{"weather", {"rain"}}, {"gap.left", {"12"}}}).ok());
  const std::string filled = twice + string_of(filling.appended().value());
  Trust informed = world.informed(kSigned + kDay);
  REQUIRE(
      informed.add_revocations(world.authority.status_of(seal.certificate(), false, kSigned + kDay))
          .ok());
  const std::string kept = prolonged(
      filled,
      {.trust = informed, .timestamps = world.stamp(kSigned + kDay), .time = kSigned + kDay});
  const auto all = judge_all(kept, world.trust(), kSigned + 2 * kDay);
  REQUIRE(all.size() == 3);
  for (const SignatureJudgement& each : all) {
    CAPTURE(each.field, each.reasons);
    CHECK(each.verdict == Verdict::valid);
    for (const LaterChange& change : each.changes)
      CHECK(change.allowed == LaterChange::Allowed::yes);
  }
  CHECK(all[0].level == "B-LTA");
  CHECK(all[1].level == "B-LTA");
  const auto names = [&](const SignatureJudgement& judged, LaterChange::Kind kind) {
    std::set<std::string> found;
    for (const LaterChange& change : judged.changes)
      if (change.kind == kind) found.insert(change.what);
    return found;
  };
  const std::set<std::string> fields = {
      "field weather was filled in", "field gap.left was filled in", "field gap.sum was filled in"};
  CHECK(names(all[0], LaterChange::Kind::field) == fields);
  CHECK(names(all[1], LaterChange::Kind::field) == fields);
  CHECK(names(all[0], LaterChange::Kind::signature).size() == 2);
  CHECK(names(all[1], LaterChange::Kind::signature).size() == 1);
  CHECK(all[2].changes.empty());
}

TEST_CASE("fields on turned pages show what they hold as well", "[sign]") {
  const std::string turn = GENERATE("/Rotate 90", "/Rotate 180", "/Rotate 270/UserUnit 2");
  const World world;
  SignRequest request = request_at();
  request.certification = Certification::fill_in;
  const std::string file = sign_bytes(inspection_form(turn), world.chief, request);
  auto filling = EditableDocument::of(opened_again(file));
  REQUIRE(
      fill_fields(filling, {{"bridge", {"Alder Mill"}},
                            {"notes", {"Two lines of notes, which take more room than one has"}},
                            {"code", {"AB12"}},
                            {"gap.left", {"1234.5"}},
                            {"dry", {"on"}},
                            {"grade", {"two"}}})
          .ok());
  const auto judged =
      judge_all(file + string_of(filling.appended().value()), world.informed(kSigned), kSigned)[0];
  CAPTURE(turn, judged.reasons);
  CHECK(judged.verdict == Verdict::valid);
  CHECK(judged.changes.size() >= 6);
}

TEST_CASE("what issuers tell is fetched where they say", "[sign]") {
  World world;
  const std::string file = world.file();
  Trust trust = world.trust();
  const auto chain = judge_all(file, trust, kSigned)[0].chain;
  REQUIRE(chain.size() == 3);
  CHECK(judge_all(file, trust, kSigned)[0].sub_indication == "TRY_LATER");
  world.lists = 1;
  CHECK(fetch_revocations(trust, chain, world.issuers(kSigned), kSigned).value() == 2);
  CHECK(judge_all(file, trust, kSigned)[0].verdict == Verdict::valid);
  CHECK(fetch_revocations(trust, chain, world.issuers(kSigned), kSigned).value() == 0);
  CHECK(world.fetched == 2);

  world.is_revoked = true;
  Trust other = world.trust();
  REQUIRE(fetch_revocations(other, chain, world.issuers(kSigned - kDay), kSigned).ok());
  CHECK(judge_all(file, other, kSigned)[0].verdict == Verdict::invalid);

  Trust nobody = world.trust();
  const auto failed = fetch_revocations(
      nobody, chain,
      [](const std::string& address, ByteView) -> Result<Bytes> {
        return Error(ErrorCode::io, "nobody answers").about(address);
      },
      kSigned);
  CHECK(failed.error().code() == ErrorCode::io);
  const auto garbage = fetch_revocations(
      nobody, chain,
      [](const std::string&, ByteView) -> Result<Bytes> { return to_bytes("<html>503</html>"); },
      kSigned);
  CHECK(garbage.error().message().find("ostrel.example") != std::string::npos);
}

TEST_CASE("a document is prolonged with what is fetched, even where nothing may be changed",
          "[sign]") {
  World world;
  world.lists = 1;
  SignRequest request = request_at();
  request.certification = Certification::no_changes;
  request.timestamps = {};
  const std::string file =
      sign_bytes(opened_again(PdfBuilder().page("0 0 9 9 re f").finish()), world.chief, request);
  const std::string kept = prolonged(file, {.trust = world.informed(kSigned),
                                            .timestamps = world.stamp(kSigned + 60),
                                            .issuers = world.issuers(kSigned),
                                            .time = kSigned});
  const auto all = judge_all(kept, world.trust(), kSigned + kDay);
  REQUIRE(all.size() == 2);
  CAPTURE(all[0].reasons);
  CHECK(all[0].verdict == Verdict::valid);
  CHECK(all[0].proven_time == kSigned + 60);
}

TEST_CASE("what cannot be prolonged is refused", "[sign]") {
  const World world;
  BufferSink sink;
  const auto none = prolong(opened_again(PdfBuilder().page("").finish()), {}, sink);
  REQUIRE_FALSE(none.ok());
  CHECK(none.error().code() == ErrorCode::invalid_argument);
  const Trust informed = world.informed(kSigned);
  const std::string lasting = prolonged(world.file(), {.trust = informed, .time = kSigned});
  const auto again = prolong(opened_again(lasting), {.trust = informed, .time = kSigned}, sink);
  REQUIRE_FALSE(again.ok());
  CHECK(again.error().code() == ErrorCode::invalid_argument);
  CHECK(sink.bytes().empty());
}

TEST_CASE("material of others proves nothing", "[sign]") {
  const World world;
  const World stranger;
  // The stranger's lists in the document say nothing of this signature.
  const std::string file = world.file();
  const std::string with_material = [&] {
    Objects objects;
    objects[90] = stream_text(
        string_of(stranger.authority.revocation_list({}, kSigned - kDay, kSigned + 30 * kDay)));
    objects[91] = "<</CRLs[90 0 R]>>";
    const std::string catalog = object_text(file, 1);
    objects[1] = "<</DSS 91 0 R" + catalog.substr(2);
    return updated(file, objects);
  }();
  const auto judged = judge_all(with_material, world.trust(), kSigned)[0];
  CHECK(judged.sub_indication == "TRY_LATER");
  CHECK(judged.verdict == Verdict::unjudged);
}
