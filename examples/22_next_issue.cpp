// SPDX-License-Identifier: Apache-2.0
// Brings the marks of a drawing onto its next issue, and tells what did not fit.
#include <iostream>

#include <lumvet/exchange/exchange.h>

int main(int argc, char** argv) {
  if (argc != 4) {
    std::cerr << "22_next_issue MARKED.pdf NEXT.pdf NEXT-MARKED.pdf\n";
    return 2;
  }
  try {
    const auto marked = lumvet::Document::open(argv[1]).value();
    const std::string marks = lumvet::as_xfdf(marked, lumvet::ExchangeParts::marks).value();

    const auto issue = lumvet::Document::open(argv[2]).value();
    const lumvet::Exchange read = lumvet::read_xfdf(marks, issue).value();
    for (const lumvet::Finding& finding : read.findings) std::cout << finding.what << '\n';
    auto next = lumvet::EditableDocument::of(issue);
    lumvet::add_annotations(next, read.marks).value();
    next.save(argv[3]).value();
    std::cout << read.marks.size() << " marks brought along\n";
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
