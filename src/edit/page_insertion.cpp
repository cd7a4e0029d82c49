// SPDX-License-Identifier: Apache-2.0
#include "edit/page_insertion.h"

#include <algorithm>
#include <map>
#include <optional>
#include <utility>

#include "assemble/annotation_copier.h"
#include "assemble/carried_outline.h"
#include "assemble/equal_objects.h"
#include "assemble/layer_builder.h"
#include "assemble/structure_builder.h"
#include "assemble/used_resources.h"
#include "document/destinations.h"
#include "document/inside.h"
#include "document/name_tree.h"
#include "document/outline.h"
#include "document/tree_builder.h"

namespace lumvet::editing {
namespace {

class Insertion {
 public:
  Insertion(const Document& document, file::Ledger& ledger, Dict& catalog, const Document& other)
      : document_(document),
        core_(core_of(document)),
        ledger_(ledger),
        catalog_(catalog),
        other_(other),
        copier_(other, ledger),
        form_(ledger, catalog["AcroForm"]) {}

  Result<InsertedPages> run(const std::vector<int>& indices, int before) {
    std::vector<Page> pages;
    for (const int index : indices) {
      LUMVET_TRY(Page page, other_.page(index));
      ids_.push_back(ledger_.reserve());
      copier_.announce(0, page, ids_.back());
      pages.push_back(std::move(page));
    }
    take_named_places();
    LUMVET_RETURN_IF_ERROR(copy_pages(pages));
    catalog_.set("AcroForm", form_.finish());
    take_layers();
    take_structure();
    take_outline(before);
    take_attachments();
    raise_version(document_, other_, catalog_);
    tell();
    const auto labels = core_of(other_).labels();
    for (std::size_t i = 0; i < ids_.size(); ++i) {
      OrderedPage page{-1, ids_[i], {}};
      if (labels->are_given()) page.label = labels->label(indices[i]);
      result_.pages.push_back(std::move(page));
    }
    return std::move(result_);
  }

 private:
  Status copy_pages(const std::vector<Page>& pages) {
    std::vector<assemble::FormBuilder::Widget> widgets;
    for (std::size_t i = 0; i < pages.size(); ++i) {
      const Page& page = pages[i];
      copier_.copy_page(page, assemble::used_resources(other_, page), ids_[i], ObjectId());
      assemble::CopiedAnnotations copied =
          assemble::copy_annotations(copier_, ledger_, page, ids_[i], Carry());
      LUMVET_RETURN_IF_ERROR(assemble::draw_onto(ledger_, page, ids_[i], std::move(copied.marks)));
      annotations_.insert(copied.ids.begin(), copied.ids.end());
      widgets.insert(widgets.end(), copied.widgets.begin(), copied.widgets.end());
      links_lost_ += copied.links_lost;
      signatures_ += copied.signatures;
      if (ledger_.change_count() > store_of(other_).limits().objects)
        return Error(ErrorCode::limit,
                     "pages share so many annotations that their copies are beyond "
                     "Limits::objects");
    }
    form_.add(copier_, widgets);
    return Done{};
  }

  Dict names() const { return ledger_.resolve(catalog_["Names"]).as_dict(); }
  void set_names(std::string_view tree, const Object& root) {
    Dict all = names();
    all.set(tree, root);
    if (catalog_["Names"].is_reference())
      ledger_.set(catalog_["Names"].as_reference(), std::move(all));
    else
      catalog_.set("Names", std::move(all));
  }
  std::map<std::string, Object> entries_of(std::string_view tree) const {
    std::map<std::string, Object> entries;
    document::walk_tree(
        core_.store(), names()[tree], "Names",
        [&](const Object& key, const Object& value) { entries.emplace(key.as_string(), value); });
    return entries;
  }

  void take_named_places() {
    if (copier_.destinations().empty()) return;
    std::map<std::string, Object> own = entries_of("Dests");
    const Object old_kind = ledger_.resolve(catalog_["Dests"]);
    const std::size_t before = own.size();
    for (const auto& [name, place] : copier_.destinations()) {
      const Object copy = copier_.copied_destination(place);
      if (copy.is_null()) continue;
      const std::string free = document::free_name(name, [&](const std::string& taken) {
        return own.contains(taken) || old_kind.as_dict().contains(taken);
      });
      own.emplace(free, copy);
      place_names_.emplace(name, free);
    }
    copier_.set_names(&place_names_);
    if (own.size() > before) set_names("Dests", document::build_name_tree(ledger_, own));
  }

  void take_layers() {
    assemble::LayerBuilder layers;
    layers.add(copier_);
    catalog_.set("OCProperties", layers.finish(ledger_, catalog_["OCProperties"]));
  }

