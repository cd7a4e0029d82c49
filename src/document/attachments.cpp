// SPDX-License-Identifier: Apache-2.0
#include "document/attachments.h"

#include <algorithm>
#include <set>

#include "base/attempt.h"
#include "document/collections.h"
#include "document/destinations.h"
#include "document/name_tree.h"
#include "document/structure.h"
#include "document/text_entries.h"

namespace lumvet::document {
namespace {

class Collector {
 public:
  explicit Collector(const Core& core) : core_(core), store_(core.store()) {}

  std::vector<Attachment> collect(int pages) {
    const bool reads_all = pages >= core_.pages().count();
    const Object names = store_.get(core_.catalog(), "Names");
    walk_tree(store_, names.as_dict()["EmbeddedFiles"], "Names",
              [this](const Object& key, const Object& value) {
                add(value, objects::text_to_utf8(key.as_string()), Attachment::From::document, {});
              });
    add_associated(core_.catalog(), {});
    for (int i = 0; i < std::min(pages, core_.pages().count()); ++i) {
      const Result<PageNode> page = core_.pages().find(i);
      if (!page.ok()) continue;
      add_associated(page->dict, i);
      const Object annotations = store_.get(page->dict, "Annots");
      for (const Object& reference : annotations.as_array()) {
        const Object annotation = store_.resolve(reference);
        if (store_.get(annotation.as_dict(), "Subtype").is_name("FileAttachment"))
          add(annotation.as_dict()["FS"], {}, Attachment::From::annotation, i);
        add_associated(annotation.as_dict(), i);
      }
      add_of_resources(store_.get(page->dict, "Resources").as_dict(), i);
    }
    if (reads_all) add_of_structure();
    return std::move(found_);
  }

 private:
  void add_associated(const Dict& dict, std::optional<int> page) {
    const Object files = store_.get(dict, "AF");
    for (const Object& file : files.as_array()) add(file, {}, Attachment::From::associated, page);
  }

  // Of images and forms, and of parts of the content (14.13.5 and 14.13.6); forms within forms one
  // after the other, since they lie as deep as a file likes.
  void add_of_resources(const Dict& resources, int page) {
    std::vector<Object> open = {Object(resources)};
    while (!open.empty()) {
      const Object one = std::move(open.back());
      open.pop_back();
      for (const std::string_view kind : {"XObject", "Properties"}) {
        const Object all = store_.get(one.as_dict(), kind);
        for (const auto& [name, value] : all.as_dict()) {
          const bool is_known =
              value.is_reference() && !seen_resources_.insert(value.as_reference()).second;
          if (is_known || !Attempt::follow(sizeof(Object))) continue;
          const Object object = store_.resolve(value);
          add_associated(object.as_dict(), page);
          if (kind == "XObject") open.push_back(store_.get(object.as_dict(), "Resources"));
        }
      }
    }
  }

  // Of elements of the structure (14.13.7).
  void add_of_structure() {
    if (!core_.catalog().contains("StructTreeRoot")) return;
    for (const StructureElement& element : read_structure(core_).elements) {
      if (element.id == ObjectId()) continue;
      const Object dict = store_.resolve(Object(element.id));
      add_associated(dict.as_dict(), element.page);
    }
  }

  // Each file once, though an associated one usually stands in the name tree as well.
  void add(const Object& reference, const std::string& key, Attachment::From from,
           std::optional<int> page) {
    const Object specification = store_.resolve(reference);
    const Dict& spec = specification.as_dict();
    const Object files = store_.get(spec, "EF");
    Object stream = files.as_dict()["UF"];
    if (stream.is_null()) stream = files.as_dict()["F"];
    if (stream.is_null()) return;
    std::string name = file_name_of(store_, specification);
    if (name.empty()) name = key;
    // Two of other names may have the same bytes.
    if (stream.is_reference() && !seen_.emplace(stream.as_reference(), name).second) return;
    if (!Attempt::follow(sizeof(Attachment))) return;
    const Object file = store_.resolve(stream);
    const Object parameters = store_.get(file.as_dict(), "Params");
    Attachment attachment;
    attachment.name = std::move(name);
    attachment.description = text_entry(store_, spec, "Desc");
    attachment.media_type = store_.get(file.as_dict(), "Subtype").as_name();
    const Object payload = store_.get(spec, "EP");
    attachment.payload = store_.get(payload.as_dict(), "Subtype").as_name();
    attachment.items = read_collection_items(store_, store_.get(spec, "CI").as_dict());
    attachment.relationship = store_.get(spec, "AFRelationship").as_name();
    attachment.created = date_entry(store_, parameters.as_dict(), "CreationDate");
    attachment.modified = date_entry(store_, parameters.as_dict(), "ModDate");
    attachment.checksum = store_.get(parameters.as_dict(), "CheckSum").as_string();
    const std::int64_t size = store_.get(parameters.as_dict(), "Size").as_integer(-1);
    if (size >= 0) attachment.size = static_cast<std::uint64_t>(size);
    attachment.from = from;
    attachment.page = page;
    attachment.stream = stream;
    found_.push_back(std::move(attachment));
  }

  const Core& core_;
  const file::ObjectStore& store_;
  std::vector<Attachment> found_;
  std::set<std::pair<ObjectId, std::string>> seen_;
  std::set<ObjectId> seen_resources_;
};

}  // namespace

std::set<std::uint32_t> attached_streams(const Core& core) {
  const file::ObjectStore& store = core.store();
  std::set<std::uint32_t> numbers;
  const auto add = [&](const Object& specification) {
    const Object files = store.get(store.resolve(specification).as_dict(), "EF");
    for (const auto& [key, stream] : files.as_dict())
      if (stream.is_reference()) numbers.insert(stream.as_reference().number);
  };
  const Object names = store.get(core.catalog(), "Names");
  walk_tree(store, names.as_dict()["EmbeddedFiles"], "Names",
            [&](const Object&, const Object& value) { add(value); });
  const Object associated = store.get(core.catalog(), "AF");
  for (const Object& file : associated.as_array()) add(file);
  return numbers;
}

std::vector<Attachment> read_attachments(const Core& core, int pages) {
  return Collector(core).collect(pages);
}

}  // namespace lumvet::document
