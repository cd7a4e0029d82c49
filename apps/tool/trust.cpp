// SPDX-License-Identifier: Apache-2.0
// lumvet trust: the certificates that the person at this computer trusts.
#include <filesystem>
#include <iostream>
#include <memory>

#include <lumvet/io/byte_sink.h>
#include <lumvet/sign/certificate.h>
#include <CLI/CLI.hpp>

#include "console.h"
#include "given_files.h"
#include "json.h"
#include "trusted.h"
#include "verbs.h"

namespace tool {
namespace {

namespace fs = std::filesystem;
using lumvet::Error;
using lumvet::ErrorCode;

constexpr std::size_t kShownDigits = 16;  // of a fingerprint

struct Kept {
  fs::path file;
  lumvet::Certificate certificate;
};

lumvet::Result<std::vector<Kept>> kept() {
  LUMVET_TRY(const fs::path folder, trust_folder());
  std::vector<Kept> all;
  std::error_code error;
  for (fs::directory_iterator at(folder, error), end; !error && at != end; at.increment(error)) {
    LUMVET_TRY(const std::string text, given_file(at->path().string(), "certificate"));
    const auto read = lumvet::read_certificates(lumvet::as_bytes(text));
    if (!read.ok()) continue;
    for (const lumvet::Certificate& each : *read) all.push_back({at->path(), each});
  }
  std::sort(all.begin(), all.end(), [](const Kept& a, const Kept& b) {
    return a.certificate.common_name() < b.certificate.common_name();
  });
  return all;
}

std::string line_of(const lumvet::Certificate& certificate) {
  return certificate.fingerprint().substr(0, kShownDigits) + "  " + certificate.subject();
}

int list(bool json) {
  const auto all = kept();
  if (!all.ok()) return fail(all.error());
  if (json) {
    Json entries = Json::array();
    for (const Kept& each : *all)
      entries.push_back({{"subject", each.certificate.subject()},
                         {"fingerprint", each.certificate.fingerprint()}});
    print_json({{"certificates", std::move(entries)}});
    return kDone;
  }
  for (const Kept& each : *all) std::cout << line_of(each.certificate) << '\n';
  if (all->empty()) std::cout << "nobody is trusted yet; lumvet trust add CERT\n";
  return kDone;
}

int add(const std::vector<std::string>& files) {
  const auto folder = trust_folder();
  if (!folder.ok()) return fail(folder.error());
  std::error_code error;
  fs::create_directories(*folder, error);
  if (error)
    return fail(
        Error(ErrorCode::io, "cannot make the folder: " + error.message()).about(folder->string()));
  for (const std::string& path : files) {
    const auto text = given_file(path, "certificate");
    if (!text.ok()) return fail(text.error());
    const auto read = lumvet::read_certificates(lumvet::as_bytes(*text));
    if (!read.ok()) return fail(Error(read.error()).about(path));
    for (const lumvet::Certificate& each : *read) {
      const fs::path file = *folder / (each.fingerprint() + ".cer");
      if (fs::exists(file, error)) {
        std::cout << "trusted already: " << line_of(each) << '\n';
        continue;
      }
      auto out = lumvet::AtomicFile::create(file, lumvet::IfExists::refuse);
      if (!out.ok()) return fail(out.error());
      if (const auto done = out->write(each.der()); !done.ok()) return fail(done.error());
      if (const auto done = out->commit(); !done.ok()) return fail(done.error());
      std::cout << "trusted from now on: " << line_of(each) << '\n';
    }
  }
  return kDone;
}

// By the beginning of a fingerprint, or a name in full.
int remove(const std::vector<std::string>& names) {
  const auto all = kept();
  if (!all.ok()) return fail(all.error());
  constexpr std::size_t kLeastDigits = 8;
  for (const std::string& name : names) {
    std::vector<const Kept*> meant;
    for (const Kept& each : *all) {
      const bool is_meant =
          each.certificate.common_name() == name || each.certificate.subject() == name ||
          (name.size() >= kLeastDigits && each.certificate.fingerprint().starts_with(name));
      if (is_meant) meant.push_back(&each);
    }
    if (meant.size() != 1)
      return wrong_usage(meant.empty() ? "nobody trusted is '" + name + "'; lumvet trust list"
                                       : "several are '" + name + "'; name one by its fingerprint");
    std::error_code error;
    if (!fs::remove(meant[0]->file, error))
      return fail(Error(ErrorCode::io, "cannot remove it: " + error.message())
                      .about(meant[0]->file.string()));
    std::cout << "trusted no more: " << line_of(meant[0]->certificate) << '\n';
  }
  return kDone;
}

}  // namespace

void add_trust(CLI::App& app, Run& chosen) {
  struct Options {
    std::vector<std::string> names;
    bool json = false;
  };
  auto options = std::make_shared<Options>();
  CLI::App* verb =
      app.add_subcommand("trust", "Keep the certificates that verify trusts without being told");
  verb->require_subcommand(1);
  CLI::App* adds = verb->add_subcommand("add", "Trust certificates from now on");
  adds->add_option("files", options->names, "In PEM or DER")->required()->type_name("CERT");
  adds->callback([options, &chosen] { chosen = [options] { return add(options->names); }; });
  CLI::App* lists = verb->add_subcommand("list", "List them");
  lists->add_flag("--json", options->json, "As JSON");
  lists->callback([options, &chosen] { chosen = [options] { return list(options->json); }; });
  CLI::App* removes = verb->add_subcommand("remove", "Trust them no more");
  removes->add_option("names", options->names, "A name, or the beginning of a fingerprint")
      ->required()
      ->type_name("NAME");
  removes->callback([options, &chosen] { chosen = [options] { return remove(options->names); }; });
  verb->footer(
      "They lie in your configuration, in lumvet/trust.\n"
      "Examples:\n"
      "  lumvet trust add root.pem\n"
      "  lumvet trust remove 'Ostrel Valley root'");
}

}  // namespace tool
