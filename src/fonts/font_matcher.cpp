// SPDX-License-Identifier: Apache-2.0
#include "fonts/font_matcher.h"

#include <algorithm>
#include <atomic>

#include "fonts/substitute.h"
#include "io/whole_file.h"
#include "lumvet/fonts/font_supply.h"

namespace lumvet {
namespace {

namespace fs = std::filesystem;

std::uint64_t new_identity() {
  static std::atomic<std::uint64_t> last = 0;
  return ++last;
}

}  // namespace

FontSupply::FontSupply(System system) : fonts_(std::make_shared<fonts::FontMatcher>()) {
  fonts_->uses_system = system == System::used;
  if (!fonts_->uses_system) fonts_->identity = new_identity();
}

Status FontSupply::add(Bytes font) {
  LUMVET_TRY(auto first, fonts::FontProgram::load(font));
  const int faces = first->face_count();
  fonts_->faces.push_back({first, fonts::letters_only(first->family())});
  for (int i = 1; i < faces; ++i) {
    LUMVET_TRY(auto next, fonts::FontProgram::load(font, i));
    fonts_->faces.push_back({next, fonts::letters_only(next->family())});
  }
  fonts_->identity = new_identity();
  return Done{};
}

Status FontSupply::add_file(const fs::path& path) {
  LUMVET_TRY(Bytes bytes, whole_file(path));
  Status added = add(std::move(bytes));
  if (!added.ok()) return std::move(added).error().about(path.string());
  return added;
}

Status FontSupply::add_folder(const fs::path& path) {
  std::error_code failed;
  const std::size_t before = size();
  std::vector<fs::path> files;
  for (auto entry = fs::recursive_directory_iterator(path, failed);
       !failed && entry != fs::recursive_directory_iterator(); entry.increment(failed))
    if (entry->is_regular_file(failed)) files.push_back(entry->path());
  if (failed)
    return Error(ErrorCode::io,
                 "cannot look into the folder " + path.string() + ": " + failed.message());
  std::sort(files.begin(), files.end());  // the same fonts in the same order on every machine
  for (const fs::path& file : files) {
    const Status added = add_file(file);
    if (!added.ok() && added.error().code() != ErrorCode::malformed) return added;
  }
  if (size() == before)
    return Error(ErrorCode::malformed, "there is no font in the folder " + path.string());
  return Done{};
}

std::size_t FontSupply::size() const { return fonts_->faces.size(); }

namespace fonts {
namespace {

int style_score(const FontProgram& program, const FontWish& wish) {
  const std::string letters = letters_only(wish.name);
  const bool bold = wish.bold || letters.find("bold") != std::string::npos;
  const bool italic = wish.italic || letters.find("italic") != std::string::npos ||
                      letters.find("oblique") != std::string::npos;
  return (program.is_bold() == bold ? 2 : 0) + (program.is_italic() == italic ? 2 : 0) +
         (program.is_fixed_pitch() == wish.fixed_pitch ? 1 : 0);
}

template <typename Fits>
std::shared_ptr<const FontProgram> best(const FontMatcher& fonts, const FontWish& wish,
                                        const Fits& fits) {
  std::shared_ptr<const FontProgram> chosen;
  int most = -1;
  for (const FontMatcher::Face& face : fonts.faces) {
    if (!fits(face)) continue;
    const int score = style_score(*face.program, wish);
    if (score <= most) continue;
    most = score;
    chosen = face.program;
  }
  return chosen;
}

}  // namespace

std::shared_ptr<const FontProgram> FontMatcher::named(const FontWish& wish) const {
  const std::string letters = letters_only(wish.name);
  return best(*this, wish, [&](const Face& face) {
    return !face.family.empty() && letters.find(face.family) != std::string::npos;
  });
}

std::shared_ptr<const FontProgram> FontMatcher::nearest(const FontWish& wish) const {
  const std::uint32_t sample = sample_character(wish.language);
  return best(*this, wish, [&](const Face& face) {
    return sample == 0 || face.program->glyph_for_unicode(sample) != 0;
  });
}

std::shared_ptr<const FontProgram> FontMatcher::with_character(std::uint32_t character,
                                                               const FontWish& wish) const {
  return best(*this, wish,
              [&](const Face& face) { return face.program->glyph_for_unicode(character) != 0; });
}

}  // namespace fonts
}  // namespace lumvet
