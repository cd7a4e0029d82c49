// SPDX-License-Identifier: Apache-2.0
// Any file, opened, told in full, drawn small and saved: no crash, no hang, and what is saved opens
// again.
#include "fuzz/small_limits.h"
#include "lumvet/lumvet.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const auto document =
      lumvet::Document::open(lumvet::Bytes(data, data + size), {.limits = fuzz::kSmallLimits});
  if (!document.ok()) return 0;
  document->metadata().ok();
  document->outline().ok();
  document->named_destinations().ok();
  document->attachments().ok();
  document->opening_view().ok();
  document->triggers().ok();
  document->layers().ok();
  document->structure().ok();
  document->form().ok();
  document->output_intents().ok();
  document->extensions().ok();
  lumvet::check_linearized(*document).ok();
  static_cast<void>(lumvet::loading_of(*document));
  lumvet::sizes_of(*document).ok();
  lumvet::EditableDocument changes = lumvet::EditableDocument::of(*document);
  if (changes.set_language("de").ok())
    if (const auto update = changes.appended(); update.ok()) {
      lumvet::Bytes longer(data, data + size);
      longer.insert(longer.end(), update->begin(), update->end());
      static_cast<void>(lumvet::Document::open(std::move(longer), {.limits = fuzz::kSmallLimits}));
    }
  lumvet::Assembly book;
  for (int i = 0; i < std::min(document->page_count(), 2); ++i) {
    const auto page = document->page(i);
    if (!page.ok()) continue;
    page->annotations().ok();
    page->images().ok();
    page->fonts().ok();
    static_cast<void>(
        lumvet::render(*page, {.width = 24, .threads = 1, .limits = fuzz::kSmallLimits}));
    static_cast<void>(book.add(*document, lumvet::PageSelection::of({i})));
  }
  lumvet::BufferSink sink;
  if (!book.save(sink).ok()) return 0;
  const auto again = lumvet::Document::open(sink.take());
  if (!again.ok() || again->page_count() != book.page_count()) __builtin_trap();
  return 0;
}
