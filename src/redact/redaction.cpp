// SPDX-License-Identifier: Apache-2.0
#include "lumvet/redact/redaction.h"

#include <algorithm>
#include <map>
#include <set>

#include "annotate/marks_of_page.h"
#include "appearance/made_appearances.h"
#include "assemble/page_drawing.h"
#include "document/geometry_objects.h"
#include "edit/editable_document_impl.h"
#include "edit/field_removal.h"
#include "edit/form_dict.h"
#include "edit/structure_removal.h"
#include "edit/view_entries.h"
#include "filters/deflate.h"
#include "lumvet/annotate/annotations.h"
#include "lumvet/text/document_search.h"
#include "redact/cut_content.h"
#include "redact/drawn_marks.h"
#include "redact/redaction_spots.h"
#include "redact/said_elsewhere.h"
#include "redact/structure_texts.h"

namespace lumvet {
namespace {

using redacting::Areas;
using redacting::CutRecord;
using redacting::Spot;
using Spots = std::map<int, std::vector<Spot>>;
using Kind = Annotation::Kind;

// All that is to be taken out, by pages. Errors: as redact's.
class SpotFinder {
 public:
  SpotFinder(const Document& document, const RedactRequest& request)
      : document_(document), request_(request) {}

  Result<Spots> find() {
    for (const RedactArea& area : request_.areas) {
      if (area.page < 0 || area.page >= document_.page_count())
        return editing::no_such_page(area.page, document_.page_count());
      LUMVET_TRY(const Page page, document_.page(area.page));
      for (const Quad& quad : area.quads)
        spots_[area.page].push_back(redacting::shown_spot(page, quad, request_.look));
    }
    LUMVET_TRY(const std::vector<int> pages, request_.pages.in(document_.page_count()));
    if (!request_.searches.empty()) {
      LUMVET_TRY(const Document shown,
                 redacting::with_marks_drawn(document_, redacting::HiddenMarks::left));
      for (const TextSearch& search : request_.searches)
        LUMVET_RETURN_IF_ERROR(look(shown, search, pages));
    }
    if (request_.takes_marks)
      for (const int index : pages) LUMVET_RETURN_IF_ERROR(find_marks(index));
    return std::move(spots_);
  }

 private:
  Status look(const Document& shown, const TextSearch& search, const std::vector<int>& pages) {
    return find_in(shown, pages, search, {}, [&](const PageHits& found) -> Status {
      for (const TextSpan& hit : found.hits)
        LUMVET_RETURN_IF_ERROR(add(found.page, found.words, hit));
      for (const HitAcross& hit : found.across) {
        LUMVET_RETURN_IF_ERROR(add(found.page, found.words, hit.here));
        LUMVET_RETURN_IF_ERROR(add(found.page + 1, *found.next, hit.next));
      }
      return Done{};
    });
  }

  Status add(int index, const PageWords& words, const TextSpan& span) {
    LUMVET_TRY(const Page page, document_.page(index));
    for (const Quad& quad : words.quads(span.begin, span.end))
      spots_[index].push_back(redacting::shown_spot(page, quad, request_.look));
    return Done{};
  }

  Status find_marks(int index) {
    LUMVET_TRY(const Page page, document_.page(index));
    LUMVET_TRY(const std::vector<Annotation> marks, page.annotations());
    for (const Annotation& mark : marks) {
      if (mark.kind != Kind::redact) continue;
      for (Spot& spot : redacting::spots_of(page, mark)) spots_[index].push_back(std::move(spot));
    }
    return Done{};
  }

  const Document& document_;
  const RedactRequest& request_;
  Spots spots_;
};

class RedactStep {
 public:
  RedactStep(Inside<EditableDocument>::Impl& impl, const Document& document, file::Ledger& ledger,
             const RedactRequest& request, RedactReport& report)
      : impl_(impl),
        document_(document),
        ledger_(ledger),
        request_(request),
        report_(report),
        catalog_(impl.catalog(ledger)),
        structure_(core_of(document), ledger, catalog_),
        looks_(core_of(document), ledger, FontSupply()) {}

