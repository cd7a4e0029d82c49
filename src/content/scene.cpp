// SPDX-License-Identifier: Apache-2.0
#include "lumvet/content/scene.h"

#include <cmath>
#include <optional>

#include "content/interpreter.h"
#include "content/scene_data.h"

namespace lumvet {
namespace content {
namespace {

// A Canvas that keeps what it is told, except for what lies wholly outside the page.
class Recorder final : public Canvas {
 public:
  explicit Recorder(SceneData& scene) : scene_(scene), page_{0, 0, scene.width, scene.height} {}

  ClipId clip(ClipId outer, Path path, FillRule rule) override {
    const Rect bounds = path.is_empty() ? Rect{} : path.bounds().intersected(bounds_of(outer));
    scene_.clips.push_back({outer, std::move(path), rule, bounds});
    return static_cast<ClipId>(scene_.clips.size() - 1);
  }

  void fill(Path path, FillRule rule, const Paint& paint, ClipId clip) override {
    const Rect bounds = path.bounds();
    add(FillPath{std::move(path), rule, paint}, bounds, clip);
  }

  void stroke(Path path, const Matrix& placed, const StrokeStyle& style, const Paint& paint,
              ClipId clip) override {
    // Miters reach the furthest, then the corners of square caps.
    const double reach = style.join == LineJoin::miter ? std::max(style.miter_limit, 1.5) : 1.5;
    const double grow = std::max(style.width / 2 * reach, 0.0);
    const Rect own = path.bounds().grown(grow);
    // The thinnest line is a pixel wide whatever the scale, so leave room for one of a point.
    const Rect bounds = placed.bounds_of(own).grown(1);
    add(StrokePath{std::move(path), placed, style, paint}, bounds, clip);
  }

  void glyphs(std::vector<PlacedGlyph> glyphs, const Paint& paint, ClipId clip) override {
    Rect bounds = Rect::nothing();
    for (const PlacedGlyph& glyph : glyphs) {
      const Rect box = glyph.placed.bounds_of(glyph.outline->bounds());
      bounds.include({box.left, box.bottom});
      bounds.include({box.right, box.top});
    }
    add(ShowGlyphs{std::move(glyphs), paint}, bounds, clip);
  }

  void image(std::shared_ptr<const images::Picture> picture, const Matrix& placed, bool interpolate,
             const Paint& paint, ClipId clip) override {
    add(ShowImage{std::move(picture), placed, interpolate, paint},
        placed.bounds_of({0, 0, 1, 1}).grown(1), clip);
  }

  void begin_group(std::uint8_t alpha, ClipId clip) override {
    scene_.operations.push_back({BeginGroup{alpha}, clip, page_});
  }

  void end_group() override { scene_.operations.push_back({EndGroup{}, kNoClip, page_}); }

 private:
  Rect bounds_of(ClipId clip) const {
    return clip == kNoClip ? page_ : scene_.clips[static_cast<std::size_t>(clip)].bounds;
  }

  template <typename What>
  void add(What what, const Rect& bounds, ClipId clip) {
    const Rect seen = bounds.intersected(bounds_of(clip));
    // Lines without area still show; what has crossed bounds or none at all does not.
    if (!(seen.left <= seen.right && seen.bottom <= seen.top)) return;
    scene_.operations.push_back({std::move(what), clip, seen});
  }

  SceneData& scene_;
  Rect page_;
};

// The normal appearance, by its state where there are several (12.5.5).
Object appearance_of(const objects::Resolver& resolver, const Dict& annotation) {
  const Object appearances = resolver.get(annotation, "AP");
  const Object normal = resolver.get(appearances.as_dict(), "N");
  if (normal.is_stream()) return normal;
  return resolver.get(normal.as_dict(), resolver.get(annotation, "AS").as_name());
}

// Hidden, or not to be viewed (12.5.3); pop-up notes show in windows of their own.
bool is_shown(const objects::Resolver& resolver, const Dict& annotation) {
  constexpr std::int64_t kHidden = 1 << 1;
  constexpr std::int64_t kNoView = 1 << 5;
  return (resolver.get(annotation, "F").as_integer() & (kHidden | kNoView)) == 0 &&
         !annotation["Subtype"].is_name("Popup");
}

Status draw_annotations(const Page& page, Interpreter& interpreter) {
  const file::ObjectStore& store = page.core().store();
  const Object annotations = store.get(page.dict(), "Annots");
  for (const Object& reference : annotations.as_array()) {
    const Object annotation = store.resolve(reference);
    if (!is_shown(store, annotation.as_dict())) continue;
    const Object appearance = appearance_of(store, annotation.as_dict());
    const Object box = store.get(annotation.as_dict(), "Rect");
    const Stream* form = appearance.as_stream();
    if (form == nullptr || box.as_array().size() != 4) continue;
    double r[4];
    for (std::size_t i = 0; i < 4; ++i) r[i] = store.resolve(box.as_array()[i]).as_number();
    LUMVET_CHECK(interpreter.run_appearance(*form, {std::min(r[0], r[2]), std::min(r[1], r[3]),
                                                    std::max(r[0], r[2]), std::max(r[1], r[3])}));
  }
  return Done{};
}

}  // namespace
}  // namespace content

Result<Scene> Scene::record(const Page& page, const RecordOptions& options) {
  auto data = std::make_shared<content::SceneData>();
  data->width = page.width();
  data->height = page.height();
  content::Recorder recorder(*data);
  content::Interpreter interpreter(page.core(), recorder, options.cancel);
  LUMVET_TRY(const Bytes bytes, page.content());
  const Object resources = page.core().store().get(page.dict(), "Resources");
  const auto run = [&]() -> Status {
    Path sheet;
    sheet.add_rect({0, 0, data->width, data->height});
    const content::ClipId within =
        recorder.clip(content::kNoClip, std::move(sheet), FillRule::nonzero);
    LUMVET_CHECK(interpreter.run_page(bytes, resources.as_dict(), page.to_display(), within));
    return options.annotations ? content::draw_annotations(page, interpreter) : Status(Done{});
  };
  if (Status status = run(); !status.ok())
    return std::move(status).error().during("drawing page " + std::to_string(page.index() + 1));
  return Scene(std::move(data));
}

double Scene::width() const { return data_->width; }
double Scene::height() const { return data_->height; }
std::size_t Scene::operation_count() const { return data_->operations.size(); }

}  // namespace lumvet
