// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/page_images.h"

#include <algorithm>
#include <atomic>
#include <condition_variable>
#include <exception>
#include <map>
#include <mutex>
#include <set>

#include "base/attempt.h"
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

// Pages that are drawn ahead of the one that is wanted next, no more than there are threads.
class Ahead {
 public:
  explicit Ahead(std::size_t room) : room_(room) {}

  // False when the work was ended.
  bool wait_for_turn(std::size_t i) {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [&] { return ended_ || i < taken_ + room_; });
    return !ended_;
  }

  void put(std::size_t i, Result<Raster> raster) {
    const std::lock_guard lock(mutex_);
    drawn_.emplace(i, std::move(raster));
    changed_.notify_all();
  }

  // An exception of a painter, which take() throws to its caller.
  void fail(std::exception_ptr thrown) {
    const std::lock_guard lock(mutex_);
    if (!thrown_) thrown_ = std::move(thrown);
    changed_.notify_all();
  }

  Result<Raster> take(std::size_t i) {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [&] { return drawn_.contains(i) || thrown_; });
    if (thrown_) std::rethrow_exception(thrown_);
    Result<Raster> raster = std::move(drawn_.extract(i).mapped());
    taken_ = i + 1;
    changed_.notify_all();
    return raster;
  }

  void end() {
    const std::lock_guard lock(mutex_);
    ended_ = true;
    changed_.notify_all();
  }

 private:
  std::mutex mutex_;
  std::condition_variable changed_;
  std::map<std::size_t, Result<Raster>> drawn_;
  std::exception_ptr thrown_;
  std::size_t room_;
  std::size_t taken_ = 0;
  bool ended_ = false;
};

Result<Raster> draw_page(const Document& document, int index, const RenderOptions& options) {
  LUMVET_TRY(const Page page, document.page(index));
  return render(page, options);
}

}  // namespace

Status render_pages(const Document& document, const std::vector<int>& pages,
                    const RenderOptions& options, const TakePage& take) {
  const auto threads = static_cast<std::size_t>(thread_count(options.threads));
  if (threads == 1 || pages.size() == 1) {
    for (const int index : pages) {
      LUMVET_TRY(Raster raster, draw_page(document, index, options));
      LUMVET_RETURN_IF_ERROR(called_back(take, index, std::move(raster)));
    }
    return Done{};
  }
  RenderOptions each = options;
  each.threads = 1;
  each.cancel = options.cancel.part();  // so that an error stops the pages drawn ahead
  Ahead ahead(threads);
  std::atomic<std::size_t> next = 0;
  const auto paint = [&] {
    try {
      for (std::size_t i = next++; i < pages.size() && ahead.wait_for_turn(i); i = next++)
        ahead.put(i, draw_page(document, pages[i], each));
    } catch (...) {
      ahead.fail(std::current_exception());
    }
  };
  std::vector<std::jthread> painters;
  // However this is left, by an exception too, the painters are told before they are waited for.
  struct Ending {
    const CancelToken& cancel;
    Ahead& ahead;
    ~Ending() {
      cancel.cancel();
      ahead.end();
    }
  } ending{each.cancel, ahead};
  for (std::size_t k = 0; k < std::min(threads, pages.size()); ++k) painters.emplace_back(paint);
  Status status = Done{};
  for (std::size_t i = 0; status.ok() && i < pages.size(); ++i) {
    Result<Raster> raster = ahead.take(i);
    if (!raster.ok()) {
      status = std::move(raster).error();
    } else {
      status = called_back(take, pages[i], *std::move(raster));
    }
  }
  return status;
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
