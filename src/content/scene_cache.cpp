// SPDX-License-Identifier: Apache-2.0
#include "lumvet/content/scene_cache.h"

#include "content/scene_data.h"
#include "document/inside.h"
#include "file/recently_used.h"

namespace lumvet {
namespace {

struct PageKey {
  const document::Core* core = nullptr;
  int page = 0;
  bool operator==(const PageKey&) const = default;
  struct Hash {
    std::size_t operator()(const PageKey& key) const {
      return std::hash<const void*>()(key.core) ^
             static_cast<std::size_t>(key.page) * 0x9E3779B97F4A7C15u;
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
  const PageKey key{&core_of(page), page.index()};
  if (auto known = impl_->recorded.find(key)) return std::move(known->scene);
  RecordOptions options = impl_->options;
  options.cancel = cancel;
  LUMVET_TRY(Scene scene, Scene::record(page, options));
  const std::size_t bytes = scene.memory();
  return impl_->recorded.keep(key, {std::move(scene), page}, bytes).scene;
}

void SceneCache::clear() { impl_->recorded.clear(); }

}  // namespace lumvet
