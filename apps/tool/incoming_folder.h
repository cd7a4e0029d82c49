// SPDX-License-Identifier: Apache-2.0
// A folder into which others put files, each of which is to be worked on once: when it has arrived
// whole, and not again after a restart. What is done is written to a journal in the folder.
//
//   auto folder = tool::IncomingFolder::open("uploads", {.ending = ".pdf"});
//   for (const tool::IncomingFile& file : folder->ready().value()) {
//     folder->begin(file);
//     work_on(file.path) ? folder->finish(file) : folder->put_aside(file, "why not");
//   }
//
// The folder is looked at when ready() is called, which works on every file system, mounted ones
// too. Threads: one thread at a time, and one program at a time for a folder.
#pragma once

#include <chrono>
#include <filesystem>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include <lumvet/base/result.h>

namespace tool {

struct IncomingFile {
  std::filesystem::path path;
  std::uint64_t size = 0;     // bytes
  std::int64_t modified = 0;  // nanoseconds, as the file system counts them
  bool was_begun = false;     // by a run that ended before it was finished
  auto operator<=>(const IncomingFile&) const = default;
};

struct IncomingOptions {
  std::string ending = {};  // of names that count, in any case; hidden ones never do
  // A file has arrived when two looks so far apart find it the same, and its end is there.
  std::chrono::milliseconds settles_in = std::chrono::seconds(2);
  // A document without its end counts as one whose upload stalls, until it was not written to for
  // so long; then it is put aside.
  std::chrono::milliseconds stalls_for = std::chrono::minutes(10);
  std::filesystem::path failed = {};  // a folder; without one "failed" within
};

class IncomingFolder {
 public:
  // Errors: io, when it is no folder, when somebody else watches it, or when its journal cannot be
  // read or is not a plain file.
  static lumvet::Result<IncomingFolder> open(const std::filesystem::path& folder,
                                             const IncomingOptions& options = {});

  // Those that have arrived and were neither finished nor put aside, by name. Ones that were begun
  // twice and never finished are put aside, since they may be why. Links are not followed. Errors:
  // io.
  lumvet::Result<std::vector<IncomingFile>> ready();
  // Whether there are files that have not settled yet, as far as the last look showed.
  bool is_waiting() const { return is_waiting_; }
  // Those that have settled and have no end, as far as the last look showed.
  const std::vector<IncomingFile>& incomplete() const { return incomplete_; }

  // Each is on disk when it returns. Errors: io.
  lumvet::Status begin(const IncomingFile& file);
  lumvet::Status finish(const IncomingFile& file);
  // It was begun and could not be done, for no fault of its own, as on a full disk. It comes again.
  lumvet::Status leave(const IncomingFile& file);
  // Moves the file to the failed ones, with the reason as a text beside it, under names that
  // nothing there has; gives where it is now.
  lumvet::Result<std::filesystem::path> put_aside(const IncomingFile& file,
                                                  const std::string& reason);

 private:
  // What is known of a file that has one size and time.
  struct Entry {
    std::uint64_t size = 0;
    std::int64_t modified = 0;
    int begun = 0;
    bool is_finished = false;
  };
  struct Look {
    std::uint64_t size = 0;
    std::int64_t modified = 0;
    std::chrono::steady_clock::time_point since;
  };

  IncomingFolder(std::filesystem::path folder, IncomingOptions options)
      : folder_(std::move(folder)), options_(std::move(options)) {}
  lumvet::Status lock();
  lumvet::Status check_journal() const;
  lumvet::Status read_journal();
  lumvet::Status write_journal() const;
  void note(const std::string& line);
  lumvet::Status append(const std::string& word, const IncomingFile& file);
  bool counts(const std::filesystem::directory_entry& entry) const;
  std::filesystem::path journal() const;

  std::filesystem::path folder_;
  IncomingOptions options_;
  std::shared_ptr<const int> lock_;       // the folder itself, open and locked
  std::map<std::string, Entry> entries_;  // by name
  std::map<std::string, Look> looks_;     // by name, of those that may still grow
  bool is_waiting_ = false;
  std::vector<IncomingFile> incomplete_;
};

}  // namespace tool
