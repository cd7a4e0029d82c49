// SPDX-License-Identifier: Apache-2.0
// Colors chosen (ISO 32000-2, 8.6.8).
#include <algorithm>
#include <cmath>

#include "content/drawing.h"
#include "content/operators.h"

namespace lumvet::content {

std::uint8_t to_byte(double unit) {
  return static_cast<std::uint8_t>(std::lround(std::clamp(unit, 0.0, 1.0) * 255));
}

Paint with_state(const GraphicsState& state, Paint paint, double alpha) {
  paint.alpha = to_byte(alpha);
  paint.blend = state.blend;
  paint.alpha_is_shape = state.alpha_is_shape;
  return paint;
}

namespace {

using color::ColorSpace;

// Inks that a color leaves alone show through it, about as they would if the two were multiplied.
Paint paint_of(const Execution& run, const ColorState& color, double alpha, bool overprints) {
  Paint paint = with_state(run.state(), color.paint, alpha);
  const bool shows = run.shows_overprint && overprints && paint.blend == color::BlendMode::normal &&
                     color.leaves_inks[run.state().overprint_mode == 1 ? 1 : 0];
  if (shows) paint.blend = color::BlendMode::multiply;
  if (color.is_invisible) paint.alpha = 0;
  return paint;
}

void set_color(const Execution& run, ColorState& color, std::vector<double> values) {
  values.resize(color.space->components());
  const color::Rgb rgb = color::by_intent(color.space, run.state().intent)->to_rgb(values);
  color.paint = {to_byte(rgb.red), to_byte(rgb.green), to_byte(rgb.blue), 255};
  color.is_pattern = false;
  color.is_invisible = color.space->paints_nothing();
  color.leaves_inks = {color.space->leaves_inks(values, 0), color.space->leaves_inks(values, 1)};
  color.values = std::move(values);
}

// By what the resources put in place of a device's colors (8.6.5.6), which is rare.
std::shared_ptr<const ColorSpace> replaced_by_default(Execution& run,
                                                      std::shared_ptr<const ColorSpace> device) {
  const Object spaces = run.resource("ColorSpace");
  const char* names[][2] = {
      {"DefaultGray", "DeviceGray"}, {"DefaultRGB", "DeviceRGB"}, {"DefaultCMYK", "DeviceCMYK"}};
  const auto& [key, name] = names[device->components() == 1 ? 0 : device->components() - 2];
  if (!spaces.as_dict().contains(key)) return device;
  auto made = ColorSpace::make(Object::name(name), run.frame->resources, run.store, run.budget,
                               run.store.findings());
  return made.ok() ? *std::move(made) : device;
}

Status device_color(Execution& run, ColorState& color, std::shared_ptr<const ColorSpace> space) {
  if (run.frame->takes_color) return Done{};
  color.space = replaced_by_default(run, std::move(space));
  std::vector<double> values;
  for (const Object& operand : run.frame->operands) values.push_back(operand.as_number());
  set_color(run, color, std::move(values));
  return Done{};
}

Status choose_space(Execution& run, ColorState& color) {
  if (run.frame->takes_color) return Done{};
  auto made = ColorSpace::make(run.operand(0), run.frame->resources, run.store, run.budget,
                               run.store.findings());
  if (!made.ok()) {
    run.note(made.error().message() + "; colors stay as they were");
    return Done{};
  }
  color.space = *std::move(made);
  color.is_pattern = color.space->is_pattern();
  color.pattern = {};
  if (!color.is_pattern) set_color(run, color, color.space->initial());
  return Done{};
}

Status choose_color(Execution& run, ColorState& color) {
  if (run.frame->takes_color) return Done{};
  const std::vector<Object>& operands = run.frame->operands;
  std::vector<double> values;
  for (const Object& operand : operands)
    if (operand.is_number()) values.push_back(operand.as_number());
  if (operands.back().is_name()) {
    const Object patterns = run.resource("Pattern");
    if (color.space->is_pattern()) set_color(run, color, std::move(values));
    color.pattern = patterns.as_dict()[operands.back().as_name()];
    color.is_pattern = true;
    return Done{};
  }
  if (!color.space->is_pattern()) set_color(run, color, std::move(values));
  return Done{};
}

}  // namespace

Paint fill_paint(const Execution& run) {
  const GraphicsState& state = run.state();
  return paint_of(run, state.fill, state.fill_alpha, state.fill_overprints);
}

Paint stroke_paint(const Execution& run) {
  const GraphicsState& state = run.state();
  return paint_of(run, state.stroke, state.stroke_alpha, state.stroke_overprints);
}

// The intent that counts is that at the time of painting, not of choosing the color.
void set_intent(Execution& run, color::Intent intent) {
  GraphicsState& state = run.state();
  if (std::exchange(state.intent, intent) == intent || run.frame->takes_color) return;
  for (ColorState* color : {&state.fill, &state.stroke})
    if (!color->is_pattern && !color->values.empty()) set_color(run, *color, color->values);
}

namespace operators {

Status fill_gray(Execution& run) { return device_color(run, run.state().fill, ColorSpace::gray()); }
Status stroke_gray(Execution& run) {
  return device_color(run, run.state().stroke, ColorSpace::gray());
}
Status fill_rgb(Execution& run) { return device_color(run, run.state().fill, ColorSpace::rgb()); }
Status stroke_rgb(Execution& run) {
  return device_color(run, run.state().stroke, ColorSpace::rgb());
}
Status fill_cmyk(Execution& run) { return device_color(run, run.state().fill, ColorSpace::cmyk()); }
Status stroke_cmyk(Execution& run) {
  return device_color(run, run.state().stroke, ColorSpace::cmyk());
}
Status fill_space(Execution& run) { return choose_space(run, run.state().fill); }
Status stroke_space(Execution& run) { return choose_space(run, run.state().stroke); }
Status fill_color(Execution& run) { return choose_color(run, run.state().fill); }
Status stroke_color(Execution& run) { return choose_color(run, run.state().stroke); }

}  // namespace operators
}  // namespace lumvet::content
