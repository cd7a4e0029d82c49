// SPDX-License-Identifier: Apache-2.0
// A token in software, with keys of people who are made up.
#pragma once

#include <cstdlib>

#include "tests/support/signed.h"

namespace test {

inline constexpr const char* kTokenModule = "/usr/lib/softhsm/libsofthsm2.so";
inline constexpr const char* kPin = "4711";

// The module reads where its tokens are once in each process: there is one.
class Token {
 public:
  static const Token& office() {
    static const Token one;
    return one;
  }

  // A private key, with its certificate unless that is kept elsewhere. What it is asked for by.
  std::string put(const standins::Identity& who, const std::string& label, const std::string& id,
                  bool with_certificate = true) const {
    write_file(folder_ / "key.pem", who.key_pem());
    run("softhsm2-util --import " + path("key.pem") + " --token Office --label " + label +
        " --id " + id + " --pin " + kPin);
    if (with_certificate) put_certificate(who, label, id);
    return "pkcs11:token=Office;object=" + label;
  }
  // The same, but the key wants the PIN before each signature.
  std::string put_careful(const standins::Identity& who, const std::string& label,
                          const std::string& id) const {
    write_file(folder_ / "key.pem", who.key_pem());
    run("openssl pkcs8 -topk8 -nocrypt -outform DER -in " + path("key.pem") + " -out " +
        path("key.der"));
    write("privkey", "key.der", label, id, " --always-auth --usage-sign");
    put_certificate(who, label, id);
    return "pkcs11:token=Office;object=" + label;
  }
  void add_token(const std::string& label) const {
    run("softhsm2-util --init-token --free --label " + label + " --so-pin 4712 --pin " + kPin);
  }

 private:
  Token() {
    std::filesystem::create_directory(folder_ / "tokens");
    write_file(folder_ / "settings",
               "directories.tokendir = " + (folder_ / "tokens").string() + "\nlog.level = ERROR\n");
    ::setenv("SOFTHSM2_CONF", (folder_ / "settings").c_str(), 1);
    add_token("Office");
  }

  std::string path(const char* name) const { return (folder_ / name).string(); }
  void put_certificate(const standins::Identity& who, const std::string& label,
                       const std::string& id) const {
    write_file(folder_ / "certificate", string_of(who.certificate()));
    write("cert", "certificate", label, id);
  }
  void write(const std::string& type, const char* file, const std::string& label,
             const std::string& id, const std::string& how = "") const {
    run("pkcs11-tool --module " + std::string(kTokenModule) + " --token-label Office --pin " +
        kPin + " --type " + type + " --id " + id + " --label " + label + how + " --write-object " +
        path(file));
  }
  static void run(const std::string& line) {
    const CommandResult result = command(line);
    CAPTURE(line, result.printed);
    REQUIRE(result.code == 0);
  }

  TemporaryFolder folder_;
};

}  // namespace test
