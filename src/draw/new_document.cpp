// SPDX-License-Identifier: Apache-2.0
#include "lumvet/draw/new_document.h"

#include <algorithm>

#include "crypto/base64.h"
#include "draw/document_writer.h"
#include "save/full_writer.h"

namespace lumvet {

Drawing& NewDocument::add_page(const PaperSize& size) {
  return pages_.emplace_back(size.width, size.height);
}
Drawing& NewDocument::add(Drawing drawing) { return pages_.emplace_back(std::move(drawing)); }

Result<Document> NewDocument::as_document() const {
  BufferSink sink;
  LUMVET_TRY(const SaveReport report, save(sink));
  static_cast<void>(report);
  return Document::open(sink.take());
}

Result<SaveReport> NewDocument::save(ByteSink& sink, const SaveOptions& options) const {
  const bool has_tags = std::any_of(pages_.begin(), pages_.end(), [](const Drawing& page) {
    return !draw::data_of(page)->tags.empty();
  });
  return draw::write_new_document(
      options_, {.is_tagged = options_.is_tagged && has_tags}, options, sink,
      [&](draw::DocumentWriter& writer) -> Status {
        for (const Drawing& page : pages_) {
          LUMVET_RETURN_IF_ERROR(writer.add(page));
          if (options.progress)
            options.progress(static_cast<std::uint64_t>(writer.page_count()), pages_.size());
        }
        return Done{};
      });
}

Result<SaveReport> NewDocument::save(const std::filesystem::path& path,
                                     const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

Result<Document> Drawing::as_document() const {
  NewDocument document;
  document.add(*this);
  return document.as_document();
}

std::string data_address(ByteView document) {
  return "data:application/pdf;base64," + crypto::base64(document);
}

}  // namespace lumvet
