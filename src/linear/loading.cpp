// SPDX-License-Identifier: Apache-2.0
#include "lumvet/linear/loading.h"

#include <algorithm>
#include <set>

#include "base/attempt.h"
#include "document/inside.h"
#include "linear/fetched_source.h"
#include "linear/linear_file.h"
#include "linear/page_needs.h"
#include "lumvet/linear/linear_check.h"

namespace lumvet {
namespace {

using linear::FetchedSource;
using linear::Need;
using linear::Ranges;
using linear::Turns;

double seconds_of(std::uint64_t bytes, const Connection& connection) {
  constexpr double kBits = 8;
  constexpr double kMega = 1e6;
  return static_cast<double>(bytes) * kBits / (connection.speed * kMega);
}

double seconds_of_turn(const Connection& connection) {
  constexpr double kMilli = 1e-3;
  return connection.round_trip * kMilli;
}

PageLoading timed(int page, const Turns& turns, const Connection& connection) {
  PageLoading loading{.page = page, .fetches = {}};
  for (const Ranges& turn : turns) {
    const auto ranges = turn.all();
    if (ranges.empty()) continue;
    const double begins = loading.seconds;
    loading.seconds += seconds_of_turn(connection);
    for (const auto& [begin, end] : ranges) {
      const double first_byte = loading.seconds;
      loading.seconds += seconds_of(end - begin, connection);
      loading.bytes += end - begin;
      loading.fetches.push_back({begin, end - begin, begins, first_byte, loading.seconds});
    }
  }
  return loading;
}

// What the page leads to, level by level: what one level names can be asked for together.
Status read_page(const Document& document, FetchedSource& source, int index) {
  const file::ObjectStore& store = store_of(document);
  LUMVET_TRY(const Page page, document.page(index));
  std::vector<Need> level = linear::needs_of_page(page.dict());
  std::set<ObjectId> seen;
  while (!level.empty()) {
    const std::size_t turn = source.turns();
    std::vector<Need> next;
    for (const Need& need : level) {
      if (!seen.insert(need.id).second) continue;
      source.begin_at(turn);
      const Object object = store.resolve(Object(need.id));
      if (linear::is_no_part_of_page(object)) continue;
      if (object.is_stream()) LUMVET_RETURN_IF_ERROR(object.as_stream()->encoded());
      const std::vector<Need> inner = linear::needs_of(object, need.by);
      next.insert(next.end(), inner.begin(), inner.end());
    }
    level = std::move(next);
  }
  return Done{};
}

class HintedLoading {
 public:
  HintedLoading(const Document& document, linear::LinearFile file, linear::HintTables tables,
                std::uint64_t piece)
      : file_(std::move(file)),
        tables_(std::move(tables)),
        pages_(file_.page_ranges(tables_)),
        groups_(file_.group_ranges(tables_)),
        header_(store_of(document).header().offset),
        size_(document.file_size()),
        piece_(piece) {}

  int first_page() const { return static_cast<int>(file_.first_page()); }

  // The first page is asked for with the beginning of the file, which says where it ends; any other
  // with the groups that it uses.
  Turns turns(int page) {
    Turns turns(2);
    if (!has_begun_) {
      has_begun_ = true;
      fetch(0, std::min(size_, piece_), turns[0]);
      const std::uint64_t hints = file_.hints_at() + file_.hints_size();
      fetch(0, std::max(file_.number("E"), hints) + header_, turns[1]);
      if (page != first_page()) turns.emplace_back();
    }
    const auto index = static_cast<std::size_t>(page);
    fetch(pages_[index].begin + header_, pages_[index].end + header_, turns.back());
    for (const std::uint64_t group : tables_.pages[index].shared)
      if (group < groups_.size())
        fetch(groups_[group].begin + header_, groups_[group].end + header_, turns.back());
    return turns;
  }

 private:
  void fetch(std::uint64_t begin, std::uint64_t end, Ranges& turn) {
    for (const auto& [from, to] : there_.missing(begin, std::min(end, size_))) {
      turn.add(from, to);
      there_.add(from, to);
    }
  }

  linear::LinearFile file_;
  linear::HintTables tables_;
  std::vector<linear::FileRange> pages_;
  std::vector<linear::FileRange> groups_;
  std::uint64_t header_;
  std::uint64_t size_;
  std::uint64_t piece_;
  bool has_begun_ = false;
  Ranges there_;
};

// The file's hint tables; or why they do not count, in `because`.
Result<std::optional<HintedLoading>> hinted(const Document& document, std::uint64_t piece,
                                            std::string& because) {
  using Hinted = std::optional<HintedLoading>;
  auto file = linear::LinearFile::of(document);
  if (!file) return Hinted();
  LUMVET_TRY(const LinearCheck check, check_linearized(document));
  if (check.state == LinearCheck::State::was_once) {
    because = "it was updated since it was linearized";
    return Hinted();
  }
  if (document.was_repaired()) because = "it is damaged";
  if (!check.differences.empty()) because = "its tables are wrong: " + check.differences.front();
  auto tables = file->tables(document);
  if (!tables.ok() && because.empty()) because = tables.error().message();
  if (!because.empty()) return Hinted();
  return Hinted(HintedLoading(document, *std::move(file), *std::move(tables), piece));
}

Status check(const LoadingOptions& options) {
  if (options.piece == 0)
    return Error(ErrorCode::invalid_argument, "a file is fetched in pieces of at least 1 byte");
  if (!(options.connection.round_trip >= 0) || !(options.connection.speed > 0))
    return Error(ErrorCode::invalid_argument,
                 "a connection has a round trip of 0 milliseconds or more and a speed above 0");
  return Done{};
}

}  // namespace

Result<LoadingReport> loading_of(const Document& document, const LoadingOptions& options) {
  return attempted([&]() -> Result<LoadingReport> {
    LUMVET_RETURN_IF_ERROR(check(options));
    LoadingReport report;
    report.connection = options.connection;
    report.file_bytes = document.file_size();
    report.whole_seconds =
        seconds_of_turn(options.connection) + seconds_of(report.file_bytes, options.connection);
    LUMVET_TRY(std::optional<HintedLoading> hints, hinted(document, options.piece, report.because));
    report.is_by_hints = hints.has_value();
    std::vector<int> pages = options.pages;
    if (pages.empty()) {
      pages = {hints ? hints->first_page() : 0};
      if (const int middle = document.page_count() / 2; middle != pages.front())
        pages.push_back(middle);
    }
    for (const int page : pages)
      if (page < 0 || page >= document.page_count())
        return Error(ErrorCode::invalid_argument, "there is no page " + std::to_string(page + 1) +
                                                      "; the document has " +
                                                      std::to_string(document.page_count()));
    if (hints) {
      for (const int page : pages)
        report.pages.push_back(timed(page, hints->turns(page), options.connection));
      return report;
    }
    const auto source = std::make_shared<FetchedSource>(store_of(document).source(), options.piece);
    LUMVET_TRY(const Document fetched, document::read_from(document, source));
    for (const int page : pages) {
      LUMVET_RETURN_IF_ERROR(read_page(fetched, *source, page));
      report.pages.push_back(timed(page, source->take(), options.connection));
    }
    return report;
  });
}

}  // namespace lumvet
