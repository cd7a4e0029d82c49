// SPDX-License-Identifier: Apache-2.0
// A file mapped into memory, which may be shortened by others meanwhile.
//
// Threads: immutable, share freely.
#pragma once

#include <atomic>
#include <cstddef>
#include <cstdint>
#include <memory>

#include "lumvet/base/bytes.h"

namespace lumvet::io {

class MappedFile {
 public:
  // `file` is open for reading and may be closed afterwards. Null when it cannot be mapped, with
  // errno; or when as many files are mapped as can be watched, with 0.
  static std::unique_ptr<MappedFile> map(int file, std::size_t size);
  ~MappedFile();
  MappedFile(const MappedFile&) = delete;
  MappedFile& operator=(const MappedFile&) = delete;

  // Zeros where the file has become shorter.
  ByteView bytes() const { return bytes_; }
  // Whether somebody came upon such a place.
  bool was_shortened() const;

 private:
  MappedFile(ByteView bytes, std::size_t slot) : bytes_(bytes), slot_(slot) {}

  ByteView bytes_;
  std::size_t slot_;
};

}  // namespace lumvet::io
