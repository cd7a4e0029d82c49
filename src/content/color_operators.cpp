// SPDX-License-Identifier: Apache-2.0
// Colors chosen (ISO 32000-2, 8.6.8).
#include <algorithm>
#include <cmath>

#include "content/interpreter.h"

namespace lumvet::content {

std::uint8_t Interpreter::to_byte(double unit) {
  return static_cast<std::uint8_t>(std::lround(std::clamp(unit, 0.0, 1.0) * 255));
}

Paint Interpreter::with_state(Paint paint, double alpha) const {
  paint.alpha = to_byte(alpha);
  paint.blend = state_.blend;
  paint.alpha_is_shape = state_.alpha_is_shape;
  return paint;
}

// Inks that a color leaves alone show through it, about as they would if the two were multiplied.
Paint Interpreter::overprinted(Paint paint, const ColorState& color, bool overprints) const {
  const bool shows = shows_overprint_ && overprints && paint.blend == color::BlendMode::normal &&
                     color.leaves_inks[state_.overprint_mode == 1 ? 1 : 0];
  if (shows) paint.blend = color::BlendMode::multiply;
  if (color.is_invisible) paint.alpha = 0;
  return paint;
}

Dict Interpreter::with_default_inks(Dict resources) const {
  if (default_inks_.is_null()) return resources;
  const Object stated = store_.get(resources, "ColorSpace");
  if (stated.as_dict().contains("DefaultCMYK")) return resources;
  std::vector<Dict::Entry> spaces(stated.as_dict().begin(), stated.as_dict().end());
  spaces.emplace_back("DefaultCMYK", default_inks_);
  std::vector<Dict::Entry> entries;
  for (const Dict::Entry& entry : resources)
    if (entry.first != "ColorSpace") entries.push_back(entry);
  entries.emplace_back("ColorSpace", Object(Dict(std::move(spaces))));
  return Dict(std::move(entries));
}

void Interpreter::set_color(ColorState& color, std::vector<double> values) {
  values.resize(color.space->components());
  const color::Rgb rgb = color::by_intent(color.space, state_.intent)->to_rgb(values);
  color.paint = {to_byte(rgb.red), to_byte(rgb.green), to_byte(rgb.blue), 255};
  color.is_pattern = false;
  color.is_invisible = color.space->paints_nothing();
  color.leaves_inks = {color.space->leaves_inks(values, 0), color.space->leaves_inks(values, 1)};
  color.values = std::move(values);
}

// The intent that counts is that at the time of painting, not of choosing the color.
void Interpreter::set_intent(color::Intent intent) {
  if (std::exchange(state_.intent, intent) == intent || takes_color_) return;
  for (ColorState* color : {&state_.fill, &state_.stroke})
    if (!color->is_pattern && !color->values.empty()) set_color(*color, color->values);
}

Status Interpreter::rendering_intent() {
  set_intent(color::intent_named(operands_[0].as_name()));
  return Done{};
}

// By what the resources put in place of a device's colors (8.6.5.6), which is rare.
std::shared_ptr<const color::ColorSpace> Interpreter::replaced_by_default(
    std::shared_ptr<const color::ColorSpace> device) {
  const Object spaces = store_.get(resources_, "ColorSpace");
  const char* names[][2] = {
      {"DefaultGray", "DeviceGray"}, {"DefaultRGB", "DeviceRGB"}, {"DefaultCMYK", "DeviceCMYK"}};
  const auto& [key, name] = names[device->components() == 1 ? 0 : device->components() - 2];
  if (!spaces.as_dict().contains(key)) return device;
  auto made =
      color::ColorSpace::make(Object::name(name), resources_, store_, budget_, store_.findings());
  return made.ok() ? *std::move(made) : device;
}

Status Interpreter::device_color(ColorState& color,
                                 std::shared_ptr<const color::ColorSpace> space) {
  if (takes_color_) return Done{};
  color.space = replaced_by_default(std::move(space));
  std::vector<double> values;
  for (const Object& operand : operands_) values.push_back(operand.as_number());
  set_color(color, std::move(values));
  return Done{};
}

Status Interpreter::choose_space(ColorState& color) {
  if (takes_color_) return Done{};
  auto made = color::ColorSpace::make(operands_[0], resources_, store_, budget_, store_.findings());
  if (!made.ok()) {
    note(made.error().message() + "; colors stay as they were");
    return Done{};
  }
  color.space = *std::move(made);
  color.is_pattern = color.space->is_pattern();
  color.pattern = {};
  if (!color.is_pattern) set_color(color, color.space->initial());
  return Done{};
}

Status Interpreter::choose_color(ColorState& color) {
  if (takes_color_) return Done{};
  std::vector<double> values;
  for (const Object& operand : operands_)
    if (operand.is_number()) values.push_back(operand.as_number());
  if (operands_.back().is_name()) {
    const Object patterns = store_.get(resources_, "Pattern");
    if (color.space->is_pattern()) set_color(color, std::move(values));
    color.pattern = patterns.as_dict()[operands_.back().as_name()];
    color.is_pattern = true;
    return Done{};
  }
  if (!color.space->is_pattern()) set_color(color, std::move(values));
  return Done{};
}

}  // namespace lumvet::content
