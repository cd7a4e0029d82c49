// SPDX-License-Identifier: Apache-2.0
#include "lumvet/annotate/annotations.h"

#include <algorithm>
#include <map>
#include <set>

#include "annotate/annotation_entries.h"
#include "annotate/flattening.h"
#include "annotate/kept_looks.h"
#include "annotate/marks_of_page.h"
#include "appearance/annotation_look.h"
#include "appearance/made_appearances.h"
#include "assemble/equal_objects.h"
#include "document/annotations.h"
#include "document/appearance.h"
#include "edit/editable_document_impl.h"
#include "edit/file_specification.h"
#include "edit/structure_removal.h"
#include "edit/view_entries.h"
#include "objects/standing.h"
#include "objects/text_string.h"

namespace lumvet {
namespace {

using annotate::MarksOfPage;
using Kind = Annotation::Kind;

std::string count_of(std::size_t count) {
  return std::to_string(count) + (count == 1 ? " annotation" : " annotations");
}

// What a mark must have to be one.
Status check(const NewMark& mark, bool is_new) {
  const Annotation& own = mark.annotation;
  if (own.kind == Kind::widget)
    return Error(ErrorCode::invalid_argument, "a field is no annotation that could be added alone");
  if (is_new && !can_be_made(own.kind))
    return Error(ErrorCode::invalid_argument,
                 own.kind == Kind::other
                     ? "an annotation has a kind, which the standard knows"
                     : std::string(document::type_of(own.kind)) + " annotations are not made");
  const auto lacks = [](const char* what) { return Error(ErrorCode::invalid_argument, what); };
  if (own.kind == Kind::line && own.vertices.size() != 2)
    return lacks("a line goes through two points");
  if ((own.kind == Kind::polygon || own.kind == Kind::polyline) && own.vertices.size() < 2)
    return lacks("a polygon or polyline goes through two points at least");
  if (own.kind == Kind::ink && own.strokes.empty()) return lacks("ink has strokes");
  if (own.kind == Kind::file_attachment && !mark.parts.file && (is_new || own.file.empty()))
    return lacks("a file attachment has a file");
  if (mark.parts.form && !annotate::is_usable_form(*mark.parts.form))
    return lacks("the look of an annotation is a form with a box");
  if (mark.parts.file) return editing::check_file_name(mark.parts.file->name);
  return Done{};
}

// Of free text with a line to what it tells of, the rectangle around both.
void enclose(Annotation& mark, const Rect& place) {
  if (mark.kind == Kind::free_text && !mark.vertices.empty()) {
    const Rect& r = mark.rect;
    const Rect box{r.left + mark.inset[0], r.bottom + mark.inset[3], r.right - mark.inset[2],
                   r.top - mark.inset[1]};
    mark.inset = {box.left - place.left, place.top - box.top, place.right - box.right,
                  box.bottom - place.bottom};
  }
  mark.rect = place;
}

class MarkWriter {
 public:
  MarkWriter(const Document& document, file::Ledger& ledger, editing::PageId page_id)
      : ledger_(ledger),
        page_id_(std::move(page_id)),
        looks_(core_of(document), ledger, FontSupply()) {}

  // The dictionary with its appearance and what else it is made of.
  Result<Dict> dict_of(Dict dict, Annotation mark, const MarkParts& parts, ObjectId page) {
    Object form;
    if (parts.form) {
      form = form_in(*parts.form);
    } else if (parts.look) {
      if (const Status status = parts.look->status(); !status.ok()) return status.error();
      LUMVET_TRY(const ObjectId id, looks_.write(placed(*parts.look, mark)));
      form = Object(id);
    } else if (const auto look = appearance::look_of(mark, looks_.fonts())) {
      LUMVET_TRY(const auto written, looks_.write(*look));
      enclose(mark, written.place);
      form = Object(written.form);
    }
    dict.set("AP", form.is_null() ? Object() : Object(Dict{{"N", form}}));
    dict.remove("AS");
    return dict_as(std::move(dict), mark, parts, page);
  }

  // The same with the appearance that the dictionary has already.
  Result<Dict> dict_as(Dict dict, const Annotation& mark, const MarkParts& parts, ObjectId page) {
    dict = annotate::with_entries(std::move(dict), mark);
    dict.set("P", page);
    if (parts.file) dict.set("FS", ledger_.add(editing::file_specification(ledger_, *parts.file)));
    if (mark.kind == Kind::link) LUMVET_RETURN_IF_ERROR(set_target(dict, mark));
    return dict;
  }

  Status finish() { return looks_.finish(); }

 private:
  // Drawn as a person sees it, on a page that may be turned, and as opaque as the mark.
  static Drawing placed(const Drawing& look, const Annotation& mark) {
    if (mark.rotation == 0 && mark.opacity >= 1) return look;
    const bool is_across = mark.rotation % 180 != 0;
    Drawing drawing(is_across ? look.height() : look.width(),
                    is_across ? look.width() : look.height(), Drawing::Space::upward);
    if (mark.rotation != 0)
      drawing.transform(document::turned_left(mark.rotation, drawing.width(), drawing.height()));
    drawing.draw(look, {0, look.height()}, {.opacity = mark.opacity});
    return drawing;
  }

