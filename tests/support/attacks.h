// SPDX-License-Identifier: Apache-2.0
// Signed files changed by somebody who means ill, in the ways that were published (Trust in signed
// documents, 2019; Shadow attacks, 2021; Certified documents, 2021).
#pragma once

#include <array>
#include <map>

#include "lumvet/sign/verification.h"
#include "tests/support/signed.h"

namespace test {

// Objects by their numbers, as text.
using Objects = std::map<int, std::string>;

inline std::string stream_text(const std::string& data, const std::string& entries = "") {
  return "<<" + entries + "/Length " + std::to_string(data.size()) + ">>\nstream\n" + data +
         "\nendstream";
}

// What stands behind a file that has a classic table: objects and, where it is asked for, the table
// and the trailer that make readers take them.
enum class Ending { whole, without_table, without_trailer, nothing };
inline std::string updated(const std::string& file, const Objects& objects,
                           Ending ending = Ending::whole, const std::string& trailer = "") {
  std::string out = file;
  std::map<int, std::size_t> places;
  int most = 0;
  for (const auto& [number, text] : objects) {
    places[number] = out.size();
    most = std::max(most, number);
    out += std::to_string(number) + " 0 obj\n" + text + "\nendobj\n";
  }
  if (ending == Ending::nothing) return out;
  const std::size_t last = file.rfind("startxref");
  const std::string previous = std::to_string(std::stoul(file.substr(last + 10)));
  const std::size_t table = out.size();
  if (ending != Ending::without_table) {
    out += "xref\n";
    for (const auto& [number, place] : places) {
      std::array<char, 32> row{};
      std::snprintf(row.data(), row.size(), "%010zu 00000 n \n", place);
      out += std::to_string(number) + " 1\n" + row.data();
    }
  }
  if (ending != Ending::without_trailer)
    out += "trailer\n<</Root 1 0 R/Size 200/Prev " + previous + trailer + ">>\n";
  out += "startxref\n" + std::to_string(table) + "\n%%EOF\n";
  return out;
}

// The text of an object as it stands last in a file.
inline std::string object_text(const std::string& file, int number) {
  const std::string head = "\n" + std::to_string(number) + " 0 obj\n";
  const std::size_t at = file.rfind(head);
  REQUIRE(at != std::string::npos);
  const std::size_t begin = at + head.size();
  return file.substr(begin, file.find("\nendobj", begin) - begin);
}

inline std::string replaced(std::string text, const std::string& what, const std::string& with) {
  const std::size_t at = text.find(what);
  REQUIRE(at != std::string::npos);
  return text.replace(at, what.size(), with);
}

// Over it, as long as it was.
inline std::string overwritten(const std::string& file, const std::string& what, std::string with) {
  REQUIRE(with.size() <= what.size());
  with.resize(what.size(), ' ');
  return replaced(file, what, with);
}

// The number of the signature's object, and of its field.
inline int signature_number(const std::string& file) {
  for (const FormField& field : opened_again(file).form().value().fields)
    if (field.kind == FormField::Kind::signature && !field.signature.is_null())
      return static_cast<int>(field.signature.as_reference().number);
  return 0;
}

// What programs did that were fooled: they take the bytes that the signature names, as far as they
// are there, and ask whether it fits them. Where it names none there is nothing to complain about.
inline bool digest_alone_holds(const std::string& file, const standins::Identity& root) {
  const Document document = opened_again(file);
  for (const FormField& field : document.form().value().fields) {
    if (field.kind != FormField::Kind::signature || field.signature.is_null()) continue;
    const Object signature = document.resolve(field.signature).value();
    const Object range = document.resolve(signature.as_dict()["ByteRange"]).value();
    const std::string_view message = signature.as_dict()["Contents"].as_string();
    if (range.as_array().size() < 4 || message.empty()) return true;
    std::string content;
    for (std::size_t i = 0; i + 1 < range.as_array().size(); i += 2) {
      const std::int64_t from = range.as_array()[i].as_integer();
      const std::int64_t size = range.as_array()[i + 1].as_integer();
      if (from < 0 || size < 0 || from > static_cast<std::int64_t>(file.size())) return true;
      content += file.substr(static_cast<std::size_t>(from), static_cast<std::size_t>(size));
    }
    const TemporaryFolder folder;
    write_file(folder / "content", content);
    write_file(folder / "message", std::string(message));
    write_file(folder / "root.pem", root.pem());
    const std::string at = folder.path().string();
    return command("openssl cms -verify -binary -inform DER -in " + at + "/message -content " + at +
                   "/content -CAfile " + at + "/root.pem -purpose any -attime " +
                   std::to_string(kSigned) + " -out /dev/null")
               .code == 0;
  }
  return false;
}

inline std::vector<SignatureJudgement> judged(const std::string& file,
                                              const standins::Identity& root,
                                              std::int64_t time = kSigned) {
  Trust trust;
  REQUIRE(trust.add(to_bytes(root.pem())).ok());
  const auto document = Document::open(to_bytes(file));
  REQUIRE(document.ok());
  return verify_signatures(*document, trust, {.time = time}).value();
}

// Of the first signature.
inline SignatureJudgement first_judged(const std::string& file, const standins::Identity& root,
                                       std::int64_t time = kSigned) {
  const auto all = judged(file, root, time);
  REQUIRE_FALSE(all.empty());
  return all.front();
}

}  // namespace test
