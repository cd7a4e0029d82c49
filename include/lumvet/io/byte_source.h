// SPDX-License-Identifier: Apache-2.0
// Where the bytes of a document come from. Nothing above a source knows which kind it is.
//
//   auto source = lumvet::open_file_source("report.pdf");       // memory-mapped
//   auto source = lumvet::make_buffer_source(std::move(bytes));
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

// Maps the file into memory. The file must not be shortened by others while it is open.
// Errors: io (missing, unreadable, a folder).
LUMVET_EXPORT Result<std::shared_ptr<const ByteSource>> open_file_source(
    const std::filesystem::path& path);

LUMVET_EXPORT std::shared_ptr<const ByteSource> make_buffer_source(
    Bytes bytes, std::optional<std::string> name = std::nullopt);

// Reads the stream to its end and keeps the bytes. Errors: io.
LUMVET_EXPORT Result<std::shared_ptr<const ByteSource>> read_stream_source(
    std::istream& stream, std::optional<std::string> name = std::nullopt);

}  // namespace lumvet
