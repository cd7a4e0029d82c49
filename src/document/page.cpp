// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/page.h"

#include <string>

#include "document/annotations.h"
#include "document/content_feed.h"
#include "document/core.h"
#include "document/number_entries.h"
#include "document/resource_uses.h"
#include "document/triggers.h"
#include "lumvet/document/document.h"

namespace lumvet {
namespace {

Rect box_within(const Page& page, std::string_view key) {
  const auto box = document::rect_of(page.core().store(), page.dict()[key]);
  if (!box) return page.crop_box();
  const Rect within = box->intersected(page.media_box());
  return within.is_empty() ? page.crop_box() : within;
}

}  // namespace

Rect Page::bleed_box() const { return box_within(*this, "BleedBox"); }
Rect Page::trim_box() const { return box_within(*this, "TrimBox"); }
Rect Page::art_box() const { return box_within(*this, "ArtBox"); }

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

std::vector<Annotation> Page::annotations() const {
  return document::read_annotations(core(), dict_);
}

TabOrder Page::tab_order() const {
  const Object order = core().store().get(dict_, "Tabs");
  if (order.is_name("R")) return TabOrder::rows;
  if (order.is_name("C")) return TabOrder::columns;
  if (order.is_name("S")) return TabOrder::structure;
  if (order.is_name("A")) return TabOrder::as_listed;
  if (order.is_name("W")) return TabOrder::widgets_first;
  return TabOrder::unstated;
}

std::vector<Trigger> Page::triggers() const {
  return document::read_triggers(core(), dict_, document::TriggerOwner::page);
}

std::vector<FontUse> Page::fonts() const {
  return document::read_resource_uses(core(), dict_).fonts;
}

std::vector<ImageUse> Page::images() const {
  return document::read_resource_uses(core(), dict_).images;
}

Document Page::document() const {
  return Document(std::static_pointer_cast<const document::Core>(core_));
}

const document::Core& Page::core() const {
  return *static_cast<const document::Core*>(core_.get());
}

Result<Bytes> Page::content() const {
  document::ContentFeed feed(*this);
  do {
    LUMVET_CHECK(feed.advance(0));
  } while (feed.has_more());
  return Bytes(feed.window().begin(), feed.window().end());
}

}  // namespace lumvet
