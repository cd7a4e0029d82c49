// SPDX-License-Identifier: Apache-2.0
// Drawings as content and resources of a document in a ledger. Fonts, pictures, other drawings and
// pages of other documents are in it once.
//
//   DrawingWriter writer(ledger);
//   LUMVET_TRY(WrittenContent content, writer.content_of(drawing));
//   …
//   LUMVET_RETURN_IF_ERROR(writer.finish(catalog));   // once all is written
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <memory>
#include <string>
#include <vector>

#include "assemble/guest_forms.h"
#include "draw/drawing_data.h"
#include "file/ledger.h"

namespace lumvet::draw {

struct WrittenContent {
  std::string operators;
  Dict resources;
  std::vector<int> marks;  // which tag each marked content is of, by its number
};

class DrawingWriter {
 public:
  explicit DrawingWriter(file::Ledger& ledger) : ledger_(ledger) {}

  // With its tags as marked content; in a document that has tags, what is outside of all is an
  // artifact. Errors: the drawing's own; as reading pages of other documents.
  Result<WrittenContent> content_of(const DrawingData& drawing, bool is_tagged);
  // As a form (8.10), in its own space from 0 0 to its width and height, without its tags.
  Result<ObjectId> form_of(const UsedForm& form);
  // What a page of another document is as a form, where the ledger has it already.
  void use_form(const Page& page, ObjectId form);
  // What nothing but this holds any more, and so is not drawn again.
  void forget_unused();
  // The next of the late drawings, once all pages are there; false behind the last. Errors: as
  // content_of's.
  Result<bool> write_late();
  // Embeds the fonts; layers into the catalog.
  Status finish(Dict& catalog);
  // What a reader has to know for what was written, "1.6".
  std::string version() const;

 private:
  struct Font {
    ObjectId id;
    UsedFont used;
  };

  Result<Dict> resources_of(const DrawingData& drawing);
  ObjectId font_of(const UsedFont& font);
  ObjectId picture_of(const std::shared_ptr<const PictureData>& picture);
  Result<ObjectId> page_form(const Page& page);
  Result<Object> state_of(const UsedState& state);
  Result<ObjectId> pattern_of(const UsedPattern& pattern);
  Object space_of(const Color& color);
  Object own_space_of(const Color& color);
  Object mixed_inks(const Color& color);
  ObjectId layer_of(const Layer& layer);
  Object function_of(const std::vector<ColorStop>& stops) const;
  static Dict form_dict(const DrawingData& drawing, Dict resources);

  using FormKey = std::tuple<DrawingPtr, bool, bool, bool>;

  file::Ledger& ledger_;
  std::vector<Font> fonts_;
  std::map<std::shared_ptr<const PictureData>, ObjectId> pictures_;
  std::map<FormKey, ObjectId> forms_;
  std::size_t kept_ = 0;  // pictures and forms, when some were forgotten last
  struct Late {
    ObjectId id;
    std::shared_ptr<const LateDrawing> drawing;
  };
  std::vector<Late> late_;
  std::size_t next_late_ = 0;
  std::map<std::shared_ptr<const document::Core>, assemble::GuestForms> guests_;
  std::map<std::pair<const document::Core*, int>, ObjectId> used_forms_;
  std::vector<std::pair<Color, Object>> spaces_;
  std::vector<std::pair<ObjectId, Layer>> layers_;
};

}  // namespace lumvet::draw
