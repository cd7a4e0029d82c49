// SPDX-License-Identifier: Apache-2.0
// A demo document: sheets, images, outline, attachments, put together and saved.
#pragma once

#include <deque>
#include <filesystem>

#include "file/ledger.h"
#include "lumvet/save/save.h"
#include "sheet.h"

namespace demo {

// A4 and A3 in points.
inline constexpr double kA4Width = 595.276;
inline constexpr double kA4Height = 841.89;
inline constexpr double kA3Height = 1190.551;

struct Fonts {
  DemoFont regular;
  DemoFont bold;
};

// The fonts of Debian's package fonts-liberation.
lumvet::Result<Fonts> load_fonts();

class DocumentMaker {
 public:
  DocumentMaker(const Fonts& fonts, std::string title, std::string subject)
      : fonts_(fonts), title_(std::move(title)), subject_(std::move(subject)) {}

  Sheet& new_page(double width = kA4Width, double height = kA4Height);
  int page_count() const { return static_cast<int>(sheets_.size()); }
  lumvet::Object page(int index) const { return page_ids_[static_cast<std::size_t>(index)]; }

  lumvet::Object add(lumvet::Object object) { return ledger_.add(std::move(object)); }
  lumvet::ObjectId reserve() { return ledger_.reserve(); }
  void set(lumvet::ObjectId id, lumvet::Object object) { ledger_.set(id, std::move(object)); }
  lumvet::Object add_jpeg(lumvet::Bytes jpeg, int width, int height, bool gray);
  // Rows of red, green, blue; `alpha` has one byte a pixel or is empty.
  lumvet::Object add_image(lumvet::Bytes rgb, lumvet::Bytes alpha, int width, int height);

  // An entry of the catalog.
  void state(const std::string& key, lumvet::Object value) { catalog_.set(key, std::move(value)); }
  void outline(const std::string& title, int depth);  // to the newest page
  void attach(const std::string& name, const std::string& description, const std::string& text);

  lumvet::Status save(const std::filesystem::path& path, lumvet::FileLayout layout);

 private:
  lumvet::Object embed(const DemoFont& font);
  lumvet::ObjectId build_pages();
  lumvet::Object build_attachments();

  struct Entry {
    std::string title;
    int depth;
    int page;
  };
  struct File {
    std::string name;
    std::string description;
    std::string text;
  };

  const Fonts& fonts_;
  std::string title_;
  std::string subject_;
  lumvet::file::Ledger ledger_;
  std::deque<Sheet> sheets_;
  std::vector<Entry> entries_;
  std::vector<File> files_;
  lumvet::Dict catalog_;
  std::vector<lumvet::ObjectId> page_ids_;
};

}  // namespace demo
