// SPDX-License-Identifier: Apache-2.0
#include "lumvet/content/scene_cache.h"

#include "content/scene_data.h"
#include "document/inside.h"
#include "file/recently_used.h"

namespace lumvet {
namespace {

// A page as it shows itself, in whatever state of its document.
struct PageKey {
  const void* document = nullptr;
  ObjectId page;
  int index = 0;  // of a page that is no object of its own
  std::uint64_t stamp = 0;
  bool operator==(const PageKey&) const = default;
  struct Hash {
    std::size_t operator()(const PageKey& key) const {
      constexpr std::size_t kSpread = 0x9E3779B97F4A7C15u;
      return std::hash<const void*>()(key.document) ^
             (static_cast<std::size_t>(key.index) + key.page.number + key.stamp) * kSpread;
    }
  };
};

// With the page, so that its document, by whose address it is known, stays.
struct Recorded {
  Scene scene;
  Page page;
};

}  // namespace

struct SceneCache::Impl {
  Impl(std::uint64_t most_bytes, const RecordOptions& record)
      : options(record), recorded(most_bytes) {}
  RecordOptions options;
  file::RecentlyUsed<PageKey, Recorded, PageKey::Hash> recorded;
};

SceneCache::SceneCache(std::uint64_t most_bytes, const RecordOptions& options)
    : impl_(std::make_unique<Impl>(most_bytes, options)) {}
SceneCache::SceneCache(SceneCache&&) noexcept = default;
SceneCache& SceneCache::operator=(SceneCache&&) noexcept = default;
SceneCache::~SceneCache() = default;

Result<Scene> SceneCache::get(const Page& page, const CancelToken& cancel) {
  const document::Core& core = core_of(page);
  const bool is_object = page.id().number != 0;
  const PageKey key{is_object ? core.family() : &core, page.id(), is_object ? 0 : page.index(),
                    core.stamp_of_page(page.id())};
  if (auto known = impl_->recorded.find(key)) return std::move(known->scene);
  RecordOptions options = impl_->options;
  options.cancel = cancel;
  LUMVET_TRY(Scene scene, Scene::record(page, options));
  if (!scene.is_whole()) return scene;  // there may be more time the next time
  const std::size_t bytes = scene.memory();
  return impl_->recorded.keep(key, {std::move(scene), page}, bytes).scene;
}

void SceneCache::clear() { impl_->recorded.clear(); }

}  // namespace lumvet
