// SPDX-License-Identifier: Apache-2.0
#include "assemble/binder.h"

#include <algorithm>
#include <set>
#include <utility>

#include "assemble/annotation_copier.h"
#include "assemble/article_builder.h"
#include "assemble/carried_outline.h"
#include "assemble/equal_objects.h"
#include "assemble/layer_builder.h"
#include "assemble/structure_builder.h"
#include "assemble/used_resources.h"
#include "document/destinations.h"
#include "document/inside.h"
#include "document/label_builder.h"
#include "document/name_tree.h"
#include "document/outline.h"
#include "document/tree_builder.h"
#include "objects/text_string.h"
#include "save/full_writer.h"
#include "save/page_tree_builder.h"

namespace lumvet::assemble {
namespace {

namespace fs = std::filesystem;

std::string count_of(int count, const char* one, const char* many) {
  return std::to_string(count) + " " + (count == 1 ? one : many);
}

}  // namespace

Binder::Binder(const std::vector<Part>& parts, const AssemblyOptions& options, LaysPages lays)
    : parts_(parts),
      ids_(parts.size()),
      form_(ledger_, options.join_fields),
      lays_(std::move(lays)) {
  for (const Part& part : parts_) {
    auto& source = sources_[&core_of(part.document)];
    if (!source) source = std::make_unique<Source>(part.document, ledger_);
  }
}

Result<SaveReport> Binder::bind(const SaveOptions& options, ByteSink& sink) {
  for (const Part& part : parts_) {
    if (lock_ || !part.document.encryption()) continue;
    lock_ = store_of(part.document).security();
    first_id_ = saving::first_id(part.document);
  }
  const ObjectId catalog = ledger_.reserve();
  root_ = Dict{{"Type", Object::name("Catalog")}};
  announce_pages();
  name_destinations();
  LUMVET_RETURN_IF_ERROR(copy_pages(options));
  std::string version = "1.4";  // outlines, labels, attachments and XMP need no more
  LayerBuilder layers;
  StructureBuilder structure(ledger_);
  ArticleBuilder articles(ledger_);
  std::set<const document::Core*> with_layers;
  std::set<const document::Core*> with_structure;
  std::set<const document::Core*> with_articles;
  for (std::size_t p = 0; p < parts_.size(); ++p) {
    const Part& part = parts_[p];
    version = std::max(version, part.document.version());
    add_outline(p);
    if (part.carry.attachments) add_attachments(part);
    take_firsts(part);
    if (part.carry.layers && with_layers.insert(&core_of(part.document)).second)
      layers.add(source_of(part).copier);
    if (part.carry.structure && with_structure.insert(&core_of(part.document)).second)
      structure.add(source_of(part).copier, source_of(part).annotations);
    if (part.carry.articles && with_articles.insert(&core_of(part.document)).second)
      articles.add(source_of(part).copier, in_tree_);
  }
  root_.set("Pages", tree_);
  root_.set("PageLabels", labels());
  root_.set("AcroForm", form_.finish());
  root_.set("OCProperties", layers.finish(ledger_));
  root_.set("StructTreeRoot", structure.finish());
  root_.set("Threads", articles.finish());
  if (root_.contains("StructTreeRoot")) root_.set("MarkInfo", mark_info());
  if (const Object outline = document::build_outline(ledger_, std::move(entries_));
      !outline.is_null()) {
    root_.set("Outlines", outline);
    if (!root_.contains("PageMode")) root_.set("PageMode", Object::name("UseOutlines"));
  }
  set_names_tree();
  ledger_.set(catalog, root_);
  if (lays_) LUMVET_RETURN_IF_ERROR(lays_(ledger_, laid_pages()));
  join_equal_objects(ledger_);

  SaveReport report;
  LUMVET_TRY(report.bytes,
             saving::write_full({ledger_, Object(catalog), info_, version, first_id_, lock_},
                                options, sink));
  report.pages = pages_;
  report.findings = findings();
  saving::note_weak_lock(options, report.findings);
  return report;
}

void Binder::announce_pages() {
  for (std::size_t p = 0; p < parts_.size(); ++p) {
    Source& source = source_of(parts_[p]);
    for (const Page& page : parts_[p].pages) {
      ids_[p].push_back(ledger_.reserve());
      source.copier.announce(static_cast<int>(p), page, ids_[p].back());
    }
  }
}

void Binder::name_destinations() {
  for (std::size_t p = 0; p < parts_.size(); ++p) {
    if (!parts_[p].carry.destinations) continue;
    Source& source = source_of(parts_[p]);
    source.copier.enter(static_cast<int>(p));
    for (const auto& [name, place] : source.copier.destinations()) {
      if (source.names.contains(name)) continue;  // of the same document in an earlier part
      const Object copy = source.copier.copied_destination(place);
      if (copy.is_null()) continue;
      const std::string own = document::free_name(
          name, [this](const std::string& other) { return destinations_.contains(other); });
      destinations_.emplace(own, copy);
      source.names.emplace(name, own);
    }
  }
  for (const auto& [core, source] : sources_) source->copier.set_names(&source->names);
}

// A place in another file that is bound as well.
Object Binder::place_in_other_file(const Part& from, const std::string& file,
                                   const Object& destination) {
  const fs::path wanted = (fs::path(from.document.name()).parent_path() / file).lexically_normal();
  const auto lies_at = [&](const Part& part) {
    return fs::path(part.document.name()).lexically_normal() == wanted;
  };
  const auto is_called = [&](const Part& part) {
    return fs::path(part.document.name()).filename() == wanted.filename();
  };
  auto part = std::find_if(parts_.begin(), parts_.end(), lies_at);
  if (part == parts_.end()) part = std::find_if(parts_.begin(), parts_.end(), is_called);
  return part == parts_.end() ? Object() : source_of(*part).copier.copied_destination(destination);
}

Status Binder::copy_pages(const SaveOptions& options) {
  for (const Part& part : parts_)
    for (std::size_t i = 0; i < part.pages.size(); ++i) pages_ += part.sheet_of(i) ? 0 : 1;
  saving::PageTreeBuilder tree(ledger_);
  for (std::size_t p = 0; p < parts_.size(); ++p) {
    const Part& part = parts_[p];
    Source& source = source_of(part);
    source.copier.enter(static_cast<int>(p));
    source.copier.set_remote([this, &part](const std::string& file, const Object& destination) {
      return place_in_other_file(part, file, destination);
    });
    std::vector<FormBuilder::Widget> widgets;
    for (std::size_t i = 0; i < part.pages.size(); ++i) {
      if (options.cancel.is_cancelled())
        return Error(ErrorCode::cancelled, "binding was cancelled; nothing was written");
      const Page& page = part.pages[i];
      const bool is_all = static_cast<int>(part.pages.size()) >= part.document.page_count();
      const Object resources =
          is_all ? page.dict()["Resources"] : used_resources(part.document, page);
      const bool is_laid = part.sheet_of(i).has_value();
      const ObjectId copy = ids_[p][i];
      source.copier.copy_page(page, resources, copy, is_laid ? ObjectId() : tree.add(copy));
      if (!is_laid) in_tree_.insert(copy);
      CopiedAnnotations copied = copy_annotations(source.copier, ledger_, page, copy, part.carry);
      LUMVET_RETURN_IF_ERROR(draw_onto(ledger_, page, copy, std::move(copied.marks)));
      source.annotations.insert(copied.ids.begin(), copied.ids.end());
      widgets.insert(widgets.end(), copied.widgets.begin(), copied.widgets.end());
      if (ledger_.change_count() > store_of(part.document).limits().objects)
        return Error(ErrorCode::limit,
                     "pages share so many annotations that their copies are "
                     "beyond Limits::objects");
      source.links_lost += copied.links_lost;
      source.signatures += copied.signatures;
      source.fields_left += copied.fields_left;
    }
    form_.add(source.copier, widgets);
  }
  tree_ = tree.finish();
  return Done{};
}

void Binder::add_outline(std::size_t p) {
  const Part& part = parts_[p];
  Source& source = source_of(part);
  SourceCopier& copier = source.copier;
  copier.enter(static_cast<int>(p));
  int depth_of_all = 0;
  if (!part.carry.heading.empty() && !ids_[p].empty()) {
    Dict item{{"Title", Object::string(objects::utf8_to_text(part.carry.heading))},
              {"Dest", Array{Object(ids_[p].front()), Object::name("Fit")}}};
    entries_.push_back({std::move(item), 0, false});
    depth_of_all = 1;
  }
  if (!part.carry.outlines) return;
  CarriedOutline carried = carried_outline(copier, depth_of_all, part.carry.lost_entries);
  source.entries_lost += carried.lost;
  entries_.insert(entries_.end(), carried.entries.begin(), carried.entries.end());
}

// Runs of pages that are numbered on: those of sources that say how, and others as they are
// counted.
Object Binder::labels() {
  using Label = document::PageLabels::Label;
  const bool any = std::any_of(parts_.begin(), parts_.end(), [](const Part& part) {
    return part.carry.labels && core_of(part.document).labels()->are_given();
  });
  if (!any) return Object();
  std::vector<Label> all;
  std::size_t place = 0;                                          // among all pages
  std::map<std::size_t, std::pair<std::string, std::string>> on;  // first and last, by sheet
  for (const Part& part : parts_) {
    const auto labels = core_of(part.document).labels();
    const document::PageLabels& own = *labels;
    const bool has_own = part.carry.labels && own.are_given();
    for (std::size_t i = 0; i < part.pages.size(); ++i, ++place) {
      const int page = part.pages[i].index();
      Label label =
          has_own ? own.label(page) : Label{"D", {}, static_cast<std::int64_t>(all.size()) + 1};
      // A sheet is called by what lies on it.
      const auto sheet = on.find(place);
      if (sheet != on.end()) {
        const auto& [first, last] = sheet->second;
        label = {"", first == last ? first : first + "–" + last, 1};
      }
      if (part.sheet_of(i)) {
        if (!has_own && sheet == on.end()) continue;
        auto& [first, last] = on[*part.sheet_of(i)];
        last = label.text();
        if (first.empty()) first = last;
        continue;
      }
      all.push_back(std::move(label));
    }
  }
  return document::build_page_labels(ledger_, all);
}

std::vector<LaidPage> Binder::laid_pages() const {
  std::vector<ObjectId> all;
  for (const std::vector<ObjectId>& ids : ids_) all.insert(all.end(), ids.begin(), ids.end());
  std::vector<LaidPage> laid;
  for (std::size_t p = 0; p < parts_.size(); ++p)
    for (std::size_t i = 0; i < parts_[p].pages.size(); ++i)
      if (const auto sheet = parts_[p].sheet_of(i))
        laid.push_back({parts_[p].pages[i], ids_[p][i], all[*sheet]});
  return laid;
}

void Binder::add_attachments(const Part& part) {
  Source& source = source_of(part);
  const file::ObjectStore& store = store_of(part.document);
  const Object names = store.get(part.document.catalog(), "Names");
  document::walk_tree(
      store, names.as_dict()["EmbeddedFiles"], "Names", [&](const Object& key, const Object& file) {
        const Object copy = source.copier.copied(file);
        const std::string name(key.as_string());
        const auto same = attachments_.find(name);
        if (copy.is_null() || (same != attachments_.end() && same->second == copy)) return;
        attachments_.emplace(
            document::free_name(name,
                                [this](const std::string& n) { return attachments_.contains(n); }),
            copy);
      });
  join_list(part, "AF");
}

void Binder::join_list(const Part& part, std::string_view key) {
  const Object own = store_of(part.document).get(part.document.catalog(), key);
  Array all = root_[key].as_array();
  for (const Object& item : own.as_array()) {
    Object copy = source_of(part).copier.copied(item);
    if (!copy.is_null() && std::find(all.begin(), all.end(), copy) == all.end())
      all.push_back(std::move(copy));
  }
  if (!all.empty()) root_.set(key, std::move(all));
}

// What a document has once: of the first part that has it and may bring it.
void Binder::take_firsts(const Part& part) {
  const Document& document = part.document;
  SourceCopier& copier = source_of(part).copier;
  const Dict& catalog = document.catalog();
  const auto take = [&](std::string_view key) {
    if (!root_.contains(key) && catalog.contains(key)) root_.set(key, copier.copied(catalog[key]));
  };
  if (part.carry.metadata && info_.is_null()) {
    const Object own = store_of(document).resolve(document.trailer()["Info"]);
    Dict kept;
    for (const std::string_view key : {"Title", "Author", "Subject", "Keywords"})
      kept.set(key, store_of(document).resolve(own.as_dict()[key]));
    if (!kept.is_empty()) {
      info_ = ledger_.add(std::move(kept));
      take("Metadata");
    }
  }
  if (part.carry.opening && !std::exchange(has_opening_, true)) {
    for (const std::string_view key : {"ViewerPreferences", "PageLayout", "Lang"}) take(key);
    if (!store_of(document).resolve(catalog["PageMode"]).is_name("UseNone")) take("PageMode");
    const Object open = store_of(document).resolve(catalog["OpenAction"]);
    if (open.is_array()) root_.set("OpenAction", copier.copied_destination(open));
    if (store_of(document).resolve(open.as_dict()["S"]).is_name("GoTo"))
      root_.set("OpenAction", copier.copied(open));
  }
  if (part.carry.output_intents) take("OutputIntents");
  // How the files are shown goes with them; what one part needs of a reader, all need.
  if (part.carry.attachments) take("Collection");
  join_list(part, "Requirements");
}

// A document is marked when all that it was made of is.
Object Binder::mark_info() const {
  const bool all = std::all_of(parts_.begin(), parts_.end(), [](const Part& part) {
    const Object info = store_of(part.document).resolve(part.document.catalog()["MarkInfo"]);
    return part.carry.structure &&
           store_of(part.document).resolve(info.as_dict()["Marked"]).as_bool();
  });
  return all ? Object(Dict{{"Marked", true}}) : Object();
}

void Binder::set_names_tree() {
  Dict names;
  names.set("Dests", document::build_name_tree(ledger_, destinations_));
  names.set("EmbeddedFiles", document::build_name_tree(ledger_, attachments_));
  if (!names.is_empty()) root_.set("Names", std::move(names));
}

std::vector<Finding> Binder::findings() const {
  std::vector<Finding> findings;
  std::set<const document::Core*> told;
  for (const Part& part : parts_) {
    if (!told.insert(&core_of(part.document)).second) continue;
    const Source& source = *sources_.at(&core_of(part.document));
    const std::string name = part.document.name();
    for (const Finding& finding : part.document.findings())
      findings.push_back({name + ": " + finding.what, finding.offset, finding.object});
    const auto tell = [&](const std::string& what) { findings.push_back({what, {}, {}}); };
    const auto& own = store_of(part.document).security();
    if (own && lock_ && own->dictionary() != lock_->dictionary())
      tell(name + " is protected otherwise than the new document, which is as the first was");
    const auto count = [&](int number, const char* one, const char* many, const char* what) {
      if (number > 0) tell(name + ": " + count_of(number, one, many) + what);
    };
    count(source.links_lost, "link", "links", " to pages that were not taken along left out");
    count(source.entries_lost, "entry of the outline leads", "entries of the outline lead",
          part.carry.lost_entries ? " nowhere, since their pages were not taken along"
                                  : " to pages that were not taken along, and stayed behind");
    count(source.fields_left, "form field", "form fields", " can be seen but no longer filled in");
    count(source.signatures, "signature", "signatures",
          " can be seen, but no longer be verified: a signature is good for one document only");
    count(source.copier.scripts_left_out(), "script", "scripts", " left out");
  }
  if (form_.renamed() > 0)
    findings.push_back({count_of(form_.renamed(), "form field", "form fields") +
                            " got another name, since a field of another document has it",
                        {},
                        {}});
  return findings;
}

}  // namespace lumvet::assemble
