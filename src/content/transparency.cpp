// SPDX-License-Identifier: Apache-2.0
// Graphics state dictionaries (ISO 32000-2, 8.4.5), groups and soft masks (11.4 and 11.5).
#include <algorithm>
#include <cmath>

#include "color/function.h"
#include "content/interpreter.h"
#include "objects/read_numbers.h"

namespace lumvet::content {

Status Interpreter::extended_state() {
  const Object states = store_.get(resources_, "ExtGState");
  const Object object = store_.get(states.as_dict(), operands_[0].as_name());
  if (!object.is_dict()) note("a graphics state that is named is missing");
  sets_fill_overprint_ = object.as_dict().contains("op");
  for (const auto& [key, unresolved] : object.as_dict())
    LUMVET_RETURN_IF_ERROR(apply_entry(key, store_.resolve(unresolved)));
  return Done{};
}

Status Interpreter::apply_entry(const std::string& key, const Object& value) {
  const Array& parts = value.as_array();
  if (key == "ca") {
    state_.fill_alpha = std::clamp(value.as_number(1), 0.0, 1.0);
  } else if (key == "CA") {
    state_.stroke_alpha = std::clamp(value.as_number(1), 0.0, 1.0);
  } else if (key == "LW") {
    state_.line.width = std::abs(value.as_number());
  } else if (key == "LC") {
    state_.line.cap = static_cast<LineCap>(std::clamp<std::int64_t>(value.as_integer(), 0, 2));
  } else if (key == "LJ") {
    state_.line.join = static_cast<LineJoin>(std::clamp<std::int64_t>(value.as_integer(), 0, 2));
  } else if (key == "ML") {
    state_.line.miter_limit = std::max(1.0, value.as_number());
  } else if (key == "D" && parts.size() == 2) {
    set_dash(store_.resolve(parts[0]), store_.resolve(parts[1]).as_number());
  } else if (key == "SA") {
    state_.line.adjusted = value.as_bool();
  } else if (key == "Font" && parts.size() == 2) {
    set_font(parts[0], store_.resolve(parts[1]).as_number());
  } else if (key == "AIS") {
    state_.alpha_is_shape = value.as_bool();
  } else if (key == "TK") {
    state_.text_knocks_out = value.as_bool(true);
  } else if (key == "OP") {
    state_.stroke_overprints = value.as_bool();
    // By itself it stands for both, wherever the other may be (table 57).
    if (!sets_fill_overprint_) state_.fill_overprints = value.as_bool();
  } else if (key == "op") {
    state_.fill_overprints = value.as_bool();
  } else if (key == "OPM") {
    state_.overprint_mode = static_cast<int>(value.as_integer());
  } else if (key == "RI") {
    set_intent(color::intent_named(value.as_name()));
  } else if (key == "BM") {
    choose_blend_mode(value);
  } else if (key == "SMask") {
    return choose_soft_mask(value);
  }
  return Done{};
}

// One mode, or several of which the first that is known counts (11.6.3).
void Interpreter::choose_blend_mode(const Object& modes) {
  const Array several = modes.is_array() ? modes.as_array() : Array{modes};
  for (const Object& mode : several)
    if (const auto known = color::blend_mode_named(store_.resolve(mode).as_name())) {
      state_.blend = *known;
      return;
    }
  note("a blend mode that does not exist was taken as Normal");
  state_.blend = color::BlendMode::normal;
}

Status Interpreter::choose_soft_mask(const Object& mask) {
  state_.mask = kNoMask;
  if (!mask.is_dict() || canvas_->reads()) return Done{};
  const Object form = store_.get(mask.as_dict(), "G");
  if (!form.is_stream()) {
    note("a soft mask without a group is not applied");
    return Done{};
  }
  SoftMask soft;
  soft.by_luminosity = store_.get(mask.as_dict(), "S").is_name("Luminosity");
  if (soft.by_luminosity) soft.backdrop = backdrop_of(mask.as_dict(), form.as_dict());
  for (std::size_t i = 0; i < soft.transfer.size(); ++i)
    soft.transfer[i] = static_cast<std::uint8_t>(i);
  const Object transfer = store_.get(mask.as_dict(), "TR");
  if (transfer.is_dict() || transfer.is_stream()) {
    const auto function = color::Function::make(transfer, store_, budget_, store_.findings());
    if (!function.ok()) note(function.error().message() + "; a soft mask is taken as it is");
    for (std::size_t i = 0; function.ok() && i < soft.transfer.size(); ++i) {
      const double value = static_cast<double>(i) / 255;
      std::vector<double> out;
      (*function)->evaluate({&value, 1}, out);
      soft.transfer[i] = static_cast<std::uint8_t>(
          std::lround(std::clamp(out.empty() ? value : out[0], 0.0, 1.0) * 255));
    }
  }
  const Budget::Depth depth(budget_);
  if (!depth.ok()) {
    note("soft masks use one another deeper than Limits::nesting; the innermost are left out");
    return Done{};
  }
  const Rect everywhere = canvas_->bounds_of(kNoClip);
  LUMVET_TRY(soft.group, canvas_->record(everywhere, [&](Canvas& canvas) {
    return draw_apart(canvas, *form.as_stream());
  }));
  state_.mask = canvas_->soft_mask(std::move(soft));
  return Done{};
}

// The color below a mask's group, in the group's own space; black unless it is stated.
color::Rgb8 Interpreter::backdrop_of(const Dict& mask, const Dict& form) {
  const Object group = store_.get(form, "Group");
  std::vector<double> values = objects::numbers_of(store_, mask["BC"]);
  if (!group.as_dict().contains("CS") || values.empty()) return {};
  const auto space = color::ColorSpace::make(group.as_dict()["CS"], resources_, store_, budget_,
                                             store_.findings());
  if (!space.ok()) return {};
  values.resize((*space)->components());
  const color::Rgb rgb = (*space)->to_rgb(values);
  return {to_byte(rgb.red), to_byte(rgb.green), to_byte(rgb.blue)};
}

// A form as the only thing there is, where the matrix is now.
Status Interpreter::draw_apart(Canvas& canvas, const Stream& form) {
  Canvas* const outer_canvas = std::exchange(canvas_, &canvas);
  const bool outer_takes_color = std::exchange(takes_color_, false);
  const GraphicsState outer = state_;
  state_ = {};
  state_.ctm = outer.ctm;
  Status status = draw_form(form);
  state_ = outer;
  takes_color_ = outer_takes_color;
  canvas_ = outer_canvas;
  return status;
}

// Begins the group that a form is, if it is one; what it holds then starts afresh (11.6.6).
bool Interpreter::begin_group_of(const Dict& form) {
  const Object group = store_.get(form, "Group");
  if (!store_.get(group.as_dict(), "S").is_name("Transparency")) return false;
  const bool isolated = store_.get(group.as_dict(), "I").as_bool();
  canvas_->begin_group({.alpha = to_byte(state_.fill_alpha),
                        .blend = state_.blend,
                        .isolated = isolated,
                        .knockout = store_.get(group.as_dict(), "K").as_bool(),
                        .colors = isolated ? colors_of(group.as_dict()) : GroupColors::as_around},
                       within());
  state_.fill_alpha = state_.stroke_alpha = 1;
  state_.blend = color::BlendMode::normal;
  state_.mask = kNoMask;
  return true;
}

GroupColors Interpreter::colors_of(const Dict& group) {
  if (!group.contains("CS")) return GroupColors::as_around;
  const auto space =
      color::ColorSpace::make(group["CS"], resources_, store_, budget_, store_.findings());
  if (!space.ok()) return GroupColors::as_around;
  switch ((*space)->components()) {
    case 1: return GroupColors::gray;
    case 4: return GroupColors::inks;
    default: return GroupColors::screen;
  }
}

}  // namespace lumvet::content
