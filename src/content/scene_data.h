// SPDX-License-Identifier: Apache-2.0
// What a scene holds: drawing operations with their bounds, in display space.
//
// Threads: immutable once recorded, share freely.
#pragma once

#include <optional>
#include <variant>
#include <vector>

#include "base/chunked_list.h"
#include "content/canvas.h"
#include "content/scene_text.h"
#include "lumvet/content/scene.h"

namespace lumvet::content {

// How a path is drawn as a line: `placed` maps it and the line's width to display space.
struct Stroked {
  Matrix placed;
  StrokeStyle style;
};

struct Clip {
  ClipId outer = kNoClip;
  Path path;
  FillRule rule = FillRule::nonzero;
  std::optional<Stroked> stroked;  // what the line covers, instead of the inside
  Rect bounds;                     // of what lies within this one and all outer ones
};

struct FillPath {
  Path path;
  FillRule rule = FillRule::nonzero;
  Paint paint;
};

struct StrokePath {
  Path path;
  Stroked stroked;
  Paint paint;
};

struct ShowGlyphs {
  std::vector<PlacedGlyph> glyphs;
  Paint paint;
};

struct ShowImage {
  ImagePtr image;
  Matrix placed;
  bool interpolate = false;
  Paint paint;
};

struct ShowShading {
  std::shared_ptr<const color::Shading> shading;
  Matrix placed;
  Paint paint;
};

struct ShowTiling {
  Tiling tiling;
  Paint paint;
};

struct BeginGroup {
  Group group;
  bool is_plain = false;          // shows as its parts would without it, and has no end
  bool mixes_with_below = false;  // something in it does, and it is not isolated
};

struct EndGroup {};

struct Operation {
  std::variant<FillPath, StrokePath, ShowGlyphs, ShowImage, ShowShading, ShowTiling, BeginGroup,
               EndGroup>
      what;
  Within within;
  Rect bounds;           // nothing outside is touched
  bool touches = false;  // it may share an edge with another one
};

struct SceneData {
  Rect bounds;  // points; nothing outside is drawn
  std::vector<Clip> clips;
  std::vector<SoftMask> masks;
  ChunkedList<Operation> operations;
  SceneText text;  // of the page; the scenes within it have none
  bool is_whole = true;
};

}  // namespace lumvet::content

namespace lumvet {

template <>
struct Inside<Scene> {
  static const content::SceneData& data(const Scene& scene) { return *scene.data_; }
  static Scene made(std::shared_ptr<const content::SceneData> data) {
    return Scene(std::move(data));
  }
};
// A scene of what a page says and of what may lie over it, without the shapes of its letters: for
// who reads it and draws nothing. Errors: as Scene::record's.
Result<Scene> record_to_read(const Page& page, const RecordOptions& options);

inline const content::SceneData& data_of(const Scene& scene) { return Inside<Scene>::data(scene); }

}  // namespace lumvet