  Object form_in(const Object& form) {
    const auto put = [&](Stream stream) { return ledger_.add(Object(std::move(stream))); };
    return Object(put(*objects::with_references(form, put).as_stream()));
  }

  // Where a link leads, where that is stated.
  Status set_target(Dict& dict, const Annotation& mark) {
    if (mark.destination) {
      if (!mark.destination->name.empty()) {
        dict.set("Dest", Object::string(objects::utf8_to_text(mark.destination->name)));
      } else {
        LUMVET_TRY(Array place, editing::place_array(*mark.destination, page_id_));
        dict.set("Dest", std::move(place));
      }
      dict.remove("A");
    } else if (!mark.actions.empty() && mark.actions[0].kind == Action::Kind::uri) {
      dict.set("A",
               Dict{{"S", Object::name("URI")}, {"URI", Object::string(mark.actions[0].target)}});
      dict.remove("Dest");
    }
    return Done{};
  }

  file::Ledger& ledger_;
  editing::PageId page_id_;
  appearance::AppearanceWriter looks_;
};

// A step on marks: the pages that it changes, each with its list.
class MarkStep {
 public:
  MarkStep(Inside<EditableDocument>::Impl& impl, const Document& document, file::Ledger& ledger)
      : impl_(impl), document_(document), ledger_(ledger), writer_(document, ledger, page_id()) {}

  struct PageOf {
    ObjectId id;
    MarksOfPage marks;
  };
  Result<PageOf*> page(int index) {
    const auto known = pages_.find(index);
    if (known != pages_.end()) return &known->second;
    LUMVET_TRY(const ObjectId id, id_of(index));
    return &pages_.emplace(index, PageOf{id, MarksOfPage(ledger_, id)}).first->second;
  }
  MarkWriter& writer() { return writer_; }

  Status finish() {
    for (auto& [index, page] : pages_) page.marks.finish();
    LUMVET_RETURN_IF_ERROR(writer_.finish());
    assemble::join_equal_objects(ledger_, impl_.file->first_beyond());
    return Done{};
  }

 private:
  Result<ObjectId> id_of(int index) {
    if (index < 0 || index >= document_.page_count())
      return editing::no_such_page(index, document_.page_count());
    Dict catalog = impl_.catalog(ledger_);
    LUMVET_TRY(const auto ids, editing::ids_of_pages(document_, ledger_, catalog, {index}));
    impl_.put_catalog(ledger_, std::move(catalog));
    return ids[0];
  }
  editing::PageId page_id() {
    return [this](int index) { return id_of(index); };
  }

