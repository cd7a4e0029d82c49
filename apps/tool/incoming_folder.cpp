// SPDX-License-Identifier: Apache-2.0
#include "incoming_folder.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cctype>
#include <cerrno>
#include <fstream>
#include <sstream>

#include <lumvet/io/byte_sink.h>

namespace tool {

namespace fs = std::filesystem;

namespace {

constexpr const char* kJournal = ".lumvet-journal";
constexpr int kMostBegun = 2;

lumvet::Error cannot(const std::string& what, const fs::path& path, const std::error_code& reason) {
  return lumvet::Error(lumvet::ErrorCode::io,
                       "cannot " + what + " " + path.string() + ": " + reason.message());
}

// Names may hold any byte but '/' and 0, and a line of the journal ends at a line end.
std::string on_one_line(const std::string& name) {
  std::string out;
  for (const char byte : name) {
    if (byte == '\n')
      out += "\\n";
    else if (byte == '\\')
      out += "\\\\";
    else
      out += byte;
  }
  return out;
}

std::string from_one_line(const std::string& text) {
  std::string out;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] == '\\' && i + 1 < text.size())
      out += text[++i] == 'n' ? '\n' : text[i];
    else
      out += text[i];
  }
  return out;
}

std::string line_of(const std::string& word, std::uint64_t size, std::int64_t modified,
                    const std::string& name) {
  return word + " " + std::to_string(size) + " " + std::to_string(modified) + " " +
         on_one_line(name) + "\n";
}

std::error_code last_error() { return {errno, std::generic_category()}; }

bool is_taken(const fs::path& path) {
  std::error_code ignored;
  return fs::exists(fs::symlink_status(path, ignored));
}

fs::path note_of(const fs::path& path) { return path.string() + ".txt"; }

// A name in a folder that nothing has yet, and neither has what is written beside it.
fs::path free_name(const fs::path& folder, const fs::path& name) {
  fs::path path = folder / name;
  for (int i = 2; is_taken(path) || is_taken(note_of(path)); ++i)
    path = folder / (name.stem().string() + "-" + std::to_string(i) + name.extension().string());
  return path;
}

// As rename, but nothing is replaced.
std::error_code move_to(const fs::path& from, const fs::path& to) {
  if (::renameat2(AT_FDCWD, from.c_str(), AT_FDCWD, to.c_str(), RENAME_NOREPLACE) == 0) return {};
  if (errno != EXDEV && errno != EINVAL && errno != ENOSYS) return last_error();
  std::error_code failed;
  fs::copy_file(from, to, fs::copy_options::none, failed);
  if (!failed) fs::remove(from, failed);
  return failed;
}

// Whether it begins as a document does, and does not end as one.
bool lacks_its_end(const fs::path& path) {
  constexpr std::streamoff kLook = 2048;
  std::ifstream file(path, std::ios::binary | std::ios::ate);
  const std::streamoff size = file.tellg();
  std::string part(static_cast<std::size_t>(std::clamp<std::streamoff>(size, 0, kLook)), ' ');
  file.seekg(0);
  file.read(part.data(), static_cast<std::streamsize>(part.size()));
  // So short that not even its beginning is there.
  constexpr std::string_view kBegin = "%PDF-";
  const bool may_begin = kBegin.starts_with(part);
  if (part.find(kBegin) == part.npos && !may_begin) return false;
  file.seekg(std::max<std::streamoff>(0, size - kLook));
  file.read(part.data(), static_cast<std::streamsize>(part.size()));
  return part.find("%%EOF") == part.npos;
}

}  // namespace

lumvet::Result<IncomingFolder> IncomingFolder::open(const fs::path& folder,
                                                    const IncomingOptions& options) {
  std::error_code reason;
  if (!fs::is_directory(folder, reason))
    return lumvet::Error(lumvet::ErrorCode::io,
                         folder.string() + " is not a folder that can be watched");
  IncomingFolder incoming(folder, options);
  if (incoming.options_.failed.empty()) incoming.options_.failed = folder / "failed";
  LUMVET_RETURN_IF_ERROR(incoming.lock());
  LUMVET_RETURN_IF_ERROR(incoming.read_journal());
  LUMVET_RETURN_IF_ERROR(incoming.write_journal());
  return incoming;
}

