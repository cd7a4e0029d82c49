// SPDX-License-Identifier: Apache-2.0
#include "lumvet/draw/new_document.h"

#include <algorithm>
#include <map>

#include "assemble/equal_objects.h"
#include "crypto/base64.h"
#include "document/geometry_objects.h"
#include "document/outline_builder.h"
#include "document/tree_builder.h"
#include "draw/drawing_writer.h"
#include "draw/tag_tree.h"
#include "lumvet/edit/editable_document.h"
#include "objects/text_string.h"
#include "save/full_writer.h"
#include "save/page_tree_builder.h"

namespace lumvet {
namespace {

using document::array_of;
using draw::DrawingData;

class Writing {
 public:
  Writing(const NewDocumentOptions& options, const std::deque<Drawing>& pages)
      : options_(options),
        pages_(pages),
        tree_(ledger_, pages.size()),
        writer_(ledger_),
        tags_(ledger_) {}

  Status write() {
    const ObjectId catalog = ledger_.reserve();
    ids_.reserve(pages_.size());
    for (const Drawing& page : pages_) {
      const DrawingData& drawing = *draw::data_of(page);
      is_tagged_ |= options_.is_tagged && !drawing.tags.empty();
      const ObjectId id = ledger_.reserve();
      for (const draw::NamedPlace& place : drawing.places)
        places_.emplace(place.name, place_array(id, drawing, place.at.x, place.at.y));
      ids_.push_back(id);
    }
    for (std::size_t i = 0; i < pages_.size(); ++i) {
      const Status added = add_page(i);
      if (!added.ok()) return Error(added.error()).during("drawing page " + std::to_string(i + 1));
    }
    Dict root{{"Type", Object::name("Catalog")}, {"Pages", tree_.finish()}};
    LUMVET_RETURN_IF_ERROR(writer_.finish(root));
    if (is_tagged_) tags_.finish(root);
    if (!options_.language.empty()) root.set("Lang", Object::string(options_.language));
    if (!places_.empty()) root.set("Names", Dict{{"Dests", name_tree()}});
    root.set("Outlines", document::build_outline(ledger_, std::move(outline_)));
    ledger_.set(catalog, Object(std::move(root)));
    assemble::join_equal_objects(ledger_, 0);
    catalog_ = Object(catalog);
    return Done{};
  }

  // Once it is written. Errors: as saving::write_full's.
  Result<std::uint64_t> save(const SaveOptions& options, ByteSink& sink) {
    return saving::write_full({ledger_, catalog_, info(), "1.7", {}}, options, sink);
  }

 private:
  Object info() {
    Dict dict;
    const auto put = [&](const char* key, const std::string& text) {
      if (!text.empty()) dict.set(key, Object::string(objects::utf8_to_text(text)));
    };
    put("Title", options_.title);
    put("Author", options_.author);
    put("Subject", options_.subject);
    put("Keywords", options_.keywords);
    return dict.size() > 0 ? Object(ledger_.add(std::move(dict))) : Object();
  }

  static Array place_array(ObjectId page, const DrawingData& drawing, double left, double top) {
    return Array{Object(page), Object::name("XYZ"), Object(std::clamp(left, 0.0, drawing.width)),
                 Object(std::clamp(top, 0.0, drawing.height)), Object()};
  }

  Status add_page(std::size_t index) {
    const DrawingData& drawing = *draw::data_of(pages_[index]);
    const ObjectId id = ids_[index];
    LUMVET_TRY(draw::WrittenContent content, writer_.content_of(drawing, is_tagged_));
    Dict page{{"Type", Object::name("Page")},
              {"Parent", tree_.add(id)},
              {"MediaBox", array_of({0, 0, drawing.width, drawing.height})},
              {"Resources", Object(std::move(content.resources))},
              {"Contents", ledger_.add(Stream::of(
                               {}, Bytes(content.operators.begin(), content.operators.end())))}};
    if (is_tagged_) {
      page.set("StructParents", tags_.add_page(id, drawing, content.marks));
      page.set("Tabs", Object::name("S"));
    }
    Array annotations;
    for (const draw::Link& link : drawing.links) {
      LUMVET_TRY(Dict annotation, annotation_of(link));
      const ObjectId own = ledger_.reserve();
      if (is_tagged_) annotation.set("StructParent", tags_.add_link(own, id, link.tag));
      ledger_.set(own, Object(std::move(annotation)));
      annotations.push_back(own);
    }
    if (!annotations.empty()) page.set("Annots", Object(std::move(annotations)));
    for (const draw::OutlineLine& line : drawing.outline)
      outline_.push_back({Dict{{"Title", Object::string(objects::utf8_to_text(line.title))},
                               {"Dest", Object(place_array(id, drawing, 0, line.top))}},
                          std::max(line.depth, 0), false});
    ledger_.set(id, Object(std::move(page)));
    return Done{};
  }

