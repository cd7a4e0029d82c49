// SPDX-License-Identifier: Apache-2.0
#include "stored_images.h"

#include <iostream>

#include <lumvet/render/placed_images.h>

#include "console.h"
#include "files.h"
#include "json.h"

namespace tool {
namespace {

namespace fs = std::filesystem;

struct Written {
  int page;
  lumvet::Quad quad;
  int width;
  int height;
  fs::path path;
};

lumvet::Status write_file(const fs::path& path, const lumvet::Bytes& bytes, bool replace) {
  LUMVET_TRY(auto file, lumvet::AtomicFile::create(
                            path, replace ? lumvet::IfExists::replace : lumvet::IfExists::refuse));
  LUMVET_RETURN_IF_ERROR(file.write(bytes));
  return file.commit();
}

// What cannot be decoded is told, and passed over.
lumvet::Status write_images_of(const lumvet::Document& document, int index,
                               const StoredImages& wanted, std::vector<Written>& written,
                               std::size_t& failed) {
  LUMVET_TRY(const lumvet::Page page, document.page(index));
  LUMVET_TRY(const lumvet::Scene scene, lumvet::Scene::record(page, {.cancel = interruption()}));
  const std::string stem = fs::path(document.name()).stem().string();
  int number = 0;
  for (const lumvet::PlacedImage& image : lumvet::placed_images(scene)) {
    ++number;
    const auto file = image.stored();
    if (!file.ok() && file.error().code() == lumvet::ErrorCode::cancelled) return file.error();
    if (!file.ok()) {
      ++failed;
      std::cerr << "lumvet: image " << number << " of page " << index + 1
                << " is not written: " << file.error().message() << '\n';
      continue;
    }
    const fs::path path = fs::path(wanted.folder) / (stem + "-" + std::to_string(index + 1) + "-" +
                                                     std::to_string(number) + "." + file->ending);
    LUMVET_RETURN_IF_ERROR(write_file(path, file->bytes, wanted.replace));
    written.push_back({index, image.quad(), image.width(), image.height(), path});
  }
  return lumvet::Done{};
}

void print(const lumvet::Document& document, const std::vector<Written>& written, bool json) {
  if (json) {
    Json all{{"input", document.name()},
             {"images", Json::array()},
             {"findings", findings_json(document.findings())}};
    for (const Written& image : written)
      all["images"].push_back({{"page", image.page + 1},
                               {"file", image.path.string()},
                               {"width", image.width},
                               {"height", image.height},
                               {"quad", quad_json(image.quad)}});
    print_json(all);
    return;
  }
  for (const Written& image : written)
    std::cout << image.path.string() << "  page " << image.page + 1 << ", " << image.width << " × "
              << image.height << " samples\n";
  if (written.empty()) std::cout << "no images on these pages\n";
}

}  // namespace

int write_stored_images(const lumvet::Document& document, const std::vector<int>& pages,
                        const StoredImages& wanted) {
  std::error_code ignored;
  fs::create_directories(wanted.folder, ignored);
  ProgressLine progress("reading page");
  std::vector<Written> written;
  std::size_t failed = 0;
  for (std::size_t i = 0; i < pages.size(); ++i) {
    const lumvet::Status status = write_images_of(document, pages[i], wanted, written, failed);
    if (!status.ok()) return refuse(status.error());
    progress.update(i + 1, pages.size());
  }
  print(document, written, wanted.json);
  if (failed > 0) return kFailed;
  if (wanted.json) return code_for(document.findings());
  return report_findings(document.findings());
}

}  // namespace tool
