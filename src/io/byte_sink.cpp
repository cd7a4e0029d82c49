// SPDX-License-Identifier: Apache-2.0
#include "lumvet/io/byte_sink.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <cstdlib>
#include <optional>
#include <string>

#include "io/file_error.h"

namespace lumvet {

namespace fs = std::filesystem;
using io::cannot;

Status BufferSink::write(ByteView bytes) {
  bytes_.insert(bytes_.end(), bytes.begin(), bytes.end());
  return Done{};
}

namespace {

Status check_inside(std::uint64_t offset, std::size_t count, std::uint64_t size) {
  if (offset <= size && count <= size - offset) return Done{};
  return Error(ErrorCode::invalid_argument, "bytes beyond what was written").at_offset(offset);
}

}  // namespace

Status BufferSink::overwrite(std::uint64_t offset, ByteView bytes) {
  LUMVET_RETURN_IF_ERROR(check_inside(offset, bytes.size(), size()));
  std::copy(bytes.begin(), bytes.end(), bytes_.begin() + static_cast<std::ptrdiff_t>(offset));
  return Done{};
}

Status BufferSink::read_back(std::uint64_t offset, std::span<std::uint8_t> out) {
  LUMVET_RETURN_IF_ERROR(check_inside(offset, out.size(), size()));
  std::copy_n(bytes_.begin() + static_cast<std::ptrdiff_t>(offset), out.size(), out.begin());
  return Done{};
}

namespace {

Error already_there(const fs::path& path) {
  return Error(
      ErrorCode::exists,
      path.string() + " is already there; choose another name or ask for it to be replaced");
}

// What a file is called in its folder before it has its own name; the same few names every time,
// so that what a killed program left is found by the next.
std::string temporary_name_of(const fs::path& path, int index) {
  constexpr std::size_t kLongest = 200;  // bytes, so that there is room for the rest
  std::string name = path.filename().string();
  name.resize(std::min(name.size(), kLongest));
  return (path.parent_path() / ("." + name + ".lumvet-part" + std::to_string(index))).string();
}

constexpr int kMostTemporary = 100;
constexpr std::size_t kBuffered = 1 << 18;

// Takes away what programs that were killed have left. A living one holds a lock on its file; what
// is no plain file, or another user's, is nobody's business here.
void remove_abandoned(const fs::path& path) {
  for (int i = 0; i < kMostTemporary; ++i) {
    const std::string name = temporary_name_of(path, i);
    const int file = ::open(name.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
    if (file < 0 && errno == ENOENT) return;
    if (file < 0) continue;
    struct stat own {};
    struct stat named {};
    if (::fstat(file, &own) == 0 && S_ISREG(own.st_mode) && own.st_uid == ::geteuid() &&
        ::flock(file, LOCK_EX | LOCK_NB) == 0 && ::lstat(name.c_str(), &named) == 0 &&
        own.st_ino == named.st_ino && own.st_dev == named.st_dev)
      ::unlink(name.c_str());
    ::close(file);
  }
}

}  // namespace

struct AtomicFile::Impl {
  fs::path path;
  IfExists if_exists = IfExists::refuse;
  std::optional<std::array<timespec, 2>> times;  // last read and last written, to be set
  int file = -1;
  std::string temporary_name;  // empty while the file has no name
  Bytes buffer;
  std::uint64_t flushed = 0;  // bytes

  ~Impl() {
    if (file >= 0) ::close(file);
    if (!temporary_name.empty()) ::unlink(temporary_name.c_str());
  }

  Status flush() {
    std::size_t done = 0;
    while (done < buffer.size()) {
      const ssize_t written = ::write(file, buffer.data() + done, buffer.size() - done);
      if (written < 0 && errno == EINTR) continue;
      if (written < 0) return cannot("write", path, errno);
      done += static_cast<std::size_t>(written);
    }
    flushed += buffer.size();
    buffer.clear();
    return Done{};
  }

