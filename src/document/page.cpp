// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/page.h"

#include <string>

#include "base/attempt.h"
#include "document/annotations.h"
#include "document/collections.h"
#include "document/content_feed.h"
#include "document/declarations.h"
#include "document/inside.h"
#include "document/measured_areas.h"
#include "document/resource_uses.h"
#include "document/triggers.h"

namespace lumvet {
double Page::width() const {
  return (rotation_ % 180 == 0 ? crop_box_.width() : crop_box_.height()) * user_unit_;
}

double Page::height() const {
  return (rotation_ % 180 == 0 ? crop_box_.height() : crop_box_.width()) * user_unit_;
}

Matrix Page::to_display() const {
  const Rect& box = crop_box_;
  Matrix turned;
  switch (rotation_) {
    case 90: turned = {0, 1, 1, 0, -box.bottom, -box.left}; break;
    case 180: turned = {-1, 0, 0, 1, box.right, -box.bottom}; break;
    case 270: turned = {0, -1, -1, 0, box.top, box.right}; break;
    default: turned = {1, 0, 0, -1, -box.left, box.top}; break;
  }
  return turned.then(Matrix::scaling(user_unit_, user_unit_));
}

Result<std::vector<Annotation>> Page::annotations() const {
  return attempted([&]() -> std::vector<Annotation> {
    return *core_of(*this).annotations_of(
        index_, [&] { return document::read_annotations(core_of(*this), dict_); });
  });
}

PageArea Page::shown(const Rect& rect) const {
  const Rect at = to_display().bounds_of(rect);
  return {at.left, at.bottom, at.width(), at.height()};
}

Result<std::vector<Trigger>> Page::triggers() const {
  return attempted(
      [&] { return document::read_triggers(core_of(*this), dict_, document::TriggerOwner::page); });
}

Result<Presentation> Page::presentation() const {
  return attempted([&] { return document::read_presentation(core_of(*this).store(), dict_); });
}

Result<std::vector<MeasuredArea>> Page::measured_areas() const {
  return attempted([&] { return document::read_measured_areas(core_of(*this).store(), dict_); });
}

Result<std::vector<OutputIntent>> Page::output_intents() const {
  return attempted([&] { return document::read_output_intents(core_of(*this).store(), dict_); });
}

Result<std::vector<FontUse>> Page::fonts() const {
  return attempted([&] { return document::read_resource_uses(core_of(*this), dict_).fonts; });
}

Result<std::vector<ImageUse>> Page::images() const {
  return attempted([&] { return document::read_resource_uses(core_of(*this), dict_).images; });
}

Document Page::document() const {
  return Document(std::static_pointer_cast<const document::Core>(core_));
}

Result<Bytes> Page::content() const {
  return attempted([&]() -> Result<Bytes> {
    document::ContentFeed feed(*this);
    do {
      LUMVET_RETURN_IF_ERROR(feed.advance(0));
    } while (feed.has_more());
    return Bytes(feed.window().begin(), feed.window().end());
  });
}

}  // namespace lumvet
