// SPDX-License-Identifier: Apache-2.0
// A demo document: drawn pages, and what drawings do not say: attachments, fields, marks.
#pragma once

#include <deque>
#include <filesystem>

#include "file/ledger.h"
#include "lumvet/draw/new_document.h"
#include "lumvet/save/save.h"
#include "sheet.h"

namespace demo {

// A4 and A3 in points.
inline constexpr double kA4Width = 595.276;
inline constexpr double kA4Height = 841.89;
inline constexpr double kA3Height = 1190.551;

// The fonts of Debian's package fonts-liberation.
lumvet::Result<Fonts> load_fonts();

class DocumentMaker {
 public:
  DocumentMaker(const Fonts& fonts, std::string title, std::string subject);

  Sheet& new_page(double width = kA4Width, double height = kA4Height);
  const Fonts& fonts() const { return fonts_; }
  int page_count() const { return static_cast<int>(sheets_.size()); }
  // As it is referred to by the objects below.
  lumvet::Object page(int index) const { return page_ids_[static_cast<std::size_t>(index)]; }

  lumvet::Object add(lumvet::Object object) { return ledger_.add(std::move(object)); }
  lumvet::ObjectId reserve() { return ledger_.reserve(); }
  void set(lumvet::ObjectId id, lumvet::Object object) { ledger_.set(id, std::move(object)); }

  // An entry of the catalog.
  void state(const std::string& key, lumvet::Object value) { catalog_.set(key, std::move(value)); }
  void outline(const std::string& title, int depth);  // to the newest page
  void attach(const std::string& name, const std::string& description, const std::string& text);

  lumvet::Status save(const std::filesystem::path& path, lumvet::FileLayout layout);

 private:
  lumvet::Object build_attachments();
  lumvet::Dict completed(lumvet::Dict page, const Sheet& sheet) const;

  struct File {
    std::string name;
    std::string description;
    std::string text;
  };

  const Fonts& fonts_;
  lumvet::NewDocument document_;
  lumvet::file::Ledger ledger_;  // of what is added
  std::deque<Sheet> sheets_;
  std::vector<File> files_;
  lumvet::Dict catalog_;
  std::vector<lumvet::ObjectId> page_ids_;
};

}  // namespace demo
