// SPDX-License-Identifier: Apache-2.0
#include "annotate/flattening.h"

#include <algorithm>

#include "annotate/marks_of_page.h"
#include "assemble/drawn_look.h"
#include "document/annotation_flags.h"
#include "document/annotations.h"
#include "document/appearance.h"
#include "document/inside.h"
#include "edit/field_removal.h"

namespace lumvet::annotate {
namespace {

using document::kHidden;
using document::kNoView;

}  // namespace

Flattening::Flattening(const document::Core& core, file::Ledger& ledger, Dict catalog,
                       const FlattenOptions& options)
    : core_(core),
      ledger_(ledger),
      catalog_(std::move(catalog)),
      options_(options),
      structure_(core, ledger, catalog_),
      looks_(core, ledger, FontSupply()) {}

bool Flattening::is_chosen(const Dict& annotation) const {
  const std::int64_t flags = ledger_.get(annotation, "F").as_integer();
  if ((flags & (kHidden | kNoView)) != 0) return false;
  const Annotation::Kind kind = document::read_annotation(core_, annotation).kind;
  if (kind == Annotation::Kind::popup) return false;
  if (options_.kinds.empty()) return kind != Annotation::Kind::link;
  return std::find(options_.kinds.begin(), options_.kinds.end(), kind) != options_.kinds.end();
}

Result<std::optional<assemble::Drawn>> Flattening::drawn(const Dict& annotation, const Page& page) {
  std::optional<assemble::Drawn> none;
  auto place = document::rect_of(ledger_, annotation["Rect"]);
  const Rect stated = place.value_or(Rect());
  Stream stream;
  if (appearance::needs_look(core_, annotation)) {
    LUMVET_TRY(const auto written, looks_.write(annotation));
    if (!written) return none;
    place = written->place;
    stream = *ledger_.resolve(Object(written->form)).as_stream();
  } else {
    const Object normal = document::normal_appearance(ledger_, annotation);
    if (normal.as_stream() == nullptr || !place) return none;
    stream = *normal.as_stream();
  }
  return assemble::drawn_look(ledger_, std::move(stream),
                              {*place, stated, ledger_.get(annotation, "BM"), annotation["OC"],
                               ledger_.get(annotation, "F").as_integer(), page.rotation()});
}

Status Flattening::flatten(const Page& page, ObjectId id) {
  Dict dict = ledger_.resolve(Object(id)).as_dict();
  const Array list = ledger_.get(dict, "Annots").as_array();
  std::vector<assemble::Drawn> all;
  std::set<ObjectId> gone;
  Array kept;
  for (const Object& reference : list) {
    const Object object = ledger_.resolve(reference);
    const Dict& annotation = object.as_dict();
    if (!is_chosen(annotation)) {
      kept.push_back(reference);
      continue;
    }
    LUMVET_TRY(const auto one, drawn(annotation, page));
    if (one) all.push_back(*one);
    ++count_;
    if (!reference.is_reference()) continue;
    gone.insert(reference.as_reference());
    if (ledger_.get(annotation, "Subtype").is_name("Widget"))
      editing::take_from_form(ledger_, catalog_, reference.as_reference(), annotation["Parent"],
                              core_.store().limits().nesting);
  }
  if (kept.size() == list.size()) return Done{};
  gone = with_answers(ledger_, list, std::move(gone));
  std::erase_if(kept, [&](const Object& one) {
    return one.is_reference() && gone.contains(one.as_reference());
  });
  dict.set("Annots", kept.empty() ? Object() : Object(std::move(kept)));
  ledger_.set(id, std::move(dict));
  structure_.remove_annotations(gone);
  return assemble::draw_onto(ledger_, page, id, std::move(all));
}

Result<Dict> Flattening::finish() {
  LUMVET_RETURN_IF_ERROR(looks_.finish());
  return catalog_;
}

}  // namespace lumvet::annotate
