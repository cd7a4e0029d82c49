// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <map>
#include <set>

#include "annotate/annotation_entries.h"
#include "annotate/fitted_marks.h"
#include "annotate/mark_names.h"
#include "base/attempt.h"
#include "document/annotations.h"
#include "document/attachments.h"
#include "document/inside.h"
#include "document/text_entries.h"
#include "exchange/marks_of_document.h"
#include "file/object_store.h"
#include "filters/stream_decoder.h"
#include "lumvet/exchange/exchange.h"
#include "objects/serializer.h"
#include "objects/standing.h"

namespace lumvet {
namespace {

using document::text_object;
using Kind = Annotation::Kind;

// Objects behind one another, the last of which is the catalog.
class FdfWriter {
 public:
  FdfWriter() { add("%FDF-1.2\n%\xE2\xE3\xCF\xD3\n"); }

  // With the bytes of a stream, where it is one.
  ObjectId put(const Dict& dict, std::optional<ByteView> stream = std::nullopt) {
    const ObjectId id{++number_, 0};
    std::string text = std::to_string(id.number) + " 0 obj\n";
    objects::serialize(dict, text);
    add(text);
    if (stream) {
      add("\nstream\n");
      bytes_.insert(bytes_.end(), stream->begin(), stream->end());
      add("\nendstream");
    }
    add("\nendobj\n");
    return id;
  }

  Bytes finish(Dict fdf) {
    const ObjectId root = put(Dict{{"FDF", std::move(fdf)}});
    add("trailer\n<</Root " + std::to_string(root.number) + " 0 R>>\n%%EOF\n");
    return std::move(bytes_);
  }

 private:
  void add(std::string_view text) { bytes_.insert(bytes_.end(), text.begin(), text.end()); }

  Bytes bytes_;
  std::uint32_t number_ = 0;
};

Dict file_of(FdfWriter& writer, const NewAttachment& file) {
  Dict dict{{"Type", Object::name("EmbeddedFile")},
            {"Length", static_cast<std::int64_t>(file.bytes.size())}};
  if (!file.media_type.empty()) dict.set("Subtype", Object::name(file.media_type));
  const ObjectId stream = writer.put(dict, file.bytes);
  Dict specification{{"Type", Object::name("Filespec")},
                     {"F", text_object(file.name)},
                     {"UF", text_object(file.name)},
                     {"EF", Dict{{"F", stream}}}};
  if (!file.description.empty()) specification.set("Desc", text_object(file.description));
  return specification;
}

Result<Object> look_of(FdfWriter& writer, const Object& form) {
  std::optional<Error> error;
  const auto put = [&](const Stream& stream) {
    const Result<ByteSlice> bytes = stream.encoded();
    if (!bytes.ok()) error = bytes.error();
    if (!bytes.ok()) return ObjectId();
    Dict dict = stream.dict;
    dict.set("Length", static_cast<std::int64_t>(bytes->size()));
    return writer.put(dict, bytes->view());
  };
  const ObjectId id = put(*objects::with_references(form, put).as_stream());
  if (error) return *std::move(error);
  return Object(id);
}

Result<Dict> annotation_dict(FdfWriter& writer, const NewMark& mark) {
  const Annotation& own = mark.annotation;
  Dict dict = annotate::with_entries({}, own);
  dict.set("Page", std::int64_t{mark.page});
  if (!mark.reply_to.empty()) {
    dict.set("IRT", text_object(mark.reply_to));
    if (own.is_grouped) dict.set("RT", Object::name("Group"));
  }
  if (mark.parts.file) dict.set("FS", file_of(writer, *mark.parts.file));
  if (mark.parts.form) {
    LUMVET_TRY(Object form, look_of(writer, *mark.parts.form));
    dict.set("AP", Dict{{"N", std::move(form)}});
  }
  if (own.kind != Kind::link) return dict;
  if (!own.actions.empty() && own.actions[0].kind == Action::Kind::uri)
    dict.set("A", Dict{{"S", Object::name("URI")}, {"URI", Object::string(own.actions[0].target)}});
  else if (own.destination && !own.destination->name.empty())
    dict.set("Dest", text_object(own.destination->name));
  else if (own.destination && own.destination->page)
    dict.set("Dest", Array{std::int64_t{*own.destination->page}, Object::name("Fit")});
  return dict;
}

Object field_dict(const std::string& own_name, const std::vector<std::string>& values,
                  bool is_button) {
  Dict dict{{"T", text_object(own_name)}};
  if (values.empty()) dict.set("V", text_object(""));
  if (values.size() == 1)
    dict.set("V", is_button ? Object::name(values[0]) : text_object(values[0]));
  if (values.size() > 1) {
    Array all;
    for (const std::string& value : values) all.push_back(text_object(value));
    dict.set("V", std::move(all));
  }
  return dict;
}

// Fields within the groups that they stand in, each group once where its fields stand together.
Array fields_of(const Form& form) {
  std::set<std::string> buttons;
  for (const FormField& field : form.fields)
    if (field.kind == FormField::Kind::check_box || field.kind == FormField::Kind::radio_buttons)
      buttons.insert(field.name);
  // A path of groups that are open, outermost first.
  struct Open {
    std::string name;
    Array kids;
  };
  std::vector<Open> open{{"", {}}};
  const auto close = [&] {
    Open last = std::move(open.back());
    open.pop_back();
    const std::size_t dot = last.name.rfind('.');
    const std::string own = dot == std::string::npos ? last.name : last.name.substr(dot + 1);
    open.back().kids.push_back(Dict{{"T", text_object(own)}, {"Kids", std::move(last.kids)}});
  };
  for (const FieldValue& value : values_of(form)) {
    const std::size_t dot = value.name.rfind('.');
    const std::string group = dot == std::string::npos ? "" : value.name.substr(0, dot);
    const auto holds = [&](const std::string& name) {
      return name.empty() || group == name || group.starts_with(name + ".");
    };
    while (!holds(open.back().name)) close();
    while (open.back().name != group) {
      const std::size_t from = open.back().name.empty() ? 0 : open.back().name.size() + 1;
      open.push_back({group.substr(0, group.find('.', from)), {}});
    }
    open.back().kids.push_back(field_dict(value.name.substr(group.empty() ? 0 : dot + 1),
                                          value.values, buttons.contains(value.name)));
  }
  while (open.size() > 1) close();
  return std::move(open.back().kids);
}

class FdfReader {
 public:
  FdfReader(const document::Core& core, const Document& document)
      : core_(core), store_(core.store()), document_(document) {}

