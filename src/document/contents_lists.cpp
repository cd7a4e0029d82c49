// SPDX-License-Identifier: Apache-2.0
#include "document/contents_lists.h"

#include <set>

#include "objects/text_string.h"

namespace lumvet::document {
namespace {

// Calls `visit` with each key and value of a name tree, in order.
template <typename Visit>
void walk_name_tree(const file::ObjectStore& store, const Object& root, Visit visit) {
  std::vector<Object> open = {root};
  std::set<ObjectId> seen;
  while (!open.empty()) {
    const Object at = open.back();
    open.pop_back();
    if (at.is_reference() && !seen.insert(at.as_reference()).second) continue;
    const Object node = store.resolve(at);
    const Object names = store.get(node.as_dict(), "Names");
    for (std::size_t i = 0; i + 1 < names.as_array().size(); i += 2)
      visit(store.resolve(names.as_array()[i]), store.resolve(names.as_array()[i + 1]));
    const Object kids = store.get(node.as_dict(), "Kids");
    for (auto kid = kids.as_array().rbegin(); kid != kids.as_array().rend(); ++kid)
      if (kid->is_reference()) open.push_back(*kid);
  }
}

std::string font_kind(std::string_view subtype, const Dict& descriptor) {
  const bool cff = descriptor.contains("FontFile3");
  if (subtype == "Type1") return cff ? "Type 1 (CFF)" : "Type 1";
  if (subtype == "MMType1") return "Type 1 (multiple master)";
  if (subtype == "Type3") return "Type 3";
  if (subtype == "CIDFontType0") return cff ? "CID CFF" : "CID Type 1";
  if (subtype == "CIDFontType2") return "CID TrueType";
  return std::string(subtype);
}

FontUse font_use(const file::ObjectStore& store, const Dict& font) {
  Object described = font;
  if (store.get(font, "Subtype").is_name("Type0")) {
    const Object descendants = store.get(font, "DescendantFonts");
    if (!descendants.as_array().empty()) described = store.resolve(descendants.as_array()[0]);
  }
  const Dict& base = described.as_dict();
  const Object descriptor = store.get(base, "FontDescriptor");
  FontUse use;
  use.name = store.get(font, "BaseFont").as_name();
  const std::string subtype = store.get(base, "Subtype").as_name();
  if (use.name.empty()) use.name = store.get(font, "Name").as_name();
  const std::size_t plus = use.name.find('+');
  use.subset = plus == 6;
  if (use.subset) use.name.erase(0, plus + 1);
  use.kind = font_kind(subtype, descriptor.as_dict());
  use.embedded = subtype == "Type3" || descriptor.as_dict().contains("FontFile") ||
                 descriptor.as_dict().contains("FontFile2") ||
                 descriptor.as_dict().contains("FontFile3");
  return use;
}

// Resources reached from pages: of their own, of their forms, patterns and Type 3 fonts.
class FontSearch {
 public:
  explicit FontSearch(const file::ObjectStore& store) : store_(store) {}

  void search(const Object& resources) {
    std::vector<Object> open = {resources};
    while (!open.empty()) {
      const Object at = open.back();
      open.pop_back();
      if (at.is_reference() && !seen_.insert(at.as_reference()).second) continue;
      const Object object = store_.resolve(at);
      const Object fonts = store_.get(object.as_dict(), "Font");
      for (const auto& [key, font] : fonts.as_dict()) add(font, open);
      for (const std::string_view kind : {"XObject", "Pattern"}) {
        const Object inner = store_.get(object.as_dict(), kind);
        for (const auto& [key, value] : inner.as_dict()) {
          if (value.is_reference() && !seen_.insert(value.as_reference()).second) continue;
          const Object form = store_.resolve(value);
          if (form.as_dict().contains("Resources")) open.push_back(form.as_dict()["Resources"]);
        }
      }
    }
  }

  std::vector<FontUse> found() const { return {found_.begin(), found_.end()}; }

 private:
  void add(const Object& at, std::vector<Object>& open) {
    if (at.is_reference() && !seen_.insert(at.as_reference()).second) return;
    const Object font = store_.resolve(at);
    if (!font.is_dict()) return;
    found_.insert(font_use(store_, font.as_dict()));
    if (font.as_dict().contains("Resources")) open.push_back(font.as_dict()["Resources"]);
  }

