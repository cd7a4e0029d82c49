// SPDX-License-Identifier: Apache-2.0
#include "document/opening_view.h"

#include <span>

#include "document/destinations.h"
#include "document/view_names.h"

namespace lumvet::document {
namespace {

class ViewReader {
 public:
  explicit ViewReader(const Core& core)
      : core_(core),
        store_(core.store()),
        preferences_(store_.get(core.catalog(), "ViewerPreferences").as_dict()) {}

  OpeningView read() {
    choose(core_.catalog(), "PageLayout", kLayouts, view_.layout);
    choose(core_.catalog(), "PageMode", kModes, view_.mode);
    read_opening_action();
    read_window();
    read_printing();
    return std::move(view_);
  }

 private:
  // A destination or an action (12.3.2, table 29).
  void read_opening_action() {
    const Object& opening = core_.catalog()["OpenAction"];
    if (store_.resolve(opening).is_array()) {
      view_.destination = read_destination(core_, opening);
      return;
    }
    view_.actions = read_actions(core_, opening);
    if (!view_.actions.empty() && view_.actions[0].kind == Action::Kind::go_to)
      view_.destination = view_.actions[0].destination;
  }

  void read_window() {
    choose(preferences_, "NonFullScreenPageMode", kModes, view_.mode_after_full_screen);
    view_.hide_toolbar = is_set("HideToolbar");
    view_.hide_menubar = is_set("HideMenubar");
    view_.hide_controls = is_set("HideWindowUI");
    view_.fit_window = is_set("FitWindow");
    view_.center_window = is_set("CenterWindow");
    view_.title_in_window = is_set("DisplayDocTitle");
    choose(preferences_, "Direction", kDirections, view_.right_to_left);
    read_area("ViewArea", view_.view_area);
    read_area("ViewClip", view_.view_clip);
  }

  void read_printing() {
    read_area("PrintArea", view_.print_area);
    read_area("PrintClip", view_.print_clip);
    choose(preferences_, "PrintScaling", kScalings, view_.print_scaling);
    choose(preferences_, "Duplex", kDuplexes, view_.duplex);
    const Object tray = store_.get(preferences_, "PickTrayByPDFSize");
    if (!tray.is_null()) view_.tray_by_page_size = tray.as_bool();
    const std::int64_t copies = store_.get(preferences_, "NumCopies").as_integer(1);
    constexpr std::int64_t kMostCopies = 1000;
    if (copies >= 1 && copies <= kMostCopies) view_.copies = static_cast<int>(copies);
    const Object ranges = store_.get(preferences_, "PrintPageRange");
    for (std::size_t i = 0; i + 1 < ranges.as_array().size(); i += 2) {
      // The standard counts these from 1, unlike everything else.
      const std::int64_t first = store_.resolve(ranges.as_array()[i]).as_integer() - 1;
      const std::int64_t last = store_.resolve(ranges.as_array()[i + 1]).as_integer() - 1;
      if (0 <= first && first <= last && last < core_.pages().count())
        view_.print_pages.emplace_back(static_cast<int>(first), static_cast<int>(last));
      else
        store_.findings().add({"a range of pages to be printed is impossible; it was left out",
                               {},
                               core_.root().as_reference()});
    }
    const Object enforced = store_.get(preferences_, "Enforce");
    for (const Object& entry : enforced.as_array())
      view_.enforced.emplace_back(store_.resolve(entry).as_name());
  }

  template <typename Value, std::size_t count>
  void choose(const Dict& dict, std::string_view key, const Named<Value> (&known)[count],
              Value& value) {
    const Object stated = store_.get(dict, key);
    if (stated.is_null()) return;
    for (const Named<Value>& one : known)
      if (stated.is_name(one.name)) {
        value = one.value;
        return;
      }
    store_.findings().add({"/" + std::string(key) + " has a value that is not known (" +
                               to_text(stated).substr(0, 40) + "); it was ignored",
                           {},
                           core_.root().as_reference()});
  }

  void read_area(std::string_view key, std::string& area) {
    const Object name = store_.get(preferences_, key);
    if (name.is_name()) area = name.as_name();
  }

  bool is_set(std::string_view key) { return store_.get(preferences_, key).as_bool(); }

  const Core& core_;
  const file::ObjectStore& store_;
  Dict preferences_;
  OpeningView view_;
};

}  // namespace

OpeningView read_opening_view(const Core& core) { return ViewReader(core).read(); }

}  // namespace lumvet::document
