// SPDX-License-Identifier: Apache-2.0
// Which shapes of a scene have corners in common with others, as cells of a table, slices of a
// gradient or patches of a surface do. Where they share an edge they are drawn as one.
// Threads: as the scene.
#pragma once

#include "content/scene_data.h"

namespace lumvet::content {

// Sets Operation::touches. A few are passed over when there are very many.
void mark_touching(SceneData& scene);

}  // namespace lumvet::content
