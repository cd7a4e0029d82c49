// SPDX-License-Identifier: Apache-2.0
// What a document says about itself in its two places, the information dictionary (ISO 32000-2,
// 14.3.3) and XMP (14.3.2, ISO 16684-1), brought together.
//
//   const lumvet::Metadata metadata = document.metadata().value();
//   metadata.properties.title;      // XMP's, and where it says nothing the dictionary's
//   metadata.disagreements;         // "title: 'Day 12' in the information, 'Day 11' in XMP"
//
// Threads: values. Since: 0.2
#pragma once

#include <string>
#include <utility>
#include <vector>

namespace lumvet {

// In UTF-8; empty when not said.
struct DocumentInfo {
  std::string title = {};
  std::string author = {};
  std::string subject = {};
  std::string keywords = {};
  std::string creator = {};   // the program in which the text was written
  std::string producer = {};  // the program that made the PDF
  std::string created = {};   // "2026-11-23 07:40:00 +01:00", or as it stands when it is no date
  std::string modified = {};

  bool operator==(const DocumentInfo&) const = default;
};

struct Metadata {
  DocumentInfo properties = {};
  std::vector<std::string> disagreements = {};
  // Further entries of the dictionary.
  std::vector<std::pair<std::string, std::string>> custom = {};
  std::string conformance = {};  // a standard that XMP claims: "PDF/A-2B", "PDF/UA-1", "PDF/X-4"
  std::string trapped = {};      // "True", "False", "Unknown"
  bool has_xmp = false;
};

}  // namespace lumvet
