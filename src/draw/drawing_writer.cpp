// SPDX-License-Identifier: Apache-2.0
#include "draw/drawing_writer.h"

#include <algorithm>

#include "assemble/layer_builder.h"
#include "color/blend_mode.h"
#include "document/geometry_objects.h"
#include "document/inside.h"
#include "draw/color_space.h"
#include "draw/font_subset.h"
#include "draw/made_looks.h"
#include "objects/content_numbers.h"
#include "objects/text_string.h"

namespace lumvet::draw {
namespace {

using document::array_of;

// The same font file at the same place on its axes, however often it was opened.
bool is_same_font(const Face& one, const Face& other) {
  if (&one == &other) return true;
  const ByteView a = one.program->bytes();
  const ByteView b = other.program->bytes();
  return one.program->face_index() == other.program->face_index() && one.axes == other.axes &&
         (one.program == other.program || std::equal(a.begin(), a.end(), b.begin(), b.end()));
}

Array numbers(const std::vector<double>& values) { return Array(values.begin(), values.end()); }

}  // namespace

std::optional<std::string> plain_content(const DrawingData& drawing) {
  if (drawing.error || !drawing.fonts.empty() || !drawing.pictures.empty() ||
      !drawing.pages.empty() || !drawing.patterns.empty() || !drawing.spaces.empty() ||
      !drawing.layers.empty())
    return std::nullopt;
  std::string all;
  objects::append_numbers({drawing.width, drawing.height}, all);
  for (const UsedState& state : drawing.states) {
    if (state.mask) return std::nullopt;
    objects::append_numbers({state.opacity.value_or(-1)}, all);
    if (state.blend) all += color::name_of(*state.blend);
    all += '\n';
  }
  for (const UsedForm& form : drawing.forms) {
    const auto content = form.late ? std::nullopt : plain_content(*form.drawing);
    if (!content) return std::nullopt;
    for (const bool is_so : {form.is_group, form.isolated, form.knockout}) all += is_so ? '1' : '0';
    all += std::to_string(content->size()) + " " + *content;
  }
  for (const Stretch& stretch : drawing.stretches) all += stretch.operators;
  all.append(drawing.saved.size(), 'Q');
  return all;
}

Result<WrittenContent> DrawingWriter::content_of(const DrawingData& drawing, bool is_tagged) {
  if (drawing.error) return *drawing.error;
  WrittenContent written;
  for (const Stretch& stretch : drawing.stretches) {
    const bool is_marked = is_tagged && stretch.paints;
    const std::size_t layers = stretch.paints ? stretch.layers.size() : 0;
    for (std::size_t i = 0; i < layers; ++i)
      written.operators += "/OC /L" + std::to_string(stretch.layers[i]) + " BDC\n";
    if (is_marked && stretch.tag >= 0) {
      written.operators += "/" + drawing.tags[static_cast<std::size_t>(stretch.tag)].type +
                           " <</MCID " + std::to_string(written.marks.size()) + ">> BDC\n";
      written.marks.push_back(stretch.tag);
    } else if (is_marked) {
      written.operators += "/Artifact BMC\n";
    }
    written.operators += stretch.operators;
    if (is_marked) written.operators += "EMC\n";
    for (std::size_t i = 0; i < layers; ++i) written.operators += "EMC\n";
  }
  for (std::size_t i = 0; i < drawing.saved.size(); ++i) written.operators += "Q\n";
  LUMVET_TRY(written.resources, resources_of(drawing));
  return written;
}

Result<Dict> DrawingWriter::resources_of(const DrawingData& drawing) {
  Dict resources;
  const auto put = [&](const char* kind, Dict entries) {
    if (entries.size() > 0) resources.set(kind, std::move(entries));
  };
  const auto named = [](const char* letter, std::size_t place) {
    return letter + std::to_string(place);
  };
  Dict fonts;
  for (std::size_t i = 0; i < drawing.fonts.size(); ++i)
    fonts.set(named("F", i), font_of(drawing.fonts[i]));
  put("Font", std::move(fonts));
  Dict objects;
  for (std::size_t i = 0; i < drawing.pictures.size(); ++i)
    objects.set(named("I", i), picture_of(drawing.pictures[i]));
  for (std::size_t i = 0; i < drawing.pages.size(); ++i) {
    LUMVET_TRY(const ObjectId form, page_form(drawing.pages[i]));
    objects.set(named("D", i), form);
  }
  for (std::size_t i = 0; i < drawing.forms.size(); ++i) {
    LUMVET_TRY(const ObjectId form, form_of(drawing.forms[i]));
    objects.set(named("X", i), form);
  }
  put("XObject", std::move(objects));
  Dict states;
  for (std::size_t i = 0; i < drawing.states.size(); ++i) {
    LUMVET_TRY(Object state, state_of(drawing.states[i]));
    states.set(named("G", i), std::move(state));
  }
  put("ExtGState", std::move(states));
  Dict patterns;
  for (std::size_t i = 0; i < drawing.patterns.size(); ++i) {
    LUMVET_TRY(const ObjectId pattern, pattern_of(drawing.patterns[i]));
    patterns.set(named("P", i), pattern);
  }
  put("Pattern", std::move(patterns));
  Dict spaces;
  for (std::size_t i = 0; i < drawing.spaces.size(); ++i)
    spaces.set(named("C", i), space_of(drawing.spaces[i]));
  put("ColorSpace", std::move(spaces));
  Dict layers;
  for (std::size_t i = 0; i < drawing.layers.size(); ++i)
    layers.set(named("L", i), layer_of(drawing.layers[i]));
  put("Properties", std::move(layers));
  return resources;
}

ObjectId DrawingWriter::layer_of(const Layer& layer) {
  const auto known = std::find_if(layers_.begin(), layers_.end(),
                                  [&](const auto& one) { return one.second.name == layer.name; });
  if (known != layers_.end()) return known->first;
  Dict group{{"Type", Object::name("OCG")},
             {"Name", Object::string(objects::utf8_to_text(layer.name))}};
  if (!layer.options.is_printed)
    group.set("Usage", Dict{{"Print", Dict{{"PrintState", Object::name("OFF")}}}});
  layers_.emplace_back(ledger_.add(std::move(group)), layer);
  return layers_.back().first;
}

ObjectId DrawingWriter::font_of(const UsedFont& font) {
  auto known = std::find_if(fonts_.begin(), fonts_.end(), [&](const Font& other) {
    return other.used.runs_down == font.runs_down && is_same_font(*other.used.face, *font.face);
  });
  if (known == fonts_.end())
    known = fonts_.insert(fonts_.end(), {ledger_.reserve(), {font.face, font.runs_down, {}}});
  for (const auto& [glyph, text] : font.texts) {
    std::string& own = known->used.texts[glyph];
    if (own.empty()) own = text;
  }
  return known->id;
}

ObjectId DrawingWriter::picture_of(const std::shared_ptr<const PictureData>& picture) {
  const auto known = pictures_.find(picture);
  if (known != pictures_.end()) return known->second;
  Stream stream = *picture->frame.image.as_stream();
  if (picture->frame.mask) stream.dict.set("SMask", ledger_.add(*picture->frame.mask));
  if (picture->frame.profile)
    stream.dict.set("ColorSpace",
                    Array{Object::name("ICCBased"), Object(ledger_.add(*picture->frame.profile))});
  return pictures_.emplace(picture, ledger_.add(Object(std::move(stream)))).first->second;
}

void DrawingWriter::use_form(const Page& page, ObjectId form) {
  used_forms_.insert_or_assign({&core_of(page), page.index()}, form);
}

std::string DrawingWriter::version() const {
  std::string version = layers_.empty() ? "1.4" : "1.5";
  for (const auto& [core, guest] : guests_)
    version = std::max(version, guest.copier().source().version());
  return version;
}

Result<ObjectId> DrawingWriter::page_form(const Page& page) {
  const auto used = used_forms_.find({&core_of(page), page.index()});
  if (used != used_forms_.end()) return used->second;
  LUMVET_TRY(const std::optional<Page> made, with_made_looks(page));
  const Page& shown = made ? *made : page;
  const auto core = core_of(shown).shared_from_this();
  const Document document = Inside<Document>::of(std::const_pointer_cast<document::Core>(core));
  LUMVET_TRY(const ObjectId form,
             guests_.try_emplace(core, document, ledger_).first->second.form_of(shown));
  if (made) use_form(page, form);
  return form;
}

Result<ObjectId> DrawingWriter::form_of(const UsedForm& form) {
  if (form.late) {
    late_.push_back({ledger_.reserve(), form.late});
    return late_.back().id;
  }
  const FormKey key{form.drawing, form.is_group, form.isolated, form.knockout};
  const auto known = forms_.find(key);
  if (known != forms_.end()) return known->second;
  LUMVET_TRY(WrittenContent content, content_of(*form.drawing, false));
  Dict dict = form_dict(*form.drawing, std::move(content.resources));
  if (form.is_group)
    dict.set("Group", Dict{{"Type", Object::name("Group")},
                           {"S", Object::name("Transparency")},
                           {"I", form.isolated},
                           {"K", form.knockout}});
  const ObjectId id = ledger_.add(
      Stream::of(std::move(dict), Bytes(content.operators.begin(), content.operators.end())));
  forms_.emplace(key, id);
  return id;
}

Dict DrawingWriter::form_dict(const DrawingData& drawing, Dict resources) {
  return {{"Type", Object::name("XObject")},
          {"Subtype", Object::name("Form")},
          {"BBox", array_of({0, 0, drawing.width, drawing.height})},
          {"Resources", Object(std::move(resources))}};
}

void DrawingWriter::forget_unused() {
  constexpr std::size_t kFew = 64;
  if (forms_.size() + pictures_.size() < 2 * kept_ + kFew) return;
  std::erase_if(forms_, [](const auto& form) { return std::get<0>(form.first).use_count() == 1; });
  std::erase_if(pictures_, [](const auto& picture) { return picture.first.use_count() == 1; });
  kept_ = forms_.size() + pictures_.size();
}

Result<bool> DrawingWriter::write_late() {
  if (next_late_ == late_.size()) return false;
  const Late& late = late_[next_late_++];
  LUMVET_TRY(const Drawing drawing, late.drawing->drawn());
  const DrawingData& data = *data_of(drawing);
  LUMVET_TRY(WrittenContent content, content_of(data, false));
  ledger_.set(late.id, Stream::of(form_dict(data, std::move(content.resources)),
                                  Bytes(content.operators.begin(), content.operators.end())));
  return true;
}

Result<Object> DrawingWriter::state_of(const UsedState& state) {
  Dict dict{{"Type", Object::name("ExtGState")}};
  if (state.opacity) {
    dict.set("ca", *state.opacity);
    dict.set("CA", *state.opacity);
  }
  if (state.blend) dict.set("BM", Object::name(color::name_of(*state.blend)));
  if (state.mask) {
    LUMVET_TRY(WrittenContent content, content_of(*state.mask, false));
    // Light is judged as gray; a mask of opacity has no space of its own (11.5).
    const bool is_light = state.mask_kind == Drawing::Mask::light;
    Dict group{{"Type", Object::name("Group")}, {"S", Object::name("Transparency")}};
    if (is_light) group.set("CS", Object::name("DeviceGray"));
    Dict form{{"Type", Object::name("XObject")},
              {"Subtype", Object::name("Form")},
              {"BBox", array_of({0, 0, state.mask->width, state.mask->height})},
              {"Matrix", Object(array_of(state.mask_placed))},
              {"Resources", Object(std::move(content.resources))},
              {"Group", Object(std::move(group))}};
    const ObjectId id = ledger_.add(
        Stream::of(std::move(form), Bytes(content.operators.begin(), content.operators.end())));
    dict.set("SMask", Dict{{"Type", Object::name("Mask")},
                           {"S", Object::name(is_light ? "Luminosity" : "Alpha")},
                           {"G", id}});
  }
  return Object(std::move(dict));
}

// From one stop to the next, each a straight line (7.10.3 and 7.10.4).
Object DrawingWriter::function_of(const std::vector<ColorStop>& stops) const {
  const auto between = [](const Color& from, const Color& to) {
    return Object(Dict{{"FunctionType", 2},
                       {"Domain", array_of({0, 1})},
                       {"C0", Object(numbers(from.parts()))},
                       {"C1", Object(numbers(to.parts()))},
                       {"N", 1}});
  };
  std::vector<ColorStop> all = stops;
  if (all.front().at > 0) all.insert(all.begin(), {0, all.front().color});
  if (all.back().at < 1) all.push_back({1, all.back().color});
  if (all.size() == 1) all.push_back({1, all.front().color});
  if (all.size() == 2) return between(all[0].color, all[1].color);
  Array functions;
  Array bounds;
  Array encode;
  for (std::size_t i = 0; i + 1 < all.size(); ++i) {
    functions.push_back(between(all[i].color, all[i + 1].color));
    if (i > 0) bounds.push_back(all[i].at);
    encode.push_back(0);
    encode.push_back(1);
  }
  return Dict{{"FunctionType", 3},
              {"Domain", array_of({0, 1})},
              {"Functions", Object(std::move(functions))},
              {"Bounds", Object(std::move(bounds))},
              {"Encode", Object(std::move(encode))}};
}

Result<ObjectId> DrawingWriter::pattern_of(const UsedPattern& pattern) {
  if (pattern.tile) {
    LUMVET_TRY(WrittenContent content, content_of(*pattern.tile, false));
    Dict dict{{"Type", Object::name("Pattern")},
              {"PatternType", 1},
              {"PaintType", 1},
              {"TilingType", 1},
              {"BBox", array_of({0, 0, pattern.tile->width, pattern.tile->height})},
              {"XStep", pattern.across != 0 ? pattern.across : pattern.tile->width},
              {"YStep", pattern.down != 0 ? pattern.down : pattern.tile->height},
              {"Matrix", Object(array_of(pattern.placed))},
              {"Resources", Object(std::move(content.resources))}};
    return ledger_.add(
        Stream::of(std::move(dict), Bytes(content.operators.begin(), content.operators.end())));
  }
  const Gradient& gradient = *pattern.gradient;
  const bool is_round = gradient.is_round();
  const Array coordinates =
      is_round ? array_of({gradient.from.x, gradient.from.y, gradient.from_radius, gradient.to.x,
                           gradient.to.y, gradient.to_radius})
               : array_of({gradient.from.x, gradient.from.y, gradient.to.x, gradient.to.y});
  return ledger_.add(Dict{{"Type", Object::name("Pattern")},
                          {"PatternType", 2},
                          {"Matrix", Object(array_of(pattern.placed))},
                          {"Shading", Dict{{"ShadingType", is_round ? 3 : 2},
                                           {"ColorSpace", space_of(gradient.stops.front().color)},
                                           {"Coords", Object(coordinates)},
                                           {"Function", function_of(gradient.stops)},
                                           {"Extend", Array{Object(true), Object(true)}}}}});
}

Object DrawingWriter::space_of(const Color& color) {
  switch (color.kind()) {
    case Color::Kind::gray: return Object::name("DeviceGray");
    case Color::Kind::rgb: return Object::name("DeviceRGB");
    case Color::Kind::cmyk: return Object::name("DeviceCMYK");
    case Color::Kind::lab:
    case Color::Kind::ink:
    case Color::Kind::inks:
    case Color::Kind::profile: break;
  }
  const auto known = std::find_if(spaces_.begin(), spaces_.end(), [&](const auto& space) {
    return are_beside(space.first, color);
  });
  if (known != spaces_.end()) return known->second;
  Object space(ledger_.add(own_space_of(color)));
  spaces_.emplace_back(color, space);
  return space;
}

Object DrawingWriter::own_space_of(const Color& color) {
  if (color.kind() == Color::Kind::lab)
    return Array{Object::name("Lab"), Object(Dict{{"WhitePoint", array_of({0.9642, 1, 0.8249})},
                                                  {"Range", array_of({-128, 127, -128, 127})}})};
  if (color.kind() == Color::Kind::profile) {
    const Bytes& profile = profile_of(color);
    const auto count = static_cast<std::int64_t>(color.parts().size());
    return Array{Object::name("ICCBased"),
                 Object(ledger_.add(Stream::of({{"N", count}}, Bytes(profile))))};
  }
  if (color.kind() == Color::Kind::inks) return mixed_inks(color);
  // None of an ink is nothing: no light taken away.
  const Color& full = full_inks(color).front();
  std::vector<double> none(full.parts().size(), full.kind() == Color::Kind::cmyk ? 0 : 1);
  if (full.kind() == Color::Kind::lab) none = {100, 0, 0};
  if (full.kind() == Color::Kind::profile && none.size() == 4) none.assign(4, 0);
  return Array{Object::name("Separation"), Object::name(ink_names(color).front()), space_of(full),
               Object(Dict{{"FunctionType", 2},
                           {"Domain", array_of({0, 1})},
                           {"C0", Object(numbers(none))},
                           {"C1", Object(numbers(full.parts()))},
                           {"N", 1}})};
}

// Several at once (8.6.6.5).
Object DrawingWriter::mixed_inks(const Color& color) {
  const std::vector<Color>& full = full_inks(color);
  const bool is_press = are_of_press(full);
  Array names;
  Array domain;
  for (const std::string& name : ink_names(color)) {
    names.push_back(Object::name(name));
    domain.push_back(0);
    domain.push_back(1);
  }
  Array range;
  for (int i = 0; i < (is_press ? 4 : 3); ++i) {
    range.push_back(0);
    range.push_back(1);
  }
  const std::string program = mixing_of(full);
  const ObjectId function = ledger_.add(Stream::of({{"FunctionType", 4},
                                                    {"Domain", Object(std::move(domain))},
                                                    {"Range", Object(std::move(range))}},
                                                   Bytes(program.begin(), program.end())));
  return Array{Object::name("DeviceN"), Object(std::move(names)),
               Object::name(is_press ? "DeviceCMYK" : "DeviceRGB"), Object(function)};
}

Status DrawingWriter::finish(Dict& catalog) {
  for (const Font& font : fonts_) {
    LUMVET_TRY(Object dict,
               draw::font_of(*font.used.face, font.used.runs_down, font.used.texts, ledger_));
    ledger_.set(font.id, std::move(dict));
  }
  assemble::LayerBuilder layers;
  for (const auto& [id, layer] : layers_)
    layers.add(id, layer.options.is_shown, layer.options.is_printed);
  for (const auto& [core, guest] : guests_) layers.add(guest.copier());
  const Object properties = layers.finish(ledger_, catalog["OCProperties"]);
  if (!properties.is_null()) catalog.set("OCProperties", properties);
  return Done{};
}

}  // namespace lumvet::draw
