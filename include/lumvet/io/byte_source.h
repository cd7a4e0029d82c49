// SPDX-License-Identifier: Apache-2.0
// Where the bytes of a document come from. Nothing above a source knows which kind it is.
//
//   auto file = lumvet::open_file_source("report.pdf");      // memory-mapped
//   auto buffer = lumvet::make_buffer_source(std::move(bytes));
//   auto view = lumvet::make_view_source(resource);          // not copied
//
// An application may derive its own, for bytes in a database or behind a network.
// Threads: const methods may run concurrently; a derived class must hold to that.
#pragma once

#include <filesystem>
#include <iosfwd>
#include <memory>
#include <optional>
#include <string>

#include "lumvet/base/bytes.h"
#include "lumvet/base/export.h"
#include "lumvet/base/result.h"

namespace lumvet {

// Bytes together with what keeps them alive. Copies share.
class ByteSlice {
 public:
  ByteSlice() = default;
  ByteSlice(ByteView view, std::shared_ptr<const void> keeper)
      : view_(view), keeper_(std::move(keeper)) {}
  explicit ByteSlice(Bytes owned) {
    auto kept = std::make_shared<const Bytes>(std::move(owned));
    view_ = *kept;
    keeper_ = std::move(kept);
  }

  ByteView view() const { return view_; }
  std::size_t size() const { return view_.size(); }

 private:
  ByteView view_;
  std::shared_ptr<const void> keeper_;
};

class LUMVET_EXPORT ByteSource : public std::enable_shared_from_this<ByteSource> {
 public:
  virtual ~ByteSource() = default;

  // All bytes there are, whether fetched yet or not.
  virtual std::uint64_t size() const = 0;

  // Fills all of `into` from `offset` on. Errors: io; need_more_data when the range is not there
  // yet; malformed when it lies beyond size().
  virtual Status read(std::uint64_t offset, std::span<std::uint8_t> into) const = 0;

  // How a person knows it: a path, a URL, "a buffer of 4711 bytes".
  virtual std::string name() const = 0;

  // The file whose bytes these are, all of them; empty for what is no file, however it is called.
  virtual std::filesystem::path path() const { return {}; }

  // The range as a slice, cut off at size(). Sources that are in memory lend it without copying.
  virtual Result<ByteSlice> slice(std::uint64_t offset, std::uint64_t length) const;

 protected:
  ByteSource() = default;
  ByteSource(const ByteSource&) = delete;
  ByteSource& operator=(const ByteSource&) = delete;
};

// How a file is read. A mapped file costs no memory of its own and is fastest. When somebody
// shortens it while it is open, what is read of it afterwards is an io error and the program goes
// on: the first file that is mapped sets a handler for SIGBUS, which hands on every signal that is
// not of a file mapped here. Programs that set one of their own later, or read from disks that may
// go away, read instead: a file handle stays open, and bytes are copied when they are needed.
enum class FileAccess { map, read };

// Errors: io (missing, unreadable, a folder).
LUMVET_EXPORT Result<std::shared_ptr<const ByteSource>> open_file_source(
    const std::filesystem::path& path, FileAccess access = FileAccess::map);

LUMVET_EXPORT std::shared_ptr<const ByteSource> make_buffer_source(
    Bytes bytes, std::optional<std::string> name = std::nullopt);
// Bytes of somebody else, which are not copied: they live as long as `keeper`, or, without one, as
// the source.
LUMVET_EXPORT std::shared_ptr<const ByteSource> make_view_source(
    ByteView bytes, std::shared_ptr<const void> keeper = nullptr,
    std::optional<std::string> name = std::nullopt);

// Reads the stream to its end and keeps the bytes. Errors: io, also for a stream that failed
// before, such as a file that could not be opened.
LUMVET_EXPORT Result<std::shared_ptr<const ByteSource>> read_stream_source(
    std::istream& stream, std::optional<std::string> name = std::nullopt);

}  // namespace lumvet
