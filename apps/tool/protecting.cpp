// SPDX-License-Identifier: Apache-2.0
#include "protecting.h"

#include <map>

#include <CLI/CLI.hpp>

#include "given_files.h"
#include "secrets.h"

namespace tool {
namespace {

using lumvet::NewProtection;
using lumvet::Permissions;

const std::map<std::string, bool Permissions::*>& refusals() {
  static const std::map<std::string, bool Permissions::*> kRefusals = {
      {"printing", &Permissions::print},       {"sharp-printing", &Permissions::print_sharply},
      {"copying", &Permissions::copy},         {"changing", &Permissions::change},
      {"annotating", &Permissions::annotate},  {"filling-in", &Permissions::fill_forms},
      {"rearranging", &Permissions::assemble},
  };
  return kRefusals;
}

std::vector<std::string> refusal_words() {
  std::vector<std::string> words = {"everything"};
  for (const auto& [word, permission] : refusals()) words.push_back(word);
  return words;
}

lumvet::Result<lumvet::Bytes> read_certificate(const std::string& path) {
  LUMVET_TRY(const std::string text, given_file(path, "certificate"));
  return lumvet::Bytes(text.begin(), text.end());
}

// An empty one would let anybody in, beside another password that looks as if it kept them out.
lumvet::Result<std::string> new_password_in(const std::string& path, const char* option) {
  LUMVET_TRY(std::string password, password_in(path));
  if (password.empty())
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "the first line of the password file " + path + " is empty; leave " +
                             option + " out where there is to be none");
  return password;
}

}  // namespace

CLI::App* add_protecting_options(CLI::App& verb, Protecting& protecting) {
  CLI::Option_group* group = verb.add_option_group(
      "protection", "Protection of the new document, which otherwise stays as it was");
  group
      ->add_option("--user-password-file", protecting.user_password_file,
                   "A file whose first line is the password to open it")
      ->type_name("FILE");
  group
      ->add_option("--owner-password-file", protecting.owner_password_file,
                   "A file whose first line is the password that allows everything")
      ->type_name("FILE");
  group
      ->add_option("--refuse", protecting.refused,
                   "What others may not do: everything, or printing, sharp-printing, copying, "
                   "changing, annotating, filling-in, rearranging")
      ->check(CLI::IsMember(refusal_words()).description(""))
      ->delimiter(',')
      ->type_name("WHAT,…");
  group
      ->add_option(
          "--cipher", protecting.cipher,
          "aes-256; aes-128 for viewers older than 2012; rc4-128 for those older than 2005")
      ->check(CLI::IsMember({"aes-256", "aes-128", "rc4-128"}).description(""))
      ->type_name("CIPHER");
  group->add_flag("--metadata-in-clear", protecting.metadata_in_clear,
                  "Leave title and so on readable in XMP");
  group->add_flag("--attachments-only", protecting.attachments_only,
                  "Encrypt nothing but the attachments");
  group
      ->add_option("--recipient", protecting.recipients,
                   "A certificate whose owner can open it, in place of passwords")
      ->type_name("FILE");
  group->add_flag("--remove-protection", protecting.removes, "Take the protection away");
  return group;
}

lumvet::Status protect_as(const Protecting& protecting, lumvet::SaveOptions& options) {
  options.remove_protection = protecting.removes;
  if (!protecting.is_asked()) return lumvet::Done{};
  if (protecting.removes)
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "a document cannot be protected and lose its protection in one go");
  NewProtection protection;
  if (!protecting.user_password_file.empty()) {
    LUMVET_TRY(protection.user_password,
               new_password_in(protecting.user_password_file, "--user-password-file"));
  }
  if (!protecting.owner_password_file.empty()) {
    LUMVET_TRY(protection.owner_password,
               new_password_in(protecting.owner_password_file, "--owner-password-file"));
  }
  for (const std::string& word : protecting.refused)
    for (const auto& [name, permission] : refusals())
      if (word == name || word == "everything") protection.permissions.*permission = false;
  if (!protection.permissions.print) protection.permissions.print_sharply = false;
  if (protecting.cipher == "aes-128") protection.cipher = NewProtection::Cipher::aes_128;
  if (protecting.cipher == "rc4-128") protection.cipher = NewProtection::Cipher::rc4_128;
  protection.metadata_in_clear = protecting.metadata_in_clear;
  protection.attachments_only = protecting.attachments_only;
  for (const std::string& path : protecting.recipients) {
    LUMVET_TRY(lumvet::Bytes certificate, read_certificate(path));
    protection.recipients.push_back(std::move(certificate));
  }
  options.protection = std::move(protection);
  return lumvet::Done{};
}

}  // namespace tool
