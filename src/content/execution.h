// SPDX-License-Identifier: Apache-2.0
// What the operators of content streams work on: the stream that is being run with its graphics
// state, and what all streams of a page share.
//
// Threads: one thread at a time.
#pragma once

#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "base/budget.h"
#include "content/canvas.h"
#include "content/content_caches.h"
#include "content/graphics_state.h"
#include "content/layer_visibility.h"
#include "content/text_recorder.h"
#include "document/content_feed.h"
#include "document/core.h"
#include "lumvet/content/scene.h"
#include "lumvet/fonts/font_supply.h"
#include "objects/parser.h"

namespace lumvet::content {

// The text object that is open, or was last (9.4).
struct TextObject {
  Matrix matrix;
  Matrix line;
  Path clip;  // what its glyphs add to the clip when it ends
  bool is_open = false;
  bool has_group = false;  // which its glyphs are shown in
};

// What belongs to one content stream while it runs. Streams that it shows run within frames of
// their own, and nothing of those comes back.
struct Frame {
  const Frame* outer = nullptr;
  std::optional<StreamPlace> place;  // of a page's own content none

  Dict resources;
  GraphicsState state;
  std::vector<GraphicsState> saved;
  Matrix pattern_space;      // that patterns are placed by (8.7.3.1)
  bool takes_color = false;  // in a Type 3 glyph or a pattern that is colored from outside

  Path path;
  std::optional<FillRule> pending_clip;
  TextObject text;

  int compatible_depth = 0;
  int marked_depth = 0;
  std::optional<int> hidden_from;  // the depth of marked content from which nothing is shown

  std::vector<Object> operands;
  objects::Parser* parser = nullptr;
  bool is_last_window = true;  // of this stream
  bool needs_more = false;     // than the window has

  // For a stream that begins where this one is.
  Frame inner() const;
};

struct Execution {
  Execution(const document::Core& core, Canvas& canvas, TextRecorder& text,
            std::shared_ptr<const LayerVisibility> layers, const RecordOptions& options);

  // Runs a page's content in the frame that is current. Errors: limit, io, need_more_data,
  // cancelled; the same for the others.
  Status run(document::ContentFeed& content);
  // Runs a form, a glyph or a pattern's cell in a frame of its own. What cannot be read, or shows
  // itself, is left out with a finding.
  Status run_stream(Frame frame, const Stream& stream);

  GraphicsState& state() { return frame->state; }
  const GraphicsState& state() const { return frame->state; }
  bool is_hidden() const { return frame->hidden_from.has_value(); }
  Within within() const { return {state().clip, state().mask}; }
  Object resource(std::string_view kind) const { return store.get(frame->resources, kind); }

  // Operands, counted from the first.
  const Object& operand(std::size_t i) const { return frame->operands[i]; }
  double number(std::size_t i) const { return operand(i).as_number(); }
  Point point(std::size_t i) const { return {number(i), number(i + 1)}; }
  Matrix matrix() const {
    return {number(0), number(1), number(2), number(3), number(4), number(5)};
  }

  void note(std::string what) const;
  // The profile that a page is meant to be printed by, for colors of inks that have none.
  void choose_default_inks(const Dict& page);
  // Of `resources`, with those inks as default (14.11.5).
  Dict with_default_inks(Dict resources) const;

  const document::Core& core;
  const file::ObjectStore& store;
  Canvas* canvas;
  TextRecorder* text;  // null where what is shown is no text of the page, as in a pattern's cell
  std::shared_ptr<const LayerVisibility> layers;
  FontSupply supply;
  bool shows_overprint;
  bool draws_letters = true;  // otherwise text is only read, and clipped to
  Object default_inks;        // an ICC based space of four components; null without one
  Budget budget;
  std::size_t saved_states = 0;  // in all frames
  std::set<ObjectId> spent_images;
  std::set<std::pair<const ByteSource*, std::uint64_t>> met_streams;  // by where they begin
  std::set<const fonts::Font*> lacking;  // fonts of which it was said that glyphs are missing
  ContentCaches caches;
  std::vector<PlacedGlyph> glyph_room;  // empty, for the next text's
  Frame* frame = nullptr;               // of the stream that is being run

 private:
  Status run(ByteView content);
  // Runs what is whole, and says where that ended; the rest needs more than the window.
  Result<std::size_t> run_window(ByteView window, bool is_last);
  Result<ByteSlice> content_of(const Stream& stream);
  Status apply(std::string_view name);
  void end_stream();
};

// Puts another value in a place until the end of the scope.
template <typename T>
class Replaced {
 public:
  Replaced(T& place, T value) : place_(place), before_(std::exchange(place, std::move(value))) {}
  ~Replaced() { place_ = std::move(before_); }
  Replaced(const Replaced&) = delete;
  Replaced& operator=(const Replaced&) = delete;

 private:
  T& place_;
  T before_;
};

}  // namespace lumvet::content
