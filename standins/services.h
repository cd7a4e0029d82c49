// SPDX-License-Identifier: Apache-2.0
// What the office's authorities offer over HTTP, on this machine alone: timestamps, what was taken
// back, and whether a certificate was; with faults to order.
//
//   standins::Services services;
//   const auto office = standins::SigningOffice::at(services.address());
//   services.serve(office);
//   ... POST http://127.0.0.1:40123/time ...
//
// Threads: internally synchronized.
#pragma once

#include <memory>
#include <string>

#include "standins/identity.h"

namespace standins {

// Everybody whom the demo knows.
struct SigningOffice {
  Identity root;
  Identity authority;
  Identity clock;  // stamps times
  Identity chief;
  Identity seal;    // of the office
  Identity former;  // whose certificate was taken back
  Identity alone;   // answers for itself

  // Whose certificates say that their issuers are to be asked there.
  static SigningOffice at(const std::string& address);
};

enum class Fault {
  none,
  late,          // answers after two seconds
  unavailable,   // 503
  garbage,       // a web page
  wrong_nonce,   // answers another question
  wrong_digest,  // stamps something else
  wrong_clock,   // is a year behind
  refuses,
};
// "none", "late" and so on; none for what is no fault.
Fault fault_named(const std::string& name);

class Services {
 public:
  // Takes a free place on 127.0.0.1.
  Services();
  ~Services();
  Services(const Services&) = delete;
  Services& operator=(const Services&) = delete;

  std::string address() const;  // "http://127.0.0.1:40123"
  void serve(const SigningOffice& office);
  void set_fault(Fault fault);
  int requests() const;  // answered so far

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace standins
