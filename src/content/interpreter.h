// SPDX-License-Identifier: Apache-2.0
// Runs the operators of content streams (ISO 32000-2, annex A) and tells a Canvas what they draw.
//
// Each operator is a member function named in the table of interpreter.cpp, with the least number
// of operands that it needs. Damage is reported and passed over; only limits, missing bytes and
// cancelling stop the work.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string_view>
#include <tuple>
#include <vector>

#include "base/budget.h"
#include "content/canvas.h"
#include "content/graphics_state.h"
#include "content/layer_visibility.h"
#include "document/content_feed.h"
#include "document/core.h"
#include "file/recently_used.h"
#include "lumvet/base/progress.h"
#include "lumvet/content/scene.h"
#include "lumvet/fonts/font_supply.h"
#include "objects/parser.h"

namespace lumvet::content {

class Interpreter {
 public:
  Interpreter(const document::Core& core, Canvas& canvas,
              std::shared_ptr<const LayerVisibility> layers, const RecordOptions& options);

  // Errors: limit, io, need_more_data, cancelled.
  Status run_page(document::ContentFeed& content, const Dict& page, const Matrix& to_display,
                  ClipId sheet);
  // The appearance of an annotation (12.5.5), over what the page has drawn; `layer` is its own.
  Status run_appearance(const Stream& form, const Rect& place, const Object& layer);

 private:
  struct Operator;
  struct InlineImage;
  static const Operator* find_operator(std::string_view name);

  Status run(document::ContentFeed& content);
  Status run(ByteView content);
  // Runs what is whole, and says where that ended; the rest needs more than the window.
  Result<std::size_t> run_window(ByteView window, bool is_last);
  Result<ByteSlice> form_content(const Stream& form);
  Status apply(std::string_view name);

  // Operands, counted from the first.
  double number(std::size_t i) const { return operands_[i].as_number(); }
  Point point(std::size_t i) const { return {number(i), number(i + 1)}; }
  Matrix matrix() const;

  // interpreter.cpp: graphics state, XObjects, marked content
  Status save();
  Status restore();
  Status concat();
  Status line_width();
  Status line_cap();
  Status line_join();
  Status miter_limit();
  Status dash();
  Status draw_object();
  Status begin_marked();
  Status begin_marked_with_properties();
  Status end_marked();
  Status nothing() { return Done{}; }
  // Between the two, operators of later standards are passed over without a word (7.8.2).
  Status begin_compatible();
  Status end_compatible();
  Status draw_form(const Stream& form);
  Result<ImagePtr> load_image(const Stream& image);
  Result<bool> spend_image(ObjectId id, const Stream& image);
  Status place_image(ImagePtr image, const Dict& dict);
  Status run_form_content(const Stream& form);
  // What is hidden, and what nobody reads.
  bool passes_over() const { return hidden_from_ || canvas_->reads(); }
  Within within() const { return {state_.clip, state_.mask}; }
  void set_dash(const Object& array, double phase);

  // path_operators.cpp
  Status move_to();
  Status line_to();
  Status curve_to();
  Status curve_from_current();
  Status curve_to_end();
  Status close_path();
  Status rectangle();
  Status paint_stroke() { return paint(false, true, FillRule::nonzero); }
  Status paint_close_stroke();
  Status paint_fill() { return paint(true, false, FillRule::nonzero); }
  Status paint_fill_even_odd() { return paint(true, false, FillRule::even_odd); }
  Status paint_both() { return paint(true, true, FillRule::nonzero); }
  Status paint_both_even_odd() { return paint(true, true, FillRule::even_odd); }
  Status paint_close_both();
  Status paint_close_both_even_odd();
  Status paint_nothing() { return paint(false, false, FillRule::nonzero); }
  Status clip_nonzero();
  Status clip_even_odd();
  Status paint(bool fill, bool stroke, FillRule rule);
  Status fill_path(const Path& path, FillRule rule);
  Status stroke_path(Path path);

  // color_operators.cpp
  Status fill_gray() { return device_color(state_.fill, color::ColorSpace::gray()); }
  Status stroke_gray() { return device_color(state_.stroke, color::ColorSpace::gray()); }
  Status fill_rgb() { return device_color(state_.fill, color::ColorSpace::rgb()); }
  Status stroke_rgb() { return device_color(state_.stroke, color::ColorSpace::rgb()); }
  Status fill_cmyk() { return device_color(state_.fill, color::ColorSpace::cmyk()); }
  Status stroke_cmyk() { return device_color(state_.stroke, color::ColorSpace::cmyk()); }
  Status fill_space() { return choose_space(state_.fill); }
  Status stroke_space() { return choose_space(state_.stroke); }
  Status fill_color() { return choose_color(state_.fill); }
  Status stroke_color() { return choose_color(state_.stroke); }
  Status device_color(ColorState& color, std::shared_ptr<const color::ColorSpace> space);
  std::shared_ptr<const color::ColorSpace> replaced_by_default(
      std::shared_ptr<const color::ColorSpace> device);
  Status choose_space(ColorState& color);
  Status choose_color(ColorState& color);
  void set_color(ColorState& color, std::vector<double> values);
  void set_intent(color::Intent intent);
  Status rendering_intent();
  color::Intent intent_of(const Dict& image) const;
  Paint fill_paint() const {
    return overprinted(with_state(state_.fill.paint, state_.fill_alpha), state_.fill,
                       state_.fill_overprints);
  }
  Paint stroke_paint() const {
    return overprinted(with_state(state_.stroke.paint, state_.stroke_alpha), state_.stroke,
                       state_.stroke_overprints);
  }
  Paint overprinted(Paint paint, const ColorState& color, bool overprints) const;
  // The resources of a stream, with the document's own inks as default (14.11.5).
  Dict with_default_inks(Dict resources) const;
  Paint with_state(Paint paint, double alpha) const;
  static std::uint8_t to_byte(double unit);

