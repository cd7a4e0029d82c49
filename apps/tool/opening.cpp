// SPDX-License-Identifier: Apache-2.0
#include "opening.h"

#include <map>

namespace tool {
namespace {

using lumvet::NewView;
using lumvet::PageLayout;
using lumvet::PageMode;

const std::map<std::string, PageMode>& modes() {
  static const std::map<std::string, PageMode> kModes = {
      {"nothing", PageMode::none},          {"outline", PageMode::outline},
      {"thumbnails", PageMode::thumbnails}, {"full-screen", PageMode::full_screen},
      {"layers", PageMode::layers},         {"attachments", PageMode::attachments}};
  return kModes;
}

const std::map<std::string, PageLayout>& layouts() {
  static const std::map<std::string, PageLayout> kLayouts = {
      {"single", PageLayout::single_page},
      {"column", PageLayout::one_column},
      {"columns-odd-left", PageLayout::two_column_left},
      {"columns-odd-right", PageLayout::two_column_right},
      {"spread-odd-left", PageLayout::two_page_left},
      {"spread-odd-right", PageLayout::two_page_right}};
  return kLayouts;
}

const std::map<std::string, std::optional<bool> NewView::*>& window_words() {
  static const std::map<std::string, std::optional<bool> NewView::*> kWords = {
      {"title", &NewView::title_in_window},      {"fit", &NewView::fit_window},
      {"center", &NewView::center_window},       {"no-toolbar", &NewView::hide_toolbar},
      {"no-menubar", &NewView::hide_menubar},    {"no-controls", &NewView::hide_controls},
      {"right-to-left", &NewView::right_to_left}};
  return kWords;
}

template <typename Value>
std::vector<std::string> names_of(const std::map<std::string, Value>& known) {
  std::vector<std::string> names;
  for (const auto& [name, value] : known) names.push_back(name);
  return names;
}

}  // namespace

void add_opening_options(CLI::App& verb, Opening& opening) {
  verb.add_option("--open-with", opening.with, "What is shown beside the pages at first")
      ->check(CLI::IsMember(names_of(modes())));
  verb.add_option("--open-at", opening.page, "The page that is shown at first")
      ->check(CLI::Range(1, 10'000'000))
      ->type_name("PAGE");
  verb.add_option("--fit", opening.fit, "How large: the whole page, or its width")
      ->check(CLI::IsMember(std::vector<std::string>{"page", "width"}));
  verb.add_option("--spread", opening.layout, "How pages lie beside each other")
      ->check(CLI::IsMember(names_of(layouts())));
  verb.add_option("--window", opening.window,
                  "Its title rather than the file's name in the window; and so on")
      ->check(CLI::IsMember(names_of(window_words())))
      ->delimiter(',');
}

lumvet::Result<std::optional<NewView>> view_of(const Opening& opening) {
  NewView view;
  bool any = !opening.window.empty();
  if (!opening.with.empty()) view.mode = modes().at(opening.with);
  if (!opening.layout.empty()) view.layout = layouts().at(opening.layout);
  if (opening.page > 0 || !opening.fit.empty()) {
    lumvet::Destination place;
    place.page = std::max(opening.page, 1) - 1;
    if (opening.fit == "width") place.view = lumvet::Destination::View::fit_h;
    if (opening.fit.empty()) place.view = lumvet::Destination::View::xyz;
    view.destination = place;
  }
  for (const std::string& word : opening.window) view.*window_words().at(word) = true;
  any = any || view.mode || view.layout || view.destination;
  return any ? std::optional(view) : std::nullopt;
}

}  // namespace tool
