// SPDX-License-Identifier: Apache-2.0
#include "content/interpreter.h"

#include "content/drawing.h"
#include "document/appearance.h"

namespace lumvet::content {

Interpreter::Interpreter(const document::Core& core, Canvas& canvas, TextRecorder& text,
                         std::shared_ptr<const LayerVisibility> layers,
                         const RecordOptions& options)
    : execution_(core, canvas, text, std::move(layers), options) {
  execution_.frame = &page_;
}

void Interpreter::begin_page(const Dict& page, const Matrix& to_display, ClipId sheet) {
  page_ = {};
  page_.state.ctm = to_display;
  page_.state.clip = sheet;
  page_.pattern_space = to_display;
  page_.resources = execution_.with_default_inks(execution_.store.get(page, "Resources").as_dict());
}

Status Interpreter::run_page(document::ContentFeed& content, const Dict& page,
                             const Matrix& to_display, ClipId sheet) {
  execution_.choose_default_inks(page);
  begin_page(page, to_display, sheet);
  // The page itself is a group that mixes with no paper (11.4.7).
  const Object group = execution_.store.get(page, "Group");
  execution_.canvas->begin_group({.isolated = true,
                                  .knockout = execution_.store.get(group.as_dict(), "K").as_bool(),
                                  .colors = colors_of(execution_, group.as_dict())},
                                 execution_.within());
  Status status = execution_.run(content);
  execution_.canvas->end_group();
  // What the page left behind does not reach its annotations.
  begin_page(page, to_display, sheet);
  return status;
}

Status Interpreter::run_appearance(const Stream& form, const AppearanceSetting& setting) {
  if (!shows(form.dict["OC"])) return Done{};
  const auto fit = document::fitted(execution_.store, form.dict, setting.place);
  if (!fit) return Done{};
  const Replaced<Matrix> fitted(page_.state.ctm, fit->then(setting.held).then(page_.state.ctm));
  const bool is_mixed = setting.blend != color::BlendMode::normal;
  if (is_mixed)
    execution_.canvas->begin_group({.blend = setting.blend, .isolated = true}, execution_.within());
  Status status = draw_form(execution_, form);
  if (is_mixed) execution_.canvas->end_group();
  return status;
}

}  // namespace lumvet::content
