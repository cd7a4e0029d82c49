// SPDX-License-Identifier: Apache-2.0
// make-demo FOLDER             the report, the annex, the form and the scans
// make-demo --manual FILE N    a maintenance manual of N pages
// make-demo --illustrated FILE N    the same with photos
#include <cstdlib>
#include <iostream>
#include <string>

#include "demo_documents.h"

int main(int argc, char** argv) {
  const std::string first = argc > 1 ? argv[1] : "";
  const bool with_photos = first == "--illustrated";
  const bool manual = with_photos || first == "--manual";
  if (first.empty() || (manual && argc != 4)) {
    std::cerr << "usage: make-demo FOLDER | make-demo --manual|--illustrated FILE PAGES\n";
    return 2;
  }
  const auto fonts = demo::load_fonts();
  if (!fonts.ok()) {
    std::cerr << fonts.error().to_string() << '\n';
    return 1;
  }
  const auto make = [&]() -> lumvet::Status {
    if (manual)
      return demo::make_manual(*fonts, argv[2], std::max(1, std::atoi(argv[3])), with_photos);
    const std::filesystem::path folder = first;
    std::filesystem::create_directories(folder);
    LUMVET_RETURN_IF_ERROR(demo::make_report(*fonts, folder / "report.pdf"));
    LUMVET_RETURN_IF_ERROR(demo::make_annex(*fonts, folder / "annex.pdf"));
    LUMVET_RETURN_IF_ERROR(demo::make_inspection(*fonts, folder / "inspection.pdf"));
    return demo::make_scans(*fonts, folder / "scans");
  };
  const lumvet::Status made = make();
  if (!made.ok()) std::cerr << made.error().to_string() << '\n';
  return made.ok() ? 0 : 1;
}
