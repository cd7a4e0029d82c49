// SPDX-License-Identifier: Apache-2.0
#include "document/structure.h"

#include <algorithm>
#include <array>
#include <set>

#include "base/attempt.h"
#include "document/text_entries.h"

namespace lumvet::document {
namespace {

// Of ISO 32000-1, 14.8.4, and ISO 32000-2, 14.8.4; H7 and beyond are told by their shape.
constexpr std::array<std::string_view, 56> kStandardTypes = {
    "Annot",   "Art",      "Artifact", "Aside",  "BibEntry",  "BlockQuote", "Caption", "Code",
    "Div",     "Document", "Em",       "FENote", "Figure",    "Form",       "Formula", "H",
    "H1",      "H2",       "H3",       "H4",     "H5",        "H6",         "Index",   "L",
    "LBody",   "LI",       "Lbl",      "Link",   "NonStruct", "Note",       "P",       "Part",
    "Private", "Quote",    "RB",       "RP",     "RT",        "Reference",  "Ruby",    "Sect",
    "Span",    "Strong",   "Sub",      "TBody",  "TD",        "TFoot",      "TH",      "THead",
    "TOC",     "TOCI",     "TR",       "Table",  "Title",     "WP",         "WT",      "Warichu"};

bool is_standard(std::string_view type) {
  if (std::find(kStandardTypes.begin(), kStandardTypes.end(), type) != kStandardTypes.end() ||
      type == "DocumentFragment")
    return true;
  return type.size() > 1 && type[0] == 'H' &&
         type.find_first_not_of("0123456789", 1) == std::string_view::npos;
}

class StructureReader {
 public:
  explicit StructureReader(const Core& core) : core_(core), store_(core.store()) {}

  Structure read() {
    const Object marks = store_.get(core_.catalog(), "MarkInfo");
    structure_.is_marked = store_.get(marks.as_dict(), "Marked").as_bool();
    structure_.is_suspect = store_.get(marks.as_dict(), "Suspects").as_bool();
    structure_.has_user_properties = store_.get(marks.as_dict(), "UserProperties").as_bool();
    const Object root = store_.get(core_.catalog(), "StructTreeRoot");
    roles_ = store_.get(root.as_dict(), "RoleMap");
    classes_ = store_.get(root.as_dict(), "ClassMap");
    language_ = text_entry(store_, core_.catalog(), "Lang");
    open_.push_back({-1, kids_of(root.as_dict()), 0});
    while (!open_.empty()) {
      if (open_.back().next == open_.back().kids.size()) {
        open_.pop_back();
        continue;
      }
      const Object kid = open_.back().kids[open_.back().next++];
      read_kid(open_.back().element, kid);
    }
    return std::move(structure_);
  }

 private:
  // An element whose kids are being read; -1 is the root.
  struct Open {
    int element;
    Array kids;
    std::size_t next;
  };

  Array kids_of(const Dict& node) {
    const Object kids = store_.get(node, "K");
    if (kids.is_array()) return kids.as_array();
    return kids.is_null() ? Array{} : Array{node["K"]};
  }

  void read_kid(int parent, const Object& kid) {
    const Object value = store_.resolve(kid);
    if (value.is_integer()) return add_mark(parent, value, page_of(parent), {});
    const Dict& dict = value.as_dict();
    if (dict.is_empty()) return;
    const Object type = store_.get(dict, "Type");
    if (type.is_name("MCR"))
      return add_mark(parent, store_.get(dict, "MCID"), page_at(dict, parent),
                      dict["Stm"].as_reference());
    if (type.is_name("OBJR")) {
      if (parent < 0) return;
      parts_of(parent).push_back(
          {StructurePart::Kind::object, -1, -1, page_at(dict, parent), dict["Obj"].as_reference()});
      return;
    }
    add_element(parent, kid, dict);
  }

  void add_mark(int parent, const Object& mark, std::optional<int> page, ObjectId form) {
    constexpr std::int64_t kMostMark = 1 << 30;
    if (parent < 0 || mark.as_integer(-1) < 0 || mark.as_integer() > kMostMark) return;
    if (!Attempt::follow(sizeof(StructurePart))) return;
    parts_of(parent).push_back({.kind = StructurePart::Kind::marked_content,
                                .mark = static_cast<int>(mark.as_integer()),
                                .page = page,
                                .object = form});
  }

