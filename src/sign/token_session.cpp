// SPDX-License-Identifier: Apache-2.0
#include "sign/token_session.h"

#include <p11-kit/p11-kit.h>

#include <algorithm>
#include <utility>

namespace lumvet::signing {

class TokenModules {
 public:
  // Of one driver, or of all that are set up for the system.
  static Result<std::shared_ptr<const TokenModules>> start(const std::filesystem::path& module);

  TokenModules() = default;
  ~TokenModules() {
    if (all_ != nullptr) p11_kit_modules_finalize_and_release(all_);
    if (is_started_) p11_kit_module_finalize(one_);
    if (one_ != nullptr) p11_kit_module_release(one_);
  }
  TokenModules(const TokenModules&) = delete;
  TokenModules& operator=(const TokenModules&) = delete;

  std::vector<CK_FUNCTION_LIST*> each() const {
    std::vector<CK_FUNCTION_LIST*> found;
    if (one_ != nullptr) found.push_back(one_);
    for (CK_FUNCTION_LIST** at = all_; at != nullptr && *at != nullptr; ++at) found.push_back(*at);
    return found;
  }

 private:
  CK_FUNCTION_LIST* one_ = nullptr;
  bool is_started_ = false;
  CK_FUNCTION_LIST** all_ = nullptr;
};

namespace {

struct TokenThere {
  CK_FUNCTION_LIST* module = nullptr;
  CK_SLOT_ID slot = 0;
  CK_TOKEN_INFO info = {};
};

std::vector<TokenThere> tokens_in(CK_FUNCTION_LIST* module) {
  CK_ULONG count = 0;
  if (module->C_GetSlotList(CK_TRUE, nullptr, &count) != CKR_OK) return {};
  std::vector<CK_SLOT_ID> slots(count);
  if (module->C_GetSlotList(CK_TRUE, slots.data(), &count) != CKR_OK) return {};
  slots.resize(std::min<std::size_t>(count, slots.size()));
  std::vector<TokenThere> found;
  for (const CK_SLOT_ID slot : slots) {
    TokenThere token{module, slot};
    if (module->C_GetTokenInfo(slot, &token.info) == CKR_OK) found.push_back(token);
  }
  return found;
}

Error refused_pin(CK_RV said, const std::string& address) {
  switch (said) {
    case CKR_PIN_INCORRECT:
    case CKR_PIN_INVALID:
    case CKR_PIN_LEN_RANGE:
      return Error(ErrorCode::password, "the PIN of the token is wrong").about(address);
    case CKR_PIN_LOCKED:
      return Error(
                 ErrorCode::unsupported,
                 "the token is locked, after too many wrong PINs; whoever issued it can unlock it")
          .about(address);
    default:
      return Error(ErrorCode::unsupported,
                   std::string("the token lets nobody in: ") + p11_kit_strerror(said))
          .about(address);
  }
}

CK_UTF8CHAR* pin_bytes(const std::string& pin) {
  return reinterpret_cast<CK_UTF8CHAR*>(const_cast<char*>(pin.data()));
}

}  // namespace

Result<std::shared_ptr<const TokenModules>> TokenModules::start(
    const std::filesystem::path& module) {
  auto started = std::make_shared<TokenModules>();
  if (module.empty()) {
    started->all_ = p11_kit_modules_load_and_initialize(0);
    return std::shared_ptr<const TokenModules>(started);
  }
  std::error_code unreadable;
  if (!std::filesystem::exists(module, unreadable))
    return Error(ErrorCode::io, "the module for tokens is not there").about(module.string());
  started->one_ = p11_kit_module_load(module.c_str(), 0);
  if (started->one_ == nullptr)
    return Error(ErrorCode::unsupported, "the module is no driver for tokens (PKCS#11)")
        .about(module.string());
  const CK_RV said = p11_kit_module_initialize(started->one_);
  started->is_started_ = said == CKR_OK;
  if (!started->is_started_)
    return Error(ErrorCode::unsupported,
                 std::string("the module for tokens does not start: ") + p11_kit_strerror(said))
        .about(module.string());
  return std::shared_ptr<const TokenModules>(started);
}

Result<TokenAddress> TokenAddress::of(std::string_view text) {
  TokenAddress address;
  address.text_ = text;
  address.uri_.reset(p11_kit_uri_new());
  if (p11_kit_uri_parse(address.text_.c_str(), P11_KIT_URI_FOR_ANY, address.uri_.get()) !=
      P11_KIT_URI_OK)
    return Error(ErrorCode::invalid_argument,
                 "not the address of a key on a token, such as pkcs11:token=Office;object=chief")
        .about(address.text_);
  if (p11_kit_uri_any_unrecognized(address.uri_.get()) != 0)
    return Error(ErrorCode::invalid_argument,
                 "the address of the key says something that is not known (RFC 7512)")
        .about(address.text_);
  return address;
}

std::filesystem::path TokenAddress::module() const {
  const char* const path = p11_kit_uri_get_module_path(uri_.get());
  return path == nullptr ? std::filesystem::path() : std::filesystem::path(path);
}

std::string TokenAddress::pin() const {
  const char* const pin = p11_kit_uri_get_pin_value(uri_.get());
  return pin == nullptr ? std::string() : std::string(pin);
}

bool TokenAddress::fits(const CK_TOKEN_INFO& token) const {
  return p11_kit_uri_match_token_info(uri_.get(), &token) == 1;
}

std::vector<CK_ATTRIBUTE> TokenAddress::attributes() const {
  CK_ULONG count = 0;
  const CK_ATTRIBUTE* const first = p11_kit_uri_get_attributes(uri_.get(), &count);
  std::vector<CK_ATTRIBUTE> found;
  for (CK_ULONG i = 0; i < count; ++i)
    if (first[i].type != CKA_CLASS) found.push_back(first[i]);
  return found;
}

Result<TokenSession> TokenSession::open(const TokenAddress& address,
                                        const std::filesystem::path& module,
                                        const std::string& pin) {
  TokenSession opened;
  LUMVET_TRY(opened.modules_, TokenModules::start(module.empty() ? address.module() : module));
  opened.pin_ = pin.empty() ? address.pin() : pin;
  std::vector<TokenThere> fitting;
  for (CK_FUNCTION_LIST* each : opened.modules_->each())
    for (const TokenThere& token : tokens_in(each))
      if ((token.info.flags & CKF_TOKEN_INITIALIZED) != 0 && address.fits(token.info))
        fitting.push_back(token);
  if (fitting.empty())
    return Error(ErrorCode::invalid_argument, "no token that is here fits the address")
        .about(address.text());
  // A PIN is shown to no token that it may not be for.
  if (fitting.size() > 1)
    return Error(ErrorCode::invalid_argument,
                 std::to_string(fitting.size()) +
                     " tokens fit the address; name one by token=…, serial=… or both")
        .about(address.text());
  opened.module_ = fitting.front().module;
  const CK_RV said = opened.module_->C_OpenSession(fitting.front().slot, CKF_SERIAL_SESSION,
                                                   nullptr, nullptr, &opened.session_);
  if (said != CKR_OK) {
    opened.module_ = nullptr;
    return Error(ErrorCode::unsupported,
                 std::string("the token does not answer: ") + p11_kit_strerror(said))
        .about(address.text());
  }
  LUMVET_RETURN_IF_ERROR(opened.log_in(address, fitting.front().info));
  return opened;
}

Status TokenSession::log_in(const TokenAddress& address, const CK_TOKEN_INFO& token) {
  if ((token.flags & CKF_LOGIN_REQUIRED) == 0) return Done{};
  // A token with keys or a screen of its own asks for its PIN itself.
  const bool asks = (token.flags & CKF_PROTECTED_AUTHENTICATION_PATH) != 0;
  is_closed_to_us_ = pin_.empty() && !asks;
  if (is_closed_to_us_) return Done{};
  const CK_RV said =
      module_->C_Login(session_, CKU_USER, pin_.empty() ? nullptr : pin_bytes(pin_), pin_.size());
  if (said != CKR_OK && said != CKR_USER_ALREADY_LOGGED_IN)
    return refused_pin(said, address.text());
  return Done{};
}

TokenSession::TokenSession(TokenSession&& other) noexcept
    : modules_(std::move(other.modules_)),
      module_(std::exchange(other.module_, nullptr)),
      session_(other.session_),
      pin_(std::move(other.pin_)),
      is_closed_to_us_(other.is_closed_to_us_) {}

TokenSession::~TokenSession() {
  if (module_ != nullptr) module_->C_CloseSession(session_);
}

std::vector<CK_OBJECT_HANDLE> TokenSession::find(std::vector<CK_ATTRIBUTE> with) const {
  if (module_->C_FindObjectsInit(session_, with.data(), with.size()) != CKR_OK) return {};
  std::vector<CK_OBJECT_HANDLE> found(16);
  CK_ULONG count = 0;
  if (module_->C_FindObjects(session_, found.data(), found.size(), &count) != CKR_OK) count = 0;
  module_->C_FindObjectsFinal(session_);
  found.resize(count);
  return found;
}

std::optional<Bytes> TokenSession::attribute(CK_OBJECT_HANDLE object,
                                             CK_ATTRIBUTE_TYPE type) const {
  CK_ATTRIBUTE asked = {type, nullptr, 0};
  if (module_->C_GetAttributeValue(session_, object, &asked, 1) != CKR_OK ||
      asked.ulValueLen == CK_UNAVAILABLE_INFORMATION)
    return std::nullopt;
  Bytes bytes(asked.ulValueLen);
  asked.pValue = bytes.data();
  if (module_->C_GetAttributeValue(session_, object, &asked, 1) != CKR_OK) return std::nullopt;
  return bytes;
}

std::optional<CK_ULONG> TokenSession::number(CK_OBJECT_HANDLE object,
                                             CK_ATTRIBUTE_TYPE type) const {
  CK_ULONG value = 0;
  CK_ATTRIBUTE asked = {type, &value, sizeof value};
  if (module_->C_GetAttributeValue(session_, object, &asked, 1) != CKR_OK) return std::nullopt;
  return value;
}

Result<Bytes> TokenSession::sign(CK_OBJECT_HANDLE key, CK_MECHANISM mechanism,
                                 ByteView bytes) const {
  const auto refused = [](CK_RV said) {
    return Error(ErrorCode::unsupported,
                 std::string("the token does not sign: ") + p11_kit_strerror(said));
  };
  if (const CK_RV said = module_->C_SignInit(session_, &mechanism, key); said != CKR_OK)
    return refused(said);
  // A key may want its owner's word for each signature.
  CK_BBOOL asks_each_time = CK_FALSE;
  CK_ATTRIBUTE asked = {CKA_ALWAYS_AUTHENTICATE, &asks_each_time, sizeof asks_each_time};
  if (module_->C_GetAttributeValue(session_, key, &asked, 1) == CKR_OK && asks_each_time == CK_TRUE)
    module_->C_Login(session_, CKU_CONTEXT_SPECIFIC, pin_.empty() ? nullptr : pin_bytes(pin_),
                     pin_.size());
  auto* const data = const_cast<CK_BYTE*>(bytes.data());
  Bytes signature(1024);  // of keys of 8,192 bits
  CK_ULONG size = signature.size();
  if (const CK_RV said = module_->C_Sign(session_, data, bytes.size(), signature.data(), &size);
      said != CKR_OK)
    return refused(said);
  signature.resize(size);
  return signature;
}

}  // namespace lumvet::signing