  Inside<EditableDocument>::Impl& impl_;
  const Document& document_;
  file::Ledger& ledger_;
  MarkWriter writer_;
  std::map<int, PageOf> pages_;
};

// An annotation at the end or the beginning of the list of its page.
Status reordered(EditableDocument& document, ObjectId id, const char* what, bool to_front) {
  auto& impl = Inside<EditableDocument>::impl(document);
  return impl.annotate([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
    LUMVET_TRY(const int index, annotate::page_of(now, id));
    MarkStep step(impl, now, ledger);
    LUMVET_TRY(MarkStep::PageOf * page, step.page(index));
    Array& list = page->marks.list();
    std::erase(list, Object(id));
    list.insert(to_front ? list.end() : list.begin(), Object(id));
    LUMVET_RETURN_IF_ERROR(step.finish());
    return std::string(what);
  });
}

}  // namespace

Result<Object> look_of(const Document& document, ObjectId annotation) {
  return attempted([&]() -> Result<Object> {
    LUMVET_RETURN_IF_ERROR(annotate::page_of(document, annotation));
    const file::ObjectStore& store = store_of(document);
    return annotate::kept_form(store, store.resolve(Object(annotation)).as_dict());
  });
}

bool can_be_made(Kind kind) {
  switch (kind) {
    case Kind::sound:
    case Kind::movie:
    case Kind::screen:
    case Kind::widget:
    case Kind::printer_mark:
    case Kind::trap_net:
    case Kind::three_d:
    case Kind::rich_media:
    case Kind::projection:
    case Kind::other: return false;
    default: return true;
  }
}

Result<ObjectId> add_annotation(EditableDocument& document, int page, const Annotation& annotation,
                                const MarkParts& parts) {
  LUMVET_TRY(const std::vector<ObjectId> ids,
             add_annotations(document, {{page, annotation, parts}}));
  return ids.front();
}

Result<std::vector<ObjectId>> add_annotations(EditableDocument& document,
                                              const std::vector<NewMark>& marks) {
  if (marks.empty()) return Error(ErrorCode::invalid_argument, "there is no annotation to add");
  for (const NewMark& mark : marks) LUMVET_RETURN_IF_ERROR(check(mark, true));
  auto& impl = Inside<EditableDocument>::impl(document);
  std::vector<ObjectId> ids;
  LUMVET_RETURN_IF_ERROR(
      impl.annotate([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
        MarkStep step(impl, now, ledger);
        for (const NewMark& mark : marks) {
          LUMVET_TRY(MarkStep::PageOf * page, step.page(mark.page));
          Annotation own = mark.annotation;
          if (own.name.empty()) own.name = page->marks.free_name();
          if (!mark.reply_to.empty()) own.in_reply_to = page->marks.named(mark.reply_to);
          if (!mark.reply_to.empty() && !own.in_reply_to)
            return Error(ErrorCode::invalid_argument,
                         "no annotation of page " + std::to_string(mark.page + 1) +
                             " has the name '" + mark.reply_to + "', which another answers");
          LUMVET_TRY(Dict dict, step.writer().dict_of({}, std::move(own), mark.parts, page->id));
          ids.push_back(ledger.add(std::move(dict)));
          page->marks.list().push_back(ids.back());
        }
        LUMVET_RETURN_IF_ERROR(step.finish());
        return "added " + count_of(marks.size());
      }));
  return ids;
}

Status change_annotation(EditableDocument& document, ObjectId id, const Annotation& annotation,
                         const MarkParts& parts) {
  auto& impl = Inside<EditableDocument>::impl(document);
  return impl.annotate([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
    LUMVET_TRY(const int index, annotate::page_of(now, id));
    const Dict before = ledger.resolve(Object(id)).as_dict();
    const Annotation old = document::read_annotation(core_of(now), before);
    if (old.is_locked() && annotation.is_locked())
      return Error(ErrorCode::unsupported, "the annotation is locked; unlock it first");
    NewMark checked{index, annotation, parts};
    if (checked.annotation.file.empty()) checked.annotation.file = old.file;
    LUMVET_RETURN_IF_ERROR(check(checked, false));
    MarkStep step(impl, now, ledger);
    LUMVET_TRY(MarkStep::PageOf * page, step.page(index));
    const bool has_look = !parts.look && !parts.form && before.contains("AP");
    const bool keeps_look = has_look && annotate::looks_alike(old, annotation);
    MarkParts& made = checked.parts;
    if (has_look && !keeps_look)
      made.form = annotate::kept_picture(store_of(now), before, old, annotation);
    LUMVET_TRY(Dict dict, keeps_look ? step.writer().dict_as(before, annotation, made, page->id)
                                     : step.writer().dict_of(before, annotation, made, page->id));
    ledger.set(id, std::move(dict));
    LUMVET_RETURN_IF_ERROR(step.finish());
    return std::string("changed 1 annotation");
  });
}

Status remove_annotations(EditableDocument& document, const std::vector<ObjectId>& annotations) {
  auto& impl = Inside<EditableDocument>::impl(document);
  return impl.annotate([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
    std::map<int, std::set<ObjectId>> by_page;
    for (const ObjectId id : annotations) {
      LUMVET_TRY(const int index, annotate::page_of(now, id));
      if (ledger.get(ledger.resolve(Object(id)).as_dict(), "Subtype").is_name("Widget"))
        return Error(ErrorCode::invalid_argument,
                     "object " + std::to_string(id.number) + " is a field, not a mark");
      by_page[index].insert(id);
    }
    if (by_page.empty()) return Error(ErrorCode::invalid_argument, "no annotation is named");
    MarkStep step(impl, now, ledger);
    editing::StructureRemoval structure(core_of(now), ledger, impl.catalog(ledger));
    std::size_t count = 0;
    for (const auto& [index, named] : by_page) {
      LUMVET_TRY(MarkStep::PageOf * page, step.page(index));
      Array& list = page->marks.list();
      const std::set<ObjectId> gone = annotate::with_answers(ledger, list, named);
      count += std::erase_if(list, [&](const Object& mark) {
        return mark.is_reference() && gone.contains(mark.as_reference());
      });
      structure.remove_annotations(gone);
    }
    LUMVET_RETURN_IF_ERROR(step.finish());
    return "removed " + count_of(count);
  });
}

Status raise_annotation(EditableDocument& document, ObjectId id) {
  return reordered(document, id, "raised 1 annotation", true);
}
Status lower_annotation(EditableDocument& document, ObjectId id) {
  return reordered(document, id, "lowered 1 annotation", false);
}

Result<int> flatten_annotations(EditableDocument& document, const PageSelection& pages,
                                const FlattenOptions& options) {
  auto& impl = Inside<EditableDocument>::impl(document);
  int count = 0;
  LUMVET_RETURN_IF_ERROR(
      impl.step([&](const Document& now, file::Ledger& ledger) -> Result<std::string> {
        annotate::Flattening flattening(core_of(now), ledger, impl.catalog(ledger), options);
        LUMVET_TRY(const std::string what,
                   impl.each_page(now, ledger, pages, "flattened annotations of",
                                  [&](const Page& page, ObjectId id) -> Status {
                                    editing::keep_inherited(page, id, ledger);
                                    return flattening.flatten(page, id);
                                  }));
        LUMVET_TRY(Dict catalog, flattening.finish());
        impl.put_catalog(ledger, std::move(catalog));
        assemble::join_equal_objects(ledger, impl.file->first_beyond());
        count = flattening.count();
        return what;
      }));
  return count;
}

}  // namespace lumvet
