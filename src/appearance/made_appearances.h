// SPDX-License-Identifier: Apache-2.0
// Appearances for annotations and fields that have none, or ask for new ones (ISO 32000-2, 12.5.5
// and 12.7.4.3). They are made beside a document, which stays as it is.
//
// Threads: free functions; one thread at a time for an AppearanceWriter.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <unordered_map>

#include "appearance/default_appearance.h"
#include "appearance/look.h"
#include "document/core.h"
#include "draw/drawing_writer.h"
#include "lumvet/document/form.h"

namespace lumvet::appearance {

// Looks as forms of a document in a ledger.
class AppearanceWriter {
 public:
  // The document that the ledger changes; fonts are looked for in the supply.
  AppearanceWriter(const document::Core& core, file::Ledger& ledger, const FontSupply& supply);

  // Where the look goes, and its form; nothing for what shows nothing by itself. Errors: as
  // DrawingWriter's.
  struct Written {
    Rect place;
    ObjectId form;
  };
  Result<std::optional<Written>> write(const Dict& annotation);
  // Of a field as it is about to be, at one of its places.
  Result<std::optional<Written>> write(const FormField& field, const Dict& widget, bool is_on);
  Result<Written> write(const Look& look);
  // In the frame that the widget's look has around its text.
  Result<Written> write(const Look& look, const FormField& field, const Dict& widget);
  // Equal ones without letters are one form.
  Result<ObjectId> write(const Drawing& drawing);
  const Fonts& fonts() const { return fonts_; }
  // Embeds the fonts, once all is written.
  Status finish();

 private:
  const document::Core& core_;
  file::Ledger& ledger_;
  Fonts fonts_;
  draw::DrawingWriter writer_;
  std::unordered_map<std::string, ObjectId> plain_;  // forms, by what they show
};

// Whether it is to be drawn by its own entries: it has no appearance, or the form asks for new
// ones.
bool needs_look(const document::Core& core, const Dict& annotation);

// The appearances that are missing on a page.
struct MadeAppearances {
  std::shared_ptr<const document::Core> core;  // the document with them
  // By the places of the annotations in the page's list.
  std::map<std::size_t, AppearanceWriter::Written> forms;
};
// Nothing where all have one, which costs nothing. Errors: as DrawingWriter's.
Result<std::optional<MadeAppearances>> made_appearances(const Page& page, const FontSupply& supply);

}  // namespace lumvet::appearance
