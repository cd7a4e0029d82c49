// SPDX-License-Identifier: Apache-2.0
// States of a document, as its signatures leave them: written out, and laid beside today's.
#pragma once

#include <string>
#include <vector>

#include <lumvet/sign/verification.h>

namespace tool {

// A state that a person asks for, and where what comes of it goes.
struct StateChoice {
  std::string number;  // from 1
  std::string output;
  bool replace = false;
};

// The document as it was, byte for byte. The exit code.
int write_state(const lumvet::Document& document, const std::string& input,
                const StateChoice& choice);
// Its pages and today's beside each other, with what is known of who signed it. The exit code.
int lay_beside(const lumvet::Document& document, const std::string& input,
               const StateChoice& choice,
               const std::vector<lumvet::SignatureJudgement>& signatures);

}  // namespace tool
