// SPDX-License-Identifier: Apache-2.0
// A Canvas that reads: text as it is drawn, put together to words and lines, and which part of it
// is which marked content.
//
// Threads: one thread at a time.
#pragma once

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "content/canvas.h"
#include "lumvet/content/scene.h"

namespace lumvet::text {

// Text as it grows.
struct Line {
  std::string text;   // UTF-8
  Point begin;        // of its first letter, in display space
  double height = 0;  // of that letter, in points
};

// Marked content by the stream that it is in, by offset in the file, and its number; the page's own
// content is no stream.
using MarkKey = std::pair<std::optional<std::uint64_t>, int>;

class Reader final : public content::Canvas {
 public:
  bool reads() const override { return true; }
  void text(const std::vector<content::ShownGlyph>& glyphs) override;
  void begin_marked(std::string_view tag, const Dict& properties) override;
  void end_marked() override;
  void begin_form(const Stream& form) override { forms_.push_back(form.offset); }
  void end_form() override { forms_.pop_back(); }

  const std::string& all() const { return all_.text; }
  const std::map<MarkKey, Line>& by_mark() const { return by_mark_; }

  content::ClipId clip(content::ClipId, Path, FillRule) override { return content::kNoClip; }
  content::ClipId clip_to_stroke(content::ClipId, Path, const Matrix&,
                                 const StrokeStyle&) override {
    return content::kNoClip;
  }
  Rect bounds_of(content::ClipId) const override;
  content::MaskId soft_mask(content::SoftMask) override { return content::kNoMask; }
  void fill(Path, FillRule, const content::Paint&, const content::Within&) override {}
  void stroke(Path, const Matrix&, const StrokeStyle&, const content::Paint&,
              const content::Within&) override {}
  void glyphs(std::vector<content::PlacedGlyph>, const content::Paint&,
              const content::Within&) override {}
  void image(content::ImagePtr, const Matrix&, bool, const content::Paint&,
             const content::Within&) override {}
  void shading(std::shared_ptr<const color::Shading>, const Matrix&, const content::Paint&,
               const content::Within&) override {}
  void tiling(content::Tiling, const content::Paint&, const content::Within&) override {}
  void begin_group(const content::Group&, const content::Within&) override {}
  void end_group() override {}
  Result<content::ScenePtr> record(const Rect&, const Draw&) override {
    return content::ScenePtr();
  }

 private:
  struct Mark {
    std::optional<MarkKey> key;
    std::optional<std::string> instead;  // what it reads, whatever it shows (14.9.4)
  };
  // Where the last letter ended, and how large it was.
  struct Pen {
    Point end;
    Point along;      // of length 1
    double size = 0;  // points
  };

  void add(std::string_view text, Point begin, double size);
  static void append(Line& line, std::string_view text, Point begin, double size);
  std::string_view gap_before(const content::ShownGlyph& glyph) const;

  Line all_;
  std::map<MarkKey, Line> by_mark_;
  std::vector<Mark> marks_;
  std::vector<std::uint64_t> forms_;
  std::optional<Pen> pen_;
};

// Reads a page's content, without annotations. Errors: as Scene::record's.
Status read_page(const Page& page, const RecordOptions& options, Reader& reader);

}  // namespace lumvet::text
