// SPDX-License-Identifier: Apache-2.0
#include "lumvet/io/byte_source.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <cstring>
#include <istream>

#include "io/mapped_file.h"

namespace lumvet {
namespace {

Error beyond_end(std::uint64_t offset, std::uint64_t size) {
  return Error(ErrorCode::malformed,
               "bytes beyond the end of the file are needed; it has " + std::to_string(size))
      .at_offset(offset);
}

// Shared by all sources whose bytes lie in memory.
class MemorySource : public ByteSource {
 public:
  std::uint64_t size() const override { return bytes_.size(); }

  Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    if (offset > bytes_.size() || into.size() > bytes_.size() - offset)
      return beyond_end(offset, bytes_.size());
    std::copy_n(bytes_.begin() + static_cast<std::ptrdiff_t>(offset), into.size(), into.begin());
    return Done{};
  }

  Result<ByteSlice> slice(std::uint64_t offset, std::uint64_t length) const override {
    if (offset > bytes_.size()) return beyond_end(offset, bytes_.size());
    const std::uint64_t there = std::min<std::uint64_t>(length, bytes_.size() - offset);
    return ByteSlice(bytes_.subspan(offset, there), shared_from_this());
  }

 protected:
  ByteView bytes_;
};

class BufferSource final : public MemorySource {
 public:
  BufferSource(Bytes bytes, std::string name) : owned_(std::move(bytes)), name_(std::move(name)) {
    bytes_ = owned_;
  }
  std::string name() const override { return name_; }

 private:
  Bytes owned_;
  std::string name_;
};

// Bytes of somebody else.
class ViewSource final : public MemorySource {
 public:
  ViewSource(ByteView bytes, std::shared_ptr<const void> keeper, std::string name)
      : keeper_(std::move(keeper)), name_(std::move(name)) {
    bytes_ = bytes;
  }
  std::string name() const override { return name_; }

 private:
  std::shared_ptr<const void> keeper_;
  std::string name_;
};

Error was_shortened(const std::filesystem::path& path) {
  return Error(ErrorCode::io, path.string() + " was shortened while it was open; open it again");
}

class MappedSource final : public MemorySource {
 public:
  MappedSource(std::unique_ptr<io::MappedFile> file, std::filesystem::path path)
      : file_(std::move(file)), path_(std::move(path)) {
    bytes_ = file_->bytes();
  }
  std::string name() const override { return path_.string(); }
  std::filesystem::path path() const override { return path_; }

  Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    LUMVET_RETURN_IF_ERROR(MemorySource::read(offset, into));
    return file_->was_shortened() ? Status(was_shortened(path_)) : Status(Done{});
  }
  Result<ByteSlice> slice(std::uint64_t offset, std::uint64_t length) const override {
    if (file_->was_shortened()) return was_shortened(path_);
    return MemorySource::slice(offset, length);
  }

 private:
  std::unique_ptr<io::MappedFile> file_;
  std::filesystem::path path_;
};

// Reads when bytes are asked for.
class ReadSource final : public ByteSource {
 public:
  ReadSource(int file, std::uint64_t size, std::filesystem::path path)
      : file_(file), size_(size), path_(std::move(path)) {}
  ~ReadSource() override { ::close(file_); }

  std::uint64_t size() const override { return size_; }
  std::string name() const override { return path_.string(); }
  std::filesystem::path path() const override { return path_; }

  Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    if (offset > size_ || into.size() > size_ - offset) return beyond_end(offset, size_);
    while (!into.empty()) {
      const ssize_t done = ::pread(file_, into.data(), into.size(), static_cast<off_t>(offset));
      if (done < 0 && errno == EINTR) continue;
      if (done < 0)
        return Error(ErrorCode::io, "cannot read " + path_.string() + ": " + std::strerror(errno))
            .at_offset(offset);
      if (done == 0) return was_shortened(path_);
      into = into.subspan(static_cast<std::size_t>(done));
      offset += static_cast<std::uint64_t>(done);
    }
    return Done{};
  }

 private:
  int file_;
  std::uint64_t size_;
  std::filesystem::path path_;
};

Error cannot_open(const std::filesystem::path& path, const char* reason) {
  return Error(ErrorCode::io, "cannot open " + path.string() + ": " + reason);
}

}  // namespace

Result<ByteSlice> ByteSource::slice(std::uint64_t offset, std::uint64_t length) const {
  if (offset > size()) return beyond_end(offset, size());
  Bytes bytes(std::min(length, size() - offset));
  LUMVET_RETURN_IF_ERROR(read(offset, bytes));
  return ByteSlice(std::move(bytes));
}

Result<std::shared_ptr<const ByteSource>> open_file_source(const std::filesystem::path& path,
                                                           FileAccess access) {
  const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  if (file < 0) return cannot_open(path, std::strerror(errno));
  struct stat facts {};
  const char* reason = nullptr;
  if (::fstat(file, &facts) != 0)
    reason = std::strerror(errno);
  else if (!S_ISREG(facts.st_mode))
    reason = S_ISDIR(facts.st_mode) ? "it is a folder" : "it is not a plain file";
  if (reason != nullptr) {
    ::close(file);
    return cannot_open(path, reason);
  }
  const auto size = static_cast<std::uint64_t>(facts.st_size);
  if (access == FileAccess::map && size > 0)
    if (auto mapped = io::MappedFile::map(file, size)) {
      ::close(file);
      return std::shared_ptr<const ByteSource>(
          std::make_shared<MappedSource>(std::move(mapped), path));
    }
  // Some file systems have no maps.
  return std::shared_ptr<const ByteSource>(std::make_shared<ReadSource>(file, size, path));
}

std::shared_ptr<const ByteSource> make_buffer_source(Bytes bytes, std::optional<std::string> name) {
  std::string known_as =
      name ? *std::move(name) : "a buffer of " + std::to_string(bytes.size()) + " bytes";
  return std::make_shared<BufferSource>(std::move(bytes), std::move(known_as));
}

std::shared_ptr<const ByteSource> make_view_source(ByteView bytes,
                                                   std::shared_ptr<const void> keeper,
                                                   std::optional<std::string> name) {
  std::string known_as =
      name ? *std::move(name) : "a buffer of " + std::to_string(bytes.size()) + " bytes";
  return std::make_shared<ViewSource>(bytes, std::move(keeper), std::move(known_as));
}

Result<std::shared_ptr<const ByteSource>> read_stream_source(std::istream& stream,
                                                             std::optional<std::string> name) {
  if (!stream) return Error(ErrorCode::io, "the input stream cannot be read; was it opened?");
  Bytes bytes;
  std::array<char, 65536> chunk{};
  while (stream.read(chunk.data(), chunk.size()) || stream.gcount() > 0)
    bytes.insert(bytes.end(), chunk.begin(), chunk.begin() + stream.gcount());
  if (stream.bad()) return Error(ErrorCode::io, "the input stream failed before its end");
  return make_buffer_source(std::move(bytes), std::move(name));
}

}  // namespace lumvet
