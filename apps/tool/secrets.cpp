// SPDX-License-Identifier: Apache-2.0
#include "secrets.h"

#include <termios.h>
#include <unistd.h>

#include <cstdlib>
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

lumvet::Result<lumvet::SigningKey> signing_key(const std::string& path,
                                               const std::string& password_file) {
  LUMVET_TRY(const std::string text, given_file(path, "key file"));
  const lumvet::Bytes bytes(text.begin(), text.end());
  std::string passphrase;
  const char* from_environment = std::getenv("LUMVET_KEY_PASSWORD");
  if (!password_file.empty()) {
    LUMVET_TRY(passphrase, password_in(password_file));
  } else if (from_environment != nullptr) {
    passphrase = from_environment;
  }
  auto key = lumvet::SigningKey::from(bytes, passphrase);
  while (!key.ok() && key.error().code() == ErrorCode::password && password_file.empty() &&
         somebody_is_there()) {
    const auto typed = ask("Passphrase of " + path + ": ");
    if (!typed || typed->empty()) break;
    key = lumvet::SigningKey::from(bytes, *typed);
  }
  if (!key.ok() && key.error().code() == ErrorCode::password)
    return Error(ErrorCode::malformed, key.error().message() +
                                           "; give it with --key-password-file FILE, in "
                                           "LUMVET_KEY_PASSWORD, or at a terminal")
        .about(path);
  if (!key.ok()) return Error(key.error()).about(path);
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
