// SPDX-License-Identifier: Apache-2.0
// Where fonts come from that a document names but does not bring along.
//
//   lumvet::FontSupply fonts(lumvet::FontSupply::System::left_out);
//   fonts.add_folder("/opt/office/fonts");
//   lumvet::Scene::record(page, {.fonts = fonts});
//
// A supplied font of the wanted name comes first, then the system's, then whatever supplied font
// comes nearest. Where there is none at all, text shows as boxes of the right width.
//
// Copies share their fonts. Threads: const methods may run concurrently; anything else needs
// exclusive access.
#pragma once

#include <filesystem>
#include <memory>

#include "lumvet/base/bytes.h"
#include "lumvet/base/export.h"
#include "lumvet/base/inside.h"
#include "lumvet/base/result.h"

namespace lumvet {

namespace fonts {
struct FontMatcher;
}

class LUMVET_EXPORT FontSupply {
 public:
  enum class System { used, left_out };
  explicit FontSupply(System system = System::used);

  // TrueType, OpenType, Type 1, and collections of them. Errors: io; malformed for what is no font.
  Status add_file(const std::filesystem::path& path);
  // Every font in a folder and those within; other files are passed over. Errors: io; malformed
  // when there is no font at all.
  Status add_folder(const std::filesystem::path& path);
  Status add(Bytes font);

  std::size_t size() const;  // faces supplied

 private:
  friend struct Inside<FontSupply>;
  std::shared_ptr<fonts::FontMatcher> fonts_;
};

}  // namespace lumvet
