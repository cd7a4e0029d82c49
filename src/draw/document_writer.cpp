// SPDX-License-Identifier: Apache-2.0
#include "draw/document_writer.h"

#include <algorithm>

#include "document/geometry_objects.h"
#include "document/tree_builder.h"
#include "edit/view_entries.h"
#include "objects/text_string.h"
#include "save/full_writer.h"

namespace lumvet::draw {
namespace {

using document::array_of;

Array place_array(ObjectId page, const DrawingData& drawing, double left, double top) {
  return Array{Object(page), Object::name("XYZ"), Object(std::clamp(left, 0.0, drawing.width)),
               Object(std::clamp(top, 0.0, drawing.height)), Object()};
}

Object text_of(const std::string& utf8) { return Object::string(objects::utf8_to_text(utf8)); }

}  // namespace

DocumentWriter::DocumentWriter(const NewDocumentOptions& options, const Tagging& tagging,
                               const SaveOptions& how, ByteSink& sink)
    : options_(options),
      tagging_(tagging),
      tree_(ledger_),
      writer_(ledger_),
      tags_(ledger_, tagging.keys),
      out_(how, sink) {}

Status DocumentWriter::add(const Drawing& page) {
  const std::string name = "drawing page " + std::to_string(page_count() + 1);
  const Status added = add_page(*data_of(page));
  if (!added.ok()) return Error(added.error()).during(name);
  return hand_over();
}

// What equal objects there are is one from then on.
Status DocumentWriter::hand_over() {
  equal_.join(ledger_, handed_over_);
  equal_.remember(ledger_);
  LUMVET_RETURN_IF_ERROR(out_.take(ledger_));
  writer_.forget_unused();
  handed_over_ = ledger_.changes().next_number;
  return Done{};
}

Status DocumentWriter::add_page(const DrawingData& drawing) {
  const ObjectId id = ledger_.reserve();
  pages_.push_back(id);
  for (const NamedPlace& place : drawing.places)
    places_.emplace(place.name, place_array(id, drawing, place.at.x, place.at.y));
  LUMVET_TRY(WrittenContent content, writer_.content_of(drawing, tagging_.is_tagged));
  Dict page{{"Type", Object::name("Page")},
            {"Parent", tree_.add(id)},
            {"MediaBox", array_of({0, 0, drawing.width, drawing.height})},
            {"Resources", Object(std::move(content.resources))},
            {"Contents", ledger_.add(Stream::of(
                             {}, Bytes(content.operators.begin(), content.operators.end())))}};
  if (tagging_.is_tagged) {
    page.set("StructParents", tags_.add_page(id, drawing, content.marks));
    page.set("Tabs", Object::name("S"));
  }
  Array annotations;
  for (const Link& link : drawing.links) {
    Dict annotation = annotation_of(link);
    const ObjectId own = ledger_.reserve();
    if (tagging_.is_tagged) annotation.set("StructParent", tags_.add_link(own, id, link.tag));
    ledger_.set(own, Object(std::move(annotation)));
    annotations.push_back(own);
  }
  if (!annotations.empty()) page.set("Annots", Object(std::move(annotations)));
  for (const OutlineLine& line : drawing.outline)
    outline_.push_back({Dict{{"Title", text_of(line.title)},
                             {"Dest", Object(place_array(id, drawing, 0, line.top))}},
                        std::max(line.depth, 0), false});
  ledger_.set(id, Object(std::move(page)));
  if (tagging_.is_tagged) tags_.end_page();
  return Done{};
}

Dict DocumentWriter::annotation_of(const Link& link) {
  Dict dict{{"Type", Object::name("Annot")},
            {"Subtype", Object::name("Link")},
            {"Rect", Object(array_of(link.area))},
            {"Border", array_of({0, 0, 0})},
            // What it is said to be where it is not seen (14.9.3).
            {"Contents", text_of(link.target)},
            {"F", 4}};
  if (link.target.starts_with('#')) {
    const std::string place = link.target.substr(1);
    linked_places_.emplace(place, page_count());
    dict.set("Dest", text_of(place));
  } else {
    dict.set("A", Dict{{"S", Object::name("URI")}, {"URI", Object::string(link.target)}});
  }
  return dict;
}

Status DocumentWriter::check_links() const {
  for (const auto& [place, page] : linked_places_)
    if (!places_.contains(place))
      return Error(ErrorCode::invalid_argument,
                   "a link leads to '#" + place + "', a place that no page names")
          .during("drawing page " + std::to_string(page));
  return Done{};
}

Result<std::uint64_t> DocumentWriter::finish() {
  if (pages_.empty()) return Error(ErrorCode::invalid_argument, "a document has one page at least");
  LUMVET_RETURN_IF_ERROR(check_links());
  for (;;) {
    LUMVET_TRY(const bool is_one, writer_.write_late());
    if (!is_one) break;
    LUMVET_RETURN_IF_ERROR(hand_over());
  }
  LUMVET_TRY(Dict root, catalog());
  const ObjectId id = ledger_.add(Object(std::move(root)));
  LUMVET_RETURN_IF_ERROR(hand_over());
  const Object about = info();
  return out_.finish(ledger_, id, about);
}

Result<Dict> DocumentWriter::catalog() {
  Dict root{{"Type", Object::name("Catalog")}, {"Pages", tree_.finish()}};
  LUMVET_RETURN_IF_ERROR(writer_.finish(root));
  if (tagging_.is_tagged) tags_.finish(root);
  if (!options_.language.empty()) root.set("Lang", Object::string(options_.language));
  if (!places_.empty()) {
    std::map<std::string, Object> entries;
    for (const auto& [name, place] : places_) entries[objects::utf8_to_text(name)] = Object(place);
    root.set("Names", Dict{{"Dests", document::build_name_tree(ledger_, entries)}});
  }
  root.set("Outlines", document::build_outline(ledger_, std::move(outline_)));
  LUMVET_RETURN_IF_ERROR(
      editing::set_view_entries(options_.view, root, ledger_, [&](int page) -> Result<ObjectId> {
        if (page >= 0 && page < page_count()) return pages_[static_cast<std::size_t>(page)];
        return editing::no_such_page(page, page_count());
      }));
  return root;
}

Object DocumentWriter::info() {
  Dict dict;
  const auto put = [&](const char* key, const std::string& text) {
    if (!text.empty()) dict.set(key, text_of(text));
  };
  put("Title", options_.title);
  put("Author", options_.author);
  put("Subject", options_.subject);
  put("Keywords", options_.keywords);
  return dict.size() > 0 ? Object(ledger_.add(std::move(dict))) : Object();
}

Result<SaveReport> write_new_document(const NewDocumentOptions& options, const Tagging& tagging,
                                      const SaveOptions& how, ByteSink& sink,
                                      const std::function<Status(DocumentWriter&)>& add_pages) {
  const bool is_written_at_once = saving::RunningWriter::can_write(how);
  const SaveOptions plain{.threads = how.threads, .cancel = how.cancel};
  BufferSink buffer;
  DocumentWriter writer(options, tagging, is_written_at_once ? how : plain,
                        is_written_at_once ? sink : buffer);
  LUMVET_RETURN_IF_ERROR(add_pages(writer));
  SaveReport report;
  LUMVET_TRY(report.bytes, writer.finish());
  report.pages = writer.page_count();
  if (is_written_at_once) return report;
  LUMVET_TRY(const Document document, Document::open(buffer.take()));
  return save(document, sink, how);
}

}  // namespace lumvet::draw
