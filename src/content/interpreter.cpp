// SPDX-License-Identifier: Apache-2.0
#include "content/interpreter.h"

#include <algorithm>
#include <cmath>

#include "base/attempt.h"
#include "document/appearance.h"
#include "document/declarations.h"
#include "filters/stream_decoder.h"
#include "images/image_facts.h"
#include "images/image_reader.h"

namespace lumvet::content {

namespace {

constexpr std::size_t kMostOperands = 256;

}  // namespace

struct Interpreter::Operator {
  std::string_view name;
  std::size_t operands;  // at least so many
  Status (Interpreter::*run)();
};

// Sorted by name. ISO 32000-2, annex A.
const Interpreter::Operator* Interpreter::find_operator(std::string_view name) {
  using I = Interpreter;
  static const Operator kOperators[] = {
      {"\"", 3, &I::show_with_spacing},
      {"'", 1, &I::show_on_next_line},
      {"B", 0, &I::paint_both},
      {"B*", 0, &I::paint_both_even_odd},
      {"BDC", 2, &I::begin_marked_with_properties},
      {"BI", 0, &I::inline_image},
      {"BMC", 0, &I::begin_marked},
      {"BT", 0, &I::begin_text},
      {"BX", 0, &I::begin_compatible},
      {"CS", 1, &I::stroke_space},
      {"DP", 0, &I::nothing},
      {"Do", 1, &I::draw_object},
      {"EMC", 0, &I::end_marked},
      {"ET", 0, &I::end_text},
      {"EX", 0, &I::end_compatible},
      {"F", 0, &I::paint_fill},
      {"G", 1, &I::stroke_gray},
      {"J", 1, &I::line_cap},
      {"K", 4, &I::stroke_cmyk},
      {"M", 1, &I::miter_limit},
      {"MP", 0, &I::nothing},
      {"Q", 0, &I::restore},
      {"RG", 3, &I::stroke_rgb},
      {"S", 0, &I::paint_stroke},
      {"SC", 1, &I::stroke_color},
      {"SCN", 1, &I::stroke_color},
      {"T*", 0, &I::next_line},
      {"TD", 2, &I::move_line_with_leading},
      {"TJ", 1, &I::show_adjusted},
      {"TL", 1, &I::leading},
      {"Tc", 1, &I::character_spacing},
      {"Td", 2, &I::move_line},
      {"Tf", 2, &I::choose_font},
      {"Tj", 1, &I::show},
      {"Tm", 6, &I::text_matrix},
      {"Tr", 1, &I::text_mode},
      {"Ts", 1, &I::rise},
      {"Tw", 1, &I::word_spacing},
      {"Tz", 1, &I::horizontal_scale},
      {"W", 0, &I::clip_nonzero},
      {"W*", 0, &I::clip_even_odd},
      {"b", 0, &I::paint_close_both},
      {"b*", 0, &I::paint_close_both_even_odd},
      {"c", 6, &I::curve_to},
      {"cm", 6, &I::concat},
      {"cs", 1, &I::fill_space},
      {"d", 2, &I::dash},
      {"d0", 2, &I::glyph_width},
      {"d1", 6, &I::glyph_width_and_box},
      {"f", 0, &I::paint_fill},
      {"f*", 0, &I::paint_fill_even_odd},
      {"g", 1, &I::fill_gray},
      {"gs", 1, &I::extended_state},
      {"h", 0, &I::close_path},
      {"i", 0, &I::nothing},
      {"j", 1, &I::line_join},
      {"k", 4, &I::fill_cmyk},
      {"l", 2, &I::line_to},
      {"m", 2, &I::move_to},
      {"n", 0, &I::paint_nothing},
      {"q", 0, &I::save},
      {"re", 4, &I::rectangle},
      {"rg", 3, &I::fill_rgb},
      {"ri", 1, &I::rendering_intent},
      {"s", 0, &I::paint_close_stroke},
      {"sc", 1, &I::fill_color},
      {"scn", 1, &I::fill_color},
      {"sh", 1, &I::shading},
      {"v", 4, &I::curve_from_current},
      {"w", 1, &I::line_width},
      {"y", 4, &I::curve_to_end},
  };
  const auto* found = std::lower_bound(
      std::begin(kOperators), std::end(kOperators), name,
      [](const Operator& op, std::string_view wanted) { return op.name < wanted; });
  return found != std::end(kOperators) && found->name == name ? found : nullptr;
}

namespace {

// The profile that the document is meant to be printed by, for colors of inks that have none.
Object inks_of(const document::Core& core) {
  constexpr int kInks = 4;
  for (const OutputIntent& intent : document::read_output_intents(core))
    if (intent.components == kInks) return Array{Object::name("ICCBased"), intent.profile};
  return {};
}

}  // namespace

Interpreter::Interpreter(const document::Core& core, Canvas& canvas,
                         std::shared_ptr<const LayerVisibility> layers,
                         const RecordOptions& options)
    : core_(core),
      store_(core.store()),
      canvas_(&canvas),
      layers_(std::move(layers)),
      supply_(options.fonts),
      shows_overprint_(options.overprint),
      default_inks_(inks_of(core)),
      cancel_(options.cancel),
      budget_(core.store().limits()) {}

void Interpreter::note(std::string what) { store_.findings().add({std::move(what), {}, {}}); }

Status Interpreter::run_page(document::ContentFeed& content, const Dict& page,
                             const Matrix& to_display, ClipId sheet) {
  state_ = {};
  state_.ctm = to_display;
  state_.clip = sheet;
  parent_ = to_display;
  resources_ = with_default_inks(store_.get(page, "Resources").as_dict());
  saved_.clear();
  // The page itself is a group that mixes with no paper (11.4.7).
  const Object group = store_.get(page, "Group");
  canvas_->begin_group({.isolated = true, .colors = colors_of(group.as_dict())}, within());
  Status status = run(content);
  end_text_group();
  canvas_->end_group();
  LUMVET_RETURN_IF_ERROR(std::move(status));
  // What the page left behind does not reach its annotations.
  state_ = {};
  state_.ctm = to_display;
  state_.clip = sheet;
  saved_.clear();
  marked_depth_ = 0;
  hidden_from_.reset();
  return Done{};
}

Status Interpreter::run(ByteView content) {
  LUMVET_TRY([[maybe_unused]] const std::size_t end, run_window(content, true));
  return Done{};
}

Status Interpreter::run(document::ContentFeed& content) {
  std::size_t used = 0;
  do {
    LUMVET_RETURN_IF_ERROR(content.advance(used));
    LUMVET_TRY(used, run_window(content.window(), !content.has_more()));
  } while (content.has_more());
  return Done{};
}

Result<std::size_t> Interpreter::run_window(ByteView window, bool is_last) {
  objects::Parser parser(window, 0, objects::References::none, budget_.limits().nesting);
  objects::Parser* const outer = std::exchange(parser_, &parser);
  const bool outer_is_last = std::exchange(is_last_window_, is_last);
  std::vector<Object> outer_operands = std::exchange(operands_, {});
  Status status = Done{};
  std::size_t whole = 0;  // what ends before this has been run
  while (status.ok()) {
    Result<objects::Parsed> parsed = parser.next();
    // What reaches the end of the window may go on behind it.
    if (!is_last && parser.lexer().position() >= window.size()) break;
    if (!parsed.ok()) {
      note("content that cannot be read was passed over: " + parsed.error().message());
      operands_.clear();
      continue;
    }
    if (parsed->kind == objects::Parsed::Kind::end) break;
    if (parsed->kind == objects::Parsed::Kind::keyword) {
      status = apply(parsed->keyword);
      operands_.clear();
      if (std::exchange(needs_more_, false)) break;
      whole = parser.lexer().position();
    } else if (operands_.size() < kMostOperands) {
      operands_.push_back(std::move(parsed->value));
    }
  }
  operands_ = std::move(outer_operands);
  is_last_window_ = outer_is_last;
  parser_ = outer;
  LUMVET_RETURN_IF_ERROR(std::move(status));
  return whole;
}

Status Interpreter::apply(std::string_view name) {
  LUMVET_RETURN_IF_ERROR(budget_.spend_operator());
  if (cancel_.is_cancelled()) return Error(ErrorCode::cancelled, "drawing was cancelled");
  if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
  const Operator* op = find_operator(name);
  if (op == nullptr) {
    if (compatible_depth_ == 0)
      note("the operator '" + std::string(name.substr(0, 20)) +
           "' does not exist and was passed over");
    return Done{};
  }
  if (operands_.size() < op->operands) {
    note("the operator '" + std::string(name) + "' lacks operands and was passed over");
    return Done{};
  }
  // With more operands than needed the last ones count.
  if (op->operands > 0 && operands_.size() > op->operands && name != "scn" && name != "SCN" &&
      name != "sc" && name != "SC")
    operands_.erase(operands_.begin(), operands_.end() - static_cast<std::ptrdiff_t>(op->operands));
  return (this->*op->run)();
}

Matrix Interpreter::matrix() const {
  return {number(0), number(1), number(2), number(3), number(4), number(5)};
}

Status Interpreter::save() {
  constexpr std::size_t kMostSaved = 100'000;
  if (saved_.size() >= kMostSaved)
    return met_limit("a page saves its graphics state more than 100000 times");
  saved_.push_back(state_);
  return Done{};
}

Status Interpreter::restore() {
  if (saved_.size() <= saved_floor_) {
    note("a graphics state was restored that had not been saved");
    return Done{};
  }
  state_ = std::move(saved_.back());
  saved_.pop_back();
  return Done{};
}

Status Interpreter::concat() {
  state_.ctm = matrix().then(state_.ctm);
  return Done{};
}

Status Interpreter::line_width() {
  state_.line.width = std::abs(number(0));
  return Done{};
}

Status Interpreter::line_cap() {
  state_.line.cap = static_cast<LineCap>(std::clamp<std::int64_t>(operands_[0].as_integer(), 0, 2));
  return Done{};
}

Status Interpreter::line_join() {
  state_.line.join =
      static_cast<LineJoin>(std::clamp<std::int64_t>(operands_[0].as_integer(), 0, 2));
  return Done{};
}

Status Interpreter::miter_limit() {
  state_.line.miter_limit = std::max(1.0, number(0));
  return Done{};
}

Status Interpreter::dash() {
  set_dash(operands_[0], number(1));
  return Done{};
}

void Interpreter::set_dash(const Object& array, double phase) {
  state_.line.dashes.clear();
  state_.line.dash_phase = phase;
  double sum = 0;
  for (const Object& length : array.as_array()) {
    state_.line.dashes.push_back(store_.resolve(length).as_number());
    sum += state_.line.dashes.back();
  }
  if (sum <= 0) state_.line.dashes.clear();
}

Status Interpreter::draw_object() {
  if (hidden_from_) return Done{};
  const Object objects = store_.get(resources_, "XObject");
  const Object& entry = objects.as_dict()[operands_[0].as_name()];
  const Object object = store_.resolve(entry);
  const Stream* stream = object.as_stream();
  if (stream == nullptr) {
    note("the image or form '" + std::string(operands_[0].as_name()) + "' is missing");
    return Done{};
  }
  if (!layers_->shows(stream->dict["OC"])) return Done{};
  const Object subtype = store_.get(stream->dict, "Subtype");
  if (subtype.is_name("Form")) return draw_form(*stream);
  if (canvas_->reads()) return Done{};
  if (!subtype.is_name("Image")) {
    note("an external object that is neither image nor form was passed over");
    return Done{};
  }
  if (!entry.is_reference()) {
    LUMVET_TRY(ImagePtr image, load_image(*stream));
    return place_image(std::move(image), stream->dict);
  }
  const ObjectId id = entry.as_reference();
  LUMVET_TRY(const bool may_unpack, spend_image(id, *stream));
  if (!may_unpack) return Done{};
  return place_image(
      std::make_shared<PageImage>(core_, id, object, resources_, intent_of(stream->dict)),
      stream->dict);
}

// Decoding can wait until somebody sees the image, but its bytes have to be there, and what they
// will unpack to counts for the page, once for each. False when that is too much.
Result<bool> Interpreter::spend_image(ObjectId id, const Stream& image) {
  LUMVET_TRY(const std::uint64_t size, images::unpacked_size(image, store_, budget_.limits()));
  if (spent_images_.contains(id)) return true;
  if (const Status spent = budget_.spend_decoded(size); !spent.ok()) {
    store_.findings().add({spent.error().message() + "; the image is left out", {}, id});
    return false;
  }
  spent_images_.insert(id);
  return true;
}

// An image may have its own (8.9.5).
color::Intent Interpreter::intent_of(const Dict& image) const {
  const Object own = store_.get(image, "Intent");
  return own.is_name() ? color::intent_named(own.as_name()) : state_.intent;
}

// Null, with a finding, for an image that cannot be shown.
Result<ImagePtr> Interpreter::load_image(const Stream& image) {
  auto read = images::read_image(
      image, {resources_, store_, budget_, store_.findings(), intent_of(image.dict)});
  if (read.ok()) return ImagePtr(std::make_shared<PageImage>(*std::move(read)));
  const Error& error = read.error();
  if (error.code() == ErrorCode::need_more_data) return error;
  store_.findings().add({error.message() + "; the image is left out", error.offset(), {}});
  return ImagePtr();
}

Status Interpreter::place_image(ImagePtr image, const Dict& dict) {
  if (!image) return Done{};
  Object interpolate = store_.get(dict, "Interpolate");
  if (interpolate.is_null()) interpolate = store_.get(dict, "I");
  if (image->is_stencil() && state_.fill.is_pattern)
    return paint_stencil_pattern(std::move(image), interpolate.as_bool());
  canvas_->image(std::move(image), state_.ctm, interpolate.as_bool(), fill_paint(), within());
  return Done{};
}

Status Interpreter::draw_form(const Stream& form) {
  const Budget::Depth depth(budget_);
  if (!depth.ok()) {
    note("forms call one another deeper than Limits::nesting; the innermost are left out");
    return Done{};
  }
  LUMVET_RETURN_IF_ERROR(save());
  const std::size_t saved_here = saved_.size();
  state_.ctm = matrix_of(form.dict).then(state_.ctm);
  const Matrix outer_parent = std::exchange(parent_, state_.ctm);
  if (const auto box = box_of(form.dict)) {
    Path path;
    path.add_rect(*box);
    state_.clip = canvas_->clip(state_.clip, path.transformed(state_.ctm), FillRule::nonzero);
  }
  const bool is_group = begin_group_of(form.dict);
  canvas_->begin_form(form);
  Status status = run_form_content(form);
  canvas_->end_form();
  if (is_group) canvas_->end_group();
  parent_ = outer_parent;
  // Whatever the form saved and did not restore goes with it.
  saved_.resize(saved_here);
  LUMVET_RETURN_IF_ERROR(restore());
  return status;
}

Result<ByteSlice> Interpreter::form_content(const Stream& form) {
  const Place place{form.source.get(), form.offset};
  if (auto known = forms_.find(place)) return *std::move(known);
  LUMVET_TRY(ByteSlice content, filters::decode_whole(form, store_, budget_, store_.findings()));
  const std::size_t bytes = content.view().size();
  return forms_.keep(place, std::move(content), bytes);
}

Status Interpreter::run_form_content(const Stream& form) {
  const std::pair place(form.source.get(), form.offset);
  if (std::find(running_.begin(), running_.end(), place) != running_.end()) {
    note("a form, pattern or glyph uses itself; it was left out there");
    return Done{};
  }
  Result<ByteSlice> content = form_content(form);
  if (!content.ok()) {
    const ErrorCode code = content.error().code();
    if (code != ErrorCode::malformed && code != ErrorCode::unsupported)
      return std::move(content).error();
    note("a form cannot be read: " + content.error().message());
    return Done{};
  }
  const Object own = store_.get(form.dict, "Resources");
  const Dict outer_resources = resources_;
  const Path outer_path = std::exchange(path_, {});
  const Path outer_text_clip = std::exchange(text_clip_, {});
  const auto outer_pending = std::exchange(pending_clip_, std::nullopt);
  const Matrix outer_text = text_matrix_;
  const Matrix outer_line = line_matrix_;
  const std::size_t outer_floor = std::exchange(saved_floor_, saved_.size());
  if (own.is_dict()) resources_ = with_default_inks(own.as_dict());
  const bool outer_in_text = std::exchange(in_text_, false);
  const bool outer_in_text_group = std::exchange(in_text_group_, false);
  running_.push_back(place);
  Status status = run(content->view());
  running_.pop_back();
  end_text_group();
  in_text_ = outer_in_text;
  in_text_group_ = outer_in_text_group;
  resources_ = outer_resources;
  path_ = outer_path;
  text_clip_ = outer_text_clip;
  pending_clip_ = outer_pending;
  text_matrix_ = outer_text;
  line_matrix_ = outer_line;
  saved_floor_ = outer_floor;
  return status;
}

Status Interpreter::run_appearance(const Stream& form, const Rect& place, const Object& layer) {
  if (!layers_->shows(layer) || !layers_->shows(form.dict["OC"])) return Done{};
  const auto fit = document::fitted(store_, form.dict, place);
  if (!fit) return Done{};
  LUMVET_RETURN_IF_ERROR(save());
  state_.ctm = fit->then(state_.ctm);
  Status status = draw_form(form);
  LUMVET_RETURN_IF_ERROR(restore());
  return status;
}

Status Interpreter::begin_compatible() {
  ++compatible_depth_;
  return Done{};
}

Status Interpreter::end_compatible() {
  compatible_depth_ = std::max(0, compatible_depth_ - 1);
  return Done{};
}

Status Interpreter::begin_marked() {
  ++marked_depth_;
  canvas_->begin_marked(operands_.empty() ? "" : operands_[0].as_name(), {});
  return Done{};
}

Status Interpreter::begin_marked_with_properties() {
  ++marked_depth_;
  const auto properties = [this] {
    const Object named = store_.get(resources_, "Properties");
    return operands_[1].is_name() ? named.as_dict()[operands_[1].as_name()] : operands_[1];
  };
  if (canvas_->reads())
    canvas_->begin_marked(operands_[0].as_name(), store_.resolve(properties()).as_dict());
  if (!operands_[0].is_name("OC") || hidden_from_) return Done{};
  if (!layers_->shows(properties())) hidden_from_ = marked_depth_;
  return Done{};
}

Status Interpreter::end_marked() {
  if (hidden_from_ == marked_depth_) hidden_from_.reset();
  if (marked_depth_ > 0) {
    --marked_depth_;
    canvas_->end_marked();
  }
  return Done{};
}

}  // namespace lumvet::content
