// SPDX-License-Identifier: Apache-2.0
// What inspect can tell, in sections. Each is gathered once, as facts, and printed from those, so
// that a person and a program are told the same. The shape is described in docs/inspect.md.
#pragma once

#include <ostream>
#include <string>
#include <vector>

#include <lumvet/document/document.h>

#include "fact_list.h"

namespace tool {

struct Section {
  const char* name;   // its key, and the word by which it is asked for
  const char* about;  // for --help
  Facts (*gather)(const lumvet::Document&);
  void (*print)(const Facts&, std::ostream&);
};

// In the order in which they are told; the findings come last, when all has been read.
const std::vector<Section>& all_sections();

// How a document is protected, also of one that is still locked.
Json protection_facts(const lumvet::Encryption& encryption);
void print_protection(const Json& facts, std::ostream& out);

// The few lines that most people want. Of long documents only the first pages are looked at, which
// the last line says.
void print_summary(const lumvet::Document& document, std::ostream& out);

}  // namespace tool
