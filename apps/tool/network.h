// SPDX-License-Identifier: Apache-2.0
// What is asked over the network, which the tool does only where it is told to.
#pragma once

#include <string>

#include <lumvet/sign/long_life.h>

namespace tool {

// An empty request asks for what is there; another is sent, as what it is. Only http and https, up
// to ten megabytes, for at most twenty seconds. Errors: io, with the address.
lumvet::Result<lumvet::Bytes> ask_network(const std::string& address, lumvet::ByteView request,
                                          const char* media_type);

// An authority that stamps times (RFC 3161).
lumvet::TimestampSource timestamps_at(const std::string& address);
// Lists, and answers of responders.
lumvet::IssuerSource issuers_on_network();

}  // namespace tool
