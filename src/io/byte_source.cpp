// SPDX-License-Identifier: Apache-2.0
#include "lumvet/io/byte_source.h"

#include <fcntl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <cstring>
#include <istream>

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

class MappedFile final : public MemorySource {
 public:
  MappedFile(ByteView mapped, std::filesystem::path path) : path_(std::move(path)) {
    bytes_ = mapped;
  }
  ~MappedFile() override {
    if (!bytes_.empty()) ::munmap(const_cast<std::uint8_t*>(bytes_.data()), bytes_.size());
  }
  std::string name() const override { return path_.string(); }
  std::filesystem::path path() const override { return path_; }

 private:
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

Result<std::shared_ptr<const ByteSource>> open_file_source(const std::filesystem::path& path) {
  const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  if (file < 0) return cannot_open(path, std::strerror(errno));
  struct stat facts {};
  if (::fstat(file, &facts) != 0) {
    const int reason = errno;
    ::close(file);
    return cannot_open(path, std::strerror(reason));
  }
  if (!S_ISREG(facts.st_mode)) {
    ::close(file);
    return cannot_open(path, S_ISDIR(facts.st_mode) ? "it is a folder" : "it is not a plain file");
  }
  const auto size = static_cast<std::size_t>(facts.st_size);
  if (size == 0) {
    ::close(file);
    return make_buffer_source({}, path.string());
  }
  void* mapped = ::mmap(nullptr, size, PROT_READ, MAP_PRIVATE, file, 0);
  const int reason = errno;
  ::close(file);
  if (mapped == MAP_FAILED) return cannot_open(path, std::strerror(reason));
  return std::shared_ptr<const ByteSource>(
      std::make_shared<MappedFile>(ByteView(static_cast<const std::uint8_t*>(mapped), size), path));
}

std::shared_ptr<const ByteSource> make_buffer_source(Bytes bytes, std::optional<std::string> name) {
  std::string known_as =
      name ? *std::move(name) : "a buffer of " + std::to_string(bytes.size()) + " bytes";
  return std::make_shared<BufferSource>(std::move(bytes), std::move(known_as));
}

Result<std::shared_ptr<const ByteSource>> read_stream_source(std::istream& stream,
                                                             std::optional<std::string> name) {
  Bytes bytes;
  std::array<char, 65536> chunk{};
  while (stream.read(chunk.data(), chunk.size()) || stream.gcount() > 0)
    bytes.insert(bytes.end(), chunk.begin(), chunk.begin() + stream.gcount());
  if (stream.bad()) return Error(ErrorCode::io, "the input stream failed before its end");
  return make_buffer_source(std::move(bytes), std::move(name));
}

}  // namespace lumvet
