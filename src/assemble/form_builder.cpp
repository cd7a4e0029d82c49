// SPDX-License-Identifier: Apache-2.0
#include "assemble/form_builder.h"

#include <algorithm>
#include <array>

#include "assemble/equal_objects.h"
#include "document/field_entries.h"
#include "document/inside.h"
#include "document/tree_builder.h"
#include "objects/text_string.h"

namespace lumvet::assemble {
FormBuilder::FormBuilder(file::Ledger& target, const Object& form)
    : target_(target),
      joins_(false),
      stated_(form),
      own_(target.resolve(form).as_dict()),
      appearance_(target.resolve(own_["DA"])),
      alignment_(target.resolve(own_["Q"])) {
  const Object fields = target_.resolve(own_["Fields"]);
  for (const Object& field : fields.as_array())
    taken_.emplace(target_.get(target_.resolve(field).as_dict(), "T").as_string());
  take_own_resources();
}

void FormBuilder::take_own_resources() {
  const Object resources = target_.resolve(own_["DR"]);
  for (const auto& [category, reference] : resources.as_dict()) {
    const Object entries = target_.resolve(reference);
    for (const auto& [name, value] : entries.as_dict()) resources_[category].emplace(name, value);
  }
}

FormBuilder::Part& FormBuilder::part_of(SourceCopier& copier) {
  const auto known = std::find_if(parts_.begin(), parts_.end(),
                                  [&](const Part& part) { return part.copier == &copier; });
  if (known != parts_.end()) return *known;
  const Document& source = copier.source();
  const Object form = store_of(source).resolve(source.catalog()["AcroForm"]);
  needs_appearances_ =
      needs_appearances_ || store_of(source).resolve(form.as_dict()["NeedAppearances"]).as_bool();
  parts_.push_back({&copier, form.as_dict(), take_resources(copier, form.as_dict()), {}, {}});
  return parts_.back();
}

void FormBuilder::add(SourceCopier& copier, const std::vector<Widget>& widgets) {
  if (widgets.empty()) return;
  Part& part = part_of(copier);
  for (const Widget& widget : widgets) {
    const Object object = store_of(copier.source()).resolve(widget.source);
    const Dict& dict = object.as_dict();
    // A widget that has a name is its own field.
    const bool is_field = dict.contains("T") || !dict.contains("Parent");
    Field* field = is_field ? field_of(part, widget.source, 0) : field_of(part, dict["Parent"], 0);
    if (field == nullptr) continue;
    field->widgets.push_back(widget.copy);
    Dict copy = target_.resolve(Object(widget.copy)).as_dict();
    use_names(part.fonts, copy);
    target_.set(widget.copy, std::move(copy));
  }
}

// What the whole form said is said by its fields, where forms differ.
void FormBuilder::take_roots(Part& part) {
  for (Field* root : part.roots) {
    for (const auto& [key, first] : {std::pair("DA", &appearance_), std::pair("Q", &alignment_)}) {
      const Object own = store_of(part.copier->source()).resolve(part.form[key]);
      if (own.is_null() || own == *first || root->own.contains(key)) continue;
      root->own.set(key, own);
      use_names(part.fonts, root->own);
    }
    take_root(root);
  }
}

FormBuilder::Field* FormBuilder::field_of(Part& part, const Object& reference, int depth) {
  if (reference.is_reference())
    if (const auto known = part.fields.find(reference.as_reference()); known != part.fields.end())
      return known->second;
  const Document& source = part.copier->source();
  const Object object = store_of(source).resolve(reference);
  if (!object.is_dict() || depth > store_of(source).limits().nesting) return nullptr;
  Field* field = make_field(part, object.as_dict());
  if (reference.is_reference()) part.fields[reference.as_reference()] = field;
  const Object& above = object.as_dict()["Parent"];
  Field* parent = above.is_null() ? nullptr : field_of(part, above, depth + 1);
  if (parent == nullptr)
    part.roots.push_back(field);
  else
    parent->kids.push_back(field);
  return field;
}

FormBuilder::Field* FormBuilder::make_field(Part& part, const Dict& dict) {
  Field& field = fields_.emplace_back();
  field.name = store_of(part.copier->source()).resolve(dict["T"]).as_string();
  for (const std::string_view key : document::kOfFields)
    if (dict.contains(key)) field.own.set(key, part.copier->copied(dict[key]));
  use_names(part.fonts, field.own);
  return &field;
}

FormBuilder::NewNames FormBuilder::take_resources(SourceCopier& copier, const Dict& form) {
  const Document& source = copier.source();
  if (appearance_.is_null()) appearance_ = store_of(source).resolve(form["DA"]);
  if (alignment_.is_null()) alignment_ = store_of(source).resolve(form["Q"]);
  NewNames fonts;
  const Object resources = store_of(source).resolve(form["DR"]);
  for (const auto& [category, reference] : resources.as_dict()) {
    const Object entries = store_of(source).resolve(reference);
    auto& known = resources_[category];
    for (const auto& [name, value] : entries.as_dict()) {
      const Object copy = copier.copied(value);
      const auto same = known.find(name);
      if (same != known.end() && are_equal(same->second, copy)) continue;
      const std::string free = document::free_name(
          name, [&](const std::string& other) { return known.contains(other); });
      if (free != name && category != "Font") continue;  // nothing else is used by its name
      known.emplace(free, copy);
      if (free != name) fonts.emplace(name, free);
    }
  }
  return fonts;
}

// In appearance strings: "/Helv 10 Tf 0 g".
void FormBuilder::use_names(const NewNames& fonts, Dict& dict) const {
  if (fonts.empty() || !dict["DA"].is_string()) return;
  std::string text(dict["DA"].as_string());
  for (const auto& [name, other] : fonts)
    if (const std::size_t at = text.find("/" + name + " "); at != std::string::npos) {
      text.replace(at, name.size() + 1, "/" + other);
      break;
    }
  dict.set("DA", Object::string(text));
}

bool FormBuilder::are_equal(const Object& a, const Object& b, int depth) const {
  constexpr int kDeepest = 16;
  const Object one = target_.resolve(a);
  const Object other = target_.resolve(b);
  if (depth > kDeepest) return false;
  if (one.is_stream() != other.is_stream()) return false;
  if (one.is_stream() && !have_equal_bytes(*one.as_stream(), *other.as_stream())) return false;
  if (one.is_array()) {
    const Array& left = one.as_array();
    const Array& right = other.as_array();
    return left.size() == right.size() &&
           std::equal(left.begin(), left.end(), right.begin(),
                      [&](const Object& x, const Object& y) { return are_equal(x, y, depth + 1); });
  }
  if (!one.is_dict() && !one.is_stream()) return one == other;
  const Dict& left = one.as_dict();
  const Dict& right = other.as_dict();
  return left.size() == right.size() &&
         std::equal(left.begin(), left.end(), right.begin(), [&](const auto& x, const auto& y) {
           return x.first == y.first && are_equal(x.second, y.second, depth + 1);
         });
}

void FormBuilder::take_root(Field* root) {
  const auto named = [this](const std::string& name) {
    return std::find_if(roots_.begin(), roots_.end(),
                        [&](const Field* other) { return other->name == name; });
  };
  const auto same = named(root->name);
  if (joins_ && same != roots_.end() && are_alike(**same, *root)) {
    ++joined_;
    return join(**same, *root);
  }
  const std::string free = document::free_name(root->name, [&](const std::string& name) {
    return taken_.contains(name) || named(name) != roots_.end();
  });
  renamed_ += free == root->name ? 0 : 1;
  root->name = free;
  roots_.push_back(root);
}

// Groups, or fields of one kind.
bool FormBuilder::are_alike(const Field& a, const Field& b) const {
  if (a.widgets.empty() != b.widgets.empty()) return false;
  return a.own["FT"] == b.own["FT"];
}

void FormBuilder::join(Field& into, Field& from) {
  into.widgets.insert(into.widgets.end(), from.widgets.begin(), from.widgets.end());
  for (Field* kid : from.kids) {
    const auto named = [&into](const std::string& name) {
      return std::find_if(into.kids.begin(), into.kids.end(),
                          [&](const Field* other) { return other->name == name; });
    };
    const auto same = named(kid->name);
    if (same != into.kids.end() && are_alike(**same, *kid)) {
      join(**same, *kid);
      continue;
    }
    if (same != into.kids.end())
      kid->name = document::free_name(
          kid->name, [&](const std::string& n) { return named(n) != into.kids.end(); });
    into.kids.push_back(kid);
  }
}

// A field with one widget is one with it; several widgets are its kids.
ObjectId FormBuilder::write(const Field& field, const Object& parent) {
  const bool is_one = field.widgets.size() == 1 && field.kids.empty();
  const ObjectId id = is_one ? field.widgets[0] : target_.reserve();
  Dict dict = is_one ? document::without_field(target_.resolve(Object(id)).as_dict()) : Dict();
  for (const auto& [key, value] : field.own) dict.set(key, value);
  if (!field.name.empty()) dict.set("T", Object::string(field.name));
  dict.set("Parent", parent);
  if (!is_one) {
    Array kids;
    for (const Field* kid : field.kids) kids.push_back(write(*kid, Object(id)));
    for (const ObjectId widget : field.widgets) {
      Dict own = document::without_field(target_.resolve(Object(widget)).as_dict());
      own.set("Parent", id);
      target_.set(widget, std::move(own));
      kids.push_back(widget);
    }
    dict.set("Kids", std::move(kids));
  }
  target_.set(id, std::move(dict));
  return id;
}

Object FormBuilder::finish() {
  for (Part& part : parts_) take_roots(part);
  if (roots_.empty()) return stated_;
  Dict form = own_;
  Array fields = target_.get(own_, "Fields").as_array();
  for (const Field* root : roots_) fields.push_back(write(*root, Object()));
  form.set("Fields", std::move(fields));
  form.set("DA", appearance_);
  form.set("Q", alignment_);
  if (needs_appearances_) form.set("NeedAppearances", true);
  Dict resources;
  for (const auto& [category, entries] : resources_) {
    Dict named;
    for (const auto& [name, value] : entries) named.set(name, value);
    resources.set(category, std::move(named));
  }
  if (!resources.is_empty()) form.set("DR", std::move(resources));
  if (!stated_.is_reference()) return target_.add(std::move(form));
  target_.set(stated_.as_reference(), std::move(form));
  return stated_;
}

}  // namespace lumvet::assemble
