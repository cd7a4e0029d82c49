// SPDX-License-Identifier: Apache-2.0
// Any bytes as XFDF, as the look of a stamp in it, as FDF, as values, as the script of a field or
// as the entries of fields: no crash, what is read can be added and filled in, and what goes out
// again is read again.
#include <string_view>

#include "crypto/base64.h"
#include "fuzz/small_limits.h"
#include "lumvet/document/field_format.h"
#include "lumvet/exchange/exchange.h"
#include "lumvet/forms/fields.h"
#include "lumvet/forms/value_list.h"
#include "lumvet/render/render.h"

namespace {

lumvet::Result<lumvet::Document> form_with(std::string_view entries) {
  const std::string text =
      "%PDF-2.0\n1 0 obj<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[4 0 R]/CO[4 0 R]>>>>endobj\n"
      "2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj\n"
      "3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 60 60]/Annots[4 0 R]>>endobj\n"
      "4 0 obj<</Subtype/Widget/T(a)/Rect[5 5 50 40]/F 4" +
      std::string(entries) + ">>endobj\ntrailer<</Root 1 0 R>>";
  return lumvet::Document::open(lumvet::Bytes(text.begin(), text.end()),
                                {.limits = fuzz::kSmallLimits});
}

void use(const lumvet::Document& document, const lumvet::Exchange& read) {
  auto edited = lumvet::EditableDocument::of(document);
  if (!read.marks.empty() && !lumvet::add_annotations(edited, read.marks).ok()) return;
  if (!read.values.empty())
    static_cast<void>(lumvet::fill_fields(edited, read.values, {.skips_unfit = true}));
  const auto now = edited.now();
  if (!now.ok()) return;
  if (const auto page = now->page(0); page.ok())
    static_cast<void>(lumvet::render(*page, {.dpi = 40}));
  const auto xfdf = lumvet::as_xfdf(*now);
  if (xfdf.ok() && !lumvet::read_xfdf(*xfdf, *now).ok()) __builtin_trap();
  const auto fdf = lumvet::as_fdf(*now);
  if (fdf.ok() && !lumvet::read_fdf(*fdf, *now).ok()) __builtin_trap();
}

void fill(const lumvet::Document& document, const std::string& value) {
  auto edited = lumvet::EditableDocument::of(document);
  if (!lumvet::fill_fields(edited, {{"a", {value}}}, {.fills_read_only = true}).ok()) return;
  static_cast<void>(lumvet::reset_fields(edited));
  static_cast<void>(lumvet::rename_field(edited, "a", "b.c"));
  static_cast<void>(lumvet::move_field(edited, "b.c", 0, 0, {1, 1, 30, 12}));
  const auto now = edited.now();
  if (!now.ok()) return;
  if (const auto page = now->page(0); page.ok())
    static_cast<void>(lumvet::render(*page, {.dpi = 40}));
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size == 0) return 0;
  const std::string_view text(reinterpret_cast<const char*>(data + 1), size - 1);
  const auto document = form_with(data[0] == '/' ? text : "/FT/Tx");
  if (!document.ok()) return 0;
  switch (data[0]) {
    case '/': fill(*document, "12.5"); break;
    case '<':
      if (const auto read = lumvet::read_xfdf(text, *document); read.ok()) use(*document, *read);
      break;
    case '&': {
      const std::string stamp = "<xfdf><annots><stamp page='0' rect='9,9,40,40'><appearance>" +
                                lumvet::crypto::base64(lumvet::as_bytes(text)) +
                                "</appearance></stamp></annots></xfdf>";
      if (const auto read = lumvet::read_xfdf(stamp, *document); read.ok()) use(*document, *read);
      break;
    }
    case '%':
      if (const auto read = lumvet::read_fdf(lumvet::as_bytes(text), *document); read.ok())
        use(*document, *read);
      break;
    case '{':
      static_cast<void>(lumvet::read_value_rows(text));
      static_cast<void>(lumvet::read_value_table(text));
      break;
    default: {
      lumvet::FormField field;
      for (const char* event :
           {"before the value is shown", "value changed", "value calculated", "keystroke"})
        field.triggers.push_back(
            {event, {{.kind = lumvet::Action::Kind::script, .target = std::string(text)}}});
      static_cast<void>(lumvet::range_of(field));
      static_cast<void>(lumvet::reckoning_of(field));
      if (const auto format = lumvet::format_of(field))
        for (const char* value : {"12.5", "1,2", "2026-04-12", "14:05", "abc"})
          if (const auto kept = lumvet::kept_value(*format, value); kept.ok())
            static_cast<void>(lumvet::shown_value(*format, *kept));
    }
  }
  return 0;
}
