// SPDX-License-Identifier: Apache-2.0
// One content stream being cut: its state, what of it is written anew.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <optional>
#include <tuple>

#include "lumvet/geometry/path.h"
#include "lumvet/geometry/stroke_style.h"
#include "objects/parser.h"
#include "redact/cut_content.h"

namespace lumvet::fonts {
struct Type3;
}

namespace lumvet::redacting {

constexpr const char* kPattern = "Pattern";  // as resources are called

// Of the graphics state, what says where something is drawn.
struct CutState {
  // The tiling pattern that shapes are filled with, or lines drawn; no name for anything else.
  struct Tiles {
    std::string name = {};
    std::string tints = {};  // as they are written, of a pattern without colors
  };
  Matrix ctm;  // to the page's space
  StrokeStyle line;
  Rect clip;  // about, in the page's space
  std::shared_ptr<const fonts::Font> font;
  std::string font_name = {};  // among the resources; empty where a state says the font
  double size = 0;
  double character_spacing = 0;
  double word_spacing = 0;
  double stretch = 1;
  double leading = 0;
  double rise = 0;
  Tiles fill = {};
  Tiles stroke = {};
};

// What was a form or a cell, with what is left of it.
Stream stream_of(Dict dict, ContentCutter::Result cut);

class StreamCutter {
 public:
  StreamCutter(ContentCutter& all, const Dict& resources, ObjectId owner, CutState state);

  Result<ContentCutter::Result> cut(ByteView content);

 private:
  using Operands = std::vector<Object>;

  Status apply(const std::string& name, const Operands& operands, std::string_view written);
  // Of operators that neither build nor paint paths.
  Status apply_other(const std::string& name, const Operands& operands, std::string_view written);
  // Each answers whether the operator was of its kind.
  bool change_state(const std::string& name, const Operands& operands);
  bool build_path(const std::string& name, const Operands& operands);
  bool place_text(const std::string& name, const Operands& operands);
  bool choose_color(const std::string& name, const Operands& operands, std::string_view written);

  Status show(const std::string& name, const Operands& operands, std::string_view written);
  Status paint(const std::string& name, std::string_view written);
  void stroke_outside(const std::vector<struct LinePart>& parts, const Rect& seen);
  Status draw_object(const Operands& operands, std::string_view written);
  Status draw_image(ObjectId id, const Stream& image, const std::string& name,
                    std::string_view written);
  Result<std::optional<Stream>> cut_form(ObjectId id, const Stream& form);
  // The operator that chooses a pattern whose cell is cut by the areas, for something that shows so
  // much of it, in the page's space; nothing where the pattern stays as it is.
  Result<std::string> cut_tiles(const CutState::Tiles& tiles, const Rect& seen, const char* op);
  void use_tiles(const CutState::Tiles& tiles);
  Status inline_image(objects::Parser& parser, std::size_t begin);
  Status shade(const Operands& operands, std::string_view written);
  Status choose_state(const Operands& operands, std::string_view written);
  void begin_marked(const std::string& name, const Operands& operands, std::string_view written);
  void end_marked();
  void settle_rewritten();

  void keep(std::string_view written);
  void write(const std::string& operators);
  void hit();  // what is open of marked content
  // Clips the areas away that come near what is drawn there, in the page's space.
  void exclude_areas(const Rect& seen);
  // The name of a new resource.
  std::string add_resource(const char* kind, Object object);
  void use(const char* kind, const std::string& name) { used_.insert({kind, name}); }
  void replace(const char* kind, const std::string& name) { left_.insert({kind, name}); }
  Object resource(const char* kind, const std::string& name) const;
  bool touches(const Rect& rect, const Matrix& to_page) const;

  void flush_text();
  // `placed` leads from units of the font size to the page's space.
  bool is_taken(const fonts::Glyph& glyph, const Matrix& placed) const;

  // Of a glyph that is more than a shape: whether an area touches anything that it shows.
  Result<bool> is_drawing_touched(const fonts::Type3& type3, const fonts::Glyph& glyph,
                                  const Matrix& placed);
  void note_procedure(const fonts::Glyph& glyph, bool is_taken);
  // What draws letters that were all taken goes with them.
  void drop_procedures();

  ContentCutter& all_;
  const file::ObjectStore& store_;
  Dict resources_;
  ObjectId owner_;
  CutState state_;
  Matrix base_;  // from the space of its patterns to the page's
  std::vector<CutState> saved_;
  std::size_t not_saved_ = 0;  // beyond the most that are
  Matrix text_;
  Matrix line_;
  Path path_;
  std::string path_written_;
  std::string between_;  // what stands within a path and is none of it
  std::string clip_;     // "W" or "W*", pending
  std::string out_;
  bool is_changed_ = false;

  struct Marked {
    std::size_t begin;
    std::size_t end;  // of what was written when it began
    std::string tag;
    Object properties;  // the dictionary
    bool is_hit = false;
  };
  std::vector<Marked> open_marked_;
  std::vector<std::pair<std::pair<std::size_t, std::size_t>, std::string>> rewritten_;
  std::set<std::pair<std::string, std::string>> used_;  // kinds and names that are still in it
  std::set<std::pair<std::string, std::string>> left_;  // that were replaced
  // Where patterns are chosen, by their names.
  std::multimap<std::string, std::pair<std::size_t, std::size_t>> chosen_;
  // Patterns that were cut, by their names and the first and last of the tiles that show.
  using TileRange = std::tuple<std::string, long, long, long, long>;
  std::map<TileRange, std::string> cut_tiles_;

  struct Procedures {
    std::shared_ptr<const fonts::Font> font;
    std::set<std::uint32_t> taken;  // codes
    std::set<std::uint32_t> kept;
  };
  std::map<std::string, Procedures> procedures_;  // by the names of their fonts
  bool has_borrowers_ = false;                    // forms that use its resources

  std::string taken_;  // letters in a row
  Point taken_end_;
};

}  // namespace lumvet::redacting
