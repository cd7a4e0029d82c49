// SPDX-License-Identifier: Apache-2.0
// What a scene holds: drawing operations with their bounds, in display space.
//
// Threads: immutable once recorded, share freely.
#pragma once

#include <variant>
#include <vector>

#include "content/canvas.h"

namespace lumvet::content {

struct Clip {
  ClipId outer = kNoClip;
  Path path;
  FillRule rule = FillRule::nonzero;
  Rect bounds;  // of what lies within this one and all outer ones
};

struct FillPath {
  Path path;
  FillRule rule = FillRule::nonzero;
  Paint paint;
};

struct StrokePath {
  Path path;
  Matrix placed;
  StrokeStyle style;
  Paint paint;
};

struct ShowGlyphs {
  std::vector<PlacedGlyph> glyphs;
  Paint paint;
};

struct ShowImage {
  std::shared_ptr<const images::Picture> picture;
  Matrix placed;
  bool interpolate = false;
  Paint paint;
};

struct BeginGroup {
  std::uint8_t alpha = 255;
};

struct EndGroup {};

struct Operation {
  std::variant<FillPath, StrokePath, ShowGlyphs, ShowImage, BeginGroup, EndGroup> what;
  ClipId clip = kNoClip;
  Rect bounds;  // nothing outside is touched
};

struct SceneData {
  double width = 0;   // points
  double height = 0;  // points
  std::vector<Clip> clips;
  std::vector<Operation> operations;
};

}  // namespace lumvet::content
