// SPDX-License-Identifier: Apache-2.0
// The marks of a document as they go out: without what means something in it alone.
//
// Threads: free functions.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "document/core.h"
#include "lumvet/annotate/annotations.h"
#include "lumvet/document/document.h"

namespace lumvet::exchange {

// By pages, of these kinds with the answers to them, or all for none. Answers name what they
// answer, and each that is answered has a name. Errors: as Page::annotations'.
Result<std::vector<NewMark>> marks_of(const Document& document,
                                      const std::vector<Annotation::Kind>& kinds);

// The file of an annotation; nothing where it has none that could be read.
std::optional<NewAttachment> attached_file(const file::ObjectStore& store, const Dict& annotation);

// The look of an annotation that its other entries do not state; nothing where it has none.
std::optional<Object> own_look(const file::ObjectStore& store, const Dict& annotation,
                               Annotation::Kind kind);

}  // namespace lumvet::exchange