  Result<Exchange> read() {
    const Object object = store_.get(core_.catalog(), "FDF");
    const Dict& fdf = object.as_dict();
    read_.file = document::text_entry(store_, fdf, "F");
    if (store_.get(fdf, "JavaScript").is_dict())
      read_.findings.push_back({"the file has scripts, which are neither run nor kept", {}, {}});
    read_marks(store_.get(fdf, "Annots"));
    read_fields(store_.get(fdf, "Fields"));
    LUMVET_TRY(read_.marks, annotate::fitted(std::move(marks_), document_, read_.findings));
    return std::move(read_);
  }

 private:
  void read_marks(const Object& list) {
    std::map<ObjectId, std::string> names;
    annotate::MarkNames taken;
    for (const Object& one : list.as_array()) {
      const Object object = store_.resolve(one);
      const std::string name = document::text_entry(store_, object.as_dict(), "NM");
      taken.take(name);
      if (one.is_reference()) names.emplace(one.as_reference(), name);
    }
    for (auto& [id, name] : names)
      if (name.empty()) name = taken.next_free();
    std::size_t number = 0;
    for (const Object& one : list.as_array()) {
      if (!Attempt::follow(sizeof(NewMark))) return;
      const Object object = store_.resolve(one);
      const Dict& dict = object.as_dict();
      NewMark mark{.annotation = document::read_annotation(core_, dict)};
      Annotation& own = mark.annotation;
      const std::string place = "mark " + std::to_string(++number) +
                                (own.type.empty() ? std::string() : " (" + own.type + ")");
      if (own.kind == Kind::popup) continue;
      const Object page = store_.get(dict, "Page");
      if (!page.is_integer() || page.as_integer() < 0 || page.as_integer() > 0x7FFFFFFF) {
        read_.findings.push_back({place + " has no page; it was left out", {}, {}});
        continue;
      }
      mark.page = static_cast<int>(page.as_integer());
      if (one.is_reference()) own.name = names[one.as_reference()];
      if (dict["IRT"].is_reference()) {
        if (const auto of = names.find(dict["IRT"].as_reference()); of != names.end())
          mark.reply_to = of->second;
      } else {
        mark.reply_to = document::text_entry(store_, dict, "IRT");
      }
      own.in_reply_to.reset();
      own.popup.reset();
      own.popup_of.reset();
      own.layer = Object();
      own.id = ObjectId();
      if (own.kind == Kind::file_attachment)
        mark.parts.file = exchange::attached_file(store_, dict);
      mark.parts.form = exchange::own_look(store_, dict, own.kind);
      marks_.push_back({std::move(mark), place});
    }
  }

