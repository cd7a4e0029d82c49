// SPDX-License-Identifier: Apache-2.0
#include "network.h"

#include <curl/curl.h>

#include <memory>

namespace tool {
namespace {

using lumvet::Error;
using lumvet::ErrorCode;

constexpr std::size_t kMostBytes = 10'000'000;
constexpr long kMostSeconds = 20;
constexpr long kMostRedirections = 3;
constexpr long kSuccess = 200;

std::size_t take(char* data, std::size_t size, std::size_t count, void* into) {
  auto& bytes = *static_cast<lumvet::Bytes*>(into);
  if (bytes.size() + size * count > kMostBytes) return 0;
  bytes.insert(bytes.end(), data, data + size * count);
  return size * count;
}

struct Free {
  void operator()(CURL* handle) const { curl_easy_cleanup(handle); }
  void operator()(curl_slist* list) const { curl_slist_free_all(list); }
};

}  // namespace

lumvet::Result<lumvet::Bytes> ask_network(const std::string& address, lumvet::ByteView request,
                                          const char* media_type) {
  static const CURLcode kStarted = curl_global_init(CURL_GLOBAL_DEFAULT);
  const std::unique_ptr<CURL, Free> handle(curl_easy_init());
  if (kStarted != CURLE_OK || handle == nullptr)
    return Error(ErrorCode::io, "the network cannot be used").about(address);
  lumvet::Bytes answer;
  const std::string type = std::string("Content-Type: ") + media_type;
  const std::unique_ptr<curl_slist, Free> headers(curl_slist_append(nullptr, type.c_str()));
  CURL* const curl = handle.get();
  curl_easy_setopt(curl, CURLOPT_URL, address.c_str());
  curl_easy_setopt(curl, CURLOPT_PROTOCOLS_STR, "http,https");
  curl_easy_setopt(curl, CURLOPT_FOLLOWLOCATION, 1L);
  curl_easy_setopt(curl, CURLOPT_REDIR_PROTOCOLS_STR, "http,https");
  curl_easy_setopt(curl, CURLOPT_MAXREDIRS, kMostRedirections);
  curl_easy_setopt(curl, CURLOPT_TIMEOUT, kMostSeconds);
  curl_easy_setopt(curl, CURLOPT_NOSIGNAL, 1L);
  curl_easy_setopt(curl, CURLOPT_WRITEFUNCTION, take);
  curl_easy_setopt(curl, CURLOPT_WRITEDATA, &answer);
  if (!request.empty()) {
    curl_easy_setopt(curl, CURLOPT_HTTPHEADER, headers.get());
    curl_easy_setopt(curl, CURLOPT_POSTFIELDSIZE, static_cast<long>(request.size()));
    curl_easy_setopt(curl, CURLOPT_POSTFIELDS, request.data());
  }
  const CURLcode done = curl_easy_perform(curl);
  if (done != CURLE_OK)
    return Error(ErrorCode::io,
                 std::string("nothing comes from there: ") + curl_easy_strerror(done))
        .about(address);
  long state = 0;
  curl_easy_getinfo(curl, CURLINFO_RESPONSE_CODE, &state);
  if (state != kSuccess)
    return Error(ErrorCode::io, "the server answers " + std::to_string(state) + "; try again later")
        .about(address);
  return answer;
}

lumvet::TimestampSource timestamps_at(const std::string& address) {
  return [address](lumvet::ByteView request) {
    return ask_network(address, request, "application/timestamp-query");
  };
}

lumvet::IssuerSource issuers_on_network() {
  return [](const std::string& address, lumvet::ByteView request) {
    return ask_network(address, request, "application/ocsp-request");
  };
}

}  // namespace tool
