// SPDX-License-Identifier: Apache-2.0
// A letter out of a text in CommonMark, as bytes for an inline frame.
#include <lumvet/compose/brief.h>

#include <fstream>
#include <iostream>
#include <iterator>
#include <string>

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: 17_letter TEXT\n";
    return 2;
  }
  try {  // value() throws what went wrong
    std::ifstream file(argv[1]);
    const std::string text{std::istreambuf_iterator<char>(file), {}};
    const lumvet::Flow letter =
        lumvet::flow_of_commonmark(text, R"({"styles": {"body": {"size": 12}}})").value();
    lumvet::BufferSink sink;
    letter.save(sink).value();
    const std::string address = lumvet::data_address(sink.bytes());
    std::cout << "<iframe src=\"" << address.substr(0, 40) << "…\">, " << address.size()
              << " characters\n";
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