lumvet::Status IncomingFolder::lock() {
  const int file = ::open(folder_.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  if (file < 0) return cannot("look into", folder_, last_error());
  lock_ = std::shared_ptr<const int>(new int(file), [](const int* opened) {
    ::close(*opened);
    delete opened;
  });
  if (::flock(file, LOCK_EX | LOCK_NB) == 0) return lumvet::Done{};
  if (errno != EWOULDBLOCK) return cannot("lock", folder_, last_error());
  return lumvet::Error(lumvet::ErrorCode::io,
                       "the folder " + folder_.string() +
                           " is being watched already; let that come to its end first");
}

// A link would lead out of the folder, and a pipe would never end.
lumvet::Status IncomingFolder::check_journal() const {
  struct stat facts {};
  if (::lstat(journal().c_str(), &facts) != 0)
    return errno == ENOENT ? lumvet::Status(lumvet::Done{})
                           : cannot("look at", journal(), last_error());
  if (S_ISREG(facts.st_mode) && facts.st_nlink == 1) return lumvet::Done{};
  return lumvet::Error(lumvet::ErrorCode::io, journal().string() +
                                                  ", which lists the work that is done, is not a "
                                                  "plain file of this folder; take it away");
}

fs::path IncomingFolder::journal() const { return folder_ / kJournal; }

lumvet::Status IncomingFolder::read_journal() {
  LUMVET_RETURN_IF_ERROR(check_journal());
  if (!is_taken(journal())) return lumvet::Done{};
  std::ifstream in(journal(), std::ios::binary);
  if (!in) return lumvet::Error(lumvet::ErrorCode::io, "cannot read " + journal().string());
  // A line without an end was being written when the program was killed.
  for (std::string line; std::getline(in, line) && !in.eof();) note(line);
  return lumvet::Done{};
}

void IncomingFolder::note(const std::string& line) {
  std::istringstream words(line);
  std::string word;
  Entry entry;
  std::string name;
  if (!(words >> word >> entry.size >> entry.modified) || words.get() != ' ') return;
  std::getline(words, name);
  Entry& known = entries_[from_one_line(name)];
  if (known.size != entry.size || known.modified != entry.modified) known = entry;
  if (word == "begun") ++known.begun;
  if (word == "finished") known.is_finished = true;
  if (word == "left") known.begun = 0;
}

// Without what is no longer in the folder, so that it does not grow for ever.
lumvet::Status IncomingFolder::write_journal() const {
  std::string text;
  std::error_code reason;
  for (const auto& [name, entry] : entries_) {
    if (!fs::exists(folder_ / name, reason)) continue;
    for (int i = 0; i < entry.begun && !entry.is_finished; ++i)
      text += line_of("begun", entry.size, entry.modified, name);
    if (entry.is_finished) text += line_of("finished", entry.size, entry.modified, name);
  }
  LUMVET_TRY(lumvet::AtomicFile file,
             lumvet::AtomicFile::create(journal(), lumvet::IfExists::replace));
  LUMVET_RETURN_IF_ERROR(file.write(lumvet::as_bytes(text)));
  return file.commit();
}

lumvet::Status IncomingFolder::append(const std::string& word, const IncomingFile& file) {
  const std::string line = line_of(word, file.size, file.modified, file.path.filename().string());
  LUMVET_RETURN_IF_ERROR(check_journal());
  if (!is_taken(journal())) LUMVET_RETURN_IF_ERROR(write_journal());  // somebody took it away
  const int opened =
      ::open(journal().c_str(), O_WRONLY | O_APPEND | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
  if (opened < 0) return cannot("write", journal(), last_error());
  const auto size = static_cast<ssize_t>(line.size());
  const bool is_written = ::write(opened, line.data(), line.size()) == size && ::fsync(opened) == 0;
  const std::error_code reason = last_error();
  ::close(opened);
  if (!is_written) return cannot("write", journal(), reason);
  note(line.substr(0, line.size() - 1));
  return lumvet::Done{};
}

bool IncomingFolder::counts(const fs::directory_entry& entry) const {
  std::error_code ignored;
  if (!fs::is_regular_file(entry.symlink_status(ignored))) return false;
  const std::string name = entry.path().filename().string();
  const std::string& ending = options_.ending;
  if (name.starts_with('.') || name.size() < ending.size()) return false;
  return std::equal(ending.rbegin(), ending.rend(), name.rbegin(), [](char a, char b) {
    return std::tolower(static_cast<unsigned char>(a)) ==
           std::tolower(static_cast<unsigned char>(b));
  });
}

lumvet::Result<std::vector<IncomingFile>> IncomingFolder::ready() {
  std::error_code reason;
  fs::directory_iterator entries(folder_, reason);
  if (reason) return cannot("look into", folder_, reason);
  const auto now = std::chrono::steady_clock::now();
  std::map<std::string, Look> looks;
  std::vector<IncomingFile> arrived;
  std::vector<IncomingFile> hopeless;
  std::vector<IncomingFile> stalled;
  is_waiting_ = false;
  incomplete_.clear();
  for (const fs::directory_entry& found : entries) {
    if (!counts(found)) continue;
    std::error_code gone;
    IncomingFile file{found.path(), found.file_size(gone), 0, false};
    if (!gone) file.modified = found.last_write_time(gone).time_since_epoch().count();
    if (gone) continue;  // somebody took it away meanwhile
    const std::string name = file.path.filename().string();
    const auto entry = entries_.find(name);
    const bool is_known = entry != entries_.end() && entry->second.size == file.size &&
                          entry->second.modified == file.modified;
    if (is_known && entry->second.is_finished) continue;
    const auto look = looks_.find(name);
    const bool is_same = look != looks_.end() && look->second.size == file.size &&
                         look->second.modified == file.modified;
    looks[name] = is_same ? look->second : Look{file.size, file.modified, now};
    if (!is_same || now - look->second.since < options_.settles_in) {
      is_waiting_ = true;
      continue;
    }
    if (lacks_its_end(file.path)) {
      const auto written = std::chrono::file_clock::now() - found.last_write_time(gone);
      (written < options_.stalls_for ? incomplete_ : stalled).push_back(file);
      continue;
    }
    file.was_begun = is_known && entry->second.begun > 0;
    (is_known && entry->second.begun >= kMostBegun ? hopeless : arrived).push_back(file);
  }
  looks_ = std::move(looks);
  for (const IncomingFile& file : hopeless)
    LUMVET_RETURN_IF_ERROR(put_aside(file, "the program ended twice while it was working on it"));
  for (const IncomingFile& file : stalled)
    LUMVET_RETURN_IF_ERROR(
        put_aside(file,
                  "its end is missing: it was not uploaded whole, or it is damaged; lumvet repair "
                  "mends what can be mended"));
  std::sort(arrived.begin(), arrived.end());
  return arrived;
}

lumvet::Status IncomingFolder::begin(const IncomingFile& file) { return append("begun", file); }
lumvet::Status IncomingFolder::finish(const IncomingFile& file) { return append("finished", file); }
lumvet::Status IncomingFolder::leave(const IncomingFile& file) { return append("left", file); }

lumvet::Result<fs::path> IncomingFolder::put_aside(const IncomingFile& file,
                                                   const std::string& reason) {
  std::error_code failed;
  fs::create_directories(options_.failed, failed);
  if (failed) return cannot("make the folder", options_.failed, failed);
  const fs::path name = file.path.filename();
  const fs::path place = free_name(options_.failed, name);
  LUMVET_TRY(lumvet::AtomicFile note,
             lumvet::AtomicFile::create(note_of(place), lumvet::IfExists::refuse));
  LUMVET_RETURN_IF_ERROR(note.write(lumvet::as_bytes(reason + "\n")));
  LUMVET_RETURN_IF_ERROR(note.commit());
  failed = move_to(file.path, place);
  if (failed) return cannot("move away", file.path, failed);
  entries_.erase(name.string());
  looks_.erase(name.string());
  return place;
}

}  // namespace tool
