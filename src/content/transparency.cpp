// SPDX-License-Identifier: Apache-2.0
// Groups and soft masks (ISO 32000-2, 11.4 and 11.5).
#include <algorithm>
#include <cmath>

#include "color/function.h"
#include "content/drawing.h"
#include "objects/read_numbers.h"

namespace lumvet::content {
namespace {

// The color below a mask's group, in the group's own space; black unless it is stated.
color::Rgb8 backdrop_of(Execution& run, const Dict& mask, const Dict& form) {
  const Object group = run.store.get(form, "Group");
  std::vector<double> values = objects::numbers_of(run.store, mask["BC"]);
  if (!group.as_dict().contains("CS") || values.empty()) return {};
  const auto space = color::ColorSpace::make(group.as_dict()["CS"], run.frame->resources, run.store,
                                             run.budget, run.store.findings());
  if (!space.ok()) return {};
  values.resize((*space)->components());
  const color::Rgb rgb = (*space)->to_rgb(values);
  return {to_byte(rgb.red), to_byte(rgb.green), to_byte(rgb.blue)};
}

// A form as the only thing there is, where the matrix is now.
Status draw_apart(Execution& run, Canvas& canvas, const Stream& form) {
  const Replaced<Canvas*> drawn_on(run.canvas, &canvas);
  const Replaced<TextRecorder*> unread(run.text, nullptr);
  Frame frame = run.frame->inner();
  frame.state = {};
  frame.state.ctm = run.state().ctm;
  frame.takes_color = false;
  const Replaced<Frame*> running(run.frame, &frame);
  return draw_form(run, form);
}

}  // namespace

Status choose_soft_mask(Execution& run, const Object& mask) {
  run.state().mask = kNoMask;
  if (!mask.is_dict()) return Done{};
  const Object form = run.store.get(mask.as_dict(), "G");
  if (!form.is_stream()) {
    run.note("a soft mask without a group is not applied");
    return Done{};
  }
  SoftMask soft;
  soft.by_luminosity = run.store.get(mask.as_dict(), "S").is_name("Luminosity");
  if (soft.by_luminosity) soft.backdrop = backdrop_of(run, mask.as_dict(), form.as_dict());
  for (std::size_t i = 0; i < soft.transfer.size(); ++i)
    soft.transfer[i] = static_cast<std::uint8_t>(i);
  const Object transfer = run.store.get(mask.as_dict(), "TR");
  if (transfer.is_dict() || transfer.is_stream()) {
    const auto function =
        color::Function::make(transfer, run.store, run.budget, run.store.findings());
    if (!function.ok()) run.note(function.error().message() + "; a soft mask is taken as it is");
    for (std::size_t i = 0; function.ok() && i < soft.transfer.size(); ++i) {
      const double value = static_cast<double>(i) / 255;
      std::vector<double> out;
      (*function)->evaluate({&value, 1}, out);
      soft.transfer[i] = static_cast<std::uint8_t>(
          std::lround(std::clamp(out.empty() ? value : out[0], 0.0, 1.0) * 255));
    }
  }
  const Budget::Depth depth(run.budget);
  if (!depth.ok()) {
    run.note("soft masks use one another deeper than Limits::nesting; the innermost are left out");
    return Done{};
  }
  const Rect everywhere = run.canvas->bounds_of(kNoClip);
  LUMVET_TRY(soft.group, run.canvas->record(everywhere, [&](Canvas& canvas) {
    return draw_apart(run, canvas, *form.as_stream());
  }));
  run.state().mask = run.canvas->soft_mask(std::move(soft));
  return Done{};
}

bool begin_group_of(Execution& run, GraphicsState& state, const Dict& form) {
  const Object group = run.store.get(form, "Group");
  if (!run.store.get(group.as_dict(), "S").is_name("Transparency")) return false;
  const bool isolated = run.store.get(group.as_dict(), "I").as_bool();
  run.canvas->begin_group(
      {.alpha = to_byte(state.fill_alpha),
       .blend = state.blend,
       .isolated = isolated,
       .knockout = run.store.get(group.as_dict(), "K").as_bool(),
       .colors = isolated ? colors_of(run, group.as_dict()) : GroupColors::as_around},
      {state.clip, state.mask});
  state.fill_alpha = state.stroke_alpha = 1;
  state.blend = color::BlendMode::normal;
  state.mask = kNoMask;
  return true;
}

GroupColors colors_of(Execution& run, const Dict& group) {
  if (!group.contains("CS")) return GroupColors::as_around;
  const auto space = color::ColorSpace::make(group["CS"], run.frame->resources, run.store,
                                             run.budget, run.store.findings());
  if (!space.ok()) return GroupColors::as_around;
  switch ((*space)->components()) {
    case 1: return GroupColors::gray;
    case 4: return GroupColors::inks;
    default: return GroupColors::screen;
  }
}

}  // namespace lumvet::content
