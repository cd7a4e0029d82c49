// SPDX-License-Identifier: Apache-2.0
#include "exchange/marks_of_document.h"

#include <map>

#include "annotate/chosen_marks.h"
#include "annotate/kept_looks.h"
#include "annotate/mark_names.h"
#include "document/inside.h"
#include "document/text_entries.h"
#include "filters/stream_decoder.h"

namespace lumvet::exchange {
namespace {

using Kind = Annotation::Kind;

bool goes_out(const Annotation& mark) {
  return can_be_made(mark.kind) && mark.kind != Kind::popup && mark.kind != Kind::widget;
}

// The names of a page's marks; what is answered and has none gets one.
std::map<ObjectId, std::string> names_of(const std::vector<Annotation>& marks) {
  std::map<ObjectId, std::string> names;
  annotate::MarkNames taken;
  for (const Annotation& mark : marks) {
    names[mark.id] = mark.name;
    taken.take(mark.name);
  }
  for (const Annotation& mark : marks) {
    if (!mark.in_reply_to) continue;
    const auto of = names.find(*mark.in_reply_to);
    if (of != names.end() && of->second.empty()) of->second = taken.next_free();
  }
  return names;
}

}  // namespace

std::optional<NewAttachment> attached_file(const file::ObjectStore& store, const Dict& annotation) {
  const Object specification = store.get(annotation, "FS");
  const Object files = store.get(specification.as_dict(), "EF");
  for (const char* key : {"UF", "F"}) {
    const Object object = store.get(files.as_dict(), key);
    const Stream* stream = object.as_stream();
    if (stream == nullptr) continue;
    Budget budget(store.limits());
    const auto bytes = filters::decode_whole(*stream, store, budget, store.findings());
    if (!bytes.ok()) continue;
    NewAttachment file;
    for (const char* name : {"UF", "F"})
      if (file.name.empty()) file.name = document::text_entry(store, specification.as_dict(), name);
    file.bytes.assign(bytes->view().begin(), bytes->view().end());
    file.description = document::text_entry(store, specification.as_dict(), "Desc");
    file.media_type = store.get(stream->dict, "Subtype").as_name();
    return file;
  }
  return std::nullopt;
}

std::optional<Object> own_look(const file::ObjectStore& store, const Dict& annotation, Kind kind) {
  if (!annotate::has_look_of_its_own(kind)) return std::nullopt;
  Object form = annotate::kept_form(store, annotation);
  return form.is_null() ? std::nullopt : std::optional(std::move(form));
}

Result<std::vector<NewMark>> marks_of(const Document& document,
                                      const std::vector<Annotation::Kind>& kinds) {
  const file::ObjectStore& store = store_of(document);
  std::vector<NewMark> all;
  LUMVET_TRY(const auto listed, document.annotations());
  for (int i = 0; i < document.page_count(); ++i) {
    const std::vector<Annotation>& marks = listed[static_cast<std::size_t>(i)];
    const auto names = names_of(marks);
    for (const std::size_t chosen : annotate::chosen_marks(marks, kinds)) {
      const Annotation& mark = marks[chosen];
      if (!goes_out(mark)) continue;
      NewMark out{.page = i, .annotation = mark};
      Annotation& own = out.annotation;
      own.name = names.at(mark.id);
      if (mark.in_reply_to)
        if (const auto of = names.find(*mark.in_reply_to); of != names.end())
          out.reply_to = of->second;
      own.in_reply_to.reset();
      own.popup.reset();
      own.layer = Object();
      const ObjectId id = std::exchange(own.id, ObjectId());
      if (mark.kind == Kind::file_attachment)
        out.parts.file = attached_file(store, store.resolve(Object(mark.id)).as_dict());
      out.parts.form = own_look(store, store.resolve(Object(id)).as_dict(), mark.kind);
      all.push_back(std::move(out));
    }
  }
  return all;
}

}  // namespace lumvet::exchange
