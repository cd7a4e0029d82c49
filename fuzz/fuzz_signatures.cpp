// SPDX-License-Identifier: Apache-2.0
// Any bytes as a signed document, as the message of a signature, as a timestamp, as what issuers
// tell, or as keys and certificates: no crash, and nothing of it is believed.
#include <string_view>

#include "fuzz/small_limits.h"
#include "lumvet/sign/long_life.h"
#include "sign/revocations.h"
#include "sign/signed_message.h"
#include "sign/timestamps.h"

namespace {

constexpr std::int64_t kTime = 1'790'000'000;  // seconds since 1970

void judge(lumvet::ByteView bytes) {
  const auto document = lumvet::Document::open(lumvet::Bytes(bytes.begin(), bytes.end()),
                                               {.limits = fuzz::kSmallLimits});
  if (!document.ok()) return;
  const auto all = lumvet::verify_signatures(*document, lumvet::Trust(), {.time = kTime});
  if (!all.ok()) return;
  for (const lumvet::SignatureJudgement& each : *all)
    if (each.verdict == lumvet::Verdict::valid || each.reasons.empty()) __builtin_trap();
}

void read_message(lumvet::ByteView bytes) {
  const auto message = lumvet::signing::SignedMessage::read(bytes);
  if (!message.ok()) return;
  static_cast<void>(message->check(lumvet::Bytes(32), true));
  static_cast<void>(message->check(lumvet::Bytes(32), false));
  static_cast<void>(message->signing_time());
  static_cast<void>(message->timestamp());
}

void read_timestamp(lumvet::ByteView bytes) {
  lumvet::signing::ChainJudge chains({}, {}, {}, {});
  const auto judged = lumvet::signing::judge_timestamp(
      bytes, [](const std::string&) -> lumvet::Result<lumvet::Bytes> { return lumvet::Bytes(32); },
      chains, kTime, false);
  if (judged.ok() && judged->opinion.verdict == lumvet::Verdict::valid) __builtin_trap();
}

void read_certificates(lumvet::ByteView bytes) {
  lumvet::Trust trust;
  static_cast<void>(trust.add(bytes));
  static_cast<void>(trust.add_revocations(bytes));
  static_cast<void>(lumvet::SigningKey::from(bytes, "ostrel"));
  lumvet::signing::Revocations told;
  told.add_list(bytes);
  told.add_response(bytes);
  for (const lumvet::Certificate& each : trust.anchors) {
    static_cast<void>(each.subject() + each.common_name() + each.fingerprint());
    static_cast<void>(lumvet::signing::revocation_places(each));
    static_cast<void>(told.of(each, each, kTime));
  }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size == 0) return 0;
  const lumvet::ByteView rest(data + 1, size - 1);
  switch (data[0]) {
    case 'm': read_message(rest); break;
    case 't': read_timestamp(rest); break;
    case 'c': read_certificates(rest); break;
    default: judge(lumvet::ByteView(data, size));
  }
  return 0;
}
