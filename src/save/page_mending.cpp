// SPDX-License-Identifier: Apache-2.0
#include "save/page_mending.h"

#include <set>

#include "base/findings_list.h"
#include "document/inside.h"
#include "save/page_tree_builder.h"

namespace lumvet::saving {
namespace {

// Goes through a tree as it stands in the file.
class TreeCheck {
 public:
  explicit TreeCheck(const file::ObjectStore& store) : store_(store) {}

  // The pages below a node; nothing where something is not as it should be.
  std::optional<int> pages_below(const Object& root) {
    struct Level {
      Object node;
      Object kids;
      std::size_t next = 0;
      int pages = 0;
      std::int64_t stated = 0;
    };
    std::vector<Level> levels;
    const auto enter = [&](const Object& node, const Object& parent) -> std::optional<bool> {
      if (!node.is_reference() || !met_.insert(node.as_reference()).second) return std::nullopt;
      const Object object = store_.resolve(node);
      const Dict& dict = object.as_dict();
      if (!object.is_dict() || dict["Parent"] != parent) return std::nullopt;
      const bool is_page = store_.get(dict, "Type").is_name("Page");
      if (is_page) return dict.contains("Kids") ? std::nullopt : std::optional(true);
      if (!store_.get(dict, "Type").is_name("Pages")) return std::nullopt;
      levels.push_back(
          {node, store_.get(dict, "Kids"), 0, 0, store_.get(dict, "Count").as_integer(-1)});
      return false;
    };
    if (enter(root, Object()) != false) return std::nullopt;
    for (;;) {
      Level& at = levels.back();
      if (at.next < at.kids.as_array().size()) {
        const std::optional<bool> is_page = enter(Object(at.kids.as_array()[at.next++]), at.node);
        if (!is_page || static_cast<int>(levels.size()) > store_.limits().page_tree_depth)
          return std::nullopt;
        if (*is_page) ++levels.back().pages;
        continue;
      }
      if (at.stated != at.pages) return std::nullopt;
      const int pages = at.pages;
      levels.pop_back();
      if (levels.empty()) return pages;
      levels.back().pages += pages;
    }
  }

 private:
  const file::ObjectStore& store_;
  std::set<ObjectId> met_;
};

}  // namespace

bool has_sound_pages(const Document& document) {
  const auto pages = TreeCheck(store_of(document)).pages_below(document.catalog()["Pages"]);
  return pages == document.page_count();
}

Result<int> mend_pages(const Document& document, file::Ledger& ledger) {
  std::vector<Page> pages;
  for (int i = 0; i < document.page_count(); ++i) {
    Result<Page> page = document.page(i);
    if (page.ok()) {
      pages.push_back(*std::move(page));
      continue;
    }
    store_of(document).findings().add(
        {page.error().message() + "; page " + std::to_string(i + 1) + " is lost", {}, {}});
  }
  if (pages.empty()) return Error(ErrorCode::malformed, "no page of the document can be read");
  PageTreeBuilder tree(ledger);
  std::set<ObjectId> placed;
  for (const Page& page : pages) {
    // A page that stands in the tree twice becomes two.
    const bool has_place = page.id().number != 0 && placed.insert(page.id()).second;
    const ObjectId id = has_place ? page.id() : ledger.reserve();
    Dict dict = page.dict();
    dict.set("Type", Object::name("Page"));
    dict.set("Parent", tree.add(id));
    ledger.set(id, std::move(dict));
  }
  Dict catalog = document.catalog();
  catalog.set("Type", Object::name("Catalog"));
  catalog.set("Pages", tree.finish());
  ledger.set(core_of(document).root().as_reference(), std::move(catalog));
  return static_cast<int>(pages.size());
}

}  // namespace lumvet::saving
