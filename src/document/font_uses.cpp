// SPDX-License-Identifier: Apache-2.0
#include "document/font_uses.h"

#include <set>

namespace lumvet::document {
namespace {

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
