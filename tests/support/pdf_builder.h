// SPDX-License-Identifier: Apache-2.0
// Small documents as readable text, with the offsets filled in.
//
//   PdfBuilder pdf;
//   pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
//   pdf.stream(4, "", "0 0 10 10 re f");
//   std::string bytes = pdf.finish("/Root 1 0 R");
#pragma once

#include <cstdio>
#include <map>
#include <string>

#include "lumvet/document/document.h"

namespace test {

class PdfBuilder {
 public:
  explicit PdfBuilder(const std::string& header = "%PDF-1.7\n") : bytes_(header) {}

  PdfBuilder& object(int number, const std::string& body) {
    offsets_[number] = bytes_.size();
    bytes_ += std::to_string(number) + " 0 obj\n" + body + "\nendobj\n";
    return *this;
  }

  PdfBuilder& stream(int number, const std::string& entries, const std::string& data) {
    return object(number, "<<" + entries + "/Length " + std::to_string(data.size()) +
                              ">>\nstream\n" + data + "\nendstream");
  }

  // A page tree of one page showing `content`, with objects 1 to 4; the catalog is 1.
  PdfBuilder& page(const std::string& content,
                   const std::string& entries = "/MediaBox[0 0 100 100]") {
    object(1, "<</Type/Catalog/Pages 2 0 R>>");
    object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
    object(3, "<</Type/Page/Parent 2 0 R/Contents 4 0 R" + entries + ">>");
    return stream(4, "", content);
  }

  std::size_t offset(int number) const { return offsets_.at(number); }
  std::size_t size() const { return bytes_.size(); }
  std::string& bytes() { return bytes_; }

  // A classic table of the objects since the last one, the trailer and the end.
  std::string finish(const std::string& trailer = "/Root 1 0 R") {
    const std::size_t start = bytes_.size();
    bytes_ += "xref\n0 1\n0000000000 65535 f \n";
    int most = 0;
    for (const auto& [number, offset] : offsets_) {
      char row[32];
      std::snprintf(row, sizeof row, "%010zu 00000 n \n", offset);
      bytes_ += std::to_string(number) + " 1\n" + row;
      most = std::max(most, number);
    }
    last_table_ = start;
    bytes_ += "trailer\n<<" + trailer + "/Size " + std::to_string(most + 1) + ">>\nstartxref\n" +
              std::to_string(start) + "\n%%EOF\n";
    offsets_.clear();
    return bytes_;
  }
  std::size_t last_table() const { return last_table_; }

 private:
  std::string bytes_;
  std::map<int, std::size_t> offsets_;
  std::size_t last_table_ = 0;
};

inline lumvet::Bytes to_bytes(const std::string& text) {
  return {lumvet::as_bytes(text).begin(), lumvet::as_bytes(text).end()};
}

inline lumvet::Result<lumvet::Document> open(const std::string& bytes) {
  return lumvet::Document::open(to_bytes(bytes));
}

}  // namespace test
