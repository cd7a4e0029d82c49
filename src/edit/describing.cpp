// SPDX-License-Identifier: Apache-2.0
// What a document says about itself, and the files attached to it.
#include <algorithm>
#include <array>
#include <map>

#include "document/name_tree.h"
#include "document/tree_builder.h"
#include "document/xmp_writer.h"
#include "edit/editable_document_impl.h"
#include "edit/file_specification.h"
#include "filters/stream_decoder.h"
#include "objects/text_string.h"

namespace lumvet {
namespace {

struct Known {
  const char* words;
  const char* key;
  std::optional<std::string> NewProperties::*value;
};
constexpr std::array<Known, 5> kKnown = {{{"title", "Title", &NewProperties::title},
                                          {"author", "Author", &NewProperties::author},
                                          {"subject", "Subject", &NewProperties::subject},
                                          {"keywords", "Keywords", &NewProperties::keywords},
                                          {"creator", "Creator", &NewProperties::creator}}};

Object text(const std::string& utf8) { return Object::string(objects::utf8_to_text(utf8)); }

// The information dictionary in the place of the document's, or none for an empty one.
void put_info(file::Ledger& ledger, const Document& document, Dict info) {
  const Object& stated = document.trailer()["Info"];
  if (info.is_empty()) {
    ledger.set_info(Object());
    return;
  }
  const ObjectId id = stated.is_reference() ? stated.as_reference() : ledger.reserve();
  ledger.set(id, std::move(info));
  ledger.set_info(Object(id));
}

// By the bytes of their names in the tree.
using Files = std::map<std::string, Object>;

Files files_of(const Document& document) {
  const file::ObjectStore& store = store_of(document);
  Files files;
  const Object names = store.get(document.catalog(), "Names");
  document::walk_tree(
      store, names.as_dict()["EmbeddedFiles"], "Names",
      [&](const Object& key, const Object& file) { files.emplace(key.as_string(), file); });
  return files;
}

std::string name_of(const Document& document, const std::string& key, const Object& file) {
  const file::ObjectStore& store = store_of(document);
  const Object specification = store.resolve(file);
  for (const char* entry : {"UF", "F"})
    if (const Object name = store.get(specification.as_dict(), entry); name.is_string())
      return objects::text_to_utf8(name.as_string());
  return objects::text_to_utf8(key);
}

std::vector<std::string> names_of(const Document& document, const Files& files) {
  std::vector<std::string> names;
  for (const auto& [key, file] : files) names.push_back(name_of(document, key, file));
  return names;
}

Dict with_files(file::Ledger& ledger, Dict catalog, const Files& files) {
  Dict names = ledger.resolve(catalog["Names"]).as_dict();
  names.set("EmbeddedFiles", document::build_name_tree(ledger, files));
  catalog.set("Names", names.is_empty() ? Object() : Object(std::move(names)));
  return catalog;
}

}  // namespace

Status EditableDocument::set_properties(const NewProperties& properties) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    Dict info = ledger.resolve(document.trailer()["Info"]).as_dict();
    std::vector<document::XmpChange> changes;
    std::string what;
    for (const Known& known : kKnown) {
      const std::optional<std::string>& value = properties.*known.value;
      if (!value) continue;
      info.set(known.key, value->empty() ? Object() : text(*value));
      changes.push_back({document::xmp_property(known.words), *value});
      what += (what.empty() ? "" : ", ") + std::string(known.words);
    }
    if (changes.empty())
      return Error(ErrorCode::invalid_argument, "no property is given to be set");
    put_info(ledger, document, std::move(info));
    // A document without XMP gets none: the information says it all.
    Dict catalog = impl_->catalog(ledger);
    const Object packet = ledger.resolve(catalog["Metadata"]);
    if (const Stream* stream = packet.as_stream()) {
      const file::ObjectStore& store = store_of(document);
      Budget budget(store.limits());
      LUMVET_TRY(const ByteSlice bytes,
                 filters::decode_whole(*stream, store, budget, store.findings()));
      LUMVET_TRY(Bytes changed, document::changed_xmp(bytes.view(), changes));
      const Dict dict{{"Type", Object::name("Metadata")}, {"Subtype", Object::name("XML")}};
      catalog.set("Metadata", ledger.add(Stream::of(dict, std::move(changed))));
      impl_->put_catalog(ledger, std::move(catalog));
    }
    return "set " + what;
  });
}

Status EditableDocument::clear_properties() {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    put_info(ledger, document, Dict());
    Dict catalog = impl_->catalog(ledger);
    catalog.remove("Metadata");
    impl_->put_catalog(ledger, std::move(catalog));
    return std::string("cleared all properties");
  });
}

Status EditableDocument::set_language(const std::string& language) {
  return impl_->step([&](const Document&, file::Ledger& ledger) -> Result<std::string> {
    Dict catalog = impl_->catalog(ledger);
    catalog.set("Lang", language.empty() ? Object() : text(language));
    impl_->put_catalog(ledger, std::move(catalog));
    return "set the language to " + (language.empty() ? "none" : language);
  });
}

Status EditableDocument::attach(NewAttachment attachment) {
  const std::string name = attachment.name;
  LUMVET_RETURN_IF_ERROR(editing::check_file_name(name));
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    Files files = files_of(document);
    const std::vector<std::string> names = names_of(document, files);
    if (std::find(names.begin(), names.end(), name) != names.end())
      return Error(ErrorCode::exists,
                   "an attachment called " + name +
                       " is already there; remove it first, or give another name");
    Dict specification = editing::file_specification(ledger, std::move(attachment));
    const std::string key =
        document::free_name(std::string(text(name).as_string()),
                            [&](const std::string& other) { return files.contains(other); });
    files.emplace(key, ledger.add(std::move(specification)));
    impl_->put_catalog(ledger, with_files(ledger, impl_->catalog(ledger), files));
    return "attached " + name;
  });
}

Status EditableDocument::detach(const std::string& name) {
  return impl_->step([&](const Document& document, file::Ledger& ledger) -> Result<std::string> {
    Files files = files_of(document);
    const auto found = std::find_if(files.begin(), files.end(), [&](const auto& file) {
      return name_of(document, file.first, file.second) == name;
    });
    if (found == files.end()) {
      std::string names;
      for (const std::string& other : names_of(document, files))
        names += (names.empty() ? "" : ", ") + other;
      return Error(ErrorCode::invalid_argument, "no attachment is called '" + name + "'; there " +
                                                    (names.empty() ? "is none" : "are: " + names));
    }
    files.erase(found);
    impl_->put_catalog(ledger, with_files(ledger, impl_->catalog(ledger), files));
    return "removed " + name;
  });
}

Result<std::vector<std::string>> EditableDocument::attachment_names() const {
  LUMVET_TRY(const Document document, now());
  return attempted([&] { return names_of(document, files_of(document)); });
}

}  // namespace lumvet
