// SPDX-License-Identifier: Apache-2.0
#include "standins/services.h"

#include <httplib.h>
#include <openssl/ocsp.h>

#include <atomic>
#include <chrono>
#include <map>
#include <thread>

namespace standins {
namespace {

constexpr std::int64_t kDay = 86'400;
constexpr std::int64_t kYear = 365 * kDay;

std::int64_t now() {
  return std::chrono::duration_cast<std::chrono::seconds>(
             std::chrono::system_clock::now().time_since_epoch())
      .count();
}

std::string hex_of(const ASN1_INTEGER* serial) {
  BIGNUM* number = ASN1_INTEGER_to_BN(serial, nullptr);
  char* text = BN_bn2hex(number);
  std::string hex = text;
  OPENSSL_free(text);
  BN_free(number);
  return hex;
}

// The number of the certificate that is asked for, in hexadecimal.
std::string serial_in(const std::string& request) {
  const auto* at = reinterpret_cast<const unsigned char*>(request.data());
  OCSP_REQUEST* parsed = d2i_OCSP_REQUEST(nullptr, &at, static_cast<long>(request.size()));
  if (parsed == nullptr || OCSP_request_onereq_count(parsed) < 1) {
    OCSP_REQUEST_free(parsed);
    return {};
  }
  ASN1_INTEGER* serial = nullptr;
  OCSP_id_get0_info(nullptr, nullptr, nullptr, &serial,
                    OCSP_onereq_get0_id(OCSP_request_onereq_get0(parsed, 0)));
  std::string hex = hex_of(serial);
  OCSP_REQUEST_free(parsed);
  return hex;
}

std::string serial_of(const Bytes& certificate) {
  const unsigned char* at = certificate.data();
  X509* parsed = d2i_X509(nullptr, &at, static_cast<long>(certificate.size()));
  std::string hex = hex_of(X509_get0_serialNumber(parsed));
  X509_free(parsed);
  return hex;
}

std::string text_of(const Bytes& bytes) { return std::string(bytes.begin(), bytes.end()); }

}  // namespace

SigningOffice SigningOffice::at(const std::string& address) {
  const std::string lists = address + "/root.crl";
  const auto root = Identity::root({.name = "Ostrel Valley root"});
  const auto authority = root.issue({.name = "Ostrel Valley signatures",
                                     .is_authority = true,
                                     .path_length = 0,
                                     .revocation_list = address.empty() ? "" : lists});
  const auto person = [&](const std::string& name, KeyKind key = KeyKind::p256) {
    CertificateRequest request{.name = name, .key = key};
    if (!address.empty()) {
      request.revocation_list = address + "/signatures.crl";
      request.responder = address + "/status";
    }
    return authority.issue(request);
  };
  CertificateRequest clock{.name = "Ostrel Valley time", .extended_usage = "critical,timeStamping"};
  if (!address.empty()) clock.revocation_list = address + "/signatures.crl";
  return {root,
          authority,
          authority.issue(clock),
          person("Ida Verlan, chief inspector"),
          person("Office seal", KeyKind::rsa_2048),
          person("Tomas Brel, former inspector"),
          Identity::root({.name = "Rilla Onsk", .usage = "critical,digitalSignature,keyCertSign"})};
}

Fault fault_named(const std::string& name) {
  static const std::map<std::string, Fault> kFaults = {{"late", Fault::late},
                                                       {"unavailable", Fault::unavailable},
                                                       {"garbage", Fault::garbage},
                                                       {"wrong-nonce", Fault::wrong_nonce},
                                                       {"wrong-digest", Fault::wrong_digest},
                                                       {"wrong-clock", Fault::wrong_clock},
                                                       {"refuses", Fault::refuses}};
  const auto found = kFaults.find(name);
  return found == kFaults.end() ? Fault::none : found->second;
}

struct Services::Impl {
  httplib::Server server;
  int port = 0;
  std::atomic<Fault> fault = Fault::none;
  std::atomic<int> requests = 0;
  std::thread thread;

  // Whether an answer is what it should be; the fault that was ordered is done otherwise.
  bool goes_on(httplib::Response& response) {
    ++requests;
    switch (fault.load()) {
      case Fault::late: std::this_thread::sleep_for(std::chrono::seconds(2)); return true;
      case Fault::unavailable: response.status = 503; return false;
      case Fault::garbage: response.set_content("<html>Welcome</html>", "text/html"); return false;
      default: return true;
    }
  }
};

Services::Services() : impl_(std::make_unique<Impl>()) {
  impl_->port = impl_->server.bind_to_any_port("127.0.0.1");
}

Services::~Services() {
  impl_->server.stop();
  if (impl_->thread.joinable()) impl_->thread.join();
}

std::string Services::address() const { return "http://127.0.0.1:" + std::to_string(impl_->port); }

void Services::set_fault(Fault fault) { impl_->fault = fault; }

int Services::requests() const { return impl_->requests; }

void Services::serve(const SigningOffice& office) {
  Impl& impl = *impl_;
  impl.server.Post(
      "/time", [&impl, office](const httplib::Request& request, httplib::Response& response) {
        if (!impl.goes_on(response)) return;
        const Fault fault = impl.fault;
        const auto* bytes = reinterpret_cast<const std::uint8_t*>(request.body.data());
        const Bytes answer =
            office.clock.timestamp(ByteView(bytes, request.body.size()),
                                   {.when = fault == Fault::wrong_clock ? now() - kYear : now(),
                                    .refuses = fault == Fault::refuses,
                                    .changes_nonce = fault == Fault::wrong_nonce,
                                    .changes_digest = fault == Fault::wrong_digest});
        response.set_content(text_of(answer), "application/timestamp-reply");
      });
  impl.server.Post("/status", [&impl, office](const httplib::Request& request,
                                              httplib::Response& response) {
    if (!impl.goes_on(response)) return;
    const std::string serial = serial_in(request.body);
    for (const Identity* each : {&office.chief, &office.seal, &office.former})
      if (serial_of(each->certificate()) == serial)
        response.set_content(
            text_of(office.authority.status_of(each->certificate(), each == &office.former,
                                               now() - (each == &office.former ? 30 * kDay : 60))),
            "application/ocsp-response");
  });
  impl.server.Get("/signatures.crl", [&impl, office](const httplib::Request&,
                                                     httplib::Response& response) {
    if (!impl.goes_on(response)) return;
    response.set_content(
        text_of(office.authority.revocation_list({{office.former.certificate(), now() - 30 * kDay}},
                                                 now() - kDay, now() + 30 * kDay)),
        "application/pkix-crl");
  });
  impl.server.Get("/root.crl", [&impl, office](const httplib::Request&,
                                               httplib::Response& response) {
    if (!impl.goes_on(response)) return;
    response.set_content(text_of(office.root.revocation_list({}, now() - kDay, now() + 30 * kDay)),
                         "application/pkix-crl");
  });
  impl.thread = std::thread([&impl] { impl.server.listen_after_bind(); });
  while (!impl.server.is_running()) std::this_thread::sleep_for(std::chrono::milliseconds(1));
}

}  // namespace standins