  // Links the nameless file into its folder under `name`; 0 or an errno.
  int give_name(const std::string& name) const {
    const std::string nameless = "/proc/self/fd/" + std::to_string(file);
    return ::linkat(AT_FDCWD, nameless.c_str(), AT_FDCWD, name.c_str(), AT_SYMLINK_FOLLOW) == 0
               ? 0
               : errno;
  }

  Status name_without_replacing() {
    int reason = 0;
    if (temporary_name.empty()) {
      reason = give_name(path.string());
    } else if (::link(temporary_name.c_str(), path.c_str()) != 0) {
      reason = errno;
      // A file system without links: look, then rename.
      if (reason != EEXIST && !fs::exists(fs::symlink_status(path)))
        reason = ::rename(temporary_name.c_str(), path.c_str()) == 0 ? 0 : errno;
    }
    if (reason == EEXIST) return already_there(path);
    if (reason != 0) return cannot("name", path, reason);
    return Done{};
  }

  Status name_replacing() {
    if (temporary_name.empty()) {
      // A nameless file cannot take a name that is in use, so it first gets one of its own.
      for (int i = 0; i < kMostTemporary && temporary_name.empty(); ++i) {
        const std::string candidate = temporary_name_of(path, i);
        const int reason = give_name(candidate);
        if (reason == 0) temporary_name = candidate;
        if (reason != 0 && reason != EEXIST) return cannot("name", path, reason);
      }
    }
    if (::rename(temporary_name.c_str(), path.c_str()) != 0) return cannot("replace", path, errno);
    temporary_name.clear();
    return Done{};
  }
};

AtomicFile::AtomicFile(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
AtomicFile::AtomicFile(AtomicFile&&) noexcept = default;
AtomicFile& AtomicFile::operator=(AtomicFile&&) noexcept = default;
AtomicFile::~AtomicFile() = default;

Result<AtomicFile> AtomicFile::create(const fs::path& path, IfExists if_exists) {
  auto impl = std::make_unique<Impl>();
  std::error_code ignored;
  impl->path = fs::is_symlink(path, ignored) ? fs::weakly_canonical(path, ignored) : path;
  impl->if_exists = if_exists;
  const bool there = fs::exists(impl->path, ignored);
  if (there && fs::is_directory(impl->path, ignored))
    return Error(ErrorCode::io, "cannot write " + path.string() + ": it is a folder");
  if (there && !fs::is_regular_file(impl->path, ignored))
    return Error(ErrorCode::io, "cannot replace " + path.string() + ": it is not a plain file");
  if (there && if_exists == IfExists::refuse) return already_there(path);

  remove_abandoned(impl->path);
  const fs::path folder = impl->path.has_parent_path() ? impl->path.parent_path() : fs::path(".");
  impl->file = ::open(folder.c_str(), O_TMPFILE | O_RDWR | O_CLOEXEC, 0666);
  for (int i = 0; i < kMostTemporary && impl->file < 0; ++i) {
    const std::string name = temporary_name_of(impl->path, i);
    impl->file = ::open(name.c_str(), O_CREAT | O_EXCL | O_RDWR | O_CLOEXEC, 0666);
    if (impl->file >= 0) impl->temporary_name = name;
    if (impl->file < 0 && errno != EEXIST) break;
  }
  if (impl->file < 0) return cannot("write into the folder of", path, errno);
  ::flock(impl->file, LOCK_EX | LOCK_NB);
  struct stat facts {};
  if (there && ::stat(impl->path.c_str(), &facts) == 0) {
    // Its owner and group too, where that is allowed; no other group gets its rights.
    constexpr auto kSame = static_cast<uid_t>(-1);
    const bool has_owner = ::fchown(impl->file, facts.st_uid, kSame) == 0;
    const bool has_group = ::fchown(impl->file, kSame, facts.st_gid) == 0;
    struct stat own {};
    if (!(has_owner && has_group) && ::fstat(impl->file, &own) == 0 && own.st_gid != facts.st_gid)
      facts.st_mode &= ~static_cast<mode_t>(S_IRWXG);
    ::fchmod(impl->file, facts.st_mode & 0777);
  }
  return AtomicFile(std::move(impl));
}

void AtomicFile::keep_times() {
  struct stat facts {};
  if (::stat(impl_->path.c_str(), &facts) == 0) impl_->times = {{facts.st_atim, facts.st_mtim}};
}

Status AtomicFile::write(ByteView bytes) {
  impl_->buffer.insert(impl_->buffer.end(), bytes.begin(), bytes.end());
  return impl_->buffer.size() >= kBuffered ? impl_->flush() : Status(Done{});
}

std::uint64_t AtomicFile::size() const { return impl_->flushed + impl_->buffer.size(); }

Status AtomicFile::overwrite(std::uint64_t offset, ByteView bytes) {
  LUMVET_RETURN_IF_ERROR(check_inside(offset, bytes.size(), size()));
  LUMVET_RETURN_IF_ERROR(impl_->flush());
  while (!bytes.empty()) {
    const ssize_t done =
        ::pwrite(impl_->file, bytes.data(), bytes.size(), static_cast<off_t>(offset));
    if (done < 0 && errno == EINTR) continue;
    if (done < 0) return cannot("write", impl_->path, errno);
    bytes = bytes.subspan(static_cast<std::size_t>(done));
    offset += static_cast<std::uint64_t>(done);
  }
  return Done{};
}

Status AtomicFile::read_back(std::uint64_t offset, std::span<std::uint8_t> out) {
  LUMVET_RETURN_IF_ERROR(check_inside(offset, out.size(), size()));
  LUMVET_RETURN_IF_ERROR(impl_->flush());
  while (!out.empty()) {
    const ssize_t done = ::pread(impl_->file, out.data(), out.size(), static_cast<off_t>(offset));
    if (done < 0 && errno == EINTR) continue;
    if (done <= 0) return cannot("read back", impl_->path, done < 0 ? errno : EIO);
    out = out.subspan(static_cast<std::size_t>(done));
    offset += static_cast<std::uint64_t>(done);
  }
  return Done{};
}

Status AtomicFile::commit() {
  LUMVET_RETURN_IF_ERROR(impl_->flush());
  if (impl_->times) ::futimens(impl_->file, impl_->times->data());
  if (::fsync(impl_->file) != 0) return cannot("write", impl_->path, errno);
  LUMVET_RETURN_IF_ERROR(impl_->if_exists == IfExists::refuse ? impl_->name_without_replacing()
                                                              : impl_->name_replacing());
  // The name itself is on disk only once its folder is.
  const fs::path folder = impl_->path.has_parent_path() ? impl_->path.parent_path() : fs::path(".");
  if (const int opened = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC); opened >= 0) {
    ::fsync(opened);
    ::close(opened);
  }
  return Done{};
}

bool is_written_through(const fs::path& path) {
  std::error_code ignored;
  const fs::file_type type = fs::status(path, ignored).type();
  return type == fs::file_type::fifo || type == fs::file_type::character;
}

Status write_through(const fs::path& path, ByteView bytes) {
  const int file = ::open(path.c_str(), O_WRONLY | O_CLOEXEC | O_NOCTTY);
  if (file < 0) return cannot("write", path, errno);
  int reason = 0;
  while (!bytes.empty() && reason == 0) {
    const ssize_t written = ::write(file, bytes.data(), bytes.size());
    if (written < 0 && errno != EINTR) reason = errno;
    if (written > 0) bytes = bytes.subspan(static_cast<std::size_t>(written));
  }
  if (::close(file) != 0 && reason == 0) reason = errno;
  return reason == 0 ? Status(Done{}) : cannot("write", path, reason);
}

}  // namespace lumvet
