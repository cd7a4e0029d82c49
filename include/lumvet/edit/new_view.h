// SPDX-License-Identifier: Apache-2.0
// How a document shall be shown when it is opened (ISO 32000-2, 7.7.2 and 12.2).
//
// Threads: values. Since: 0.2
#pragma once

#include <optional>

#include "lumvet/document/opening_view.h"

namespace lumvet {

// Each that is given is set; what they mean stands with OpeningView.
struct NewView {
  std::optional<PageLayout> layout = {};
  std::optional<PageMode> mode = {};
  std::optional<Destination> destination = {};  // in place of whatever is done on opening
  std::optional<bool> hide_toolbar = {};
  std::optional<bool> hide_menubar = {};
  std::optional<bool> hide_controls = {};
  std::optional<bool> fit_window = {};
  std::optional<bool> center_window = {};
  std::optional<bool> title_in_window = {};
  std::optional<bool> right_to_left = {};
  std::optional<PrintScaling> print_scaling = {};
  std::optional<Duplex> duplex = {};
  std::optional<int> copies = {};
};

}  // namespace lumvet
