// SPDX-License-Identifier: Apache-2.0
// Where passwords come from: a file, the environment, or the person at the terminal; never the
// argument list, which other users of the machine can see.
#pragma once

#include <string>
#include <vector>

#include <lumvet/document/locked_document.h>
#include <lumvet/sign/signing_key.h>

#include "command_line.h"

namespace tool {

struct Secrets {
  std::vector<std::string> password_files;
  std::string key_file;  // PKCS#12
  bool may_ask = true;   // a person, when nothing else fits
};

// The first line of a file. Errors: io.
lumvet::Result<std::string> password_in(const std::string& path);

void add_secret_options(CLI::App& verb, Secrets& secrets);

// Tries everything given, then asks, if there is somebody to ask. Errors: password, io, malformed.
lumvet::Result<lumvet::Document> unlock(const lumvet::LockedDocument& waiting,
                                        const std::string& name, const Secrets& secrets);

// For verbs whose --key-file is for something else.
void add_password_option(CLI::App& verb, Secrets& secrets);

// Who signs: a key file, or a key on a token.
struct KeyChoice {
  std::string file;
  std::string token;         // its address
  std::string module;        // the token's driver
  std::string certificates;  // those that the token does not hold
  std::string password_file;
};
void add_key_options(CLI::App& verb, KeyChoice& choice);
// The passphrase or PIN is the first line of a file, or LUMVET_KEY_PASSWORD, or is asked for.
// Errors: as SigningKey's; io.
lumvet::Result<lumvet::SigningKey> signing_key(const KeyChoice& choice);

}  // namespace tool
