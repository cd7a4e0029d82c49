// SPDX-License-Identifier: Apache-2.0
// Looks that marks have already, and keep.
//
// Threads: free functions.
#pragma once

#include <optional>

#include "file/object_store.h"
#include "lumvet/document/annotation.h"

namespace lumvet::annotate {

// Whether a kind of mark has a look that its other entries do not state: stamps and watermarks show
// pictures and pages, and a pen leaves lines of many widths.
bool has_look_of_its_own(Annotation::Kind kind);

// A form that stands alone (objects/standing.h): the normal look of an annotation; null for none.
Object kept_form(const file::ObjectStore& store, const Dict& annotation);

// Whether it is a form that could be drawn: a stream with a box.
bool is_usable_form(const Object& form);

// Whether one mark looks like another, but for where it is. A stamp or watermark may also be of
// another size, to which its look is fitted.
bool looks_alike(const Annotation& a, const Annotation& b);

// The look of a stamp or watermark that shows a picture or a page, rather than words of its own, as
// opaque as the mark is now; nothing of others, nor when the icon changes.
std::optional<Object> kept_picture(const file::ObjectStore& store, const Dict& annotation,
                                   const Annotation& before, const Annotation& now);

}  // namespace lumvet::annotate
