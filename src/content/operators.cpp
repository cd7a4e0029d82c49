// SPDX-License-Identifier: Apache-2.0
#include "content/operators.h"

#include <algorithm>
#include <iterator>

namespace lumvet::content {
namespace {

Status nothing(Execution&) { return Done{}; }

}  // namespace

const Operator* find_operator(std::string_view name) {
  namespace op = operators;
  // Sorted by name.
  static constexpr Operator kOperators[] = {
      {"\"", 3, op::show_with_spacing},
      {"'", 1, op::show_on_next_line},
      {"B", 0, op::paint_both},
      {"B*", 0, op::paint_both_even_odd},
      {"BDC", 2, op::begin_marked_with_properties},
      {"BI", 0, op::inline_image},
      {"BMC", 0, op::begin_marked},
      {"BT", 0, op::begin_text},
      {"BX", 0, op::begin_compatible},
      {"CS", 1, op::stroke_space},
      {"DP", 0, nothing},
      {"Do", 1, op::draw_object},
      {"EMC", 0, op::end_marked},
      {"ET", 0, op::end_text},
      {"EX", 0, op::end_compatible},
      {"F", 0, op::paint_fill},
      {"G", 1, op::stroke_gray},
      {"J", 1, op::line_cap},
      {"K", 4, op::stroke_cmyk},
      {"M", 1, op::miter_limit},
      {"MP", 0, nothing},
      {"Q", 0, op::restore},
      {"RG", 3, op::stroke_rgb},
      {"S", 0, op::paint_stroke},
      {"SC", 1, op::stroke_color, true},
      {"SCN", 1, op::stroke_color, true},
      {"T*", 0, op::next_line},
      {"TD", 2, op::move_line_with_leading},
      {"TJ", 1, op::show_adjusted},
      {"TL", 1, op::leading},
      {"Tc", 1, op::character_spacing},
      {"Td", 2, op::move_line},
      {"Tf", 2, op::choose_font},
      {"Tj", 1, op::show},
      {"Tm", 6, op::text_matrix},
      {"Tr", 1, op::text_mode},
      {"Ts", 1, op::rise},
      {"Tw", 1, op::word_spacing},
      {"Tz", 1, op::horizontal_scale},
      {"W", 0, op::clip_nonzero},
      {"W*", 0, op::clip_even_odd},
      {"b", 0, op::paint_close_both},
      {"b*", 0, op::paint_close_both_even_odd},
      {"c", 6, op::curve_to},
      {"cm", 6, op::concat},
      {"cs", 1, op::fill_space},
      {"d", 2, op::dash},
      {"d0", 2, nothing},
      {"d1", 6, op::glyph_width_and_box},
      {"f", 0, op::paint_fill},
      {"f*", 0, op::paint_fill_even_odd},
      {"g", 1, op::fill_gray},
      {"gs", 1, op::extended_state},
      {"h", 0, op::close_path},
      {"i", 0, nothing},
      {"j", 1, op::line_join},
      {"k", 4, op::fill_cmyk},
      {"l", 2, op::line_to},
      {"m", 2, op::move_to},
      {"n", 0, op::paint_nothing},
      {"q", 0, op::save},
      {"re", 4, op::rectangle},
      {"rg", 3, op::fill_rgb},
      {"ri", 1, op::rendering_intent},
      {"s", 0, op::paint_close_stroke},
      {"sc", 1, op::fill_color, true},
      {"scn", 1, op::fill_color, true},
      {"sh", 1, op::shading},
      {"v", 4, op::curve_from_current},
      {"w", 1, op::line_width},
      {"y", 4, op::curve_to_end},
  };
  const auto* found = std::lower_bound(
      std::begin(kOperators), std::end(kOperators), name,
      [](const Operator& op, std::string_view wanted) { return op.name < wanted; });
  return found != std::end(kOperators) && found->name == name ? found : nullptr;
}

}  // namespace lumvet::content