  // patterns.cpp
  Status shading();
  Matrix matrix_of(const Dict& dict) const;
  std::optional<Rect> box_of(const Dict& dict) const;
  std::shared_ptr<const color::Shading> load_shading(const Object& object);
  // The color by value, since what the pattern draws has a graphics state of its own.
  Status paint_pattern(ColorState color, double alpha, ClipId shape);
  Status paint_stencil_pattern(ImagePtr stencil, bool interpolate);
  Status paint_tiling(const ColorState& color, const Stream& pattern, const Matrix& placed,
                      const Paint& paint, ClipId shape);
  Status draw_cell(const ColorState& color, const Stream& pattern, const Rect& box,
                   const Matrix& ctm, ClipId within);
  Result<ScenePtr> record_cell(const ColorState& color, const Stream& pattern, const Rect& box);

  // transparency.cpp
  Status extended_state();
  Status apply_entry(const std::string& key, const Object& value);
  void choose_blend_mode(const Object& modes);
  Status choose_soft_mask(const Object& mask);
  color::Rgb8 backdrop_of(const Dict& mask, const Dict& form);
  Status draw_apart(Canvas& canvas, const Stream& form);
  bool begin_group_of(const Dict& form);
  // In which a group says that it mixes; groups that are not isolated cannot.
  GroupColors colors_of(const Dict& group);

  // text_operators.cpp
  Status begin_text();
  Status end_text();
  Status character_spacing();
  Status word_spacing();
  Status horizontal_scale();
  Status leading();
  Status choose_font();
  Status rise();
  Status text_mode();
  Status move_line();
  Status move_line_with_leading();
  Status text_matrix();
  Status next_line();
  Status show();
  Status show_adjusted();
  Status show_on_next_line();
  Status show_with_spacing();
  Status glyph_width();
  Status glyph_width_and_box();
  Status show_text(std::string_view text);
  Status show_procedure(const fonts::Type3& type3, const fonts::Glyph& glyph, const Matrix& trm);
  Status finish_run();
  Status fill_glyphs(std::vector<PlacedGlyph> glyphs);
  // Whether what is painted now shows what is below it.
  bool is_see_through() const;
  void begin_text_group();
  void end_text_group();
  void set_font(const Object& font, double size);
  std::shared_ptr<const fonts::Font> load_font(const Object& font);

  // inline_image.cpp
  Status inline_image();
  Result<InlineImage> read_inline_image();

  void note(std::string what);

  const document::Core& core_;
  const file::ObjectStore& store_;
  Canvas* canvas_;
  std::shared_ptr<const LayerVisibility> layers_;
  FontSupply supply_;
  bool shows_overprint_;
  Object default_inks_;  // an ICC based space of four components; null without one
  CancelToken cancel_;
  Budget budget_;

  GraphicsState state_;
  std::vector<GraphicsState> saved_;
  std::size_t saved_floor_ = 0;  // states below belong to the stream that called this one
  std::vector<Object> operands_;
  objects::Parser* parser_ = nullptr;  // of the stream being run
  bool is_last_window_ = true;         // of that stream
  bool needs_more_ = false;            // than the window has
  Dict resources_;

  Matrix parent_;  // of the stream that patterns are placed by (8.7.3.1)
  Path path_;
  std::optional<FillRule> pending_clip_;

  Matrix text_matrix_;
  Matrix line_matrix_;
  std::vector<PlacedGlyph> glyph_run_;
  Path text_clip_;
  std::set<ObjectId> spent_images_;
  std::set<const fonts::Font*> lacking_;  // fonts of which it was said that glyphs are missing
  bool sets_fill_overprint_ = false;      // the graphics state dictionary being read
  bool in_text_ = false;
  bool in_text_group_ = false;
  bool takes_color_ = false;  // within a Type 3 glyph or a pattern that is colored from outside

  // The streams that are being run, each within the one before, by where they lie.
  std::vector<std::pair<const ByteSource*, std::uint64_t>> running_;

  int compatible_depth_ = 0;
  int marked_depth_ = 0;
  std::optional<int> hidden_from_;  // the marked-content depth from which nothing is shown

  struct DirectFont {
    Object keeper;
    std::shared_ptr<const fonts::Font> font;
  };
  std::map<const void*, DirectFont> direct_fonts_;  // of fonts that are no indirect objects
  // Decoded forms and glyphs, and the images within them, by where they lie and, of images, how
  // far in: they are shown again and again.
  struct Place {
    const ByteSource* source = nullptr;
    std::uint64_t offset = 0;
    std::size_t within = 0;
    bool operator==(const Place&) const = default;
    struct Hash {
      std::size_t operator()(const Place& place) const {
        return std::hash<const void*>()(place.source) ^ std::hash<std::uint64_t>()(place.offset) ^
               place.within * 0x9E3779B97F4A7C15u;
      }
    };
  };
  struct InlineImage {
    ImagePtr image;
    Dict dict;
    std::size_t end = 0;  // behind EI
  };
  static constexpr std::uint64_t kKeptBytes = 8 << 20;  // of either
  file::RecentlyUsed<Place, ByteSlice, Place::Hash> forms_{kKeptBytes};
  file::RecentlyUsed<Place, InlineImage, Place::Hash> inline_images_{kKeptBytes};
  std::map<std::pair<ObjectId, color::Intent>, std::shared_ptr<const color::Shading>> shadings_;
  // By where the pattern lies and the color it takes.
  using CellKey = std::tuple<std::uint64_t, ObjectId, std::uint8_t, std::uint8_t, std::uint8_t>;
  std::map<CellKey, ScenePtr> cells_;
};

}  // namespace lumvet::content
