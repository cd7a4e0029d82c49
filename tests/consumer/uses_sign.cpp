// SPDX-License-Identifier: Apache-2.0
#include <lumvet/lumvet.h>

#include <iostream>

int main(int argc, char** argv) {
  if (argc != 2) return 2;
  const auto document = lumvet::Document::open(argv[1]);
  if (!document) return 1;
  const auto signatures = lumvet::verify_signatures(*document, lumvet::Trust());
  if (!signatures || !signatures->empty()) return 1;
  const auto key = lumvet::SigningKey::from({}, "");
  if (key || key.error().code() != lumvet::ErrorCode::malformed) return 1;
  std::cout << document->page_count() << " page, not signed\n";
}