  const file::ObjectStore& store_;
  std::set<ObjectId> seen_;
  std::set<FontUse> found_;
};

}  // namespace

Object find_in_name_tree(const objects::Resolver& resolver, const Object& root,
                         std::string_view key, int nesting) {
  Object node = resolver.resolve(root);
  for (int depth = 0; depth < nesting; ++depth) {
    const Object names = resolver.get(node.as_dict(), "Names");
    for (std::size_t i = 0; i + 1 < names.as_array().size(); i += 2)
      if (resolver.resolve(names.as_array()[i]).as_string() == key)
        return resolver.resolve(names.as_array()[i + 1]);
    const Object kids = resolver.get(node.as_dict(), "Kids");
    Object next;
    for (const Object& kid_reference : kids.as_array()) {
      const Object kid = resolver.resolve(kid_reference);
      const Object limits = resolver.get(kid.as_dict(), "Limits");
      if (limits.as_array().size() == 2 && limits.as_array()[0].as_string() <= key &&
          key <= limits.as_array()[1].as_string()) {
        next = kid;
        break;
      }
    }
    if (next.is_null()) return Object();
    node = next;
  }
  return Object();
}

Object explicit_destination(const Core& core, const Object& destination) {
  const file::ObjectStore& store = core.store();
  Object target = store.resolve(destination);
  if (target.is_string()) {
    const Object names = store.get(core.catalog(), "Names");
    target = find_in_name_tree(store, names.as_dict()["Dests"], target.as_string(),
                               store.limits().nesting);
  } else if (target.is_name()) {
    const Object dests = store.get(core.catalog(), "Dests");
    target = store.get(dests.as_dict(), target.as_name());
  }
  if (target.is_dict()) target = store.get(target.as_dict(), "D");
  return target.as_array().empty() ? Object() : target;
}

std::optional<int> page_of_destination(const Core& core, const Object& destination) {
  const Object target = explicit_destination(core, destination);
  if (target.is_null()) return std::nullopt;
  const Object& page = target.as_array()[0];
  if (page.is_reference()) return core.pages().index_of(page.as_reference());
  if (page.is_integer() && page.as_integer() >= 0 && page.as_integer() < core.pages().count())
    return static_cast<int>(page.as_integer());
  return std::nullopt;
}

std::vector<OutlineEntry> read_outline(const Core& core) {
  const file::ObjectStore& store = core.store();
  std::vector<OutlineEntry> entries;
  std::set<ObjectId> seen;
  struct Place {
    Object item;
    int depth;
  };
  const Object root = store.get(core.catalog(), "Outlines");
  std::vector<Place> open = {{root.as_dict()["First"], 0}};
  while (!open.empty()) {
    const Place at = open.back();
    open.pop_back();
    if (at.item.is_null()) continue;
    if (at.item.is_reference() && !seen.insert(at.item.as_reference()).second) {
      store.findings().add({"the outline leads back into itself", {}, at.item.as_reference()});
      continue;
    }
    const Object object = store.resolve(at.item);
    const Dict& item = object.as_dict();
    if (item.is_empty()) continue;
    OutlineEntry entry;
    entry.title = objects::text_to_utf8(store.get(item, "Title").as_string());
    entry.depth = at.depth;
    Object destination = item["Dest"];
    const Object action = store.get(item, "A");
    if (destination.is_null() && store.get(action.as_dict(), "S").is_name("GoTo"))
      destination = action.as_dict()["D"];
    entry.page = page_of_destination(core, destination);
    entries.push_back(std::move(entry));
    open.push_back({item["Next"], at.depth});
    if (at.depth < store.limits().nesting) open.push_back({item["First"], at.depth + 1});
  }
  return entries;
}

std::vector<Attachment> read_attachments(const Core& core) {
  const file::ObjectStore& store = core.store();
  std::vector<Attachment> attachments;
  const Object names = store.get(core.catalog(), "Names");
  walk_name_tree(
      store, names.as_dict()["EmbeddedFiles"], [&](const Object& key, const Object& specification) {
        const Dict& spec = specification.as_dict();
        Attachment attachment;
        Object name = store.get(spec, "UF");
        if (!name.is_string()) name = store.get(spec, "F");
        attachment.name = objects::text_to_utf8((name.is_string() ? name : key).as_string());
        attachment.description = objects::text_to_utf8(store.get(spec, "Desc").as_string());
        const Object files = store.get(spec, "EF");
        const Object file = store.get(files.as_dict(), "F");
        const Object parameters = store.get(file.as_dict(), "Params");
        const std::int64_t size = store.get(parameters.as_dict(), "Size").as_integer(-1);
        if (size >= 0) attachment.size = static_cast<std::uint64_t>(size);
        attachments.push_back(std::move(attachment));
      });
  return attachments;
}

std::vector<FontUse> read_fonts(const Core& core) {
  FontSearch search(core.store());
  for (int i = 0; i < core.pages().count(); ++i) {
    const Result<PageNode> page = core.pages().find(i);
    if (!page.ok()) continue;
    search.search(page->dict["Resources"]);
    const Object annotations = core.store().get(page->dict, "Annots");
    for (const Object& reference : annotations.as_array()) {
      const Object annotation = core.store().resolve(reference);
      const Object appearances = core.store().get(annotation.as_dict(), "AP");
      const Object normal = core.store().get(appearances.as_dict(), "N");
      if (normal.as_dict().contains("Resources")) search.search(normal.as_dict()["Resources"]);
    }
  }
  return search.found();
}

}  // namespace lumvet::document
