// SPDX-License-Identifier: Apache-2.0
#include "io/appending.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>

#include "io/file_error.h"

namespace lumvet::io {

namespace fs = std::filesystem;

namespace {

// A file that is read while it stays the same.
class Unchanged {
 public:
  ~Unchanged() {
    if (file_ >= 0) ::close(file_);
  }
  Unchanged() = default;
  Unchanged(const Unchanged&) = delete;
  Unchanged& operator=(const Unchanged&) = delete;

  Status open(const fs::path& path, std::uint64_t size) {
    file_ = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
    if (file_ < 0) return cannot("read", path, errno);
    if (::fstat(file_, &facts_) != 0) return cannot("look at", path, errno);
    if (!S_ISREG(facts_.st_mode) || static_cast<std::uint64_t>(facts_.st_size) != size)
      return changed(path);
    // Held until this is closed, so that of two updates the second finds what the first has made.
    if (::flock(file_, LOCK_EX | LOCK_NB) != 0 && errno == EWOULDBLOCK)
      return Error(ErrorCode::io, path.string() + " is being changed by somebody else; try again");
    return ::access(path.c_str(), W_OK) == 0 ? Status(Done{}) : cannot("write", path, errno);
  }

  Status copy_to(ByteSink& sink, const fs::path& path) const {
    constexpr std::size_t kPart = 1 << 18;
    Bytes part(kPart);
    for (off_t at = 0; at < facts_.st_size;) {
      const ssize_t got = ::pread(file_, part.data(), part.size(), at);
      if (got < 0 && errno == EINTR) continue;
      if (got < 0) return cannot("read", path, errno);
      if (got == 0) return changed(path);
      LUMVET_RETURN_IF_ERROR(sink.write(ByteView(part).first(static_cast<std::size_t>(got))));
      at += got;
    }
    return Done{};
  }

  // Whether the name still leads to it, as it was.
  Status check(const fs::path& path) const {
    struct stat now {};
    const bool is_same = ::stat(path.c_str(), &now) == 0 && now.st_dev == facts_.st_dev &&
                         now.st_ino == facts_.st_ino && now.st_size == facts_.st_size &&
                         now.st_mtim.tv_sec == facts_.st_mtim.tv_sec &&
                         now.st_mtim.tv_nsec == facts_.st_mtim.tv_nsec;
    return is_same ? Status(Done{}) : changed(path);
  }

 private:
  static Error changed(const fs::path& path) {
    return Error(ErrorCode::invalid_argument,
                 path.string() + " was changed since it was opened; open it again");
  }

  int file_ = -1;
  struct stat facts_ {};
};

}  // namespace

Status append_bytes(const fs::path& path, std::uint64_t size, ByteView bytes) {
  Unchanged before;
  LUMVET_RETURN_IF_ERROR(before.open(path, size));
  LUMVET_TRY(AtomicFile after, AtomicFile::create(path, IfExists::replace));
  LUMVET_RETURN_IF_ERROR(before.copy_to(after, path));
  LUMVET_RETURN_IF_ERROR(after.write(bytes));
  LUMVET_RETURN_IF_ERROR(before.check(path));
  return after.commit();
}

}  // namespace lumvet::io
