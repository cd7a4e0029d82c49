// SPDX-License-Identifier: Apache-2.0
// Images and forms shown by their names (ISO 32000-2, 8.8 to 8.10).
#include "content/drawing.h"
#include "content/operators.h"
#include "document/appearance.h"
#include "images/image_facts.h"
#include "images/image_reader.h"

namespace lumvet::content {
namespace {

// Decoding can wait until somebody sees the image, but its bytes have to be there, and what they
// will unpack to counts for the page, once for each. False when that is too much.
Result<bool> spend_image(Execution& run, ObjectId id, const Stream& image) {
  LUMVET_TRY(const std::uint64_t size,
             images::unpacked_size(image, run.store, run.budget.limits()));
  if (run.spent_images.contains(id)) return true;
  if (const Status spent = run.budget.spend_decoded(size); !spent.ok()) {
    run.store.findings().add({spent.error().message() + "; the image is left out", {}, id});
    return false;
  }
  run.spent_images.insert(id);
  return true;
}

// An image may have its own (8.9.5).
color::Intent intent_of(const Execution& run, const Dict& image) {
  const Object own = run.store.get(image, "Intent");
  return own.is_name() ? color::intent_named(own.as_name()) : run.state().intent;
}

}  // namespace

Result<ImagePtr> load_image(Execution& run, const Stream& image) {
  auto read = images::read_image(image, {run.frame->resources, run.store, run.budget,
                                         run.store.findings(), intent_of(run, image.dict)});
  if (read.ok()) return ImagePtr(std::make_shared<PageImage>(*std::move(read)));
  const Error& error = read.error();
  if (error.code() == ErrorCode::need_more_data) return error;
  run.store.findings().add({error.message() + "; the image is left out", error.offset(), {}});
  return ImagePtr();
}

Status place_image(Execution& run, ImagePtr image, const Dict& dict) {
  if (!image) return Done{};
  Object interpolate = run.store.get(dict, "Interpolate");
  if (interpolate.is_null()) interpolate = run.store.get(dict, "I");
  if (image->is_stencil() && run.state().fill.is_pattern)
    return paint_stencil_pattern(run, std::move(image), interpolate.as_bool());
  run.canvas->image(std::move(image), run.state().ctm, interpolate.as_bool(), fill_paint(run),
                    run.within());
  return Done{};
}

Status draw_form(Execution& run, const Stream& form) {
  const Budget::Depth depth(run.budget);
  if (!depth.ok()) {
    run.note("forms call one another deeper than Limits::nesting; the innermost are left out");
    return Done{};
  }
  Frame frame = run.frame->inner();
  GraphicsState& state = frame.state;
  state.ctm = document::matrix_of(run.store, form.dict).then(state.ctm);
  frame.pattern_space = state.ctm;
  if (const auto box = document::rect_of(run.store, form.dict["BBox"])) {
    Path path;
    path.add_rect(*box);
    state.clip = run.canvas->clip(state.clip, path.transformed(state.ctm), FillRule::nonzero);
  }
  const bool is_group = begin_group_of(run, state, form.dict);
  if (run.text != nullptr) run.text->begin_form(form);
  Status status = run.run_stream(std::move(frame), form);
  if (run.text != nullptr) run.text->end_form();
  if (is_group) run.canvas->end_group();
  return status;
}

Status operators::draw_object(Execution& run) {
  if (run.is_hidden()) return Done{};
  const Object objects = run.resource("XObject");
  const Object& entry = objects.as_dict()[run.operand(0).as_name()];
  const Object object = run.store.resolve(entry);
  const Stream* stream = object.as_stream();
  if (stream == nullptr) {
    run.note("the image or form '" + std::string(run.operand(0).as_name()) + "' is missing");
    return Done{};
  }
  if (!run.layers->shows(stream->dict["OC"])) return Done{};
  const Object subtype = run.store.get(stream->dict, "Subtype");
  if (subtype.is_name("Form")) return draw_form(run, *stream);
  if (!subtype.is_name("Image")) {
    run.note("an external object that is neither image nor form was passed over");
    return Done{};
  }
  if (!entry.is_reference()) {
    LUMVET_TRY(ImagePtr image, load_image(run, *stream));
    return place_image(run, std::move(image), stream->dict);
  }
  const ObjectId id = entry.as_reference();
  LUMVET_TRY(const bool may_unpack, spend_image(run, id, *stream));
  if (!may_unpack) return Done{};
  return place_image(run,
                     std::make_shared<PageImage>(run.core, id, object, run.frame->resources,
                                                 intent_of(run, stream->dict)),
                     stream->dict);
}

}  // namespace lumvet::content
