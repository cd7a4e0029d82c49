// SPDX-License-Identifier: Apache-2.0
// The printing that a document, or one of its pages, is meant for (ISO 32000-2, 14.11.5).
//
// Threads: values. Since: 0.2
#pragma once

#include <string>

#include "lumvet/objects/object.h"

namespace lumvet {

struct OutputIntent {
  std::string subtype = {};     // "GTS_PDFX"
  std::string identifier = {};  // of the printing condition: "FOGRA39"
  std::string condition = {};   // in words
  std::string registry = {};    // where the identifier is defined
  std::string info = {};
  int components = 0;   // of the profile; 0 without one
  Object profile = {};  // a stream, for Document::decoded; null without
};

}  // namespace lumvet
