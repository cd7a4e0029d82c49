// SPDX-License-Identifier: Apache-2.0
#include "document_maker.h"

#include <fstream>
#include <iterator>

#include "document/outline_builder.h"
#include "fonts/encoding.h"
#include "fonts/font_program.h"
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
constexpr std::size_t kFanOut = 40;

Result<DemoFont> load_font(const std::string& name) {
  const std::string path = "/usr/share/fonts/truetype/liberation/" + name + ".ttf";
  std::ifstream file(path, std::ios::binary);
  if (!file)
    return lumvet::Error(lumvet::ErrorCode::io,
                         "cannot read " + path + "; install Debian's fonts-liberation");
  DemoFont font;
  font.name = name;
  font.file.assign(std::istreambuf_iterator<char>(file), {});
  LUMVET_TRY(const auto program, lumvet::fonts::FontProgram::load(font.file));
  const auto& table = *lumvet::fonts::find_encoding("WinAnsiEncoding");
  for (std::size_t code = 32; code < 256; ++code)
    if (const auto unicode = lumvet::fonts::unicode_of_glyph(table[code]))
      font.widths[code] = program->advance(program->glyph_for_unicode(*unicode));
  return font;
}

Array box(const Rect& r) {
  return {Object(r.left), Object(r.bottom), Object(r.right), Object(r.top)};
}

Object text(const std::string& utf8) { return Object::string(lumvet::objects::utf8_to_text(utf8)); }

std::int64_t count(std::size_t n) { return static_cast<std::int64_t>(n); }

}  // namespace

Result<Fonts> load_fonts() {
  LUMVET_TRY(DemoFont regular, load_font("LiberationSans-Regular"));
  LUMVET_TRY(DemoFont bold, load_font("LiberationSans-Bold"));
  return Fonts{std::move(regular), std::move(bold)};
}

Sheet& DocumentMaker::new_page(double width, double height) {
  page_ids_.push_back(ledger_.reserve());
  return sheets_.emplace_back(fonts_.regular, fonts_.bold, width, height);
}

Object DocumentMaker::add_jpeg(Bytes jpeg, int width, int height, bool gray) {
  return add(Stream::of({{"Type", Object::name("XObject")},
                         {"Subtype", Object::name("Image")},
                         {"Width", width},
                         {"Height", height},
                         {"BitsPerComponent", 8},
                         {"ColorSpace", Object::name(gray ? "DeviceGray" : "DeviceRGB")},
                         {"Filter", Object::name("DCTDecode")}},
                        std::move(jpeg)));
}

Object DocumentMaker::add_image(Bytes rgb, Bytes alpha, int width, int height) {
  Dict dict{{"Type", Object::name("XObject")},
            {"Subtype", Object::name("Image")},
            {"Width", width},
            {"Height", height},
            {"BitsPerComponent", 8},
            {"ColorSpace", Object::name("DeviceRGB")}};
  if (!alpha.empty()) {
    Dict mask = dict;
    mask.set("ColorSpace", Object::name("DeviceGray"));
    dict.set("SMask", add(Stream::of(std::move(mask), std::move(alpha))));
  }
  return add(Stream::of(std::move(dict), std::move(rgb)));
}

void DocumentMaker::outline(const std::string& title, int depth) {
  entries_.push_back({title, depth, page_count() - 1});
}

void DocumentMaker::attach(const std::string& name, const std::string& description,
                           const std::string& text) {
  files_.push_back({name, description, text});
}

Object DocumentMaker::embed(const DemoFont& font) {
  Array widths;
  for (int code = 32; code < 256; ++code)
    widths.push_back(std::round(font.widths[static_cast<std::size_t>(code)] * 1000));
  const Object file = add(Stream::of({{"Length1", count(font.file.size())}}, font.file));
  const Object descriptor = add(Dict{{"Type", Object::name("FontDescriptor")},
                                     {"FontName", Object::name(font.name)},
                                     {"Flags", 32},
                                     {"FontBBox", Array{-544, -303, 1302, 980}},
                                     {"ItalicAngle", 0},
                                     {"Ascent", 905},
                                     {"Descent", -212},
                                     {"CapHeight", 729},
                                     {"StemV", 80},
                                     {"FontFile2", file}});
  return add(Dict{{"Type", Object::name("Font")},
                  {"Subtype", Object::name("TrueType")},
                  {"BaseFont", Object::name(font.name)},
                  {"Encoding", Object::name("WinAnsiEncoding")},
                  {"FirstChar", 32},
                  {"LastChar", 255},
                  {"Widths", std::move(widths)},
                  {"FontDescriptor", descriptor}});
}

