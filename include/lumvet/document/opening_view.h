// SPDX-License-Identifier: Apache-2.0
// How a document asks to be shown and printed (ISO 32000-2, 7.7.2 and 12.2). A viewer may follow.
//
// Threads: values. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "lumvet/document/action.h"

namespace lumvet {

// Table 29: "left" has odd pages on the left.
enum class PageLayout {
  single_page,
  one_column,
  two_column_left,
  two_column_right,
  two_page_left,
  two_page_right,
};

// What is shown beside the pages.
enum class PageMode { none, outline, thumbnails, full_screen, layers, attachments };

enum class PrintScaling { as_viewer, none };
enum class Duplex { unstated, simplex, flip_short_edge, flip_long_edge };

struct OpeningView {
  PageLayout layout = PageLayout::single_page;
  PageMode mode = PageMode::none;
  PageMode mode_after_full_screen = PageMode::none;
  std::optional<Destination> destination = {};  // its own, or that of its first action
  std::vector<Action> actions = {};             // to be done on opening; nothing here ever is

  bool hide_toolbar = false;
  bool hide_menubar = false;
  bool hide_controls = false;  // scroll bars and the like
  bool fit_window = false;     // the window to the first page
  bool center_window = false;
  bool title_in_window = false;  // rather than the file's name
  bool right_to_left = false;

  std::string view_area = "CropBox";  // by the names of page boxes
  std::string view_clip = "CropBox";
  std::string print_area = "CropBox";
  std::string print_clip = "CropBox";
  PrintScaling print_scaling = PrintScaling::as_viewer;
  Duplex duplex = Duplex::unstated;
  std::optional<bool> tray_by_page_size = {};
  std::vector<std::pair<int, int>> print_pages = {};  // first and last of each range, from 0
  int copies = 1;
  // Entries that a viewer must not override: "PrintScaling".
  std::vector<std::string> enforced = {};
};

}  // namespace lumvet