  Status run(const Spots& spots) {
    std::vector<int> pages;
    for (const auto& [index, on_page] : spots) pages.push_back(index);
    LUMVET_TRY(const auto ids, editing::ids_of_pages(document_, ledger_, catalog_, pages));
    for (std::size_t i = 0; i < pages.size(); ++i)
      LUMVET_RETURN_IF_ERROR(cut_page(pages[i], ids[i], spots.at(pages[i])));
    LUMVET_RETURN_IF_ERROR(let_go(std::set<int>(pages.begin(), pages.end())));
    redacting::forget_in_structure(ledger_, catalog_, record_);
    catalog_.remove("PieceInfo");
    forget_xml_form();
    impl_.put_catalog(ledger_, catalog_);
    for (const ObjectId id : ledger_.changed_ids()) changed_before_.insert(id);
    LUMVET_RETURN_IF_ERROR(change_texts());
    LUMVET_RETURN_IF_ERROR(looks_.finish());
    ledger_.keep_nothing();
    report_.letters = record_.counts.letters;
    report_.paths = record_.counts.paths;
    report_.images = record_.counts.images;
    report_.removed = record_.texts;
    for (const std::string& remark : record_.remarks) report_.findings.push_back({remark, {}, {}});
    LUMVET_TRY(const Form form, document_.form());
    if (form.has_signatures)
      report_.findings.push_back({"the signatures of the document do not hold any more", {}, {}});
    return Done{};
  }

 private:
  Status cut_page(int index, ObjectId id, const std::vector<Spot>& spots) {
    LUMVET_TRY(const Page page, document_.page(index));
    editing::keep_inherited(page, id, ledger_);
    std::vector<redacting::Polygon> polygons;
    polygons.reserve(spots.size());
    for (const Spot& spot : spots) polygons.push_back(spot.corners);
    const Areas areas(polygons);
    redacting::ContentCutter cutter(core_of(document_), ledger_, areas, record_);
    LUMVET_TRY(auto cut, cutter.cut_page(page));
    Dict dict = ledger_.resolve(Object(id)).as_dict();
    dict.set("Contents", ledger_.add(Object(Stream::of({{"Filter", Object::name("FlateDecode")}},
                                                       filters::deflate(as_bytes(cut.content))))));
    dict.set("Resources", std::move(cut.resources));
    for (const char* key : {"Thumb", "PieceInfo", "Metadata", "AF"}) dict.remove(key);
    ledger_.set(id, std::move(dict));
    take_marks(areas, id);
    ledger_.touch_page(id);

    LUMVET_TRY(const Drawing look, redacting::look_of(page, spots, looks_.fonts()));
    LUMVET_TRY(const ObjectId form, looks_.write(look));
    const Matrix placed = Matrix{1, 0, 0, -1, 0, page.height()}.then(page.to_display().inverse());
    assemble::wrap_page(ledger_, id, Bytes(cut.content.begin(), cut.content.end()),
                        {.drawn = {{.form = form, .placed = placed, .is_artifact = true}}});
    RedactArea area{.page = index};
    for (const Spot& spot : spots) {
      area.quads.push_back(spot.shown);
      const std::string& text = spot.look.text;
      const auto& written = report_.written;
      if (!text.empty() && std::find(written.begin(), written.end(), text) == written.end())
        report_.written.push_back(text);
    }
    report_.areas.push_back(std::move(area));
    return Done{};
  }