  Result<Dict> annotation_of(const draw::Link& link) {
    Dict dict{{"Type", Object::name("Annot")},
              {"Subtype", Object::name("Link")},
              {"Rect", Object(array_of(link.area))},
              {"Border", array_of({0, 0, 0})},
              // What it is said to be where it is not seen (14.9.3).
              {"Contents", Object::string(objects::utf8_to_text(link.target))},
              {"F", 4}};
    if (link.target.starts_with('#')) {
      const auto place = places_.find(link.target.substr(1));
      if (place == places_.end())
        return Error(ErrorCode::invalid_argument,
                     "a link leads to '" + link.target + "', a place that no page names");
      dict.set("Dest", Object::string(objects::utf8_to_text(place->first)));
    } else {
      dict.set("A", Dict{{"S", Object::name("URI")}, {"URI", Object::string(link.target)}});
    }
    return dict;
  }

  Object name_tree() {
    std::map<std::string, Object> entries;
    for (const auto& [name, place] : places_) entries[objects::utf8_to_text(name)] = Object(place);
    return document::build_name_tree(ledger_, entries);
  }

  const NewDocumentOptions& options_;
  const std::deque<Drawing>& pages_;
  file::Ledger ledger_;
  saving::PageTreeBuilder tree_;
  draw::DrawingWriter writer_;
  draw::TagTree tags_;
  Object catalog_;
  bool is_tagged_ = false;
  std::vector<ObjectId> ids_;
  std::map<std::string, Array> places_;
  std::vector<document::NewEntry> outline_;
};

}  // namespace

Drawing& NewDocument::add_page(const PaperSize& size) {
  return pages_.emplace_back(size.width, size.height);
}
Drawing& NewDocument::add(Drawing drawing) { return pages_.emplace_back(std::move(drawing)); }

namespace {

bool says_anything(const NewView& view) {
  return view.layout || view.mode || view.destination || view.hide_toolbar || view.hide_menubar ||
         view.hide_controls || view.fit_window || view.center_window || view.title_in_window ||
         view.right_to_left || view.print_scaling || view.duplex || view.copies;
}

Status check(const std::deque<Drawing>& pages) {
  if (!pages.empty()) return Done{};
  return Error(ErrorCode::invalid_argument, "a document has one page at least");
}

}  // namespace

Result<Document> NewDocument::as_document() const {
  LUMVET_RETURN_IF_ERROR(check(pages_));
  BufferSink sink;
  Writing writing(options_, pages_);
  LUMVET_RETURN_IF_ERROR(writing.write());
  LUMVET_TRY(const std::uint64_t bytes, writing.save({}, sink));
  static_cast<void>(bytes);
  LUMVET_TRY(const Document written, Document::open(sink.take()));
  if (!says_anything(options_.view)) return written;
  EditableDocument document = EditableDocument::of(written);
  LUMVET_RETURN_IF_ERROR(document.set_view(options_.view));
  return document.now();
}

Result<SaveReport> NewDocument::save(ByteSink& sink, const SaveOptions& options) const {
  if (says_anything(options_.view)) {
    LUMVET_TRY(const Document document, as_document());
    return lumvet::save(document, sink, options);
  }
  LUMVET_RETURN_IF_ERROR(check(pages_));
  Writing writing(options_, pages_);
  LUMVET_RETURN_IF_ERROR(writing.write());
  SaveReport report;
  LUMVET_TRY(report.bytes, writing.save(options, sink));
  report.pages = page_count();
  saving::note_weak_lock(options, report.findings);
  return report;
}
Result<SaveReport> NewDocument::save(const std::filesystem::path& path,
                                     const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

Result<Document> Drawing::as_document() const {
  NewDocument document;
  document.add(*this);
  return document.as_document();
}

std::string data_address(ByteView document) {
  return "data:application/pdf;base64," + crypto::base64(document);
}

}  // namespace lumvet
