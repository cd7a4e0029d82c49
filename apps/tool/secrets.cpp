// SPDX-License-Identifier: Apache-2.0
#include "secrets.h"

#include <termios.h>
#include <unistd.h>

#include <cstdlib>
#include <functional>
#include <iostream>

#include <CLI/CLI.hpp>

#include "given_files.h"

namespace tool {

using lumvet::Error;
using lumvet::ErrorCode;

lumvet::Result<std::string> password_in(const std::string& path) {
  LUMVET_TRY(const std::string text, given_file(path, "password file"));
  std::string line = text.substr(0, text.find('\n'));
  if (!line.empty() && line.back() == '\r') line.pop_back();
  return line;
}

namespace {

lumvet::Result<std::vector<std::string>> given_passwords(const Secrets& secrets) {
  std::vector<std::string> passwords;
  for (const std::string& path : secrets.password_files) {
    LUMVET_TRY(std::string line, password_in(path));
    passwords.push_back(std::move(line));
  }
  if (const char* from_environment = std::getenv("LUMVET_PASSWORD"))
    passwords.emplace_back(from_environment);
  return passwords;
}

bool somebody_is_there() { return ::isatty(STDIN_FILENO) == 1 && ::isatty(STDERR_FILENO) == 1; }

// What a person types, without showing it.
class QuietTerminal {
 public:
  QuietTerminal() {
    if (::tcgetattr(STDIN_FILENO, &before_) != 0) return;
    termios quiet = before_;
    quiet.c_lflag &= ~static_cast<tcflag_t>(ECHO);
    changed_ = ::tcsetattr(STDIN_FILENO, TCSAFLUSH, &quiet) == 0;
  }
  ~QuietTerminal() {
    if (changed_) ::tcsetattr(STDIN_FILENO, TCSAFLUSH, &before_);
    std::cerr << '\n';
  }
  QuietTerminal(const QuietTerminal&) = delete;
  QuietTerminal& operator=(const QuietTerminal&) = delete;

