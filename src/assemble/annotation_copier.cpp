// SPDX-License-Identifier: Apache-2.0
#include "assemble/annotation_copier.h"

#include <optional>

#include "assemble/drawn_look.h"
#include "document/annotation_flags.h"
#include "document/appearance.h"
#include "document/inside.h"

namespace lumvet::assemble {
namespace {

// What an annotation looks like, and where; nothing for one that looks like nothing.
std::optional<Drawn> drawn_annotation(SourceCopier& copier, file::Ledger& target, const Page& page,
                                      const Dict& annotation) {
  const file::ObjectStore& store = store_of(copier.source());
  const Object normal = document::normal_appearance(store, annotation);
  const Stream* appearance = normal.as_stream();
  const auto place = document::rect_of(store, annotation["Rect"]);
  if (appearance == nullptr || !place) return std::nullopt;
  Stream form = *appearance;
  form.dict = copier.copied_dict(appearance->dict);
  return drawn_look(target, std::move(form),
                    {*place, *place, store.get(annotation, "BM"), copier.copied(annotation["OC"]),
                     store.get(annotation, "F").as_integer(), page.rotation()});
}

class AnnotationCopier {
 public:
  AnnotationCopier(SourceCopier& copier, file::Ledger& target, const Page& page, ObjectId as,
                   const Carry& carry)
      : copier_(copier),
        store_(store_of(copier.source())),
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
        if (auto mark = drawn_annotation(copier_, target_, page_, dict))
          result_.marks.push_back(std::move(*mark));
        ++result_.signatures;
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

  SourceCopier& copier_;
  const file::ObjectStore& store_;
  file::Ledger& target_;
  const Page& page_;
  ObjectId as_;
  const Carry& carry_;
  std::vector<Chosen> chosen_;
  CopiedAnnotations result_;
};

}  // namespace

CopiedAnnotations copy_annotations(SourceCopier& copier, file::Ledger& target, const Page& page,
                                   ObjectId as, const Carry& carry) {
  return AnnotationCopier(copier, target, page, as, carry).copy();
}

std::vector<Drawn> drawn_annotations(SourceCopier& copier, file::Ledger& target, const Page& page) {
  using document::kHidden;
  using document::kNoView;
  const file::ObjectStore& store = store_of(copier.source());
  std::vector<Drawn> drawn;
  const Object list = store.resolve(page.dict()["Annots"]);
  for (const Object& reference : list.as_array()) {
    const Object annotation = store.resolve(reference);
    const std::int64_t flags = store.get(annotation.as_dict(), "F").as_integer();
    if ((flags & (kHidden | kNoView)) != 0) continue;
    if (store.get(annotation.as_dict(), "Subtype").is_name("Popup")) continue;
    if (auto one = drawn_annotation(copier, target, page, annotation.as_dict()))
      drawn.push_back(std::move(*one));
  }
  return drawn;
}

}  // namespace lumvet::assemble
