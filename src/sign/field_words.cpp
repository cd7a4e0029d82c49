// SPDX-License-Identifier: Apache-2.0
#include "sign/field_words.h"

#include <unicode/uchar.h>
#include <unicode/unistr.h>

#include "document/appearance.h"
#include "document/geometry_objects.h"
#include "document/inside.h"
#include "file/ledger.h"
#include "lumvet/document/field_format.h"
#include "lumvet/text/page_words.h"

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

// The look of a field alone, as the content of a page.
Result<PageWords> words_of(const Document& document, int page, const Stream& look) {
  const file::ObjectStore& store = store_of(document);
  LUMVET_TRY(const Page own, document.page(page));
  file::Ledger ledger(store.with(nullptr),
                      store.changes() ? *store.changes() : file::ObjectChanges());
  const ObjectId form = ledger.add(Object(look));
  const std::string content = "/Look Do";
  Dict sheet{
      {"Type", Object::name("Page")},
      {"MediaBox", store.get(look.dict, "BBox")},
      {"Resources", Dict{{"XObject", Dict{{"Look", form}}}}},
      {"Contents", ledger.add(Object(Stream::of(Dict(), Bytes(content.begin(), content.end()))))}};
  if (own.dict().contains("Parent")) sheet.set("Parent", own.dict()["Parent"]);
  ledger.set(own.id(), Object(std::move(sheet)));
  auto changes = std::make_shared<const file::ObjectChanges>(ledger.changes());
  const auto core = std::make_shared<const document::Core>(
      core_of(document), store.with(nullptr)->with(std::move(changes)));
  LUMVET_TRY(const Page shown, Inside<Document>::of(core).page(page));
  return PageWords::of(shown);
}

std::string seen_text(const PageWords& words) {
  std::string text;
  for (std::size_t i = 0; i < words.word_count(); ++i) {
    const TextWord word = words.word(i);
    if (word.visibility == Visibility::seen)
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
  LUMVET_TRY(const PageWords words, words_of(document, *widget.page, *look.as_stream()));
  const bool letters_alone = has_other_scripts(field);
  const std::string seen = seen_text(words);
  if (essence(seen, letters_alone) == essence(shown_text(field), letters_alone))
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
