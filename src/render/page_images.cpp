// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/page_images.h"

#include <algorithm>
#include <mutex>
#include <set>

#include "base/attempt.h"
#include "base/in_order.h"
#include "base/parallel.h"
#include "render/recording.h"

namespace lumvet {
namespace {

namespace fs = std::filesystem;

void replace_all(std::string& text, const std::string& what, const std::string& with) {
  for (std::size_t at = 0; (at = text.find(what, at)) != std::string::npos; at += with.size())
    text.replace(at, what.size(), with);
}

std::string padded(int number, int most) {
  std::string digits = std::to_string(number);
  const std::size_t wanted = std::to_string(most).size();
  return std::string(wanted - std::min(wanted, digits.size()), '0') + digits;
}

// A label as part of a file's name.
std::string safe(std::string label) {
  for (char& c : label)
    if (c == '/' || c == '\\' || c == ':' || static_cast<unsigned char>(c) < ' ') c = '_';
  while (!label.empty() && label.front() == '.') label.erase(0, 1);
  return label.empty() ? "_" : label;
}

std::string stem_of(const Document& document) {
  const std::string stem = fs::path(document.name()).stem().string();
  return stem.empty() ? "page" : safe(stem);
}

ImageOptions image_options(const ImageFiles& files, ImageFormat format, double dpi, int threads) {
  return {.format = format,
          .dpi = dpi,
          .quality = files.quality,
          .lossless = files.lossless,
          .threads = threads};
}

double resolution_of(const Scene& scene, const RenderOptions& options) {
  constexpr double kPointsPerInch = 72;
  const double width = options.area ? options.area->width : scene.width();
  return options.width ? *options.width / width * kPointsPerInch : options.dpi;
}

Status draw_into(ImageWriter& writer, const Scene& scene, const RenderOptions& options,
                 ImageFile& file) {
  LUMVET_TRY(const PixelSize size, pixel_size(scene, options));
  file.width = size.width;
  file.height = size.height;
  return render_to(writer, scene, options);
}

Status write_page(const Document& document, const ImageFiles& files, const RenderOptions& options,
                  ImageFile& file) {
  LUMVET_TRY(const ImageFormat format, image_format_of(file.path));
  LUMVET_TRY(const Page page, document.page(file.page));
  LUMVET_TRY(const Scene scene, rendering::record(page, options));
  LUMVET_TRY(AtomicFile sink, AtomicFile::create(file.path, files.if_exists));
  ImageWriter writer(sink,
                     image_options(files, format, resolution_of(scene, options), options.threads));
  LUMVET_RETURN_IF_ERROR(draw_into(writer, scene, options, file));
  LUMVET_RETURN_IF_ERROR(writer.finish());
  return sink.commit();
}

Status write_together(const Document& document, const ImageFiles& files,
                      const RenderOptions& options, std::vector<ImageFile>& planned) {
  LUMVET_TRY(const ImageFormat format, image_format_of(planned.front().path));
  LUMVET_TRY(AtomicFile sink, AtomicFile::create(planned.front().path, files.if_exists));
  std::optional<ImageWriter> writer;
  std::uint64_t done = 0;
  for (ImageFile& file : planned) {
    LUMVET_TRY(const Page page, document.page(file.page));
    LUMVET_TRY(const Scene scene, rendering::record(page, options));
    // With a width given, pages of other sizes have other resolutions; the first one's is noted.
    if (!writer)
      writer.emplace(sink,
                     image_options(files, format, resolution_of(scene, options), options.threads));
    LUMVET_RETURN_IF_ERROR(draw_into(*writer, scene, options, file));
    if (files.progress) files.progress(++done, planned.size());
  }
  LUMVET_RETURN_IF_ERROR(writer->finish());
  return sink.commit();
}

Status write_apart(const Document& document, const ImageFiles& files, const RenderOptions& options,
                   std::vector<ImageFile>& planned) {
  const int threads = thread_count(options.threads);
  RenderOptions each = options;
  if (planned.size() > 1)
    each.threads = 1;
  else
    each.progress = files.progress;  // of one page, its rows
  std::mutex mutex;
  Status status = Done{};
  std::uint64_t done = 0;
  share_out(planned.size(), planned.size() > 1 ? threads : 1, [&](int, std::size_t i) {
    {
      const std::lock_guard lock(mutex);
      if (!status.ok()) return;
    }
    Status written = write_page(document, files, each, planned[i]);
    const std::lock_guard lock(mutex);
    if (!written.ok() && status.ok()) status = std::move(written);
    if (files.progress && planned.size() > 1) files.progress(++done, planned.size());
  });
  return status;
}

Result<Raster> draw_page(const Document& document, int index, const RenderOptions& options) {
  LUMVET_TRY(const Page page, document.page(index));
  return render(page, options);
}

}  // namespace

Status render_pages(const Document& document, const std::vector<int>& pages,
                    const RenderOptions& options, const TakePage& take) {
  const auto threads = static_cast<std::size_t>(thread_count(options.threads));
  const bool is_alone = threads == 1 || pages.size() == 1;
  const auto draw = [&](std::size_t i, const CancelToken& cancel) {
    RenderOptions each = options;
    if (!is_alone) each.threads = 1;
    each.cancel = cancel;
    return draw_page(document, pages[i], each);
  };
  return work_in_order<Raster>(
      pages.size(), threads, 1, options.cancel, draw,
      [&](std::size_t i, Raster raster) { return called_back(take, pages[i], std::move(raster)); });
}

Result<std::vector<ImageFile>> plan_pages(const Document& document, const std::vector<int>& pages,
                                          const ImageFiles& files) {
  LUMVET_TRY(const ImageFormat format, image_format_of(files.pattern));
  const bool together = files.pattern.find("{page}") == std::string::npos &&
                        files.pattern.find("{label}") == std::string::npos;
  if (together && pages.size() > 1 && !holds_several(format))
    return Error(ErrorCode::invalid_argument,
                 std::to_string(pages.size()) + " pages do not fit into the one file " +
                     files.pattern +
                     "; put {page} into the name, name a folder, or let it end in .tiff");
  std::error_code ignored;
  const fs::path folder = fs::path(files.pattern).parent_path();
  const bool is_known = folder.string().find('{') == std::string::npos;
  if (is_known && !folder.empty() && !fs::is_directory(folder, ignored))
    return Error(ErrorCode::io, "there is no folder " + folder.string() + "; make it first");
  std::vector<ImageFile> planned;
  std::set<fs::path> names;
  for (const int page : pages) {
    LUMVET_TRY(const std::string label, document.page_label(page));
    std::string name = files.pattern;
    replace_all(name, "{page}", padded(page + 1, document.page_count()));
    replace_all(name, "{label}", safe(label));
    replace_all(name, "{name}", stem_of(document));
    if (!names.insert(name).second && !together)
      return Error(ErrorCode::invalid_argument,
                   "two pages would be called " + name + "; put {page} into the name");
    if (files.if_exists == IfExists::refuse && fs::exists(name, ignored))
      return Error(ErrorCode::exists, name + " is already there; nothing was drawn");
    planned.push_back({page, name});
  }
  return planned;
}

Result<std::vector<ImageFile>> write_pages(const Document& document, const std::vector<int>& pages,
                                           const ImageFiles& files, const RenderOptions& options) {
  LUMVET_TRY(std::vector<ImageFile> planned, plan_pages(document, pages, files));
  if (planned.empty()) return planned;
  const bool together = planned.size() > 1 && planned[0].path == planned[1].path;
  LUMVET_RETURN_IF_ERROR(together ? write_together(document, files, options, planned)
                                  : write_apart(document, files, options, planned));
  return planned;
}

}  // namespace lumvet