ObjectId DocumentMaker::build_pages() {
  const Dict fonts{{"Text", embed(fonts_.regular)}, {"Bold", embed(fonts_.bold)}};
  const ObjectId root = ledger_.reserve();
  Array inner;
  for (std::size_t first = 0; first < sheets_.size(); first += kFanOut) {
    const ObjectId node = ledger_.reserve();
    Array kids;
    for (std::size_t i = first; i < std::min(sheets_.size(), first + kFanOut); ++i) {
      const Sheet& sheet = sheets_[i];
      Dict resources = sheet.resources();
      resources.set("Font", fonts);
      const lumvet::ByteView content = lumvet::as_bytes(sheet.content());
      Dict page{{"Type", Object::name("Page")},
                {"Parent", node},
                {"MediaBox", box({0, 0, sheet.width(), sheet.height()})},
                {"Resources", std::move(resources)},
                {"Contents", add(Stream::of({}, Bytes(content.begin(), content.end())))}};
      if (sheet.rotate != 0) page.set("Rotate", sheet.rotate);
      if (sheet.crop) page.set("CropBox", box(*sheet.crop));
      Array links;
      for (const Sheet::Link& link : sheet.links())
        links.push_back(
            add(Dict{{"Type", Object::name("Annot")},
                     {"Subtype", Object::name("Link")},
                     {"Rect", box(link.rect)},
                     {"Border", Array{0, 0, 0}},
                     {"Dest", Array{Object(page_ids_[static_cast<std::size_t>(link.page)]),
                                    Object::name("Fit")}}}));
      links.insert(links.end(), sheet.annotations.begin(), sheet.annotations.end());
      if (!links.empty()) page.set("Annots", std::move(links));
      for (const auto& [key, value] : sheet.entries) page.set(key, value);
      ledger_.set(page_ids_[i], std::move(page));
      kids.push_back(page_ids_[i]);
    }
    const std::int64_t pages = count(kids.size());
    ledger_.set(node, Dict{{"Type", Object::name("Pages")},
                           {"Parent", root},
                           {"Kids", std::move(kids)},
                           {"Count", pages}});
    inner.push_back(node);
  }
  ledger_.set(root, Dict{{"Type", Object::name("Pages")},
                         {"Kids", std::move(inner)},
                         {"Count", count(sheets_.size())}});
  return root;
}

Object DocumentMaker::build_attachments() {
  Array names;
  for (const File& file : files_) {
    const lumvet::ByteView bytes = lumvet::as_bytes(file.text);
    const Object embedded = add(Stream::of(
        {{"Type", Object::name("EmbeddedFile")},
         {"Subtype", Object::name("text/csv")},
         {"Params", Dict{{"Size", count(bytes.size())}, {"ModDate", Object::string(kDate)}}}},
        Bytes(bytes.begin(), bytes.end())));
    names.push_back(text(file.name));
    names.push_back(add(Dict{{"Type", Object::name("Filespec")},
                             {"F", text(file.name)},
                             {"UF", text(file.name)},
                             {"Desc", text(file.description)},
                             {"EF", Dict{{"F", embedded}}}}));
  }
  return names.empty() ? Object()
                       : Object(Dict{{"EmbeddedFiles", Dict{{"Names", std::move(names)}}}});
}

Status DocumentMaker::save(const std::filesystem::path& path, lumvet::FileLayout layout) {
  const ObjectId catalog = ledger_.reserve();
  Dict root{
      {"Type", Object::name("Catalog")}, {"Pages", build_pages()}, {"Lang", Object::string("en")}};
  std::vector<lumvet::document::NewEntry> entries;
  for (const Entry& entry : entries_)
    entries.push_back(
        {.item = Dict{{"Title", text(entry.title)},
                      {"Dest", Array{Object(page_ids_[static_cast<std::size_t>(entry.page)]),
                                     Object::name("Fit")}}},
         .depth = entry.depth});
  root.set("Outlines", lumvet::document::build_outline(ledger_, entries));
  root.set("Names", build_attachments());
  for (const auto& [key, value] : catalog_) root.set(key, value);
  ledger_.set(catalog, std::move(root));
  const ObjectId info = ledger_.add(Dict{{"Title", text(title_)},
                                         {"Subject", text(subject_)},
                                         {"Author", text("Ostrel Valley bridge office")},
                                         {"Creator", text("Bridge office demo generator")},
                                         {"CreationDate", Object::string(kDate)}});

  const lumvet::SaveOptions options{.layout = layout, .replace = true};
  const lumvet::saving::FullDocument full{ledger_, catalog, info, "1.7", {}};
  const auto write = [&](lumvet::ByteSink& sink) -> lumvet::Result<lumvet::SaveReport> {
    lumvet::SaveReport report;
    LUMVET_TRY(report.bytes, lumvet::saving::write_full(full, options, sink));
    return report;
  };
  LUMVET_RETURN_IF_ERROR(lumvet::saving::save_to_file(path, options, write));
  return lumvet::Done{};
}

}  // namespace demo
