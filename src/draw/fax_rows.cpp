// SPDX-License-Identifier: Apache-2.0
#include "draw/fax_rows.h"

#include <tiffio.h>

#include <algorithm>
#include <memory>

namespace lumvet::draw {
namespace {

struct CloseFile {
  void operator()(TIFF* tiff) const { TIFFClose(tiff); }
};

// A file in memory that libtiff writes.
struct Written {
  Bytes bytes;
  std::size_t at = 0;

  static Written& of(thandle_t self) { return *static_cast<Written*>(self); }

  static tmsize_t read(thandle_t self, void* out, tmsize_t size) {
    Written& file = of(self);
    const std::size_t there = std::min(static_cast<std::size_t>(size),
                                       file.bytes.size() - std::min(file.at, file.bytes.size()));
    std::copy_n(file.bytes.begin() + static_cast<std::ptrdiff_t>(file.at), there,
                static_cast<std::uint8_t*>(out));
    file.at += there;
    return static_cast<tmsize_t>(there);
  }
  static tmsize_t write(thandle_t self, void* data, tmsize_t size) {
    Written& file = of(self);
    const auto length = static_cast<std::size_t>(size);
    if (file.bytes.size() < file.at + length) file.bytes.resize(file.at + length);
    std::copy_n(static_cast<const std::uint8_t*>(data), length,
                file.bytes.begin() + static_cast<std::ptrdiff_t>(file.at));
    file.at += length;
    return size;
  }
  static toff_t seek(thandle_t self, toff_t offset, int whence) {
    Written& file = of(self);
    file.at =
        whence == SEEK_SET ? offset : (whence == SEEK_CUR ? file.at : file.bytes.size()) + offset;
    return file.at;
  }
  static int close(thandle_t) { return 0; }
  static toff_t size(thandle_t self) { return of(self).bytes.size(); }
};

}  // namespace

Bytes group4_of(const Bytes& rows, int width, int height) {
  Written file;
  const std::unique_ptr<TIFF, CloseFile> tiff(
      TIFFClientOpen("rows", "w", &file, Written::read, Written::write, Written::seek,
                     Written::close, Written::size, nullptr, nullptr));
  if (!tiff) return {};
  TIFFSetField(tiff.get(), TIFFTAG_IMAGEWIDTH, static_cast<std::uint32_t>(width));
  TIFFSetField(tiff.get(), TIFFTAG_IMAGELENGTH, static_cast<std::uint32_t>(height));
  TIFFSetField(tiff.get(), TIFFTAG_BITSPERSAMPLE, 1);
  TIFFSetField(tiff.get(), TIFFTAG_SAMPLESPERPIXEL, 1);
  TIFFSetField(tiff.get(), TIFFTAG_ROWSPERSTRIP, static_cast<std::uint32_t>(height));
  TIFFSetField(tiff.get(), TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISWHITE);
  TIFFSetField(tiff.get(), TIFFTAG_COMPRESSION, COMPRESSION_CCITTFAX4);
  Bytes own = rows;  // libtiff may change what it packs
  if (TIFFWriteEncodedStrip(tiff.get(), 0, own.data(), static_cast<tmsize_t>(own.size())) < 0 ||
      TIFFFlushData(tiff.get()) == 0)
    return {};
  std::uint64_t* offsets = nullptr;
  std::uint64_t* lengths = nullptr;
  if (TIFFGetField(tiff.get(), TIFFTAG_STRIPOFFSETS, &offsets) == 0 ||
      TIFFGetField(tiff.get(), TIFFTAG_STRIPBYTECOUNTS, &lengths) == 0 ||
      offsets[0] + lengths[0] > file.bytes.size())
    return {};
  const auto begin = file.bytes.begin() + static_cast<std::ptrdiff_t>(offsets[0]);
  return Bytes(begin, begin + static_cast<std::ptrdiff_t>(lengths[0]));
}

}  // namespace lumvet::draw
