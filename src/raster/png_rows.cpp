// SPDX-License-Identifier: Apache-2.0
#include "raster/png_rows.h"

#include <libdeflate.h>
#include <zlib.h>

#include <algorithm>
#include <array>
#include <cstring>
#include <new>

#include "base/parallel.h"
#include "raster/png_filters.h"

namespace lumvet::raster {
namespace {

constexpr std::size_t kWindow = 32768;  // bytes that a deflater looks back
constexpr std::size_t kSliceBytes = 1 << 19;

}  // namespace

PngRows::PngRows(std::size_t row_bytes, std::size_t pixel_bytes, int threads,
                 std::function<Status(ByteView)> give)
    : row_bytes_(row_bytes),
      pixel_bytes_(pixel_bytes),
      threads_(threads),
      give_(std::move(give)),
      slice_rows_(std::max<std::size_t>(1, kSliceBytes / row_bytes)),
      kept_(row_bytes) {}

Status PngRows::add(const std::uint8_t* row) {
  kept_.insert(kept_.end(), row, row + row_bytes_);
  const std::size_t enough = slice_rows_ * static_cast<std::size_t>(threads_);
  return ++kept_rows_ < enough ? Status(Done{}) : deflate_kept(false);
}

Status PngRows::finish() {
  LUMVET_RETURN_IF_ERROR(deflate_kept(true));
  std::array<std::uint8_t, 4> check{};
  for (std::size_t i = 0; i < check.size(); ++i)
    check[i] = static_cast<std::uint8_t>(check_ >> (24 - 8 * i));
  return give_(check);
}

Status PngRows::deflate_kept(bool is_last) {
  std::vector<Slice> slices;
  for (std::size_t first = 0; first < kept_rows_; first += slice_rows_)
    slices.push_back({first, std::min(slice_rows_, kept_rows_ - first)});
  if (slices.empty()) slices.emplace_back();  // the end of the stream must be said all the same
  share_out(slices.size(), threads_, [&](int, std::size_t i) { filter(slices[i]); });
  share_out(slices.size(), threads_, [&](int, std::size_t i) {
    const Bytes& before = i == 0 ? before_ : slices[i - 1].filtered;
    const std::size_t seen = std::min(before.size(), kWindow);
    deflate(slices[i], ByteView(before).last(seen), is_last && i + 1 == slices.size());
  });
  constexpr std::array<std::uint8_t, 2> kHeader = {0x78, 0x5E};  // deflate, a window of 32 KiB
  if (!std::exchange(has_begun_, true)) LUMVET_RETURN_IF_ERROR(give_(kHeader));
  for (const Slice& slice : slices) {
    LUMVET_RETURN_IF_ERROR(give_(slice.deflated));
    check_ = static_cast<std::uint32_t>(
        adler32_combine(check_, slice.check, static_cast<z_off_t>(slice.filtered.size())));
  }
  before_ = std::move(slices.back().filtered);
  if (kept_rows_ > 0)
    std::copy_n(kept_.end() - static_cast<std::ptrdiff_t>(row_bytes_), row_bytes_, kept_.begin());
  kept_.resize(row_bytes_);
  kept_rows_ = 0;
  return Done{};
}

// Of the kinds of filters the one whose differences are smallest in all (12.8).
void PngRows::filter(Slice& slice) const {
  constexpr std::uint8_t kUp = 2;
  const std::size_t line = 1 + row_bytes_;
  slice.filtered.resize(slice.count * line);
  Bytes tried(row_bytes_);
  for (std::size_t i = 0; i < slice.count; ++i) {
    const std::uint8_t* above = kept_.data() + (slice.first + i) * row_bytes_;
    const std::uint8_t* row = above + row_bytes_;
    std::uint8_t* out = slice.filtered.data() + i * line;
    // As much of a page, where nothing is left of the row, and zeros are there already.
    if (pixel_bytes_ > 0 && std::memcmp(row, above, row_bytes_) == 0) {
      out[0] = kUp;
      continue;
    }
    std::memcpy(out + 1, row, row_bytes_);
    if (pixel_bytes_ == 0) continue;
    std::size_t least = png_differences(row, row_bytes_);
    for (std::size_t k = 0; k < kPngFilters.size(); ++k) {
      const std::size_t size = kPngFilters[k](row, above, row_bytes_, pixel_bytes_, tried.data());
      if (size >= least) continue;
      least = size;
      out[0] = static_cast<std::uint8_t>(k + 1);
      std::memcpy(out + 1, tried.data(), row_bytes_);
    }
  }
}

void PngRows::deflate(Slice& slice, ByteView before, bool is_last) {
  slice.check = libdeflate_adler32(1, slice.filtered.data(), slice.filtered.size());
  z_stream stream{};
  // Beyond this twice the time saves a tenth of a page, and makes line drawings larger.
  constexpr int kLevel = 2;
  constexpr int kRaw = -15;
  constexpr int kMemory = 8;
  if (deflateInit2(&stream, kLevel, Z_DEFLATED, kRaw, kMemory, Z_DEFAULT_STRATEGY) != Z_OK)
    throw std::bad_alloc();
  deflateSetDictionary(&stream, before.data(), static_cast<uInt>(before.size()));
  constexpr std::size_t kFlushed = 16;  // bytes, at most, of the empty block at the end
  slice.deflated.resize(deflateBound(&stream, slice.filtered.size()) + kFlushed);
  stream.next_in = slice.filtered.data();
  stream.avail_in = static_cast<uInt>(slice.filtered.size());
  stream.next_out = slice.deflated.data();
  stream.avail_out = static_cast<uInt>(slice.deflated.size());
  ::deflate(&stream, is_last ? Z_FINISH : Z_SYNC_FLUSH);
  slice.deflated.resize(slice.deflated.size() - stream.avail_out);
  deflateEnd(&stream);
}

}  // namespace lumvet::raster
