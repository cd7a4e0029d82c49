// SPDX-License-Identifier: Apache-2.0
// One page of a document (ISO 32000-2, 7.7.3.3), with what it inherits filled in.
//
//   lumvet::Page page = document.page(0).value();
//   page.width();      // points, as shown: crop box, after rotation
//
// Keeps its document alive. Threads: immutable, share freely.
#pragma once

#include <memory>
#include <vector>

#include "lumvet/base/export.h"
#include "lumvet/base/inside.h"
#include "lumvet/base/result.h"
#include "lumvet/document/annotation.h"
#include "lumvet/document/measured_area.h"
#include "lumvet/document/output_intent.h"
#include "lumvet/document/presentation.h"
#include "lumvet/document/resource_use.h"
#include "lumvet/geometry/matrix.h"
#include "lumvet/objects/object.h"

namespace lumvet {

class Document;
namespace document {
class Core;
}

// The order in which a keyboard leads through a page's annotations (12.5.1).
enum class TabOrder { unstated, rows, columns, structure, as_listed, widgets_first };

// A part of a page as it is shown, in points from its top left corner.
struct PageArea {
  double left = 0;
  double top = 0;
  double width = 0;
  double height = 0;
};

class LUMVET_EXPORT Page {
 public:
  int index() const { return index_; }  // from 0
  ObjectId id() const { return id_; }   // 0 0 for a page written directly into the tree
  const Dict& dict() const { return dict_; }

  Rect media_box() const { return media_box_; }  // points
  Rect crop_box() const { return crop_box_; }    // points, within the media box
  // Points, within the media box; the crop box where they are missing (14.11.2).
  Rect bleed_box() const { return bleed_box_; }
  Rect trim_box() const { return trim_box_; }
  Rect art_box() const { return art_box_; }
  int rotation() const { return rotation_; }  // 0, 90, 180 or 270 degrees clockwise
  double user_unit() const { return user_unit_; }

  // Points, as a person sees the page: the crop box, turned, user units applied.
  double width() const;
  double height() const;

  // Maps the page's own coordinates to points counted from the top left corner of the page as
  // shown, y downward.
  Matrix to_display() const;
  // Where a rectangle of the page's own space, such as an annotation's, is as the page is shown.
  PageArea shown(const Rect& rect) const;

  // The content streams decoded and put together, a line end between them (7.8.2). What cannot be
  // decoded is left out with a finding. Errors: io, need_more_data, limit.
  Result<Bytes> content() const;

  TabOrder tab_order() const { return tab_order_; }
  // In the order in which they are drawn; kept, so that asking again costs little. Errors here and
  // below: io, need_more_data, limit.
  Result<std::vector<Annotation>> annotations() const;
  Result<std::vector<Trigger>> triggers() const;
  Result<Presentation> presentation() const;                 // as a slide
  Result<std::vector<MeasuredArea>> measured_areas() const;  // in which it can be measured
  // Its own, in place of the document's.
  Result<std::vector<OutputIntent>> output_intents() const;
  // Sorted by name; reads the page's resources only.
  Result<std::vector<FontUse>> fonts() const;
  // Sorted by object.
  Result<std::vector<ImageUse>> images() const;

  Document document() const;

 private:
  friend class Document;
  friend struct Inside<Page>;

  std::shared_ptr<const void> core_;
  int index_ = 0;
  ObjectId id_;
  Dict dict_;
  Rect media_box_;
  Rect crop_box_;
  Rect bleed_box_;
  Rect trim_box_;
  Rect art_box_;
  TabOrder tab_order_ = TabOrder::unstated;
  int rotation_ = 0;
  double user_unit_ = 1;
};

}  // namespace lumvet
