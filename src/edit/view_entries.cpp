// SPDX-License-Identifier: Apache-2.0
#include "edit/view_entries.h"

#include <array>

#include "document/view_names.h"

namespace lumvet::editing {
namespace {

template <typename Value, std::size_t count>
Object name_of(const Value& value, const document::Named<Value> (&known)[count]) {
  for (const document::Named<Value>& one : known)
    if (one.value == value) return Object::name(one.name);
  return Object();
}

}  // namespace

// Table 149.
Error no_such_page(int page, int count) {
  return Error(
      ErrorCode::invalid_argument,
      "page " + std::to_string(page + 1) + " is asked for, but there are " + std::to_string(count));
}

Result<Array> place_array(const Destination& place, const PageId& page_id) {
  if (!place.page)
    return Error(ErrorCode::invalid_argument, "a destination names no page to lead to");
  LUMVET_TRY(const ObjectId page, page_id(*place.page));
  using View = Destination::View;
  static constexpr std::array<document::Named<View>, 8> kViews = {{{"XYZ", View::xyz},
                                                                   {"Fit", View::fit},
                                                                   {"FitH", View::fit_h},
                                                                   {"FitV", View::fit_v},
                                                                   {"FitR", View::fit_r},
                                                                   {"FitB", View::fit_b},
                                                                   {"FitBH", View::fit_bh},
                                                                   {"FitBV", View::fit_bv}}};
  const auto number = [](const std::optional<double>& value) {
    return value ? Object(*value) : Object();
  };
  Array array = {page};
  for (const auto& view : kViews)
    if (view.value == place.view) array.push_back(Object::name(view.name));
  switch (place.view) {
    case View::xyz:
      array.insert(array.end(), {number(place.left), number(place.top), number(place.zoom)});
      break;
    case View::fit_h:
    case View::fit_bh: array.push_back(number(place.top)); break;
    case View::fit_v:
    case View::fit_bv: array.push_back(number(place.left)); break;
    case View::fit_r:
      for (const auto& side : {place.left, place.bottom, place.right, place.top})
        array.push_back(Object(side.value_or(0)));
      break;
    case View::fit:
    case View::fit_b: break;
  }
  return array;
}

Status set_view_entries(const NewView& view, Dict& catalog, const objects::Resolver& objects,
                        const PageId& page_id) {
  Dict preferences = objects.resolve(catalog["ViewerPreferences"]).as_dict();
  if (view.layout) catalog.set("PageLayout", name_of(*view.layout, document::kLayouts));
  if (view.mode) catalog.set("PageMode", name_of(*view.mode, document::kModes));
  if (view.destination) {
    LUMVET_TRY(Array place, place_array(*view.destination, page_id));
    catalog.set("OpenAction", std::move(place));
  }
  // What is not asked for is the default, and need not be said.
  const auto set = [&](const char* key, const std::optional<bool>& value) {
    if (value) preferences.set(key, *value ? Object(true) : Object());
  };
  set("HideToolbar", view.hide_toolbar);
  set("HideMenubar", view.hide_menubar);
  set("HideWindowUI", view.hide_controls);
  set("FitWindow", view.fit_window);
  set("CenterWindow", view.center_window);
  set("DisplayDocTitle", view.title_in_window);
  if (view.right_to_left)
    preferences.set("Direction", name_of(*view.right_to_left, document::kDirections));
  if (view.print_scaling)
    preferences.set("PrintScaling", name_of(*view.print_scaling, document::kScalings));
  if (view.duplex) preferences.set("Duplex", name_of(*view.duplex, document::kDuplexes));
  if (view.copies) {
    if (*view.copies < 1)
      return Error(ErrorCode::invalid_argument, "one copy is the least that is printed");
    preferences.set("NumCopies", *view.copies);
  }
  catalog.set("ViewerPreferences",
              preferences.is_empty() ? Object() : Object(std::move(preferences)));
  return Done{};
}

}  // namespace lumvet::editing