 private:
  termios before_{};
  bool changed_ = false;
};

std::optional<std::string> ask(const std::string& question) {
  std::cerr << question << std::flush;
  const QuietTerminal quiet;
  std::string line;
  if (!std::getline(std::cin, line)) return std::nullopt;
  return line;
}

bool is_password_error(const lumvet::Result<lumvet::Document>& document) {
  return !document.ok() && document.error().code() == ErrorCode::password;
}

lumvet::Result<lumvet::Document> unlock_by_key(const lumvet::LockedDocument& waiting,
                                               const Secrets& secrets,
                                               std::vector<std::string> passphrases) {
  LUMVET_TRY(const std::string text, given_file(secrets.key_file, "key file"));
  const lumvet::Bytes bytes(text.begin(), text.end());
  passphrases.emplace_back();
  lumvet::Result<lumvet::CertificateKey> key =
      Error(ErrorCode::password, "the key file needs its passphrase");
  const auto wrong = [&] { return !key.ok() && key.error().code() == ErrorCode::password; };
  for (std::size_t i = 0; i < passphrases.size() && wrong(); ++i)
    key = lumvet::CertificateKey::from_pkcs12(bytes, passphrases[i]);
  while (wrong() && secrets.may_ask && somebody_is_there()) {
    const auto typed = ask("Passphrase of " + secrets.key_file + ": ");
    if (!typed || typed->empty()) break;
    key = lumvet::CertificateKey::from_pkcs12(bytes, *typed);
  }
  if (!key.ok()) return key.error();
  return waiting.unlock(*key);
}

}  // namespace

void add_key_options(CLI::App& verb, KeyChoice& choice) {
  CLI::Option* const file =
      verb.add_option("--key-file", choice.file,
                      "The key with its certificate: PKCS#12 (.p12, .pfx) or PEM")
          ->type_name("FILE");
  CLI::Option* const token =
      verb.add_option("--key-token", choice.token,
                      "A key on a card or another token, by its address (RFC 7512), such as "
                      "'pkcs11:token=Office;object=chief'")
          ->excludes(file)
          ->type_name("ADDRESS");
  verb.add_option("--token-module", choice.module,
                  "The token's driver (PKCS#11); without it those that the system is set up for")
      ->needs(token)
      ->type_name("FILE");
  verb.add_option("--certificates", choice.certificates,
                  "Certificates that are not on the token: the key's own, its issuers'")
      ->needs(token)
      ->type_name("FILE");
  verb.add_option("--key-password-file", choice.password_file,
                  "A file whose first line is the key's passphrase, or the token's PIN; or set "
                  "LUMVET_KEY_PASSWORD")
      ->type_name("FILE");
}

namespace {

using KeyWith = std::function<lumvet::Result<lumvet::SigningKey>(const std::string& secret)>;

lumvet::Result<KeyWith> key_of(const KeyChoice& choice) {
  if (!choice.token.empty()) {
    lumvet::TokenAccess access{.module = choice.module};
    if (!choice.certificates.empty()) {
      LUMVET_TRY(const std::string text, given_file(choice.certificates, "certificates"));
      auto read = lumvet::read_certificates(lumvet::as_bytes(text));
      if (!read.ok()) return Error(read.error()).about(choice.certificates);
      access.certificates = *std::move(read);
    }
    return KeyWith([choice, access](const std::string& secret) {
      lumvet::TokenAccess with = access;
      with.pin = secret;
      return lumvet::SigningKey::from_token(choice.token, with);
    });
  }
  LUMVET_TRY(const std::string text, given_file(choice.file, "key file"));
  return KeyWith([choice, text](const std::string& secret) {
    auto key = lumvet::SigningKey::from(lumvet::as_bytes(text), secret);
    return key.ok() ? key : Error(key.error()).about(choice.file);
  });
}

}  // namespace

lumvet::Result<lumvet::SigningKey> signing_key(const KeyChoice& choice) {
  if (choice.file.empty() && choice.token.empty())
    return Error(ErrorCode::invalid_argument,
                 "there is no key to sign with: give --key-file FILE or --key-token ADDRESS");
  LUMVET_TRY(const KeyWith key_with, key_of(choice));
  std::string secret;
  const char* from_environment = std::getenv("LUMVET_KEY_PASSWORD");
  if (!choice.password_file.empty()) {
    LUMVET_TRY(secret, password_in(choice.password_file));
  } else if (from_environment != nullptr) {
    secret = from_environment;
  }
  auto key = key_with(secret);
  const auto wrong = [&] { return !key.ok() && key.error().code() == ErrorCode::password; };
  while (wrong() && choice.password_file.empty() && somebody_is_there()) {
    const auto typed = ask(choice.token.empty() ? "Passphrase of " + choice.file + ": "
                                                : "PIN for " + choice.token + ": ");
    if (!typed || typed->empty()) break;
    key = key_with(*typed);
  }
  if (wrong())
    return Error(ErrorCode::malformed, key.error().message() +
                                           "; give it with --key-password-file FILE, in "
                                           "LUMVET_KEY_PASSWORD, or at a terminal");
  return key;
}

void add_password_option(CLI::App& verb, Secrets& secrets) {
  verb.add_option("--password-file", secrets.password_files,
                  "A file whose first line is a password to try; or set LUMVET_PASSWORD")
      ->allow_extra_args(false)
      ->type_name("FILE");
}

void add_secret_options(CLI::App& verb, Secrets& secrets) {
  add_password_option(verb, secrets);
  verb.add_option("--key-file", secrets.key_file,
                  "A certificate with its key (.p12) for documents encrypted for it")
      ->type_name("FILE");
}

lumvet::Result<lumvet::Document> unlock(const lumvet::LockedDocument& waiting,
                                        const std::string& name, const Secrets& secrets) {
  LUMVET_TRY(const std::vector<std::string> passwords, given_passwords(secrets));
  if (waiting.encryption() && waiting.encryption()->by_certificate && !secrets.key_file.empty())
    return unlock_by_key(waiting, secrets, passwords);
  lumvet::Result<lumvet::Document> document =
      waiting.unlock(passwords.empty() ? std::string() : passwords.front());
  for (std::size_t i = 1; i < passwords.size() && is_password_error(document); ++i)
    document = waiting.unlock(passwords[i]);
  while (is_password_error(document) && secrets.may_ask && somebody_is_there() &&
         !waiting.encryption()->by_certificate) {
    const auto typed = ask("Password of " + name + ": ");
    if (!typed || typed->empty()) break;
    document = waiting.unlock(*typed);
    if (is_password_error(document)) std::cerr << "That is not the password.\n";
  }
  return document;
}

}  // namespace tool
