// SPDX-License-Identifier: Apache-2.0
// Where written bytes go.
//
//   auto file = lumvet::AtomicFile::create("book.pdf", lumvet::IfExists::refuse);
//   file->write(bytes);
//   file->commit();      // only now does book.pdf appear, whole
//
// Threads: one thread at a time.
#pragma once

#include <filesystem>
#include <memory>
#include <span>

#include "lumvet/base/bytes.h"
#include "lumvet/base/export.h"
#include "lumvet/base/result.h"

namespace lumvet {

class LUMVET_EXPORT ByteSink {
 public:
  virtual ~ByteSink() = default;
  // Errors: io.
  virtual Status write(ByteView bytes) = 0;
};

// A sink whose bytes can be read back and written over, as file formats with tables at their end
// need.
class LUMVET_EXPORT PatchableSink : public ByteSink {
 public:
  virtual std::uint64_t size() const = 0;  // bytes written so far
  // Over bytes that are there already. Errors: invalid_argument beyond size(), io.
  virtual Status overwrite(std::uint64_t offset, ByteView bytes) = 0;
  // Fills `out`. Errors: invalid_argument beyond size(), io.
  virtual Status read_back(std::uint64_t offset, std::span<std::uint8_t> out) = 0;
};

// Keeps what is written in memory.
class LUMVET_EXPORT BufferSink final : public PatchableSink {
 public:
  Status write(ByteView bytes) override;
  std::uint64_t size() const override { return bytes_.size(); }
  Status overwrite(std::uint64_t offset, ByteView bytes) override;
  Status read_back(std::uint64_t offset, std::span<std::uint8_t> out) override;
  const Bytes& bytes() const { return bytes_; }
  Bytes take() { return std::move(bytes_); }

 private:
  Bytes bytes_;
};

enum class IfExists { refuse, replace };

// A file that appears at its path whole or not at all. Until commit() the bytes are in a file
// without a name in the same folder (or, where the file system has no such thing, under a
// temporary name that the destructor removes, or the next AtomicFile for the path when the program
// was killed). A file that is replaced leaves its rights to the new one, and its owner where the
// system lets it.
class LUMVET_EXPORT AtomicFile final : public PatchableSink {
 public:
  // Errors: exists (with IfExists::refuse); io, also for a name that a device, a pipe or a folder
  // has.
  static Result<AtomicFile> create(const std::filesystem::path& path, IfExists if_exists);

  AtomicFile(AtomicFile&&) noexcept;
  AtomicFile& operator=(AtomicFile&&) noexcept;
  ~AtomicFile() override;

  Status write(ByteView bytes) override;
  std::uint64_t size() const override;
  Status overwrite(std::uint64_t offset, ByteView bytes) override;
  Status read_back(std::uint64_t offset, std::span<std::uint8_t> out) override;

  // commit() gives it the times at which the file that it replaces was last read and written.
  void keep_times();

  // Writes through to the disk and gives the file its name. Errors: io; exists when somebody else
  // made the file meanwhile.
  Status commit();

 private:
  struct Impl;
  explicit AtomicFile(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

// Whether bytes are written there as they come, and nothing is replaced: a terminal, a pipe,
// /dev/null.
LUMVET_EXPORT bool is_written_through(const std::filesystem::path& path);
// All bytes into such a thing. Errors: io.
LUMVET_EXPORT Status write_through(const std::filesystem::path& path, ByteView bytes);

}  // namespace lumvet