  void add_element(int parent, const Object& kid, const Dict& dict) {
    if (kid.is_reference() && !seen_.insert(kid.as_reference()).second) {
      store_.findings().add(
          {"the structure tree holds an element twice, or leads back into itself; it was taken "
           "once",
           {},
           kid.as_reference()});
      return;
    }
    const int depth = static_cast<int>(open_.size()) - 1;
    if (depth >= store_.limits().nesting || structure_.elements.size() >= store_.limits().objects) {
      met_limit(
          "the structure tree is deeper than Limits::nesting, or larger than Limits::objects");
      return;
    }
    if (!Attempt::follow(sizeof(StructureElement) + sizeof(StructurePart))) return;
    StructureElement element;
    element.id = kid.as_reference();
    element.type = store_.get(dict, "S").as_name();
    const Object name_space = store_.get(dict, "NS");
    element.name_space = text_entry(store_, name_space.as_dict(), "NS");
    element.role = role_of(element.type, name_space.as_dict());
    element.parent = parent;
    element.depth = depth;
    element.page = page_at(dict, parent);
    element.title = text_entry(store_, dict, "T");
    element.language = text_entry(store_, dict, "Lang");
    if (element.language.empty())
      element.language = parent < 0 ? language_ : structure_.elements[at(parent)].language;
    element.alternate = text_entry(store_, dict, "Alt");
    element.actual_text = text_entry(store_, dict, "ActualText");
    element.expansion = text_entry(store_, dict, "E");
    read_attributes(dict, element);
    const auto place = static_cast<int>(structure_.elements.size());
    if (parent >= 0)
      parts_of(parent).push_back({StructurePart::Kind::element, place, -1, std::nullopt, {}});
    structure_.elements.push_back(std::move(element));
    open_.push_back({place, kids_of(dict), 0});
  }

  void read_attributes(const Dict& dict, StructureElement& element) {
    each_of(store_.get(dict, "C"), [&](const Object& name) {
      if (!name.is_name() || !Attempt::follow(sizeof(std::string) + name.as_name().size())) return;
      element.classes.emplace_back(name.as_name());
      add_attributes(store_.get(classes_.as_dict(), name.as_name()), element.classes.back(),
                     element);
    });
    add_attributes(store_.get(dict, "A"), {}, element);
  }

  // Of one object or several; numbers of revisions stand between them (14.7.6.3).
  void add_attributes(const Object& stated, const std::string& of_class,
                      StructureElement& element) {
    each_of(stated, [&](const Object& object) {
      const Dict& dict = object.as_dict();
      std::string owner(store_.get(dict, "O").as_name());
      if (owner == "NSO")
        if (const Object space = store_.get(dict, "NS"); space.is_dict())
          owner = text_entry(store_, space.as_dict(), "NS");
      for (const auto& [key, value] : dict) {
        if (key == "O" || key == "NS") continue;
        Object said = store_.resolve(value);
        const std::size_t letters = owner.size() + key.size() + said.as_string().size();
        if (!Attempt::follow(sizeof(StructureAttribute) + letters)) return;
        element.attributes.push_back({owner, key, std::move(said), of_class});
      }
    });
  }

  // What stands alone, or in an array.
  template <typename Visit>
  void each_of(const Object& stated, const Visit& visit) {
    if (!stated.is_array()) return visit(stated);
    for (const Object& item : stated.as_array()) visit(store_.resolve(item));
  }

  // By the role maps, of the namespace first (14.8.6.2), until the standard knows the type.
  std::string role_of(const std::string& type, const Dict& name_space) {
    std::string role = type;
    const Object own = store_.get(name_space, "RoleMapNS");
    Object mapped = store_.get(own.as_dict(), type);
    if (mapped.is_array() && !mapped.as_array().empty())
      mapped = store_.resolve(mapped.as_array()[0]);
    if (mapped.is_name()) role = mapped.as_name();
    constexpr int kLongestChain = 32;
    for (int i = 0; i < kLongestChain && !is_standard(role); ++i) {
      const Object next = store_.get(roles_.as_dict(), role);
      if (!next.is_name() || next.as_name() == role) return role;
      role = next.as_name();
    }
    return is_standard(role) ? role : type;
  }

  std::optional<int> page_at(const Dict& dict, int parent) {
    const Object& page = dict["Pg"];
    return page.is_reference() ? core_.pages().index_of(page.as_reference()) : page_of(parent);
  }

  std::optional<int> page_of(int element) const {
    return element < 0 ? std::nullopt : structure_.elements[at(element)].page;
  }
  std::vector<StructurePart>& parts_of(int element) {
    return structure_.elements[at(element)].parts;
  }
  static std::size_t at(int element) { return static_cast<std::size_t>(element); }

  const Core& core_;
  const file::ObjectStore& store_;
  Structure structure_;
  Object roles_;
  Object classes_;
  std::string language_;
  std::vector<Open> open_;
  std::set<ObjectId> seen_;
};

}  // namespace

Structure read_structure(const Core& core) { return StructureReader(core).read(); }

}  // namespace lumvet::document