  void read_fields(const Object& list) {
    struct Open {
      Array kids;
      std::size_t next;
      std::string prefix;
    };
    std::vector<Open> open;
    std::set<ObjectId> seen;
    open.push_back({list.as_array(), 0, ""});
    while (!open.empty()) {
      if (open.back().next == open.back().kids.size()) {
        open.pop_back();
        continue;
      }
      const Object kid = open.back().kids[open.back().next++];
      if (kid.is_reference() && !seen.insert(kid.as_reference()).second) continue;
      if (!Attempt::follow(sizeof(FieldValue))) return;
      const Object object = store_.resolve(kid);
      const Dict& dict = object.as_dict();
      const std::string name = open.back().prefix + document::text_entry(store_, dict, "T");
      if (dict.contains("V")) add_value(name, store_.get(dict, "V"));
      const Object kids = store_.get(dict, "Kids");
      if (!kids.as_array().empty() && static_cast<int>(open.size()) < store_.limits().nesting)
        open.push_back({kids.as_array(), 0, name + "."});
    }
  }

  void add_value(const std::string& name, const Object& value) {
    FieldValue read{name, {}};
    const auto text = [](const Object& object) {
      return object.is_name() ? std::string(object.as_name())
                              : objects::text_to_utf8(object.as_string());
    };
    if (const Stream* stream = value.as_stream()) {
      Budget budget(store_.limits());
      const auto bytes = filters::decode_whole(*stream, store_, budget, store_.findings());
      if (bytes.ok()) read.values = {objects::text_to_utf8(as_text(bytes->view()))};
    } else if (value.is_array()) {
      for (const Object& one : value.as_array()) read.values.push_back(text(store_.resolve(one)));
    } else {
      read.values = {text(value)};
    }
    read_.values.push_back(std::move(read));
  }

  const document::Core& core_;
  const file::ObjectStore& store_;
  const Document& document_;
  Exchange read_;
  std::vector<annotate::ListedMark> marks_;
};

Result<std::shared_ptr<const file::ObjectStore>> open_fdf(ByteView file, const Limits& limits) {
  LUMVET_TRY(auto store,
             file::ObjectStore::open(make_buffer_source(Bytes(file.begin(), file.end())), limits));
  const auto has_fdf = [](const file::ObjectStore& objects) {
    const Object root = objects.get(objects.trailer(), "Root");
    return objects.get(root.as_dict(), "FDF").is_dict();
  };
  if (has_fdf(*store)) return store;
  LUMVET_TRY(store, store->rebuilt());
  if (has_fdf(*store)) return store;
  return Error(ErrorCode::malformed, "this is no FDF, whose catalog has an entry of that name");
}

}  // namespace

namespace {

Result<Bytes> document_as_fdf(const Document& document, ExchangeParts parts,
                              const std::vector<Annotation::Kind>& kinds) {
  FdfWriter writer;
  Dict fdf;
  if (parts != ExchangeParts::values) {
    LUMVET_TRY(const std::vector<NewMark> marks, exchange::marks_of(document, kinds));
    Array list;
    list.reserve(marks.size());
    for (const NewMark& mark : marks) {
      LUMVET_TRY(Dict dict, annotation_dict(writer, mark));
      list.push_back(std::move(dict));
    }
    if (!list.empty()) fdf.set("Annots", std::move(list));
  }
  if (parts != ExchangeParts::marks) {
    LUMVET_TRY(const Form form, document.form());
    if (Array fields = fields_of(form); !fields.empty()) fdf.set("Fields", std::move(fields));
  }
  return writer.finish(std::move(fdf));
}

}  // namespace

Result<Bytes> as_fdf(const Document& document, ExchangeParts parts,
                     const std::vector<Annotation::Kind>& kinds) {
  return attempted([&] { return document_as_fdf(document, parts, kinds); });
}

Result<Exchange> read_fdf(ByteView file, const Document& document) {
  return attempted([&]() -> Result<Exchange> {
    LUMVET_TRY(const auto store, open_fdf(file, store_of(document).limits()));
    const Object root = store->trailer()["Root"];
    const document::Core core(document::FoundCatalog{store, root, store->resolve(root).as_dict()});
    return FdfReader(core, document).read();
  });
}

}  // namespace lumvet
