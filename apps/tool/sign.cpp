// SPDX-License-Identifier: Apache-2.0
// lumvet sign: a signature of a certificate's key, appended to a document.
#include <iostream>
#include <map>
#include <memory>

#include <lumvet/sign/long_life.h>
#include <lumvet/sign/signing.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "files.h"
#include "json.h"
#include "network.h"
#include "page_area.h"
#include "saving.h"
#include "trusted.h"
#include "verbs.h"

namespace tool {
namespace {

using lumvet::Error;
using lumvet::ErrorCode;

struct SignArguments {
  std::string input;
  KeyChoice key;
  std::string at;
  std::string field;
  std::string picture;
  std::string name;
  std::string reason;
  std::string place;
  std::string contact;
  std::string digest = "sha256";
  std::string form = "pades";
  std::string certify;
  std::vector<std::string> locked;
  std::string level;
  std::string timestamps;
  Trusting trusting;
  std::string output;
  bool replace = false;
  bool json = false;
  Secrets secrets;
};

const std::map<std::string, lumvet::SignatureDigest> kDigests = {
    {"sha256", lumvet::SignatureDigest::sha256},
    {"sha384", lumvet::SignatureDigest::sha384},
    {"sha512", lumvet::SignatureDigest::sha512}};
const std::map<std::string, lumvet::SignatureForm> kForms = {
    {"pades", lumvet::SignatureForm::pades}, {"pkcs7", lumvet::SignatureForm::pkcs7}};
const std::map<std::string, lumvet::Certification> kCertifications = {
    {"", lumvet::Certification::none},
    {"nothing", lumvet::Certification::no_changes},
    {"fill-in", lumvet::Certification::fill_in},
    {"annotate", lumvet::Certification::annotate}};

lumvet::Result<lumvet::SignRequest> request_of(const SignArguments& options) {
  lumvet::SignRequest request;
  request.field = options.field;
  request.name = options.name;
  request.reason = options.reason;
  request.place = options.place;
  request.contact = options.contact;
  request.digest = kDigests.at(options.digest);
  request.form = kForms.at(options.form);
  request.certification = kCertifications.at(options.certify);
  const bool needs_time = !options.level.empty() && options.level != "b-b";
  if (needs_time && options.timestamps.empty())
    return Error(ErrorCode::invalid_argument,
                 "--level " + options.level + " needs an authority for times: --timestamps URL");
  if (!options.timestamps.empty() && options.level != "b-b")
    request.timestamps = timestamps_at(options.timestamps);
  if (!options.locked.empty()) {
    using Which = lumvet::FieldLock::Which;
    const bool is_all = options.locked.size() == 1 && options.locked[0] == "all";
    request.lock = lumvet::FieldLock{is_all ? Which::all : Which::these, {}};
    if (!is_all) request.lock->names = options.locked;
  }
  if (options.at.empty() && options.picture.empty()) return request;
  if (options.at.empty() && options.field.empty())
    return Error(
        ErrorCode::invalid_argument,
        "--mark needs a place: --at PAGE:left,top,width,height, or a --field that has one");
  request.mark = lumvet::SignatureMark();
  if (!options.at.empty()) {
    LUMVET_TRY(const AreaOfPage named, page_area("--at", options.at));
    request.mark->page = named.page;
    request.mark->area = named.area;
  }
  if (!options.picture.empty()) {
    LUMVET_TRY(request.mark->picture, lumvet::Picture::load(options.picture));
  }
  return request;
}

int tell(const SignArguments& options, const lumvet::SigningKey& key,
         const lumvet::SignReport& report) {
  if (options.output == "-") return report_findings(report.findings);
  if (options.json) {
    print_json({{"file", options.output},
                {"bytes", report.bytes},
                {"field", report.field},
                {"signer", key.chain().front().subject()},
                {"findings", findings_json(report.findings)}});
    return code_for(report.findings);
  }
  std::cout << options.output << "  " << size_for_people(report.bytes) << ", signed by "
            << key.chain().front().common_name() << " in field " << report.field << '\n';
  return report_findings(report.findings);
}

// With what proves the signature, which issuers are asked for, and stamped as a whole at the
// highest level. Nothing is written before all of it is there.
int keep(const SignArguments& options, const lumvet::SigningKey& key, lumvet::SignReport report,
         lumvet::Bytes bytes) {
  const auto waiting =
      lumvet::LockedDocument::open(lumvet::make_buffer_source(std::move(bytes), options.input));
  if (!waiting.ok()) return fail(waiting.error());
  const auto document = unlock(*waiting, options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  lumvet::ProlongRequest request;
  const auto trust = trust_of(options.trusting);
  if (!trust.ok()) return fail(trust.error());
  request.trust = *trust;
  request.issuers = issuers_on_network();
  if (options.level == "b-lta") request.timestamps = timestamps_at(options.timestamps);
  const auto kept = prolong_to(options.output, options.replace, *document, request);
  if (!kept.ok()) return fail(kept.error());
  report.bytes = kept->bytes;
  report.findings.insert(report.findings.end(), kept->findings.begin(), kept->findings.end());
  return tell(options, key, report);
}

int run(const SignArguments& options) {
  const auto request = request_of(options);
  if (!request.ok()) return refuse(request.error());
  if (options.output == "-" && options.json)
    return wrong_usage("standard output takes the document or the report, not both");
  Saving saving;
  saving.output = options.output;
  saving.replace = options.replace;
  if (const auto free = check_output(saving); !free.ok()) return fail(free.error());
  const auto document = open_document(options.input, options.secrets);
  if (!document.ok()) return fail(document.error());
  const auto key = signing_key(options.key);
  if (!key.ok()) return refuse(key.error());
  const auto edited = lumvet::EditableDocument::of(*document);
  const bool is_lasting = options.level == "b-lt" || options.level == "b-lta";
  if (is_lasting) {
    lumvet::BufferSink sink;
    const auto report = lumvet::sign(edited, *key, *request, sink);
    return report.ok() ? keep(options, *key, *report, sink.take()) : refuse(report.error());
  }
  if (options.output == "-") {
    StandardOutput out;
    const auto report = lumvet::sign(edited, *key, *request, out);
    return report.ok() ? tell(options, *key, *report) : refuse(report.error());
  }
  const auto report =
      lumvet::sign(edited, *key, *request, options.output, {.replace = options.replace});
  if (!report.ok()) return refuse(report.error());
  return tell(options, *key, *report);
}

}  // namespace

void add_sign(CLI::App& app, Run& chosen) {
  auto options = std::make_shared<SignArguments>();
  CLI::App* verb = app.add_subcommand("sign", "Sign a document with the key of a certificate");
  verb->add_option("input", options->input, "The document")->required()->type_name("FILE");
  add_key_options(*verb, options->key);
  verb->add_option("--at", options->at,
                   "Where it is seen, in points from the page's top left corner as it is shown; "
                   "invisible without")
      ->type_name("PAGE:left,top,width,height");
  verb->add_option("--mark", options->picture, "A picture of a handwritten mark, for what is seen")
      ->type_name("PICTURE");
  verb->add_option("--field", options->field, "An empty signature field, or the name of a new one")
      ->type_name("NAME");
  verb->add_option("--name", options->name, "Who signs; the certificate's name without")
      ->type_name("TEXT");
  verb->add_option("--reason", options->reason, "Why")->type_name("TEXT");
  verb->add_option("--place", options->place, "Where")->type_name("TEXT");
  verb->add_option("--contact", options->contact, "How the signer is reached")->type_name("TEXT");
  verb->add_option("--certify", options->certify,
                   "As the first signature, say what may be changed later: nothing, fill-in, or "
                   "annotate (and fill in)")
      ->check(CLI::IsMember({"nothing", "fill-in", "annotate"}).description(""))
      ->type_name("LEVEL");
  one_at_a_time(*verb->add_option("--lock", options->locked,
                                  "A field that nobody may change afterwards, or all")
                     ->type_name("NAME"));
  verb->add_option("--level", options->level,
                   "Of PAdES: b-b; b-t with a timestamp; b-lt with what proves it besides, for "
                   "which its issuers are asked; b-lta stamped as a whole, for decades")
      ->check(CLI::IsMember({"b-b", "b-t", "b-lt", "b-lta"}).description(""))
      ->type_name("LEVEL");
  verb->add_option("--timestamps", options->timestamps, "An authority that stamps times (RFC 3161)")
      ->type_name("URL");
  add_trust_options(*verb, options->trusting);
  verb->add_option("--digest", options->digest, "sha256, sha384 or sha512")
      ->check(CLI::IsMember({"sha256", "sha384", "sha512"}).description(""))
      ->type_name("DIGEST");
  verb->add_option("--form", options->form, "pades, or pkcs7 for older programs")
      ->check(CLI::IsMember({"pades", "pkcs7"}).description(""))
      ->type_name("FORM");
  verb->add_option("-o,--output", options->output, "The signed document; - is standard output")
      ->required()
      ->type_name("FILE");
  verb->add_flag("--replace", options->replace, "Replace what is already there");
  verb->add_flag("--json", options->json, "What was signed as JSON");
  add_strict_option(*verb);
  add_password_option(*verb, options->secrets);
  verb->footer(
      "The signature is appended: every byte of the document, and other signatures, stay.\n"
      "Examples:\n"
      "  lumvet sign report.pdf --key-file verlan.p12 --reason Inspected -o report-signed.pdf\n"
      "  lumvet sign report.pdf --key-file verlan.p12 --at 1:360,700,180,64 --mark pen.png \\\n"
      "    -o report-signed.pdf\n"
      "  lumvet sign report.pdf --key-token 'pkcs11:token=Office;object=verlan' -o signed.pdf\n"
      "  lumvet sign form.pdf --key-file verlan.p12 --certify fill-in -o certified.pdf");
  verb->callback([options, &chosen] { chosen = [options] { return run(*options); }; });
}

}  // namespace tool
