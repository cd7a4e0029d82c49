// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/assembly.h"

#include <algorithm>
#include <map>

#include "assemble/outline_builder.h"
#include "assemble/page_copier.h"
#include "document/core.h"
#include "file/ledger.h"
#include "save/full_writer.h"
#include "save/page_tree_builder.h"

namespace lumvet {
namespace {

struct Part {
  Document document;
  std::vector<Page> pages;
  Carry carry;
};

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
  saving::PageTreeBuilder tree(ledger, static_cast<std::size_t>(impl_->page_count));

  SaveReport report;
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
      copiers[&part.document.core()]->copy(part.pages[i], ids[p][i], tree.add(ids[p][i]));
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
  Dict root{{"Type", Object::name("Catalog")}, {"Pages", tree.finish()}};
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
    if (part.document.encryption())
      report.findings.push_back(
          {part.document.name() + " is protected; the new document is not", {}, {}});
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
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

}  // namespace lumvet
