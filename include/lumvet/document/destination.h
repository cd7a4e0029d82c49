// SPDX-License-Identifier: Apache-2.0
// Where links, outline entries and actions lead (ISO 32000-2, 12.3.2).
//
// Threads: values. Since: 0.2
#pragma once

#include <optional>
#include <string>

namespace lumvet {

struct Destination {
  // How much of the page is to be shown, by the names of table 149.
  enum class View {
    xyz,    // left and top at the corner, at `zoom`
    fit,    // the whole page
    fit_h,  // its width, top at the upper edge
    fit_v,  // its height, left at the left edge
    fit_r,  // the rectangle
    fit_b,  // all that is drawn on it
    fit_bh,
    fit_bv,
  };

  std::optional<int> page = {};  // from 0; nothing when there is no such page
  View view = View::fit;
  // In points of the page's space; what is not given stays as it is.
  std::optional<double> left = {};
  std::optional<double> top = {};
  std::optional<double> right = {};
  std::optional<double> bottom = {};
  std::optional<double> zoom = {};  // 1 is 100 %
  std::string name = {};            // in UTF-8, of a named one

  bool operator==(const Destination&) const = default;
};

}  // namespace lumvet
