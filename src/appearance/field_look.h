// SPDX-License-Identifier: Apache-2.0
// Fields drawn by their own entries (ISO 32000-2, 12.7.4.3 and 12.5.6.19): background and border,
// and what they hold.
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>

#include "appearance/default_appearance.h"
#include "appearance/look.h"
#include "lumvet/document/form.h"

namespace lumvet::appearance {

// What a widget says of its own look (table 192).
struct WidgetLook {
  Rect rect;         // in the page's space
  int rotation = 0;  // degrees to the left: 0, 90, 180, 270
  std::vector<double> border_color = {};
  std::vector<double> background = {};
  std::string caption = {};  // UTF-8; of boxes a letter of ZapfDingbats
  AnnotationBorder border = {};
  bool is_on = false;             // of a box or a button
  std::int64_t first_option = 0;  // that a list shows
};

// Nothing for one without extent.
std::optional<Look> look_of(const FormField& field, const WidgetLook& widget, const Fonts& fonts);

// The size in which a text without one is set in a box: one line, or lines that are broken.
double size_in(const std::string& text, const TextLook& look, double width, double height,
               bool is_multiline, const Fonts& fonts);

}  // namespace lumvet::appearance
