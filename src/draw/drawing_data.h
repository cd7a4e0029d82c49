// SPDX-License-Identifier: Apache-2.0
// What a Drawing holds: operators of content (ISO 32000-2, 8 and 9), and what they refer to by
// name.
//
// Threads: as Drawing's.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "draw/face.h"
#include "draw/picture_data.h"
#include "lumvet/draw/drawing.h"
#include "objects/content_numbers.h"

namespace lumvet::draw {

struct DrawingData;
using DrawingPtr = std::shared_ptr<const DrawingData>;

// What is drawn within one tag and some layers, or outside of all, from one change to the next.
struct Stretch {
  static constexpr int kOutside = -2;
  static constexpr int kArtifact = -1;

  int tag = kOutside;            // or of DrawingData::tags
  std::vector<int> layers = {};  // from the outermost; of DrawingData::layers
  bool paints = false;
  std::string operators;
};

struct Tag {
  std::string type;
  std::string key;
  std::shared_ptr<const TagOptions> options;  // null where they say nothing else
  int parent = -1;                            // of the same list
};

struct Layer {
  std::string name;
  LayerOptions options;
};

struct UsedFont {
  FacePtr face;
  bool runs_down = false;
  std::map<unsigned, std::string> texts;  // of each glyph that is shown, what it stands for
  // The same by glyphs, of those that stand for one unit; 0 for others.
  std::vector<char16_t> units = {};
};
// What is drawn once all pages are there, since it says how many they are.
struct LateDrawing {
  std::function<Result<Drawing>()> drawn;
};
struct UsedForm {
  DrawingPtr drawing;  // null for a late one
  bool is_group = false;
  bool isolated = true;
  bool knockout = false;
  std::shared_ptr<const LateDrawing> late = {};
};
struct UsedState {
  std::optional<double> opacity = {};
  std::optional<BlendMode> blend = {};
  DrawingPtr mask = {};
  Drawing::Mask mask_kind = Drawing::Mask::light;
  Matrix mask_placed = {};  // from the mask's own space to the one in which it is set
};
struct UsedPattern {
  std::optional<Gradient> gradient;
  DrawingPtr tile;  // in its place
  double across = 0;
  double down = 0;
  Matrix placed;  // to the space in which the drawing's content begins
};

struct Link {
  Rect area;  // in the space in which the content begins
  std::string target;
  int tag = -1;  // innermost; of DrawingData::tags
};
struct NamedPlace {
  std::string name;
  Point at;
};
struct OutlineLine {
  std::string title;
  double top = 0;
  int depth = 0;
};

struct DrawingData {
  double width = 0;
  double height = 0;
  Drawing::Space space = Drawing::Space::downward;

  std::vector<Stretch> stretches;
  std::vector<Tag> tags;
  std::vector<int> open_tags;
  std::vector<Layer> layers;  // each name once
  std::vector<int> open_layers;

  std::vector<UsedFont> fonts;
  std::vector<std::shared_ptr<const PictureData>> pictures;
  std::vector<Page> pages;
  std::vector<UsedForm> forms;
  std::vector<UsedState> states;
  std::vector<UsedPattern> patterns;
  std::vector<Color> spaces;  // one color of each that has a name

  std::vector<Link> links;
  std::vector<NamedPlace> places;
  std::vector<OutlineLine> outline;
  std::vector<FieldPlace> fields;
  std::optional<Error> error;

  // Where drawing is.
  struct State {
    Matrix current;          // from the space as it is to the one in which the content begins
    std::string fill_color;  // the operators that set it last
    std::string stroke_color;
  };
  State state;
  std::vector<State> saved;

  bool is_upward() const { return space == Drawing::Space::upward; }
  // From a space with y upward and its origin at an area's lower left corner.
  Matrix frame(const PageArea& area) const;
  // Of areas as rectangles of the space as it is.
  Rect rect_of(const PageArea& area) const;

  std::string& operators() { return stretch().operators; }
  std::string& painting();
  void fail(Error what);
  int innermost_tag() const;  // -1 for none
  void add_link(const PageArea& area, const std::string& target);

 private:
  Stretch& stretch();
};

DrawingPtr data_of(const Drawing& drawing);
// All that a drawing without fonts, pictures, masks and the like shows, as text that is equal for
// equal ones; nothing for others.
std::optional<std::string> plain_content(const DrawingData& drawing);

// Sets a color, or what patterns paint, for filling or for stroking.
void set_paint(DrawingData& drawing, const Paint& paint, bool is_stroke);
// The name under which content refers to something, "F0", added where it is not there yet.
std::string font_name(DrawingData& drawing, const FacePtr& face, bool runs_down,
                      std::size_t& place);

// Draws what comes later over all of a drawing, which stays as large.
void draw_late(Drawing& drawing, std::shared_ptr<const LateDrawing> late);

// From a page's own space to the drawing's as it is, when the page is drawn in an area.
Matrix placed_page(const DrawingData& drawing, const Page& page, const PageArea& area,
                   Drawing::Fit fit);

// The name under which content refers to a picture, added where it is not there yet.
std::string picture_name(DrawingData& drawing, const std::shared_ptr<const PictureData>& picture);
void append_matrix(const Matrix& matrix, std::string& out);  // "1 0 0 1 20 30 cm"

// Shows lines of a paragraph. `at` is where the paragraph's top left corner lies.
void show_lines(DrawingData& drawing, const SetParagraph& paragraph, Point at, std::size_t first,
                std::size_t end);

}  // namespace lumvet::draw
