// SPDX-License-Identifier: Apache-2.0
#include "document/resource_uses.h"

#include <set>

#include "filters/stream_decoder.h"

namespace lumvet::document {
namespace {

std::string font_kind(std::string_view subtype, const Dict& descriptor) {
  const bool cff = descriptor.contains("FontFile3");
  if (subtype == "Type1") return cff ? "Type 1 (CFF)" : "Type 1";
  if (subtype == "MMType1") return "Type 1 (multiple master)";
  if (subtype == "Type3") return "Type 3";
  if (subtype == "CIDFontType0") return cff ? "CID CFF" : "CID Type 1";
  if (subtype == "CIDFontType2") return "TrueType, CID-keyed";
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

ImageUse image_use(const file::ObjectStore& store, const Object& at, const Stream& stream) {
  const Dict& dict = stream.dict;
  ImageUse use;
  use.id = at.as_reference();
  use.width = store.get(dict, "Width").as_integer();
  use.height = store.get(dict, "Height").as_integer();
  use.is_stencil = store.get(dict, "ImageMask").as_bool();
  use.bits = use.is_stencil ? 1 : store.get(dict, "BitsPerComponent").as_integer();
  const Object space = store.get(dict, "ColorSpace");
  const Object family = space.as_array().empty() ? space : store.resolve(space.as_array()[0]);
  use.color_space = family.as_name();
  for (const filters::FilterStep& step : filters::filter_chain(dict, store))
    use.filters.push_back(step.name);
  use.bytes = stream.length;
  use.has_mask = dict.contains("SMask") || dict.contains("Mask");
  return use;
}

// Resources reached from pages: of their own, of their forms, patterns and Type 3 fonts.
class ResourceSearch {
 public:
  explicit ResourceSearch(const file::ObjectStore& store) : store_(store) {}

  void search_page(const Dict& page) {
    search(page["Resources"]);
    const Object annotations = store_.get(page, "Annots");
    for (const Object& reference : annotations.as_array()) {
      const Object annotation = store_.resolve(reference);
      const Object looks = store_.get(annotation.as_dict(), "AP");
      const Object normal = store_.get(looks.as_dict(), "N");
      if (normal.is_stream()) {
        search(normal.as_dict()["Resources"]);
        continue;
      }
      for (const auto& [state, look] : normal.as_dict())
        search(store_.resolve(look).as_dict()["Resources"]);
    }
  }

  ResourceUses found() const {
    return {{fonts_.begin(), fonts_.end()}, {images_.begin(), images_.end()}};
  }

 private:
  void search(const Object& resources) {
    std::vector<Object> open = {resources};
    while (!open.empty()) {
      const Object at = open.back();
      open.pop_back();
      if (at.is_null() || is_seen(at)) continue;
      const Object object = store_.resolve(at);
      const Object fonts = store_.get(object.as_dict(), "Font");
      for (const auto& [key, font] : fonts.as_dict()) add_font(font, open);
      for (const std::string_view kind : {"XObject", "Pattern"}) {
        const Object inner = store_.get(object.as_dict(), kind);
        for (const auto& [key, value] : inner.as_dict()) add_painted(value, open);
      }
    }
  }

  void add_font(const Object& at, std::vector<Object>& open) {
    if (is_seen(at)) return;
    const Object font = store_.resolve(at);
    if (!font.is_dict()) return;
    fonts_.insert(font_use(store_, font.as_dict()));
    if (font.as_dict().contains("Resources")) open.push_back(font.as_dict()["Resources"]);
  }

  void add_painted(const Object& at, std::vector<Object>& open) {
    if (is_seen(at)) return;
    const Object painted = store_.resolve(at);
    if (painted.is_stream() && store_.get(painted.as_dict(), "Subtype").is_name("Image"))
      images_.insert(image_use(store_, at, *painted.as_stream()));
    if (painted.as_dict().contains("Resources")) open.push_back(painted.as_dict()["Resources"]);
  }

  bool is_seen(const Object& at) {
    return at.is_reference() && !seen_.insert(at.as_reference()).second;
  }

  const file::ObjectStore& store_;
  std::set<ObjectId> seen_;
  std::set<FontUse> fonts_;
  std::set<ImageUse> images_;
};

}  // namespace

ResourceUses read_resource_uses(const Core& core, const Dict& page) {
  ResourceSearch search(core.store());
  search.search_page(page);
  return search.found();
}

ResourceUses read_resource_uses(const Core& core) {
  ResourceSearch search(core.store());
  for (int i = 0; i < core.pages().count(); ++i)
    if (const Result<PageNode> page = core.pages().find(i); page.ok())
      search.search_page(page->dict);
  return search.found();
}

}  // namespace lumvet::document
