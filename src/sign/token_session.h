// SPDX-License-Identifier: Apache-2.0
// A token that is open (PKCS#11 2.40): its objects found, and signatures asked of it.
//
// Threads: one at a time.
#pragma once

#include <p11-kit/uri.h>

#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::signing {

// An address of something on a token (RFC 7512).
class TokenAddress {
 public:
  // Errors: invalid_argument.
  static Result<TokenAddress> of(std::string_view text);

  const std::string& text() const { return text_; }
  std::filesystem::path module() const;  // empty where it names none
  std::string pin() const;
  bool fits(const CK_TOKEN_INFO& token) const;
  // What it says of the object besides its class.
  std::vector<CK_ATTRIBUTE> attributes() const;

 private:
  struct Free {
    void operator()(P11KitUri* uri) const { p11_kit_uri_free(uri); }
  };
  std::unique_ptr<P11KitUri, Free> uri_;
  std::string text_;
};

// The drivers of tokens, started; they end with the last who uses them.
class TokenModules;

class TokenSession {
 public:
  // Of the one token that the address fits, with its owner logged in where there is a PIN, or the
  // token asks for it by itself. Errors: io without the module; unsupported for one that does not
  // work, and for a locked token; invalid_argument when no token fits, or several do; password.
  static Result<TokenSession> open(const TokenAddress& address, const std::filesystem::path& module,
                                   const std::string& pin);
  TokenSession(TokenSession&& other) noexcept;
  TokenSession& operator=(TokenSession&&) = delete;
  ~TokenSession();

  // Whether it hides its private keys: nobody is logged in.
  bool is_closed_to_us() const { return is_closed_to_us_; }
  std::vector<CK_OBJECT_HANDLE> find(std::vector<CK_ATTRIBUTE> with) const;
  std::optional<Bytes> attribute(CK_OBJECT_HANDLE object, CK_ATTRIBUTE_TYPE type) const;
  std::optional<CK_ULONG> number(CK_OBJECT_HANDLE object, CK_ATTRIBUTE_TYPE type) const;
  // Errors: unsupported, with what the token says.
  Result<Bytes> sign(CK_OBJECT_HANDLE key, CK_MECHANISM mechanism, ByteView bytes) const;

 private:
  TokenSession() = default;
  Status log_in(const TokenAddress& address, const CK_TOKEN_INFO& token);

  std::shared_ptr<const TokenModules> modules_;
  CK_FUNCTION_LIST* module_ = nullptr;
  CK_SESSION_HANDLE session_ = 0;
  std::string pin_;
  bool is_closed_to_us_ = false;
};

}  // namespace lumvet::signing
