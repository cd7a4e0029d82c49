// SPDX-License-Identifier: Apache-2.0
#include "document_maker.h"

#include <map>

#include "document/inside.h"
#include "objects/references.h"
#include "objects/text_string.h"
#include "save/full_writer.h"

namespace demo {

using lumvet::Array;
using lumvet::Bytes;
using lumvet::Dict;
using lumvet::Object;
using lumvet::ObjectId;
using lumvet::Rect;
using lumvet::Result;
using lumvet::Status;
using lumvet::Stream;

namespace {

constexpr const char* kDate = "D:20261014093000+02'00'";

Array box(const Rect& r) {
  return {Object(r.left), Object(r.bottom), Object(r.right), Object(r.top)};
}

Object text(const std::string& utf8) { return Object::string(lumvet::objects::utf8_to_text(utf8)); }

// An object of one ledger in another.
class Moving {
 public:
  explicit Moving(lumvet::file::Ledger& target) : target_(target) {}

  void lead(ObjectId from, ObjectId to) { ids_[from] = to; }
  ObjectId id(ObjectId from) {
    const auto known = ids_.find(from);
    if (known != ids_.end()) return known->second;
    return ids_[from] = target_.reserve();
  }
  Object moved(const Object& object) {
    return lumvet::objects::with_references(object,
                                            [this](ObjectId target) { return Object(id(target)); });
  }

 private:
  lumvet::file::Ledger& target_;
  std::map<ObjectId, ObjectId> ids_;
};

}  // namespace

Result<Fonts> load_fonts() {
  LUMVET_TRY(const lumvet::Typeface regular, lumvet::Typeface::named("Liberation Sans"));
  LUMVET_TRY(const lumvet::Typeface bold, lumvet::Typeface::named("Liberation Sans:bold"));
  if (regular.family() != "Liberation Sans")
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "there is no font Liberation Sans; install Debian's fonts-liberation");
  return Fonts{regular, bold};
}

DocumentMaker::DocumentMaker(const Fonts& fonts, std::string title, std::string subject)
    : fonts_(fonts),
      document_({.title = std::move(title),
                 .author = "Ostrel Valley bridge office",
                 .subject = std::move(subject),
                 .language = "en"}) {}

Sheet& DocumentMaker::new_page(double width, double height) {
  page_ids_.push_back(ledger_.reserve());
  lumvet::Drawing& drawing =
      document_.add(lumvet::Drawing(width, height, lumvet::Drawing::Space::upward));
  drawing.name_place("page-" + std::to_string(page_count() + 1), {0, height});
  return sheets_.emplace_back(fonts_, drawing);
}

void DocumentMaker::outline(const std::string& title, int depth) {
  lumvet::Drawing& drawing = sheets_.back().drawing();
  drawing.add_outline_entry(title, drawing.height(), depth);
}

void DocumentMaker::attach(const std::string& name, const std::string& description,
                           const std::string& text) {
  files_.push_back({name, description, text});
}

Object DocumentMaker::build_attachments() {
  Array names;
  for (const File& file : files_) {
    const lumvet::ByteView bytes = lumvet::as_bytes(file.text);
    const Object embedded =
        add(Stream::of({{"Type", Object::name("EmbeddedFile")},
                        {"Subtype", Object::name("text/csv")},
                        {"Params", Dict{{"Size", static_cast<std::int64_t>(bytes.size())},
                                        {"ModDate", Object::string(kDate)}}}},
                       Bytes(bytes.begin(), bytes.end())));
    names.push_back(text(file.name));
    names.push_back(add(Dict{{"Type", Object::name("Filespec")},
                             {"F", text(file.name)},
                             {"UF", text(file.name)},
                             {"Desc", text(file.description)},
                             {"EF", Dict{{"F", embedded}}}}));
  }
  return names.empty() ? Object() : Object(Dict{{"Names", std::move(names)}});
}

Dict DocumentMaker::completed(Dict page, const Sheet& sheet) const {
  if (sheet.rotate != 0) page.set("Rotate", sheet.rotate);
  if (sheet.crop) page.set("CropBox", box(*sheet.crop));
  return page;
}

Status DocumentMaker::save(const std::filesystem::path& path, lumvet::FileLayout layout) {
  LUMVET_TRY(const lumvet::Document drawn, document_.as_document());
  lumvet::file::Ledger target(core_of(drawn).shared_store());
  Moving moving(target);
  for (int i = 0; i < page_count(); ++i) {
    LUMVET_TRY(const lumvet::Page page, drawn.page(i));
    moving.lead(page_ids_[static_cast<std::size_t>(i)], page.id());
  }
  Dict root = drawn.catalog();
  Dict names = target.resolve(root["Names"]).as_dict();
  names.set("EmbeddedFiles", moving.moved(build_attachments()));
  root.set("Names", std::move(names));
  for (const auto& [key, value] : catalog_) root.set(key, moving.moved(value));
  for (int i = 0; i < page_count(); ++i) {
    LUMVET_TRY(const lumvet::Page page, drawn.page(i));
    const Sheet& sheet = sheets_[static_cast<std::size_t>(i)];
    Dict dict = completed(page.dict(), sheet);
    Array annotations = target.resolve(dict["Annots"]).as_array();
    for (const Object& one : sheet.annotations) annotations.push_back(moving.moved(one));
    if (!annotations.empty()) dict.set("Annots", std::move(annotations));
    target.set(page.id(), std::move(dict));
  }
  for (const ObjectId id : ledger_.changed_ids())
    target.set(moving.id(id), moving.moved(ledger_.resolve(Object(id))));
  const ObjectId catalog = drawn.trailer()["Root"].as_reference();
  target.set(catalog, std::move(root));
  Dict about = target.resolve(drawn.trailer()["Info"]).as_dict();
  about.set("Creator", text("Bridge office demo generator"));
  about.set("CreationDate", Object::string(kDate));
  const ObjectId info = target.add(std::move(about));

  const lumvet::SaveOptions options{.layout = layout, .replace = true};
  const lumvet::saving::FullDocument full{target, catalog, info, "1.7", {}};
  const auto write = [&](lumvet::ByteSink& sink) -> lumvet::Result<lumvet::SaveReport> {
    lumvet::SaveReport report;
    LUMVET_TRY(report.bytes, lumvet::saving::write_full(full, options, sink));
    return report;
  };
  LUMVET_RETURN_IF_ERROR(lumvet::saving::save_to_file(path, options, write));
  return lumvet::Done{};
}

}  // namespace demo
