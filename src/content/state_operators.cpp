// SPDX-License-Identifier: Apache-2.0
// The graphics state saved, restored and set (ISO 32000-2, 8.4.4 and 8.4.5).
#include <algorithm>
#include <cmath>

#include "base/attempt.h"
#include "content/drawing.h"
#include "content/operators.h"

namespace lumvet::content {

void set_dash(Execution& run, const Object& array, double phase) {
  StrokeStyle& line = run.state().line;
  line.dashes.clear();
  line.dash_phase = phase;
  double sum = 0;
  for (const Object& length : array.as_array()) {
    line.dashes.push_back(run.store.resolve(length).as_number());
    sum += line.dashes.back();
  }
  if (sum <= 0) line.dashes.clear();
}

namespace {

LineCap cap_of(const Object& number) {
  return static_cast<LineCap>(std::clamp<std::int64_t>(number.as_integer(), 0, 2));
}

LineJoin join_of(const Object& number) {
  return static_cast<LineJoin>(std::clamp<std::int64_t>(number.as_integer(), 0, 2));
}

// One mode, or several of which the first that is known counts (11.6.3).
void choose_blend_mode(Execution& run, const Object& modes) {
  const Array several = modes.is_array() ? modes.as_array() : Array{modes};
  for (const Object& mode : several)
    if (const auto known = color::blend_mode_named(run.store.resolve(mode).as_name())) {
      run.state().blend = *known;
      return;
    }
  run.note("a blend mode that does not exist was taken as Normal");
  run.state().blend = color::BlendMode::normal;
}

// An entry of a graphics state dictionary (table 57).
Status apply_entry(Execution& run, const Dict& dict, std::string_view key, const Object& value) {
  GraphicsState& state = run.state();
  const Array& parts = value.as_array();
  if (key == "ca") {
    state.fill_alpha = std::clamp(value.as_number(1), 0.0, 1.0);
  } else if (key == "CA") {
    state.stroke_alpha = std::clamp(value.as_number(1), 0.0, 1.0);
  } else if (key == "LW") {
    state.line.width = std::abs(value.as_number());
  } else if (key == "LC") {
    state.line.cap = cap_of(value);
  } else if (key == "LJ") {
    state.line.join = join_of(value);
  } else if (key == "ML") {
    state.line.miter_limit = std::max(1.0, value.as_number());
  } else if (key == "D" && parts.size() == 2) {
    set_dash(run, run.store.resolve(parts[0]), run.store.resolve(parts[1]).as_number());
  } else if (key == "SA") {
    state.line.adjusted = value.as_bool();
  } else if (key == "Font" && parts.size() == 2) {
    set_font(run, parts[0], run.store.resolve(parts[1]).as_number());
  } else if (key == "AIS") {
    state.alpha_is_shape = value.as_bool();
  } else if (key == "TK") {
    state.text_knocks_out = value.as_bool(true);
  } else if (key == "OP") {
    state.stroke_overprints = value.as_bool();
    // By itself it stands for both, wherever the other may be.
    if (!dict.contains("op")) state.fill_overprints = value.as_bool();
  } else if (key == "op") {
    state.fill_overprints = value.as_bool();
  } else if (key == "OPM") {
    state.overprint_mode = static_cast<int>(value.as_integer());
  } else if (key == "RI") {
    set_intent(run, color::intent_named(value.as_name()));
  } else if (key == "BM") {
    choose_blend_mode(run, value);
  } else if (key == "SMask") {
    return choose_soft_mask(run, value);
  }
  return Done{};
}

}  // namespace

Status apply_extended_state(Execution& run, const Dict& dict) {
  for (const auto& [key, unresolved] : dict)
    LUMVET_RETURN_IF_ERROR(apply_entry(run, dict, key, run.store.resolve(unresolved)));
  return Done{};
}

namespace operators {

Status save(Execution& run) {
  constexpr std::size_t kMostSaved = 100'000;
  if (run.saved_states >= kMostSaved)
    return met_limit("a page saves its graphics state more than 100000 times");
  ++run.saved_states;
  run.frame->saved.push_back(run.state());
  return Done{};
}

Status restore(Execution& run) {
  std::vector<GraphicsState>& saved = run.frame->saved;
  if (saved.empty()) {
    run.note("a graphics state was restored that had not been saved");
    return Done{};
  }
  run.state() = std::move(saved.back());
  saved.pop_back();
  --run.saved_states;
  return Done{};
}

Status concat(Execution& run) {
  run.state().ctm = run.matrix().then(run.state().ctm);
  return Done{};
}

Status line_width(Execution& run) {
  run.state().line.width = std::abs(run.number(0));
  return Done{};
}

Status line_cap(Execution& run) {
  run.state().line.cap = cap_of(run.operand(0));
  return Done{};
}

Status line_join(Execution& run) {
  run.state().line.join = join_of(run.operand(0));
  return Done{};
}

Status miter_limit(Execution& run) {
  run.state().line.miter_limit = std::max(1.0, run.number(0));
  return Done{};
}

Status dash(Execution& run) {
  set_dash(run, run.operand(0), run.number(1));
  return Done{};
}

Status rendering_intent(Execution& run) {
  set_intent(run, color::intent_named(run.operand(0).as_name()));
  return Done{};
}

Status extended_state(Execution& run) {
  const Object states = run.resource("ExtGState");
  const Object object = run.store.get(states.as_dict(), run.operand(0).as_name());
  if (!object.is_dict()) run.note("a graphics state that is named is missing");
  return apply_extended_state(run, object.as_dict());
}

}  // namespace operators
}  // namespace lumvet::content
