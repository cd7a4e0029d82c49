// SPDX-License-Identifier: Apache-2.0
#include "annotate/files_of_marks.h"

#include "io/whole_file.h"
#include "lumvet/draw/picture.h"

namespace lumvet::annotate {

namespace fs = std::filesystem;

Result<std::optional<NewAttachment>> file_for_mark(const fs::path& folder,
                                                   const std::string& name) {
  const fs::path path = folder / name;
  std::error_code ignored;
  if (name.empty() || !fs::is_regular_file(path, ignored)) return std::optional<NewAttachment>();
  LUMVET_TRY(Bytes bytes, whole_file(path));
  return std::optional(NewAttachment{.name = path.filename().string(), .bytes = std::move(bytes)});
}

Result<Drawing> picture_for_mark(const fs::path& file, int page, double width, double height) {
  Drawing look(width, height);
  const PageArea all{0, 0, width, height};
  if (file.extension() == ".pdf") {
    LUMVET_TRY(const Document document, Document::open(file));
    LUMVET_TRY(const Page drawn, document.page(page));
    look.draw(drawn, all);
  } else {
    LUMVET_TRY(const Picture picture, Picture::load(file));
    look.draw(picture, all);
  }
  LUMVET_RETURN_IF_ERROR(look.status());
  return look;
}

}  // namespace lumvet::annotate
