// SPDX-License-Identifier: Apache-2.0
// Puts a new document together from parts of others.
//
// Threads: one thread at a time.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <vector>

#include "assemble/form_builder.h"
#include "assemble/source_copier.h"
#include "document/inside.h"
#include "document/outline_builder.h"
#include "lumvet/assemble/assembly.h"

namespace lumvet::assemble {

struct Part {
  Document document;
  std::vector<Page> pages;
  Carry carry;
  // On which page each page lies as a part of it, by that one's place among all pages of all parts;
  // none when there is none. Pages that lie on a sheet come before it.
  std::vector<std::optional<std::size_t>> sheets = {};

  std::optional<std::size_t> sheet_of(std::size_t page) const {
    return sheets.empty() ? std::nullopt : sheets[page];
  }
};

// A page that becomes a part of a sheet; the copies are in the ledger, with their annotations.
struct LaidPage {
  Page page;
  ObjectId copy;
  ObjectId sheet = {};
};
// Lays the pages onto their sheets, once everything else is in the ledger.
using LaysPages = std::function<Status(file::Ledger&, const std::vector<LaidPage>&)>;

class Binder {
 public:
  Binder(const std::vector<Part>& parts, const AssemblyOptions& options, LaysPages lays = {});

  // Errors: as Assembly::save's.
  Result<SaveReport> bind(const SaveOptions& options, ByteSink& sink);

 private:
  // A document, however many parts it has; its resources are copied once.
  struct Source {
    explicit Source(const Document& document, file::Ledger& ledger) : copier(document, ledger) {}
    SourceCopier copier;
    std::map<std::string, std::string> names;  // of its destinations, in the new document
    std::map<ObjectId, ObjectId> annotations;  // the first copy of each
    int links_lost = 0;
    int entries_lost = 0;
    int signatures = 0;
    int fields_left = 0;
  };

  Source& source_of(const Part& part) { return *sources_.at(&core_of(part.document)); }
  void announce_pages();
  void name_destinations();
  Status copy_pages(const SaveOptions& options);
  void add_outline(std::size_t part);
  Object labels();
  std::vector<LaidPage> laid_pages() const;
  void add_attachments(const Part& part);
  void take_firsts(const Part& part);
  // Adds to a list of the catalog what the part's own has.
  void join_list(const Part& part, std::string_view key);
  Object place_in_other_file(const Part& from, const std::string& file, const Object& destination);
  Object mark_info() const;
  void set_names_tree();
  std::vector<Finding> findings() const;

  const std::vector<Part>& parts_;
  file::Ledger ledger_;
  Dict root_;
  Object info_;
  std::shared_ptr<const security::SecurityHandler> lock_;  // of the first that has one
  std::string first_id_;                                   // of the same
  bool has_opening_ = false;
  std::map<const document::Core*, std::unique_ptr<Source>> sources_;
  std::vector<std::vector<ObjectId>> ids_;  // of the pages' copies, by part
  FormBuilder form_;
  std::vector<document::NewEntry> entries_;
  std::map<std::string, Object> destinations_;
  std::map<std::string, Object> attachments_;
  Object tree_;
  int pages_ = 0;               // of the tree
  std::set<ObjectId> in_tree_;  // the same
  LaysPages lays_;
};

}  // namespace lumvet::assemble
