// SPDX-License-Identifier: Apache-2.0
#include "assemble/page_drawing.h"

#include <algorithm>

#include "base/findings_list.h"
#include "document/geometry_objects.h"
#include "document/tree_builder.h"
#include "filters/deflate.h"
#include "filters/stream_decoder.h"
#include "objects/content_numbers.h"
#include "objects/inline_data.h"
#include "objects/lexer.h"

namespace lumvet::assemble {
namespace {

Object stream_of(const std::string& text) {
  return Stream::of({}, Bytes(text.begin(), text.end()));
}

std::string numbers(std::initializer_list<double> values) {
  std::string text;
  objects::append_numbers(values, text);
  return text;
}

std::string map_operator(const Matrix& m) {
  return m == Matrix() ? "" : numbers({m.a, m.b, m.c, m.d, m.e, m.f}) + "cm\n";
}

std::string rectangle(const Rect& r) {
  return numbers({r.left, r.bottom, r.width(), r.height()}) + "re ";
}

// A copy of a page's resources, which forms are added to.
class Resources {
 public:
  Resources(const objects::Resolver& resolver, const Object& stated)
      : all_(resolver.resolve(stated).as_dict()), forms_(resolver.get(all_, "XObject").as_dict()) {}

  std::string add_form(ObjectId form) {
    const std::string name = document::free_name(
        "Drawn", [&](const std::string& other) { return forms_.contains(other); });
    forms_.set(name, form);
    return name;
  }
  Dict finish() {
    if (!forms_.is_empty()) all_.set("XObject", forms_);
    return all_;
  }

 private:
  Dict all_;
  Dict forms_;
};

std::string drawing(const Drawn& drawn, Resources& resources) {
  const std::string text =
      "q\n" + map_operator(drawn.placed) + "/" + resources.add_form(drawn.form) + " Do\nQ\n";
  return drawn.is_artifact ? "/Artifact BMC\n" + text + "EMC\n" : text;
}

// Of one stream or several.
Array contents_of(const file::Ledger& ledger, const Dict& page) {
  const Object& stated = page["Contents"];
  const Object contents = ledger.resolve(stated);
  if (contents.is_array()) return contents.as_array();
  return contents.is_stream() ? Array{stated} : Array();
}

}  // namespace

Balance balance_of(ByteView content) {
  std::vector<objects::Damage> ignored;
  objects::Lexer lexer(content);
  lexer.tolerate(ignored);
  Balance balance;
  for (;;) {
    const Result<objects::Token> token = lexer.next();
    if (!token.ok() || token->kind == objects::TokenKind::end) break;
    if (token->kind != objects::TokenKind::keyword) continue;
    if (token->text == "q") ++balance.left_open;
    if (token->text == "Q" && balance.left_open-- == 0) {
      balance.stray.push_back(lexer.position() - 1);
      balance.left_open = 0;
    }
    if (token->text == "ID")
      lexer.seek(
          std::min(content.size(), objects::inline_data_end(content, lexer.position() + 1) + 2));
    ignored.clear();
  }
  return balance;
}

void wrap_page(file::Ledger& ledger, ObjectId page, Bytes content, const Wrapping& wrapping) {
  Dict dict = ledger.resolve(Object(page)).as_dict();
  const Balance own = balance_of(content);
  Resources resources(ledger, dict["Resources"]);
  std::string before;
  std::string after;
  for (const Drawn& drawn : wrapping.drawn)
    (drawn.beneath ? before : after) += drawing(drawn, resources);
  before += "q\n" + map_operator(wrapping.moved);
  if (wrapping.seen) before += rectangle(*wrapping.seen) + "W n\n";
  std::string closing = "\n";
  for (int i = 0; i < own.left_open; ++i) closing += "Q\n";
  closing += "Q\n" + after;
  Array contents = {ledger.add(stream_of(before))};
  if (own.stray.empty()) {
    const Array old = contents_of(ledger, dict);
    contents.insert(contents.end(), old.begin(), old.end());
  } else {
    // They would take back what is saved before them, and do nothing by themselves.
    for (const std::size_t at : own.stray) content[at] = ' ';
    contents.push_back(ledger.add(
        Stream::of({{"Filter", Object::name("FlateDecode")}}, filters::deflate(content))));
  }
  contents.push_back(ledger.add(stream_of(closing)));
  dict.set("Resources", resources.finish());
  dict.set("Contents", std::move(contents));
  dict.remove("Thumb");
  ledger.set(page, std::move(dict));
}

Status draw_onto(file::Ledger& ledger, const Page& page, ObjectId copy, std::vector<Drawn> drawn) {
  if (drawn.empty()) return Done{};
  LUMVET_TRY(Bytes content, page.content());
  wrap_page(ledger, copy, std::move(content), {{}, {}, std::move(drawn)});
  return Done{};
}

Result<Stream> form_of_page(const file::Ledger& ledger, ObjectId page, const Limits& limits) {
  const Object object = ledger.resolve(Object(page));
  const Dict& dict = object.as_dict();
  const Array contents = contents_of(ledger, dict);
  const Object only = contents.size() == 1 ? ledger.resolve(contents[0]) : Object();
  Stream form;
  if (const Stream* stream = only.as_stream()) {
    form = *stream;
  } else {
    Budget budget(limits);
    Findings findings;
    Bytes bytes;
    for (const Object& part : contents) {
      const Object stream = ledger.resolve(part);
      if (!stream.is_stream()) continue;
      const auto decoded = filters::decode_whole(*stream.as_stream(), ledger, budget, findings);
      if (!decoded.ok()) {
        const ErrorCode code = decoded.error().code();
        if (code == ErrorCode::malformed || code == ErrorCode::unsupported) continue;
        return decoded.error();
      }
      bytes.insert(bytes.end(), decoded->view().begin(), decoded->view().end());
      bytes.push_back('\n');
    }
    form = Stream::of({{"Filter", Object::name("FlateDecode")}}, filters::deflate(bytes));
  }
  form.dict.set("Type", Object::name("XObject"));
  form.dict.set("Subtype", Object::name("Form"));
  const auto media = document::rect_of(ledger, dict["MediaBox"]).value_or(Rect());
  const Rect seen = document::rect_of(ledger, dict["CropBox"]).value_or(media).intersected(media);
  form.dict.set("BBox", document::array_of(seen));
  for (const char* key : {"Resources", "Group", "StructParents"}) form.dict.set(key, dict[key]);
  return form;
}

}  // namespace lumvet::assemble