  // Marks and fields that touch the areas, with what belongs to them.
  void take_marks(const Areas& areas, ObjectId page) {
    annotate::MarksOfPage marks(ledger_, page);
    std::set<ObjectId> gone;
    Array kept;
    for (const Object& reference : marks.list()) {
      const Object object = ledger_.resolve(reference);
      const Dict& dict = object.as_dict();
      const Object subtype = ledger_.get(dict, "Subtype");
      const auto rect = document::rect_of(ledger_, dict["Rect"]);
      const bool is_applied = request_.takes_marks && subtype.is_name("Redact");
      const bool is_hit = rect && !subtype.is_name("Popup") &&
                          (areas.share_of(redacting::corners_of(*rect)) > 0 || is_applied);
      if (!is_hit) {
        kept.push_back(reference);
        continue;
      }
      if (!is_applied) ++report_.annotations;
      if (!reference.is_reference()) continue;
      if (subtype.is_name("Widget")) empty_field(reference.as_reference(), dict);
      gone.insert(reference.as_reference());
    }
    gone = annotate::with_answers(ledger_, marks.list(), std::move(gone));
    std::erase_if(kept, [&](const Object& one) {
      return one.is_reference() && gone.contains(one.as_reference());
    });
    marks.list() = std::move(kept);
    marks.finish();
    structure_.remove_annotations(gone);
  }

  // A field whose value was seen in an area: it has none at its other places either.
  void empty_field(ObjectId widget, const Dict& dict) {
    const Object& parent = dict["Parent"];
    editing::take_from_form(ledger_, catalog_, widget, parent,
                            store_of(document_).limits().nesting);
    if (dict.contains("T") || !parent.is_reference()) return;
    const Object object = ledger_.resolve(parent);
    if (object.is_null()) return;
    Dict field = object.as_dict();
    for (const char* key : {"V", "DV", "RV", "I"}) field.remove(key);
    for (const Object& kid : ledger_.get(field, "Kids").as_array()) {
      if (!kid.is_reference()) continue;
      Dict other = ledger_.resolve(kid).as_dict();
      other.remove("AP");
      ledger_.set(kid.as_reference(), std::move(other));
    }
    ledger_.set(parent.as_reference(), std::move(field));
  }

  // What was replaced may still be named by the resources of pages that do not show it.
  Status let_go(const std::set<int>& cut) {
    if (record_.replaced.empty()) return Done{};
    for (int i = 0; i < document_.page_count(); ++i) {
      if (cut.contains(i)) continue;
      LUMVET_TRY(const Page page, document_.page(i));
      Dict resources = store_of(document_).get(page.dict(), "Resources").as_dict();
      bool has_unused = false;
      std::optional<Bytes> content;
      for (const char* kind : {"XObject", "Pattern"}) {
        Dict list = store_of(document_).get(resources, kind).as_dict();
        std::vector<std::string> unused;
        for (const auto& [name, object] : list) {
          if (!object.is_reference() || !record_.replaced.contains(object.as_reference())) continue;
          if (!content) {
            LUMVET_TRY(content, page.content());
          }
          if (as_text(*content).find("/" + name) == std::string_view::npos) unused.push_back(name);
        }
        if (unused.empty()) continue;
        has_unused = true;
        for (const std::string& name : unused) list.remove(name);
        resources.set(kind, std::move(list));
      }
      if (!has_unused) continue;
      LUMVET_TRY(const auto ids, editing::ids_of_pages(document_, ledger_, catalog_, {i}));
      Dict dict = ledger_.resolve(Object(ids[0])).as_dict();
      dict.set("Resources", std::move(resources));
      ledger_.set(ids[0], std::move(dict));
    }
    return Done{};
  }

  void forget_xml_form() {
    Dict form = editing::form_dict(ledger_, catalog_);
    if (!form.contains("XFA")) return;
    form.remove("XFA");
    report_.findings.push_back(
        {"the form was described as XML as well (XFA), which holds its values; that was taken out",
         {},
         {}});
    editing::set_form_dict(ledger_, catalog_, std::move(form));
  }