  // A document is marked while all in it is.
  void take_structure() {
    const auto mark_info = [](const objects::Resolver& resolver, const Object& stated) {
      return resolver.resolve(stated).as_dict();
    };
    const bool is_marked =
        store_of(other_)
            .resolve(mark_info(store_of(other_), other_.catalog()["MarkInfo"])["Marked"])
            .as_bool();
    Dict own = mark_info(ledger_, catalog_["MarkInfo"]);
    if (!is_marked && ledger_.get(own, "Marked").as_bool()) {
      own.set("Marked", false);
      catalog_.set("MarkInfo", std::move(own));
    }
    if (!other_.catalog().contains("StructTreeRoot")) return;
    assemble::StructureBuilder structure(ledger_, core_.store(), catalog_["StructTreeRoot"]);
    structure.add(copier_, annotations_);
    catalog_.set("StructTreeRoot", structure.finish());
  }

  // Before the first of the outermost entries that leads, itself or by those below it, to where the
  // pages come or to what follows.
  void take_outline(int before) {
    const assemble::CarriedOutline carried = assemble::carried_outline(copier_, 0, false);
    entries_lost_ = carried.lost;
    if (carried.entries.empty()) return;
    std::vector<document::NewEntry> own;
    std::size_t top = 0;  // the outermost entry that is being read
    std::optional<std::size_t> place;
    bool knows_page = false;  // of that one
    document::walk_outline(core_, [&](const Object&, const Dict& item, int depth) {
      const Object action = core_.store().resolve(item["A"]);
      const auto page = document::page_of_destination(
          core_, item.contains("Dest") ? item["Dest"] : action.as_dict()["D"]);
      if (depth == 0) {
        top = own.size();
        knows_page = false;
      }
      if (page && !std::exchange(knows_page, true) && !place && *page >= before) place = top;
      own.push_back(document::entry_of(core_.store(), item, depth));
    });
    own.insert(own.begin() + static_cast<std::ptrdiff_t>(place.value_or(own.size())),
               carried.entries.begin(), carried.entries.end());
    catalog_.set("Outlines", document::build_outline(ledger_, std::move(own)));
  }

  // Of the other document, and of this one.
  bool are_one_file(const objects::Resolver& others, const Object& theirs,
                    const Object& own) const {
    const auto bytes_of = [](const objects::Resolver& resolver, const Object& file) {
      const Object files = resolver.get(resolver.resolve(file).as_dict(), "EF");
      return resolver.get(files.as_dict(), "F");
    };
    const Object one = bytes_of(others, theirs);
    const Object other = bytes_of(ledger_, own);
    return one.is_stream() && other.is_stream() &&
           assemble::have_equal_bytes(*one.as_stream(), *other.as_stream());
  }

  void take_attachments() {
    const file::ObjectStore& store = store_of(other_);
    const Object theirs = store.get(other_.catalog(), "Names");
    if (!theirs.as_dict().contains("EmbeddedFiles")) return;
    std::map<std::string, Object> own = entries_of("EmbeddedFiles");
    document::walk_tree(
        store, theirs.as_dict()["EmbeddedFiles"], "Names",
        [&](const Object& key, const Object& file) {
          const std::string name(key.as_string());
          const auto known = own.find(name);
          if (known != own.end() && are_one_file(store, file, known->second)) return;
          const Object copy = copier_.copied(file);
          if (copy.is_null()) return;
          own.emplace(document::free_name(
                          name, [&](const std::string& other) { return own.contains(other); }),
                      copy);
        });
    set_names("EmbeddedFiles", document::build_name_tree(ledger_, own));
  }

  void tell() {
    const auto count = [&](int number, const char* one, const char* many, const char* what) {
      if (number > 0)
        result_.notes.push_back({other_.name() + ": " + std::to_string(number) + " " +
                                     (number == 1 ? one : many) + what,
                                 {},
                                 {}});
    };
    count(links_lost_, "link", "links", " to pages that were not taken along left out");
    count(entries_lost_, "entry of the outline leads", "entries of the outline lead",
          " to pages that were not taken along, and stayed behind");
    count(signatures_, "signature", "signatures",
          " can be seen, but no longer be verified: a signature is good for one document only");
    count(copier_.scripts_left_out(), "script", "scripts", " left out");
    count(form_.renamed(), "form field", "form fields",
          " got another name, since a field of the document has it");
  }

  const Document& document_;
  const document::Core& core_;
  file::Ledger& ledger_;
  Dict& catalog_;
  const Document& other_;
  assemble::SourceCopier copier_;
  assemble::FormBuilder form_;
  std::vector<ObjectId> ids_;
  std::map<std::string, std::string> place_names_;
  std::map<ObjectId, ObjectId> annotations_;
  int links_lost_ = 0;
  int entries_lost_ = 0;
  int signatures_ = 0;
  InsertedPages result_;
};

}  // namespace

Result<InsertedPages> insert_pages(const Document& document, file::Ledger& ledger, Dict& catalog,
                                   const Document& other, const std::vector<int>& indices,
                                   int before) {
  return Insertion(document, ledger, catalog, other).run(indices, before);
}

void raise_version(const Document& document, const Document& other, Dict& catalog) {
  if (other.version() > document.version()) catalog.set("Version", Object::name(other.version()));
}

}  // namespace lumvet::editing
