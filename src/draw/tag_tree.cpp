// SPDX-License-Identifier: Apache-2.0
#include "draw/tag_tree.h"

#include <algorithm>

#include "document/tree_builder.h"
#include "objects/text_string.h"

namespace lumvet::draw {

// Goes on with the element of a tag's name; otherwise a new one, where its parent is.
std::size_t TagTree::element_of(const Tag& tag, const std::vector<std::size_t>& made) {
  if (!tag.key.empty()) {
    const auto known = by_key_.find(tag.key);
    if (known != by_key_.end()) return known->second;
    by_key_.emplace(tag.key, next_element_);
  }
  Element element{ledger_.reserve(), tag.type, tag.key, tag.options, root_, ObjectId(), {}};
  if (tag.parent < 0) {
    roots_.push_back(element.id);
  } else {
    Element& parent = open_.at(made[static_cast<std::size_t>(tag.parent)]);
    element.parent = parent.id;
    parent.kids.push_back(element.id);
  }
  open_.emplace(next_element_, std::move(element));
  return next_element_++;
}

int TagTree::add_page(ObjectId page, const DrawingData& drawing, const std::vector<int>& marks) {
  made_.clear();
  const auto make_up_to = [&](std::size_t count) {
    while (made_.size() < count) made_.push_back(element_of(drawing.tags[made_.size()], made_));
  };
  Array elements;
  for (std::size_t i = 0; i < marks.size(); ++i) {
    const auto tag = static_cast<std::size_t>(marks[i]);
    make_up_to(tag + 1);
    Element& element = open_.at(made_[tag]);
    const auto number = static_cast<std::int64_t>(i);
    if (element.page == ObjectId()) element.page = page;
    if (element.page == page)
      element.kids.push_back(number);
    else
      element.kids.push_back(Dict{{"Type", Object::name("MCR")}, {"Pg", page}, {"MCID", number}});
    elements.push_back(element.id);
  }
  make_up_to(drawing.tags.size());
  parents_[next_parent_] = ledger_.add(std::move(elements));
  return next_parent_++;
}

int TagTree::add_link(ObjectId annotation, ObjectId page, int tag) {
  Element link{ledger_.reserve(), "Link", {}, {}, root_, page, {}};
  if (tag < 0) {
    roots_.push_back(link.id);
  } else {
    Element& parent = open_.at(made_[static_cast<std::size_t>(tag)]);
    link.parent = parent.id;
    parent.kids.push_back(link.id);
  }
  link.kids.push_back(Dict{{"Type", Object::name("OBJR")}, {"Pg", page}, {"Obj", annotation}});
  parents_[next_parent_] = link.id;
  write(link);
  return next_parent_++;
}

void TagTree::end_page() {
  std::sort(made_.begin(), made_.end());
  made_.erase(std::unique(made_.begin(), made_.end()), made_.end());
  std::vector<std::size_t> with_keys;
  for (const std::size_t number : made_) {
    const auto element = open_.find(number);
    if (element->second.key.empty())
      complete(element);
    else if (keys_ == Keys::end)
      with_keys.push_back(number);
  }
  for (const std::size_t number : goes_on_)
    if (!std::binary_search(made_.begin(), made_.end(), number)) complete(open_.find(number));
  goes_on_ = std::move(with_keys);
  made_.clear();
}

void TagTree::complete(Elements::iterator element) {
  by_key_.erase(element->second.key);
  write(element->second);
  open_.erase(element);
}

void TagTree::write(Element& element) {
  Dict dict{{"Type", Object::name("StructElem")},
            {"S", Object::name(element.type)},
            {"P", element.parent}};
  if (element.page != ObjectId()) dict.set("Pg", element.page);
  if (!element.kids.empty()) dict.set("K", Object(std::move(element.kids)));
  const auto put = [&](const char* key, const std::string& text) {
    if (!text.empty()) dict.set(key, Object::string(objects::utf8_to_text(text)));
  };
  if (element.options) {
    put("T", element.options->title);
    put("Lang", element.options->language);
    put("Alt", element.options->alternate);
    put("ActualText", element.options->actual_text);
  }
  ledger_.set(element.id, Object(std::move(dict)));
}

void TagTree::finish(Dict& catalog) {
  for (auto& [number, element] : open_) write(element);
  open_.clear();
  by_key_.clear();
  ledger_.set(root_, Dict{{"Type", Object::name("StructTreeRoot")},
                          {"K", Object(std::move(roots_))},
                          {"ParentTree", document::build_number_tree(ledger_, parents_)},
                          {"ParentTreeNextKey", next_parent_}});
  catalog.set("StructTreeRoot", root_);
  catalog.set("MarkInfo", Dict{{"Marked", true}});
}

}  // namespace lumvet::draw
