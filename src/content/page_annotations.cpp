// SPDX-License-Identifier: Apache-2.0
#include "content/page_annotations.h"

#include "appearance/made_appearances.h"
#include "color/blend_mode.h"
#include "document/annotation_flags.h"
#include "document/appearance.h"
#include "document/inside.h"

namespace lumvet::content {
namespace {

using document::kHidden;
using document::kNoRotate;
using document::kNoView;
using document::kNoZoom;
using document::kPrint;
using document::kToggleNoView;

// Hidden, or not for this purpose (12.5.3); pop-up notes show in windows of their own.
bool is_shown(const Dict& annotation, std::int64_t flags, bool is_pointed_at, Purpose purpose) {
  if ((flags & kHidden) != 0 || annotation["Subtype"].is_name("Popup")) return false;
  if (purpose == Purpose::print) return (flags & kPrint) != 0;
  const bool is_toggled = is_pointed_at && (flags & kToggleNoView) != 0;
  return ((flags & kNoView) == 0) != is_toggled;
}

// By which an annotation stays upright, or as large, about its upper left corner (12.5.3).
Matrix held(const Rect& place, std::int64_t flags, const Page& page, const RecordOptions& options) {
  Matrix held;
  if ((flags & kNoRotate) != 0) held = document::upright_about(place, page.rotation());
  const double zoom = options.purpose == Purpose::view ? options.zoom.value_or(1) : 1;
  if ((flags & kNoZoom) != 0 && zoom > 0)
    held = held.then(Matrix::translation(-place.left, -place.top))
               .then(Matrix::scaling(1 / zoom, 1 / zoom))
               .then(Matrix::translation(place.left, place.top));
  return held;
}

}  // namespace

Status draw_annotations(const PageRun& run, Interpreter& interpreter) {
  const Page& page = run.page;
  const file::ObjectStore& store = store_of(page);
  const Object annotations = store.get(page.dict(), "Annots");
  if (annotations.as_array().empty()) return Done{};
  LUMVET_TRY(const auto made, appearance::made_appearances(page, run.options.fonts));
  std::optional<Interpreter> other;  // of the document with what was made
  if (made) {
    other.emplace(
        *made->core, run.canvas, run.text,
        std::make_shared<const LayerVisibility>(*made->core, LayerSetting{}, std::nullopt),
        run.options);
    if (!run.draws_letters) other->leave_letters_out();
    other->begin_page(page.dict(), page.to_display(), run.sheet);
  }
  for (std::size_t i = 0; i < annotations.as_array().size(); ++i) {
    const Object& listed = annotations.as_array()[i];
    const Object annotation = store.resolve(listed);
    const Dict& dict = annotation.as_dict();
    const std::int64_t flags = store.get(dict, "F").as_integer();
    const bool is_pointed_at =
        listed.is_reference() && run.options.pointed_at == listed.as_reference();
    if (!is_shown(dict, flags, is_pointed_at, run.options.purpose)) continue;
    if (!interpreter.shows(dict["OC"])) continue;
    const auto stated = document::rect_of(store, dict["Rect"]);
    AppearanceSetting setting;
    if (const Object blend = store.get(dict, "BM"); blend.is_name())
      setting.blend = color::blend_mode_named(blend.as_name()).value_or(color::BlendMode::normal);
    if (made)
      if (const auto own = made->forms.find(i); own != made->forms.end()) {
        const Object form = made->core->store().resolve(Object(own->second.form));
        setting.place = own->second.place;
        setting.held = held(stated.value_or(setting.place), flags, page, run.options);
        if (const Stream* own_form = form.as_stream())
          LUMVET_RETURN_IF_ERROR(other->run_appearance(*own_form, setting));
        continue;
      }
    const Object appearance = document::normal_appearance(store, dict);
    const Stream* form = appearance.as_stream();
    if (form == nullptr || !stated) continue;
    setting.place = *stated;
    setting.held = held(*stated, flags, page, run.options);
    LUMVET_RETURN_IF_ERROR(interpreter.run_appearance(*form, setting));
  }
  return Done{};
}

}  // namespace lumvet::content
