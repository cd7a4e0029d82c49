// SPDX-License-Identifier: Apache-2.0
// Keeps what content streams say as a scene's text: glyphs with their characters, and the marked
// content that they lie in.
//
// Threads: one thread at a time.
#pragma once

#include <unordered_map>

#include "content/scene_data.h"

namespace lumvet::content {

class TextRecorder {
 public:
  // What is drawn is recorded into the same scene.
  explicit TextRecorder(SceneData& scene) : scene_(scene), text_(scene.text) {}

  // How what is shown from now on looks, the clip that it is in, and its font, which `placed` leads
  // from units of its size to display space, wherever its glyphs stand.
  void begin(const TextLook& look, ClipId clip, const std::shared_ptr<const fonts::Font>& font,
             const Matrix& placed);
  // Of that font; where it stands, in display space, and how far along the line from the first
  // glyph since then, in units of the font size.
  void show(const fonts::Glyph& glyph, Point origin, double from_first);
  // The properties are resolved.
  void begin_marked(std::string_view tag, const Dict& properties);
  void end_marked();
  // Numbers of marked content are those of the form that it is in.
  void begin_form(const Stream& form) { forms_.push_back({form.offset, -1}); }
  void end_form() { forms_.pop_back(); }

  // What comes now belongs to annotations.
  void end_page() { text_.page_runs = text_.runs.size(); }
  // Gives back the memory that was kept for more.
  void finish();

 private:
  struct OpenForm {
    std::uint64_t offset;  // in the file
    std::int32_t known;    // of SceneText::forms; -1 until something in it is marked
  };

  std::uint32_t style_of(const std::shared_ptr<const fonts::Font>& font, const Matrix& placed);
  // Whether what is shown now looks as the last run does.
  bool is_like_last_run() const;
  // Where a glyph stands along the last run, if it goes on with that.
  std::optional<double> along_last_run(Point origin) const;
  void begin_run(Point origin);
  bool take(std::uint64_t bytes) {
    if (granted_ < bytes && !take_more(bytes)) return false;
    granted_ -= bytes;
    return true;
  }
  bool take_more(std::uint64_t bytes);

  // Keeps a text of a mark: its place in SceneText::actual_texts; -1 for what is no string.
  std::int32_t keep(const Object& said);

  const SceneData& scene_;
  SceneText& text_;
  TextLook look_;
  ClipId clip_ = kNoClip;
  std::shared_ptr<const fonts::Font> font_;
  Matrix placed_;
  bool goes_on_ = false;       // along the last run
  bool is_first_ = true;       // what is shown next, since begin()
  double first_along_ = 0;     // where that glyph stands along its run, of the font size
  std::uint64_t granted_ = 0;  // bytes of memory that nothing is in yet
  std::size_t looked_at_ = 0;  // of the scene's operations
  std::unordered_map<const fonts::Font*, std::uint32_t> fonts_;
  std::vector<OpenForm> forms_;  // from the outermost to the innermost
  std::int32_t mark_ = -1;
  std::optional<Matrix>
      to_last_run_;  // from display space to units of its font size; if there is one
};

}  // namespace lumvet::content
