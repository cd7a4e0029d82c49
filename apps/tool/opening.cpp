// SPDX-License-Identifier: Apache-2.0
#include "opening.h"

#include <map>

#include <CLI/CLI.hpp>

namespace tool {
namespace {

using lumvet::NewView;
using lumvet::PageLayout;
using lumvet::PageMode;

const std::map<std::string, PageMode>& modes() {
  static const std::map<std::string, PageMode> kModes = {{"none", PageMode::none},
                                                         {"outline", PageMode::outline},
                                                         {"thumbnails", PageMode::thumbnails},
                                                         {"full-screen", PageMode::full_screen},
                                                         {"layers", PageMode::layers},
                                                         {"attachments", PageMode::attachments}};
  return kModes;
}

const std::map<std::string, PageLayout>& layouts() {
  static const std::map<std::string, PageLayout> kLayouts = {
      {"single-page", PageLayout::single_page},
      {"one-column", PageLayout::one_column},
      {"two-column-left", PageLayout::two_column_left},
      {"two-column-right", PageLayout::two_column_right},
      {"two-page-left", PageLayout::two_page_left},
      {"two-page-right", PageLayout::two_page_right}};
  return kLayouts;
}

const std::map<std::string, std::optional<bool> NewView::*>& preference_words() {
  static const std::map<std::string, std::optional<bool> NewView::*> kWords = {
      {"display-title", &NewView::title_in_window}, {"fit-window", &NewView::fit_window},
      {"center-window", &NewView::center_window},   {"hide-toolbar", &NewView::hide_toolbar},
      {"hide-menubar", &NewView::hide_menubar},     {"hide-controls", &NewView::hide_controls},
      {"right-to-left", &NewView::right_to_left}};
  return kWords;
}

template <typename Value>
std::vector<std::string> names_of(const std::map<std::string, Value>& known) {
  std::vector<std::string> names;
  for (const auto& [name, value] : known) names.push_back(name);
  return names;
}

template <typename Value>
std::string listed(const std::map<std::string, Value>& known) {
  std::string text;
  for (const auto& [name, value] : known) text += (text.empty() ? "" : ", ") + name;
  return text;
}

}  // namespace

void add_opening_options(CLI::App& verb, Opening& opening) {
  verb.add_option("--page-mode", opening.mode,
                  "Shown beside the pages at first: " + listed(modes()))
      ->check(CLI::IsMember(names_of(modes())).description(""))
      ->type_name("MODE");
  verb.add_option("--open-at", opening.page, "The page that is shown at first")
      ->check(CLI::Range(1, 10'000'000).description(""))
      ->type_name("PAGE");
  verb.add_option("--fit", opening.fit, "How large: the whole page, or its width")
      ->check(CLI::IsMember(std::vector<std::string>{"page", "width"}).description(""))
      ->type_name("WORD");
  verb.add_option("--page-layout", opening.layout, "How pages lie: " + listed(layouts()))
      ->check(CLI::IsMember(names_of(layouts())).description(""))
      ->type_name("LAYOUT");
  verb.add_option("--viewer-preferences", opening.preferences,
                  "Of a viewer's window, and how pages are read: " + listed(preference_words()))
      ->check(CLI::IsMember(names_of(preference_words())).description(""))
      ->delimiter(',')
      ->type_name("WORD,…");
}

lumvet::Result<std::optional<NewView>> view_of(const Opening& opening) {
  NewView view;
  bool any = !opening.preferences.empty();
  if (!opening.mode.empty()) view.mode = modes().at(opening.mode);
  if (!opening.layout.empty()) view.layout = layouts().at(opening.layout);
  if (opening.page > 0 || !opening.fit.empty()) {
    lumvet::Destination place;
    place.page = std::max(opening.page, 1) - 1;
    if (opening.fit == "width") place.view = lumvet::Destination::View::fit_h;
    if (opening.fit.empty()) place.view = lumvet::Destination::View::xyz;
    view.destination = place;
  }
  for (const std::string& word : opening.preferences) view.*preference_words().at(word) = true;
  any = any || view.mode || view.layout || view.destination;
  return any ? std::optional(view) : std::nullopt;
}

}  // namespace tool
