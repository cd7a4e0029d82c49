// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/assembly.h"

#include <algorithm>
#include <map>

#include "assemble/outline_builder.h"
#include "assemble/page_copier.h"
#include "document/core.h"
#include "file/ledger.h"
#include "save/full_writer.h"

namespace lumvet {
namespace {

// Pages per inner node of the tree, so that a reader finds one page of many quickly.
constexpr std::size_t kFanOut = 32;

struct Part {
  Document document;
  std::vector<Page> pages;
  Carry carry;
};

// A level of the page tree above the given nodes; goes up until one node is left.
ObjectId build_tree(file::Ledger& ledger, std::vector<std::pair<ObjectId, int>> nodes,
                    const std::vector<ObjectId>& first_parents) {
  std::vector<ObjectId> parents = first_parents;
  for (;;) {
    std::vector<std::pair<ObjectId, int>> above;
    std::vector<ObjectId> grandparents;
    if (parents.size() > 1)
      for (std::size_t i = 0; i < (parents.size() + kFanOut - 1) / kFanOut; ++i)
        grandparents.push_back(ledger.reserve());
    for (std::size_t i = 0; i < parents.size(); ++i) {
      Array kids;
      int count = 0;
      for (std::size_t k = i * kFanOut; k < std::min(nodes.size(), (i + 1) * kFanOut); ++k) {
        kids.push_back(nodes[k].first);
        count += nodes[k].second;
      }
      Dict node{{"Type", Object::name("Pages")}, {"Kids", std::move(kids)}, {"Count", count}};
      if (!grandparents.empty()) node.set("Parent", grandparents[i / kFanOut]);
      ledger.set(parents[i], std::move(node));
      above.emplace_back(parents[i], count);
    }
    if (grandparents.empty()) return parents[0];
    nodes = std::move(above);
    parents = std::move(grandparents);
  }
}

// Entries of a part's outline that lead to pages taken along.
void add_entries(const Part& part, const std::vector<ObjectId>& ids,
                 std::vector<assemble::NewEntry>& out) {
  std::map<int, ObjectId> page_ids;
  for (std::size_t i = 0; i < part.pages.size(); ++i)
    page_ids.emplace(part.pages[i].index(), ids[i]);
  // Where a branch is left out, what is below it moves up.
  std::vector<int> kept_depths;
  for (const OutlineEntry& entry : part.document.outline()) {
    while (!kept_depths.empty() && kept_depths.back() >= entry.depth) kept_depths.pop_back();
    const auto page = entry.page ? page_ids.find(*entry.page) : page_ids.end();
    if (page == page_ids.end()) continue;
    out.push_back({entry.title, static_cast<int>(kept_depths.size()), page->second});
    kept_depths.push_back(entry.depth);
  }
}

std::string plural(int count, const char* one, const char* many) {
  return std::to_string(count) + " " + (count == 1 ? one : many);
}

}  // namespace

struct Assembly::Impl {
  std::vector<Part> parts;
  int page_count = 0;
};

Assembly::Assembly() : impl_(std::make_unique<Impl>()) {}
Assembly::Assembly(Assembly&&) noexcept = default;
Assembly& Assembly::operator=(Assembly&&) noexcept = default;
Assembly::~Assembly() = default;

int Assembly::page_count() const { return impl_->page_count; }

Status Assembly::add(const Document& document, const PageSelection& pages, const Carry& carry) {
  Result<std::vector<int>> indices = pages.in(document.page_count());
  if (!indices.ok()) return std::move(indices).error().during("taking pages of " + document.name());
  Part part{document, {}, carry};
  for (const int index : *indices) {
    Result<Page> page = document.page(index);
    if (!page.ok()) return std::move(page).error().during("taking pages of " + document.name());
    part.pages.push_back(*std::move(page));
  }
  impl_->page_count += static_cast<int>(part.pages.size());
  impl_->parts.push_back(std::move(part));
  return Done{};
}

Result<SaveReport> Assembly::save(ByteSink& sink, const SaveOptions& options) const {
  if (impl_->page_count == 0)
    return Error(ErrorCode::invalid_argument, "there are no pages to bind; add a document first");
  file::Ledger ledger;
  const ObjectId catalog = ledger.reserve();
  const auto total = static_cast<std::size_t>(impl_->page_count);
  std::vector<ObjectId> parents;
  for (std::size_t i = 0; i < (total + kFanOut - 1) / kFanOut; ++i)
    parents.push_back(ledger.reserve());

  SaveReport report;
  std::vector<std::pair<ObjectId, int>> leaves;
  std::vector<assemble::NewEntry> entries;
  std::string version = "1.7";
  Object info;
  // The same document added twice shares one copier, so that its resources are written once.
  std::map<const document::Core*, std::unique_ptr<assemble::PageCopier>> copiers;
  std::vector<std::vector<ObjectId>> ids(impl_->parts.size());
  for (std::size_t p = 0; p < impl_->parts.size(); ++p) {
    const Part& part = impl_->parts[p];
    auto& copier = copiers[&part.document.core()];
    if (!copier) copier = std::make_unique<assemble::PageCopier>(part.document, ledger);
    for (const Page& page : part.pages) {
      ids[p].push_back(ledger.reserve());
      copier->announce(page, ids[p].back());
    }
  }
  for (std::size_t p = 0; p < impl_->parts.size(); ++p) {
    const Part& part = impl_->parts[p];
    for (std::size_t i = 0; i < part.pages.size(); ++i) {
      if (options.cancel.is_cancelled())
        return Error(ErrorCode::cancelled, "binding was cancelled; nothing was written");
      copiers[&part.document.core()]->copy(part.pages[i], ids[p][i],
                                           parents[leaves.size() / kFanOut]);
      leaves.emplace_back(ids[p][i], 1);
    }
    version = std::max(version, part.document.version());
    if (part.carry.outlines) add_entries(part, ids[p], entries);
    if (part.carry.metadata && info.is_null()) {
      const Object own = part.document.resolve(part.document.trailer()["Info"]);
      Dict kept;
      for (const std::string_view key : {"Title", "Author", "Subject", "Keywords"})
        kept.set(key, part.document.resolve(own.as_dict()[key]));
      if (!kept.is_empty()) info = ledger.add(std::move(kept));
    }
  }
  Dict root{{"Type", Object::name("Catalog")},
            {"Pages", build_tree(ledger, std::move(leaves), parents)}};
  if (const Object outline = assemble::build_outline(ledger, entries); !outline.is_null()) {
    root.set("Outlines", outline);
    root.set("PageMode", Object::name("UseOutlines"));
  }
  ledger.set(catalog, std::move(root));

  LUMVET_TRY(report.bytes,
             saving::write_full({ledger, Object(catalog), info, version, {}}, options, sink));
  report.pages = impl_->page_count;
  for (const auto& part : impl_->parts) {
    const auto copier = copiers.find(&part.document.core());
    if (copier == copiers.end()) continue;
    for (const Finding& finding : part.document.findings())
      report.findings.push_back(
          {part.document.name() + ": " + finding.what, finding.offset, finding.object});
    if (const int links = copier->second->links_left_out(); links > 0)
      report.findings.push_back({part.document.name() + ": " + plural(links, "link", "links") +
                                     " to pages that were not taken along left out",
                                 {},
                                 {}});
    if (const int fields = copier->second->fields_left_behind(); fields > 0)
      report.findings.push_back({part.document.name() + ": " +
                                     plural(fields, "form field", "form fields") +
                                     " can be seen but no longer filled in",
                                 {},
                                 {}});
    copiers.erase(copier);
  }
  return report;
}

Result<SaveReport> Assembly::save(const std::filesystem::path& path,
                                  const SaveOptions& options) const {
  SaveReport report;
  const auto write = [&](ByteSink& sink) -> Result<std::uint64_t> {
    LUMVET_TRY(report, save(sink, options));
    return report.bytes;
  };
  Result<std::uint64_t> written = saving::write_file(path, options, write);
  if (!written.ok()) return std::move(written).error().during("saving " + path.string());
  report.path = path;
  return report;
}

}  // namespace lumvet
