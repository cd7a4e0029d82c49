// SPDX-License-Identifier: Apache-2.0
#include "sign/field_words.h"

#include <unicode/uchar.h>
#include <unicode/unistr.h>

#include <algorithm>

#include "document/appearance.h"
#include "document/changed.h"
#include "document/geometry_objects.h"
#include "document/inside.h"
#include "lumvet/document/field_format.h"
#include "lumvet/text/page_words.h"
#include "objects/content_numbers.h"

namespace lumvet::signing {
namespace {

// Without blanks, which looks have none of or more. Of values that a script of the form's own
// writes in its way, letters and digits alone.
std::string essence(const std::string& text, bool letters_alone) {
  const icu::UnicodeString whole = icu::UnicodeString::fromUTF8(text);
  icu::UnicodeString kept;
  for (int32_t i = 0; i < whole.length(); i = whole.moveIndex32(i, 1)) {
    const UChar32 c = whole.char32At(i);
    if (u_isUWhiteSpace(c) || u_charType(c) == U_FORMAT_CHAR || u_iscntrl(c)) continue;
    if (letters_alone && !u_isalnum(c)) continue;
    kept.append(c);
  }
  std::string out;
  kept.toUTF8String(out);
  return out;
}

// The look of a field alone, as the content of a page. It is larger than the field, so that letters
// beyond the field's edges are told as well.
Result<PageWords> words_of(const Document& document, const Page& page, const FieldWidget& widget,
                           const Stream& look) {
  const file::ObjectStore& store = store_of(document);
  file::Ledger ledger = document::ledger_of(core_of(document));
  const ObjectId form = ledger.add(Object(look));
  const Rect place{0, 0, widget.rect.width(), widget.rect.height()};
  std::string content;
  if (const auto fit = document::fitted(store, look.dict, place)) {
    objects::append_rounded({fit->a, fit->b, fit->c, fit->d, fit->e, fit->f}, content);
    content += "cm /Look Do";
  }
  constexpr double kBeyond = 10;  // times the field
  const double wide = place.right * kBeyond;
  const double high = place.top * kBeyond;
  const Array sheet = document::array_of(Rect{-wide, -high, wide, high});
  // What pages have from above is said anew.
  ledger.set(
      page.id(),
      Dict{{"Type", Object::name("Page")},
           {"Parent", page.dict()["Parent"]},
           {"MediaBox", Object(sheet)},
           {"CropBox", Object(sheet)},
           {"Rotate", 0},
           {"Resources", Dict{{"XObject", Dict{{"Look", form}}}}},
           {"Contents", ledger.add(Stream::of(Dict(), Bytes(content.begin(), content.end())))}});
  const Document beside = Inside<Document>::of(document::changed(core_of(document), ledger));
  LUMVET_TRY(const Page shown, beside.page(page.index()));
  return PageWords::of(shown);
}

std::string text_of(const PageWords& words, std::initializer_list<Visibility> kinds) {
  std::string text;
  for (std::size_t i = 0; i < words.word_count(); ++i) {
    const TextWord word = words.word(i);
    if (std::find(kinds.begin(), kinds.end(), word.visibility) != kinds.end())
      text += words.text().substr(word.begin, word.end - word.begin) + " ";
  }
  return text;
}

std::string shown_text(const FormField& field) {
  const std::string value = field.value();
  for (const FieldOption& option : field.options)
    if (option.exported == value) return option.shown;
  const auto format = format_of(field);
  return format ? shown_value(*format, value) : value;
}

// Pictures in the look of a text show something that is no text.
bool has_pictures(const file::ObjectStore& store, const Dict& look) {
  const Object resources = store.get(look, "Resources");
  const Object objects = store.get(resources.as_dict(), "XObject");
  return !objects.as_dict().is_empty();
}

Result<std::optional<std::string>> misleading_text(const Document& document, const FormField& field,
                                                   const FieldWidget& widget) {
  const file::ObjectStore& store = store_of(document);
  const Object dict = store.resolve(Object(widget.id));
  const Object look = document::normal_appearance(store, dict.as_dict());
  if (!look.is_stream() || !widget.page) return std::optional<std::string>();
  if (has_pictures(store, look.as_stream()->dict))
    return std::optional<std::string>("shows pictures in place of its value");
  LUMVET_TRY(const Page page, document.page(*widget.page));
  if (page.id() == ObjectId())
    return std::optional<std::string>("stands on a page that is no object of its own");
  LUMVET_TRY(const PageWords words, words_of(document, page, widget, *look.as_stream()));
  const bool letters_alone = has_other_scripts(field);
  const std::string seen = text_of(words, {Visibility::seen});
  const std::string due = essence(shown_text(field), letters_alone);
  if (essence(seen, letters_alone) == due) return std::optional<std::string>();
  // Lines that a field has no room for are beyond its edge, and people know that.
  const std::string all = text_of(words, {Visibility::seen, Visibility::clipped});
  if (field.is_multiline() && essence(all, letters_alone) == due &&
      due.starts_with(essence(seen, letters_alone)))
    return std::optional<std::string>();
  if (words.unknown_count() > 0)
    return std::optional<std::string>("shows letters of which nothing tells what they are");
  return std::optional("says '" + seen.substr(0, seen.find_last_not_of(' ') + 1) +
                       "', and holds '" + shown_text(field) + "'");
}

// A box shows one of its states: the one that it holds.
std::optional<std::string> misleading_state(const FormField& field, const FieldWidget& widget) {
  const bool is_on = !widget.on_state.empty() && widget.on_state == field.value();
  const std::string due = is_on ? widget.on_state : "Off";
  if (widget.state.empty() || widget.state == due || (!is_on && widget.state != widget.on_state))
    return std::nullopt;
  return "shows the state '" + widget.state + "', and holds '" + field.value() + "'";
}

}  // namespace

Result<std::optional<std::string>> misleading_look(const Document& document,
                                                   const FormField& field) {
  for (const FieldWidget& widget : field.widgets) {
    std::optional<std::string> found;
    if (field.kind == FormField::Kind::check_box || field.kind == FormField::Kind::radio_buttons) {
      found = misleading_state(field, widget);
    } else if ((field.kind == FormField::Kind::text && !field.is_password()) ||
               field.kind == FormField::Kind::combo_box) {
      LUMVET_TRY(found, misleading_text(document, field, widget));
    }
    if (found) return found;
  }
  return std::optional<std::string>();
}

}  // namespace lumvet::signing