  Status change_texts() {
    redacting::Needles needles;
    for (const TextSearch& search : request_.searches) needles.add(search);
    for (const std::string& words : record_.texts) LUMVET_RETURN_IF_ERROR(needles.add_words(words));
    if (needles.is_empty()) return Done{};
    Dict trailer = document_.trailer();
    if (const auto info = ledger_.changes().info) trailer.set("Info", *info);
    LUMVET_TRY(
        report_.texts,
        redacting::change_texts(ledger_, trailer, store_of(document_).limits(),
                                [&](const std::string& text) { return needles.taken_from(text); }));
    return draw_anew();
  }

  // Marks whose texts were changed look like it; fields are left to their entries.
  Status draw_anew() {
    for (const ObjectId id : ledger_.changed_ids()) {
      Dict dict = ledger_.resolve(Object(id)).as_dict();
      if (!dict.contains("AP") || changed_before_.contains(id)) continue;
      dict.remove("AP");
      if (!ledger_.get(dict, "Subtype").is_name("Widget")) {
        LUMVET_TRY(const auto look, looks_.write(dict));
        if (look) dict.set("AP", Dict{{"N", look->form}});
      }
      ledger_.set(id, std::move(dict));
    }
    return Done{};
  }

  Inside<EditableDocument>::Impl& impl_;
  const Document& document_;
  file::Ledger& ledger_;
  const RedactRequest& request_;
  RedactReport& report_;
  Dict catalog_;
  editing::StructureRemoval structure_;
  appearance::AppearanceWriter looks_;
  CutRecord record_;
  std::set<ObjectId> changed_before_;  // by what was cut
};

Status remove_attachments(EditableDocument& document) {
  LUMVET_TRY(const std::vector<std::string> names, document.attachment_names());
  for (const std::string& name : names) LUMVET_RETURN_IF_ERROR(document.detach(name));
  LUMVET_TRY(const Document now, document.now());
  std::vector<ObjectId> files;
  for (int i = 0; i < now.page_count(); ++i) {
    LUMVET_TRY(const Page page, now.page(i));
    LUMVET_TRY(const std::vector<Annotation> marks, page.annotations());
    for (const Annotation& mark : marks)
      if (mark.kind == Kind::file_attachment && mark.id != ObjectId()) files.push_back(mark.id);
  }
  return files.empty() ? Status(Done{}) : remove_annotations(document, files);
}

}  // namespace

Result<RedactReport> redact(EditableDocument& document, const RedactRequest& request) {
  auto& impl = Inside<EditableDocument>::impl(document);
  LUMVET_RETURN_IF_ERROR(impl.may_be_changed());
  LUMVET_RETURN_IF_ERROR(impl.may_be_annotated());
  LUMVET_TRY(const Document now, document.now());
  LUMVET_TRY(const Spots spots, SpotFinder(now, request).find());
  if (spots.empty() && request.searches.empty())
    return Error(ErrorCode::invalid_argument, request.takes_marks
                                                  ? "there is no redaction mark on these pages"
                                                  : "nothing is said of what to redact");
  std::size_t count = 0;
  for (const auto& [index, on_page] : spots) count += on_page.size();
  RedactReport report;
  document.begin_steps("redacted " + std::to_string(count) + (count == 1 ? " place" : " places"));
  const auto run = [&]() -> Status {
    LUMVET_RETURN_IF_ERROR(
        impl.step([&](const Document& before, file::Ledger& ledger) -> Result<std::string> {
          LUMVET_RETURN_IF_ERROR(RedactStep(impl, before, ledger, request, report).run(spots));
          if (report.areas.empty() && report.texts == 0)
            return Error(ErrorCode::invalid_argument,
                         "what is searched for is neither on the pages nor said elsewhere");
          return std::string("redacted");
        }));
    const auto undone = [&](Status status) {
      if (!status.ok()) document.undo();
      return status;
    };
    if (request.clears_properties) LUMVET_RETURN_IF_ERROR(undone(document.clear_properties()));
    return request.removes_attachments ? undone(remove_attachments(document)) : Status(Done{});
  };
  const Status done = run();
  document.end_steps();
  if (!done.ok()) return done.error();
  return report;
}

}  // namespace lumvet
