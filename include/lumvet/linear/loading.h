// SPDX-License-Identifier: Apache-2.0
// What a viewer at the other end of a slow connection has to fetch of a file before it can show a
// page: which ranges, in how many requests, and how long that takes.
//
//   const auto report = lumvet::loading_of(manual, {.pages = {0, 1499}}).value();
//   const lumvet::PageLoading& page = report.pages[1];
//   std::cout << page.fetches.size() << " requests, " << page.seconds << " s";
//
// A linearized file is fetched by its hint tables. Any other file is read through its cross
// references, by really reading it: each thing that is needed is asked for when something that was
// fetched before names it.
//
// Threads: free functions; documents may be shared. Since: 0.2
#pragma once

#include <string>
#include <vector>

#include "lumvet/document/document.h"

namespace lumvet {

struct Connection {
  double round_trip = 50;  // milliseconds from a request to the first byte of its answer
  double speed = 2;        // Mbit a second, which requests made together share
};

struct LoadingOptions {
  // Counted from 0, shown one after the other with what was fetched for those before; none for the
  // page at which a linearized file opens, or the first, and the one in the middle.
  std::vector<int> pages = {};
  Connection connection = {};
  // Bytes. A viewer that does not know where a thing ends asks for whole pieces of the file.
  std::uint64_t piece = 16'384;
};

// One request.
struct Fetch {
  std::uint64_t offset = 0;
  std::uint64_t length = 0;
  double begins = 0;  // seconds since the page was asked for
  double first_byte = 0;
  double ends = 0;
  bool operator==(const Fetch&) const = default;
};

struct PageLoading {
  int page = 0;                     // from 0
  std::vector<Fetch> fetches = {};  // in the order in which they are made; none when all was there
  std::uint64_t bytes = 0;
  double seconds = 0;  // until all has come
};

struct LoadingReport {
  bool is_by_hints = false;  // rather than by the cross references
  std::string because = {};  // why not, of a file that says it is linearized
  Connection connection = {};
  std::vector<PageLoading> pages = {};
  std::uint64_t file_bytes = 0;
  double whole_seconds = 0;  // for the whole file in one request
};

// Errors: invalid_argument for a page that is not there, a piece of no bytes, and a connection that
// is none; those of Document::open and Document::page.
LUMVET_EXPORT Result<LoadingReport> loading_of(const Document& document,
                                               const LoadingOptions& options = {});

}  // namespace lumvet
