// SPDX-License-Identifier: Apache-2.0
// Takes words out of a document for good, and looks whether they are gone.
#include <iostream>

#include <lumvet/redact/redaction.h>

int main(int argc, char** argv) {
  if (argc != 4) {
    std::cerr << "21_redact LETTER.pdf WORDS PUBLIC.pdf\n";
    return 2;
  }
  try {
    const auto opened = lumvet::Document::open(argv[1]).value();
    auto letter = lumvet::EditableDocument::of(opened);
    lumvet::RedactRequest request;
    request.searches = {lumvet::TextSearch::of(argv[2]).value()};
    request.look.text = "withheld";
    const lumvet::RedactReport report = lumvet::redact(letter, request).value();
    letter.save(argv[3]).value();

    const auto saved = lumvet::Document::open(argv[3]).value();
    const auto proof = lumvet::prove_redaction(saved, request, report).value();
    for (const lumvet::Finding& finding : proof.left) std::cout << finding.what << '\n';
    std::cout << report.letters << " letters taken out; "
              << (proof.holds() ? "nothing is left" : "something is left") << '\n';
    return proof.holds() ? 0 : 1;
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
