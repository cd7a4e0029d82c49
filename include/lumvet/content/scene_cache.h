// SPDX-License-Identifier: Apache-2.0
// Scenes of the pages that were shown lately, so that coming back to one does not interpret it
// again.
//
//   lumvet::SceneCache scenes;
//   lumvet::Scene scene = scenes.get(page).value();
//
// Pages of several documents may share one. A page that is being recorded by one thread holds no
// other thread up. Threads: internally synchronized.
#pragma once

#include <memory>

#include "lumvet/content/scene.h"

namespace lumvet {

class LUMVET_EXPORT SceneCache {
 public:
  // Keeps about so many bytes of scenes, all recorded by the same options.
  explicit SceneCache(std::uint64_t most_bytes = std::uint64_t{64} << 20,
                      const RecordOptions& options = {});
  SceneCache(SceneCache&&) noexcept;
  SceneCache& operator=(SceneCache&&) noexcept;
  ~SceneCache();

  // Errors: as Scene::record; nothing is kept then. `cancel` is for this page alone.
  Result<Scene> get(const Page& page, const CancelToken& cancel = {});
  void clear();

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet
