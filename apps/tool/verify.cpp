// SPDX-License-Identifier: Apache-2.0
// lumvet verify: the signatures of documents, judged.
#include <ctime>
#include <iostream>
#include <memory>

#include <lumvet/sign/verification.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "json.h"
#include "network.h"
#include "states.h"
#include "trusted.h"
#include "verbs.h"

namespace tool {
namespace {

using lumvet::LaterChange;
using lumvet::SignatureJudgement;
using lumvet::Verdict;

constexpr int kNotValid = 4;
constexpr int kNotSure = 5;

struct VerifyArguments {
  std::vector<std::string> inputs;
  Trusting trusting;
  std::string time;
  std::vector<std::string> revision;  // a state's number, and where it goes
  std::vector<std::string> compared;  // the same, beside today's
  bool is_online = false;
  bool replace = false;
  bool json = false;
  Secrets secrets;
};

// "2026-12-01", "2026-12-01T05:09" or seconds since 1970; of UTC.
std::optional<std::int64_t> seconds_of(const std::string& text) {
  if (!text.empty() && text.find_first_not_of("0123456789") == std::string::npos &&
      text.size() > 8 && text.size() < 12)
    return std::stoll(text);
  for (const char* format : {"%Y-%m-%dT%H:%M:%SZ", "%Y-%m-%dT%H:%M:%S", "%Y-%m-%dT%H:%MZ",
                             "%Y-%m-%dT%H:%M", "%Y-%m-%d"}) {
    std::tm parts{};
    const char* end = strptime(text.c_str(), format, &parts);
    if (end != nullptr && *end == '\0') return static_cast<std::int64_t>(timegm(&parts));
  }
  return std::nullopt;
}

const char* mark_of(Verdict verdict) {
  switch (verdict) {
    case Verdict::valid: return "✓";
    case Verdict::invalid: return "✗";
    default: return "?";
  }
}

const char* name_of(LaterChange::Kind kind) {
  switch (kind) {
    case LaterChange::Kind::page: return "page";
    case LaterChange::Kind::field: return "field";
    case LaterChange::Kind::annotation: return "annotation";
    case LaterChange::Kind::signature: return "signature";
    case LaterChange::Kind::material: return "material";
    case LaterChange::Kind::properties: return "properties";
    default: return "other";
  }
}

const char* name_of(LaterChange::Allowed allowed) {
  switch (allowed) {
    case LaterChange::Allowed::yes: return "yes";
    case LaterChange::Allowed::no: return "no";
    default: return "doubtful";
  }
}

const char* name_of(lumvet::Certification certification) {
  switch (certification) {
    case lumvet::Certification::no_changes: return "nothing";
    case lumvet::Certification::fill_in: return "fill-in";
    case lumvet::Certification::annotate: return "annotate";
    default: return "";
  }
}

Json json_of(const SignatureJudgement& signature) {
  Json changes = Json::array();
  for (const LaterChange& change : signature.changes) {
    Json entry = {{"kind", name_of(change.kind)},
                  {"allowed", name_of(change.allowed)},
                  {"what", change.what}};
    if (change.page) entry["page"] = *change.page + 1;
    changes.push_back(std::move(entry));
  }
  Json chain = Json::array();
  for (const lumvet::Certificate& each : signature.chain)
    chain.push_back({{"subject", each.subject()},
                     {"issuer", each.issuer()},
                     {"serial", each.serial()},
                     {"valid_from", time_text(each.valid_from())},
                     {"valid_until", time_text(each.valid_until())},
                     {"fingerprint", each.fingerprint()}});
  Json entry = {{"field", signature.field},
                {"verdict", lumvet::name_of(signature.verdict)},
                {"indication", signature.indication},
                {"sub_indication", signature.sub_indication},
                {"reasons", signature.reasons},
                {"timestamp", signature.is_timestamp},
                {"signer", signature.signer},
                {"name", signature.name},
                {"reason", signature.reason},
                {"place", signature.place},
                {"contact", signature.contact},
                {"form", signature.form},
                {"digest", signature.digest},
                {"level", signature.level},
                {"certification", name_of(signature.certification)},
                {"revision", signature.revision + 1},
                {"covers_document", signature.covers_document},
                {"chain", std::move(chain)},
                {"changes", std::move(changes)}};
  if (signature.claimed_time) entry["claimed_time"] = time_text(*signature.claimed_time);
  if (signature.proven_time) entry["proven_time"] = time_text(*signature.proven_time);
  return entry;
}

void print(const SignatureJudgement& signature) {
  const auto line = [](const std::string& text) { std::cout << "    " << text << '\n'; };
  std::cout << mark_of(signature.verdict) << ' '
            << (signature.signer.empty() ? signature.name : signature.signer) << ": "
            << lumvet::name_of(signature.verdict) << "  (" << signature.field << ")\n";
  for (const std::string& reason : signature.reasons) line(reason);
  if (signature.proven_time)
    line(time_text(*signature.proven_time) + ", as a timestamp proves");
  else if (signature.claimed_time)
    line(time_text(*signature.claimed_time) + ", by the signer's clock");
  std::string said;
  for (const std::string& text : {signature.reason, signature.place, signature.contact})
    if (!text.empty()) said += (said.empty() ? "" : "; ") + text;
  if (!said.empty()) line(said);
  if (!signature.name.empty() && signature.name != signature.signer)
    line("calls itself " + signature.name);
  if (signature.chain.size() > 1) {
    std::string chain = "issued by ";
    for (std::size_t i = 1; i < signature.chain.size(); ++i)
      chain += (i > 1 ? ", " : "") + signature.chain[i].common_name();
    line(chain);
  }
  if (signature.certification != lumvet::Certification::none)
    line(std::string("certifies the document; may be changed later: ") +
         name_of(signature.certification));
  if (!signature.level.empty()) line("level " + signature.level);
  if (signature.revision >= 0)
    line(signature.covers_document
             ? "signs the whole document"
             : "signs state " + std::to_string(signature.revision + 1) + " of the document");
  for (const LaterChange& change : signature.changes)
    line(std::string("since then: ") + change.what +
         (change.allowed == LaterChange::Allowed::no
              ? " (not allowed)"
              : (change.allowed == LaterChange::Allowed::doubtful ? " (look at it)" : "")));
}

int code_of(const std::vector<SignatureJudgement>& signatures) {
  int code = signatures.empty() ? kNotSure : kDone;
  for (const SignatureJudgement& signature : signatures) {
    if (signature.verdict == Verdict::invalid) return kNotValid;
    if (signature.verdict != Verdict::valid) code = kNotSure;
  }
  return code;
}

// What does not answer is told, and leaves what it would have told unknown.
void ask_issuers(lumvet::Trust& trust, const std::vector<SignatureJudgement>& signatures,
                 const lumvet::VerifyOptions& how) {
  for (const SignatureJudgement& signature : signatures)
    for (const auto* chain : {&signature.chain, &signature.timestamp_chain}) {
      const auto asked = lumvet::fetch_revocations(trust, *chain, issuers_on_network(), how.time);
      if (!asked.ok()) std::cerr << "  note: " << asked.error().message() << '\n';
    }
}

int run(const VerifyArguments& options) {
  lumvet::VerifyOptions how;
  if (!options.time.empty()) {
    how.time = seconds_of(options.time);
    if (!how.time)
      return wrong_usage("--at-time takes a time as 2026-12-01 or 2026-12-01T05:09, not '" +
                         options.time + "'");
  }
  const auto& asked_for = options.revision.empty() ? options.compared : options.revision;
  if (!asked_for.empty() && options.inputs.size() != 1)
    return wrong_usage("--revision and --compare take a state out of one document");
  auto given = trust_of(options.trusting);
  if (!given.ok()) return fail(given.error());
  lumvet::Trust& trust = *given;
  int worst = kDone;
  Json all = Json::array();
  for (const std::string& input : options.inputs) {
    const auto document = open_document(input, options.secrets);
    if (!document.ok()) return fail(document.error());
    if (!options.revision.empty())
      return write_state(*document, input, {asked_for[0], asked_for[1], options.replace});
    auto signatures = lumvet::verify_signatures(*document, trust, how);
    if (!signatures.ok()) return fail(signatures.error());
    if (options.is_online) {
      ask_issuers(trust, *signatures, how);
      signatures = lumvet::verify_signatures(*document, trust, how);
      if (!signatures.ok()) return fail(signatures.error());
    }
    if (!options.compared.empty())
      return lay_beside(*document, input, {asked_for[0], asked_for[1], options.replace},
                        *signatures);
    const int code = code_of(*signatures);
    if (code == kNotValid || worst == kDone) worst = code;
    if (options.json) {
      Json list = Json::array();
      for (const SignatureJudgement& signature : *signatures) list.push_back(json_of(signature));
      all.push_back({{"file", input}, {"signatures", std::move(list)}});
      continue;
    }
    std::cout << input << ": "
              << (signatures->empty() ? "no signature"
                                      : count_of(signatures->size(), "signature", "signatures"))
              << '\n';
    for (const SignatureJudgement& signature : *signatures) print(signature);
  }
  if (options.json) print_json({{"files", std::move(all)}});
  return worst;
}

}  // namespace

void add_verify(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<VerifyArguments>();
  CLI::App* verb = app.add_subcommand("verify", "Judge the signatures of documents");
  verb->add_option("inputs", options->inputs, "The documents")->required()->type_name("FILE");
  add_trust_options(*verb, options->trusting);
  verb->add_option("--at-time", options->time,
                   "Judge as of then, where no timestamp proves a time: 2026-12-01T05:09, in UTC")
      ->type_name("TIME");
  verb->add_flag("--online", options->is_online,
                 "Ask the issuers of certificates what they took back");
  verb->add_option("--revision", options->revision,
                   "Write the document as it was at one of its states, from 1, as it was signed")
      ->expected(2)
      ->type_name("N OUT.pdf");
  verb->add_option("--compare", options->compared,
                   "Lay one of its states, from 1, beside what it is today, page by page, with the "
                   "differences framed")
      ->expected(2)
      ->excludes("--revision")
      ->type_name("N OUT.pdf");
  verb->add_flag("--replace", options->replace, "Replace what is already there");
  verb->add_flag("--json", options->json, "Everything that is known as JSON");
  add_strict_option(*verb);
  add_secret_options(*verb, options->secrets);
  verb->footer(
      "Exit code 0: all are valid and trusted; 4: one is not valid, or the document was changed\n"
      "as it must not be; 5: none is bad, but trust or judgement is missing, or there is none.\n"
      "Examples:\n"
      "  lumvet verify report-signed.pdf --trust root.pem\n"
      "  lumvet verify *.pdf --trust anchors/ --revocation taken-back.crl --json\n"
      "  lumvet verify report-signed.pdf --revision 2 as-signed.pdf\n"
      "  lumvet verify report-signed.pdf --compare 2 then-and-now.pdf");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool
