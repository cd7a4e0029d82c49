// SPDX-License-Identifier: Apache-2.0
#include "assemble/annotation_copier.h"

#include <optional>

#include "document/appearance.h"
#include "document/core.h"
#include "document/tree_builder.h"
#include "objects/serialiser.h"

namespace lumvet::assemble {
namespace {

// What a signature looks like, and where.
struct Mark {
  Stream appearance;
  Matrix placed;
};

class AnnotationCopier {
 public:
  AnnotationCopier(SourceCopier& copier, file::Ledger& target, const Page& page, ObjectId as,
                   const Carry& carry)
      : copier_(copier),
        store_(copier.source().core().store()),
        target_(target),
        page_(page),
        as_(as),
        carry_(carry) {}

  CopiedAnnotations copy() {
    const Object list = store_.resolve(page_.dict()["Annots"]);
    for (const Object& reference : list.as_array()) choose(reference);
    std::map<ObjectId, ObjectId> ids;
    for (const Chosen& chosen : chosen_)
      if (chosen.source.is_reference()) ids[chosen.source.as_reference()] = chosen.copy;
    result_.ids = ids;
    copier_.stand_in(std::move(ids));
    Array copies;
    for (const Chosen& chosen : chosen_) {
      target_.set(chosen.copy, copied(store_.resolve(chosen.source).as_dict()));
      copies.push_back(chosen.copy);
    }
    if (!copies.empty()) {
      Dict page = target_.resolve(Object(as_)).as_dict();
      page.set("Annots", std::move(copies));
      target_.set(as_, std::move(page));
    }
    draw_marks();
    copier_.stand_in({});
    return std::move(result_);
  }

 private:
  struct Chosen {
    Object source;
    ObjectId copy;
  };

  void choose(const Object& reference) {
    const Object object = store_.resolve(reference);
    const Dict& dict = object.as_dict();
    if (dict.is_empty()) return;
    const Object kind = store_.get(dict, "Subtype");
    if (kind.is_name("Link")) {
      if (!carry_.links) return;
      if (is_lost(dict)) {
        ++result_.links_lost;
        return;
      }
    } else if (kind.is_name("Widget")) {
      if (is_signed(dict)) {
        note_mark(dict);
        ++result_.signatures_kept;
        return;
      }
    } else if (!carry_.annotations) {
      return;
    }
    chosen_.push_back({reference, target_.reserve()});
    if (!kind.is_name("Widget")) return;
    if (carry_.fields)
      result_.widgets.push_back({reference, chosen_.back().copy});
    else
      ++result_.fields_left;
  }

  // A link to a page of this document that stays behind.
  bool is_lost(const Dict& link) {
    if (link.contains("Dest")) return copier_.copied_destination(link["Dest"]).is_null();
    const Object action = store_.get(link, "A");
    return store_.get(action.as_dict(), "S").is_name("GoTo") &&
           copier_.copied_destination(action.as_dict()["D"]).is_null();
  }

  bool is_signed(const Dict& widget) const {
    return inherited(widget, "FT").is_name("Sig") && inherited(widget, "V").is_dict();
  }

  Object inherited(const Dict& widget, std::string_view key) const {
    Object at{widget};
    for (int depth = 0; depth < store_.limits().nesting && at.is_dict(); ++depth) {
      if (Object value = store_.get(at.as_dict(), key); !value.is_null()) return value;
      at = store_.get(at.as_dict(), "Parent");
    }
    return Object();
  }

  Dict copied(const Dict& annotation) {
    const bool is_widget = store_.get(annotation, "Subtype").is_name("Widget");
    Dict copy = is_widget ? copier_.copied_dict(annotation, {"P", "Parent", "Kids", "Dest"})
                          : copier_.copied_dict(annotation, {"P", "Dest"});
    copy.set("Dest", copier_.copied_destination(annotation["Dest"]));
    copy.set("P", as_);
    return copy;
  }

  void note_mark(const Dict& widget) {
    const Object normal = document::normal_appearance(store_, widget);
    const Stream* form = normal.as_stream();
    const auto place = document::rect_of(store_, widget["Rect"]);
    if (form == nullptr || !place) return;
    if (const auto fit = document::fitted(store_, form->dict, *place))
      marks_.push_back({*form, *fit});
  }

  // Behind what the page shows, whatever state that leaves.
  void draw_marks() {
    if (marks_.empty()) return;
    Dict page = target_.resolve(Object(as_)).as_dict();
    Dict resources = target_.resolve(page["Resources"]).as_dict();
    Dict forms = target_.resolve(resources["XObject"]).as_dict();
    std::string content = "\nQ\n";
    for (const Mark& mark : marks_) {
      const std::string name = document::free_name(
          "Mark", [&](const std::string& other) { return forms.contains(other); });
      Dict dict = copier_.copied_dict(mark.appearance.dict);
      dict.set("Type", Object::name("XObject"));
      dict.set("Subtype", Object::name("Form"));
      Stream form = mark.appearance;
      form.dict = std::move(dict);
      forms.set(name, target_.add(Object(std::move(form))));
      content += "q ";
      const Matrix& m = mark.placed;
      for (const double number : {m.a, m.b, m.c, m.d, m.e, m.f}) {
        objects::serialise_number(number, content);
        content += ' ';
      }
      content += "cm /" + name + " Do Q\n";
    }
    Array contents = {target_.add(stream_of("q\n"))};
    const Object before = page["Contents"];
    const Object resolved = target_.resolve(before);
    if (resolved.is_array())
      contents.insert(contents.end(), resolved.as_array().begin(), resolved.as_array().end());
    else if (!resolved.is_null())
      contents.push_back(before);
    contents.push_back(target_.add(stream_of(content)));
    resources.set("XObject", std::move(forms));
    page.set("Resources", std::move(resources));
    page.set("Contents", std::move(contents));
    target_.set(as_, std::move(page));
  }

  static Object stream_of(const std::string& text) {
    return Stream::of({}, Bytes(text.begin(), text.end()));
  }

  SourceCopier& copier_;
  const file::ObjectStore& store_;
  file::Ledger& target_;
  const Page& page_;
  ObjectId as_;
  const Carry& carry_;
  std::vector<Chosen> chosen_;
  std::vector<Mark> marks_;
  CopiedAnnotations result_;
};

}  // namespace

CopiedAnnotations copy_annotations(SourceCopier& copier, file::Ledger& target, const Page& page,
                                   ObjectId as, const Carry& carry) {
  return AnnotationCopier(copier, target, page, as, carry).copy();
}

}  // namespace lumvet::assemble
