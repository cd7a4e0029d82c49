// SPDX-License-Identifier: Apache-2.0
#include "appearance/made_appearances.h"

#include "appearance/annotation_look.h"
#include "appearance/field_look.h"
#include "appearance/kept_frame.h"
#include "appearance/posters.h"
#include "document/annotations.h"
#include "document/appearance.h"
#include "document/changed.h"
#include "document/form.h"
#include "document/geometry_objects.h"
#include "document/inside.h"
#include "draw/made_looks.h"
#include "filters/stream_decoder.h"
#include "objects/text_string.h"

namespace lumvet::appearance {
namespace {

std::map<std::string, std::string> base_fonts_of(const document::Core& core) {
  const file::ObjectStore& store = core.store();
  const Object form = store.get(core.catalog(), "AcroForm");
  const Object resources = store.get(form.as_dict(), "DR");
  const Object fonts = store.get(resources.as_dict(), "Font");
  std::map<std::string, std::string> names;
  for (const auto& [name, font] : fonts.as_dict())
    if (const Object base = store.get(store.resolve(font).as_dict(), "BaseFont"); base.is_name())
      names.emplace(name, base.as_name());
  return names;
}

// The program of a font that the form's texts name, where it is of a kind to write with. Each is
// read once.
std::function<std::optional<Typeface>(const std::string&)> embedded_fonts_of(
    const document::Core& core) {
  auto known = std::make_shared<std::map<std::string, std::optional<Typeface>>>();
  return [&core, known](const std::string& name) -> std::optional<Typeface> {
    if (const auto found = known->find(name); found != known->end()) return found->second;
    std::optional<Typeface>& face = (*known)[name];
    const file::ObjectStore& store = core.store();
    const Object form = store.get(core.catalog(), "AcroForm");
    const Object resources = store.get(form.as_dict(), "DR");
    const Object fonts = store.get(resources.as_dict(), "Font");
    Object font = store.get(fonts.as_dict(), name);
    if (const Object below = store.get(font.as_dict(), "DescendantFonts");
        !below.as_array().empty())
      font = store.resolve(below.as_array().front());
    const Object descriptor = store.get(font.as_dict(), "FontDescriptor");
    for (const char* const key : {"FontFile2", "FontFile3"}) {
      const Object program = store.get(descriptor.as_dict(), key);
      if (!program.is_stream()) continue;
      Budget budget(store.limits());
      const auto bytes =
          filters::decode_whole(*program.as_stream(), store, budget, store.findings());
      if (!bytes.ok()) continue;
      auto read = Typeface::of(Bytes(bytes->view().begin(), bytes->view().end()));
      if (read.ok()) face = *std::move(read);
    }
    return face;
  };
}

WidgetLook widget_of(const document::Core& core, const Dict& dict, const FormField& field) {
  const file::ObjectStore& store = core.store();
  const Annotation mark = document::read_annotation(core, dict);
  const Object stated = store.get(dict, "MK");
  const Dict& own = stated.as_dict();
  WidgetLook widget;
  widget.rect = mark.rect;
  widget.border = mark.border;
  const std::int64_t turn = store.get(own, "R").as_integer() % 360;
  widget.rotation = static_cast<int>(turn < 0 ? turn + 360 : turn);
  widget.border_color = document::numbers_of(store, own["BC"]);
  widget.background = document::numbers_of(store, own["BG"]);
  widget.caption = objects::text_to_utf8(store.get(own, "CA").as_string());
  // A box that is no more than a widget says by its value what it is.
  const std::string& state = mark.appearance_state;
  widget.is_on = state.empty() ? !field.value().empty() && field.value() != "Off" : state != "Off";
  widget.first_option = store.get(dict, "TI").as_integer();
  return widget;
}

}  // namespace

bool needs_look(const document::Core& core, const Dict& annotation) {
  const file::ObjectStore& store = core.store();
  const Object subtype = store.get(annotation, "Subtype");
  if (subtype.is_name("Popup")) return false;
  const Object appearances = store.get(annotation, "AP");
  const Object normal = store.get(appearances.as_dict(), "N");
  const bool has_any = normal.is_stream() || !normal.as_dict().is_empty();
  if (!has_any) return true;
  if (!subtype.is_name("Widget") || !normal.is_stream()) return false;
  const Object form = store.get(core.catalog(), "AcroForm");
  if (!store.get(form.as_dict(), "NeedAppearances").as_bool()) return false;
  const FormField::Kind kind = document::field_of_widget(core, annotation).kind;
  return kind == FormField::Kind::text || kind == FormField::Kind::combo_box ||
         kind == FormField::Kind::list_box;
}

AppearanceWriter::AppearanceWriter(const document::Core& core, file::Ledger& ledger,
                                   const FontSupply& supply)
    : core_(core),
      ledger_(ledger),
      fonts_{supply, base_fonts_of(core), embedded_fonts_of(core)},
      writer_(ledger) {}

Result<std::optional<AppearanceWriter::Written>> AppearanceWriter::write(const Dict& annotation) {
  if (core_.store().get(annotation, "Subtype").is_name("Widget")) {
    const FormField field = document::field_of_widget(core_, annotation);
    const auto look = look_of(field, widget_of(core_, annotation, field), fonts_);
    if (!look) return std::optional<Written>();
    LUMVET_TRY(const Written written, write(*look, field, annotation));
    return std::optional(written);
  }
  const Annotation mark = document::read_annotation(core_, annotation);
  if (mark.kind == Annotation::Kind::movie || mark.kind == Annotation::Kind::screen)
    if (const auto poster = poster_form(core_.store(), annotation, ledger_))
      return std::optional(Written{mark.rect, *poster});
  const auto look = look_of(mark, fonts_);
  if (!look) return std::optional<Written>();
  LUMVET_TRY(const Written written, write(*look));
  return std::optional(written);
}

Result<std::optional<AppearanceWriter::Written>> AppearanceWriter::write(const FormField& field,
                                                                         const Dict& widget,
                                                                         bool is_on) {
  FormField own = field;
  const file::ObjectStore& store = core_.store();
  if (widget.contains("DA")) own.default_appearance = store.get(widget, "DA").as_string();
  WidgetLook place = widget_of(core_, widget, own);
  place.is_on = is_on;
  const auto look = look_of(own, place, fonts_);
  if (!look) return std::optional<Written>();
  LUMVET_TRY(const Written written, write(*look, own, widget));
  return std::optional(written);
}

Result<AppearanceWriter::Written> AppearanceWriter::write(const Look& look) {
  LUMVET_TRY(const ObjectId form, write(look.drawing));
  return Written{look.place, form};
}

Result<AppearanceWriter::Written> AppearanceWriter::write(const Look& look, const FormField& field,
                                                          const Dict& widget) {
  LUMVET_TRY(Written written, write(look));
  using Kind = FormField::Kind;
  const bool has_text = field.kind == Kind::text || field.kind == Kind::combo_box;
  if (const auto frame = has_text ? frame_around_text(ledger_, widget) : std::nullopt)
    written.form = ledger_.add(
        with_text(*frame, ledger_, written.form, look.place.width(), look.place.height()));
  return written;
}

Result<ObjectId> AppearanceWriter::write(const Drawing& drawing) {
  const draw::DrawingPtr data = draw::data_of(drawing);
  std::optional<std::string> content = draw::plain_content(*data);
  if (!content) return writer_.form_of({.drawing = data});
  const auto known = plain_.find(*content);
  if (known != plain_.end()) return known->second;
  LUMVET_TRY(const ObjectId form, writer_.form_of({.drawing = data}));
  plain_.emplace(*std::move(content), form);
  return form;
}

Status AppearanceWriter::finish() {
  Dict catalog;  // looks have no layers of their own
  return writer_.finish(catalog);
}

Result<std::optional<MadeAppearances>> made_appearances(const Page& page,
                                                        const FontSupply& supply) {
  const document::Core& core = core_of(page);
  const file::ObjectStore& store = core.store();
  const Object list = store.get(page.dict(), "Annots");
  std::optional<file::Ledger> ledger;
  std::optional<AppearanceWriter> writer;
  MadeAppearances made;
  for (std::size_t i = 0; i < list.as_array().size(); ++i) {
    const Object annotation = store.resolve(list.as_array()[i]);
    if (!annotation.is_dict() || !needs_look(core, annotation.as_dict())) continue;
    if (!ledger) {
      ledger.emplace(document::ledger_of(core));
      writer.emplace(core, *ledger, supply);
    }
    LUMVET_TRY(const auto written, writer->write(annotation.as_dict()));
    if (written) made.forms.emplace(i, *written);
  }
  if (made.forms.empty()) return std::optional<MadeAppearances>();
  LUMVET_RETURN_IF_ERROR(writer->finish());
  made.core = document::changed(core, *ledger);
  return std::optional(std::move(made));
}

}  // namespace lumvet::appearance

namespace lumvet::draw {

Result<std::optional<Page>> with_made_looks(const Page& page) {
  if (page.id() == ObjectId()) return std::optional<Page>();  // of the tree's own making
  LUMVET_TRY(const auto made, appearance::made_appearances(page, FontSupply()));
  if (!made) return std::optional<Page>();
  const file::ObjectStore& store = made->core->store();
  const Object stated = store.get(page.dict(), "Annots");
  Array list = stated.as_array();
  for (const auto& [place, look] : made->forms) {
    Dict annotation = store.resolve(list[place]).as_dict();
    annotation.set("AP", Dict{{"N", look.form}});
    annotation.set("Rect", document::array_of(look.place));
    annotation.remove("AS");
    list[place] = Object(std::move(annotation));
  }
  Dict dict = page.dict();
  dict.set("Annots", std::move(list));
  file::Ledger ledger = document::ledger_of(*made->core);
  ledger.set(page.id(), Object(std::move(dict)));
  LUMVET_TRY(Page shown,
             Inside<Document>::of(document::changed(*made->core, ledger)).page(page.index()));
  return std::optional(std::move(shown));
}

}  // namespace lumvet::draw
