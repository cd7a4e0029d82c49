// SPDX-License-Identifier: Apache-2.0
// What is true of pages and of what lies on them.
#include <map>

#include <lumvet/sign/verification.h>
#include <lumvet/text/font_readings.h>

#include "../console.h"
#include "facts.h"

namespace tool::facts {
namespace {

using lumvet::Document;

template <typename Visit>
void each_page(const Document& document, const Visit& visit) {
  for (int i = 0; i < document.page_count(); ++i)
    if (const auto page = document.page(i); page.ok()) visit(*page);
}

Json configuration_facts(const lumvet::LayerConfiguration& configuration) {
  constexpr const char* kBases[] = {"on", "off", "unchanged"};
  Json json{{"name", configuration.name},
            {"creator", configuration.creator},
            {"base", kBases[static_cast<int>(configuration.base)]},
            {"visible", configuration.visible},
            {"locked", configuration.locked},
            {"intents", configuration.intents}};
  json["order"] = Json::array();
  for (const lumvet::LayerLine& line : configuration.order)
    json["order"].push_back(
        {{"depth", line.depth}, {"layer", or_null(line.layer)}, {"heading", line.heading}});
  json["one_of"] = configuration.one_of;
  json["automations"] = Json::array();
  for (const lumvet::LayerAutomation& automation : configuration.automations)
    json["automations"].push_back({{"event", automation.event},
                                   {"categories", automation.categories},
                                   {"layers", automation.layers}});
  json["lists_visible_pages_only"] = configuration.lists_visible_pages_only;
  return json;
}

}  // namespace

namespace {

Json presentation_facts(const lumvet::Presentation& presentation) {
  Json json{{"seconds", or_null(presentation.seconds)}, {"transition", nullptr}};
  if (const auto& transition = presentation.transition)
    json["transition"] = {{"style", transition->style},
                          {"seconds", transition->seconds},
                          {"vertical", transition->is_vertical},
                          {"outward", transition->goes_outward},
                          {"direction", or_null(transition->direction)},
                          {"scale", transition->scale},
                          {"opaque", transition->is_opaque}};
  return json;
}

Json point(const lumvet::Point& point) { return {point.x, point.y}; }

Json points(const std::vector<lumvet::Point>& all) {
  Json json = Json::array();
  for (const lumvet::Point& one : all) json.push_back(point(one));
  return json;
}

Json units(const std::vector<lumvet::MeasureUnit>& all) {
  constexpr const char* kFractions[] = {"decimal", "fraction", "rounded", "truncated"};
  Json json = Json::array();
  for (const lumvet::MeasureUnit& unit : all)
    json.push_back({{"label", unit.label},
                    {"factor", unit.factor},
                    {"fraction", kFractions[static_cast<int>(unit.fraction)]},
                    {"precision", unit.precision}});
  return json;
}

Json measure_facts(const lumvet::Measure& measure) {
  if (measure.kind == lumvet::Measure::Kind::map) {
    Json json{{"kind", "map"},
              {"bounds", points(measure.bounds)},
              {"places", points(measure.places)},
              {"projected", measure.is_projected},
              {"epsg", measure.epsg},
              {"wkt", measure.wkt}};
    json["points"] = Json::array();
    for (const lumvet::MapPoint& place : measure.points)
      json["points"].push_back({place.north, place.east});
    return json;
  }
  return {{"kind", "drawing"},
          {"scale", measure.scale},
          {"x", units(measure.x)},
          {"y", units(measure.y)},
          {"distance", units(measure.distance)},
          {"area", units(measure.area)},
          {"angle", units(measure.angle)},
          {"slope", units(measure.slope)},
          {"origin", measure.origin ? point(*measure.origin) : Json()},
          {"y_to_x", or_null(measure.y_to_x)}};
}

Json measured_area_facts(const std::vector<lumvet::MeasuredArea>& measured_areas) {
  Json json = Json::array();
  for (const lumvet::MeasuredArea& measured_area : measured_areas)
    json.push_back(
        {{"area", box(measured_area.area)},
         {"name", measured_area.name},
         {"measure", measured_area.measure ? measure_facts(*measured_area.measure) : Json()}});
  return json;
}

Json as_it_is(const Json& json) { return json; }

Json font_facts(const lumvet::FontUse& font) {
  return {{"name", font.name},
          {"kind", font.kind},
          {"embedded", font.embedded},
          {"subset", font.subset}};
}

// With the pages that show it, from 1.
using UsedImage = std::pair<lumvet::ImageUse, std::vector<int>>;

Json image_facts(const UsedImage& used) {
  const auto& [image, pages] = used;
  return {{"object", object_name(image.id)},
          {"width", image.width},
          {"height", image.height},
          {"bits", image.bits},
          {"color_space", image.color_space},
          {"filters", image.filters},
          {"bytes", image.bytes},
          {"stencil", image.is_stencil},
          {"masked", image.has_mask},
          {"pages", pages}};
}

struct PlacedMark {
  int page = 1;
  lumvet::Annotation mark;
};

Json mark_facts(const PlacedMark& placed) {
  const lumvet::Annotation& mark = placed.mark;
  Json item{{"page", placed.page},
            {"object", object_name(mark.id)},
            {"type", mark.type},
            {"rect", box(mark.rect)},
            {"contents", mark.contents},
            {"name", mark.name},
            {"author", mark.author},
            {"subject", mark.subject},
            {"created", mark.created},
            {"modified", mark.modified},
            {"flags", mark.flags},
            {"color", mark.color},
            {"opacity", mark.opacity},
            {"icon", mark.icon},
            {"state", mark.appearance_state},
            {"states", mark.appearance_states}};
  item["in_reply_to"] = mark.in_reply_to ? Json(object_name(*mark.in_reply_to)) : Json();
  item["review_state"] = mark.review_state;
  item["destination"] = destination_facts(mark.destination);
  item["actions"] = action_facts(mark.actions);
  item["triggers"] = trigger_facts(mark.triggers);
  item["file"] = mark.file;
  return item;
}

Json field_facts(const lumvet::FormField& field) {
  constexpr const char* kKinds[] = {"group", "push button", "check box", "radio buttons",
                                    "text",  "list box",    "combo box", "signature"};
  Json item{{"name", field.name},
            {"object", object_name(field.id)},
            {"depth", field.depth},
            {"terminal", field.is_terminal},
            {"kind", kKinds[static_cast<int>(field.kind)]},
            {"label", field.label},
            {"flags", field.flags},
            {"read_only", field.is_read_only()},
            {"required", field.is_required()},
            {"values", field.values},
            {"default_values", field.default_values},
            {"longest", or_null(field.longest)},
            {"signed", !field.signature.is_null()}};
  item["options"] = Json::array();
  for (const lumvet::FieldOption& option : field.options)
    item["options"].push_back({{"exported", option.exported}, {"shown", option.shown}});
  item["widgets"] = Json::array();
  for (const lumvet::FieldWidget& widget : field.widgets)
    item["widgets"].push_back({{"object", object_name(widget.id)},
                               {"page", page_number(widget.page)},
                               {"rect", box(widget.rect)},
                               {"state", widget.state},
                               {"on_state", widget.on_state}});
  item["triggers"] = trigger_facts(field.triggers);
  return item;
}

Json element_facts(const lumvet::StructureElement& element) {
  Json item{{"object", object_name(element.id)},
            {"type", element.type},
            {"role", element.role},
            {"depth", element.depth},
            {"page", page_number(element.page)},
            {"title", element.title},
            {"language", element.language},
            {"alternate", element.alternate},
            {"actual_text", element.actual_text},
            {"expansion", element.expansion},
            {"classes", element.classes}};
  item["attributes"] = Json::array();
  for (const lumvet::StructureAttribute& attribute : element.attributes)
    item["attributes"].push_back({{"owner", attribute.owner},
                                  {"name", attribute.name},
                                  {"value", lumvet::to_text(attribute.value)},
                                  {"class", attribute.of_class}});
  item["parts"] = Json::array();
  for (const lumvet::StructurePart& part : element.parts) {
    using Kind = lumvet::StructurePart::Kind;
    if (part.kind == Kind::element)
      item["parts"].push_back({{"element", part.element}});
    else if (part.kind == Kind::object)
      item["parts"].push_back(
          {{"object", object_name(part.object)}, {"page", page_number(part.page)}});
    else
      item["parts"].push_back({{"mark", part.mark},
                               {"page", page_number(part.page)},
                               {"form", object_name(part.object)}});
  }
  return item;
}

}  // namespace

Facts pages(const Document& document) {
  constexpr const char* kTabs[] = {"unstated",  "rows",      "columns",
                                   "structure", "as listed", "widgets first"};
  std::vector<Json> all;
  each_page(document, [&](const lumvet::Page& page) {
    Json item{{"number", page.index() + 1},
              {"label", document.page_label(page.index()).value()},
              {"object", object_name(page.id())},
              {"points", {page.width(), page.height()}},
              {"media_box", box(page.media_box())},
              {"crop_box", box(page.crop_box())},
              {"bleed_box", box(page.bleed_box())},
              {"trim_box", box(page.trim_box())},
              {"art_box", box(page.art_box())},
              {"rotation", page.rotation()},
              {"user_unit", page.user_unit()},
              {"tab_order", kTabs[static_cast<int>(page.tab_order())]},
              {"triggers", trigger_facts(page.triggers().value())},
              {"presentation", presentation_facts(page.presentation().value())},
              {"measured_areas", measured_area_facts(page.measured_areas().value())},
              {"intents", intent_facts(page.output_intents().value())},
              {"annotations", page.annotations().value().size()}};
    item["fonts"] = Json::array();
    for (const lumvet::FontUse& font : page.fonts().value()) item["fonts"].push_back(font.name);
    item["images"] = Json::array();
    for (const lumvet::ImageUse& image : page.images().value())
      item["images"].push_back(object_name(image.id));
    all.push_back(std::move(item));
  });
  return FactList::of(std::move(all), as_it_is);
}

Facts fonts(const Document& document) {
  std::vector<Json> all;
  for (const lumvet::FontUse& use : document.fonts().value()) all.push_back(font_facts(use));
  for (const lumvet::FontReading& reading :
       lumvet::font_readings(document, {.cancel = interruption()}).value())
    for (Json& font : all)
      if (font["name"] == reading.name) {
        font["characters"] = reading.characters;
        font["unknown"] = reading.unknown;
      }
  return FactList::of(std::move(all), as_it_is);
}

FactList font_list(std::vector<lumvet::FontUse> uses) {
  return FactList::of(std::move(uses), font_facts);
}

Facts images(const Document& document) {
  std::map<lumvet::ImageUse, std::vector<int>> used;
  each_page(document, [&](const lumvet::Page& page) {
    for (const lumvet::ImageUse& image : page.images().value())
      used[image].push_back(page.index() + 1);
  });
  return FactList::of(std::vector<UsedImage>(used.begin(), used.end()), image_facts);
}

Facts annotations(const Document& document) {
  std::vector<PlacedMark> marks;
  each_page(document, [&](const lumvet::Page& page) {
    for (lumvet::Annotation& mark : page.annotations().value())
      marks.push_back({page.index() + 1, std::move(mark)});
  });
  return FactList::of(std::move(marks), mark_facts);
}

Facts form(const Document& document) {
  lumvet::Form form = document.form().value();
  Json json{{"needs_appearances", form.needs_appearances},
            {"has_signatures", form.has_signatures},
            {"append_only", form.append_only},
            {"has_xfa", form.has_xfa}};
  json["calculation_order"] = Json::array();
  for (const int place : form.calculation_order)
    json["calculation_order"].push_back(form.fields[static_cast<std::size_t>(place)].name);
  json["signatures"] = Json::array();
  for (const lumvet::SignatureClaim& claim : lumvet::list_signatures(document).value())
    json["signatures"].push_back(
        {{"field", claim.field},
         {"name", claim.name},
         {"time", claim.claimed_time ? time_text(*claim.claimed_time) : ""},
         {"reason", claim.reason},
         {"place", claim.place},
         {"timestamp", claim.is_timestamp},
         {"form", claim.form}});
  return {std::move(json), "fields", FactList::of(std::move(form.fields), field_facts)};
}

Facts layers(const Document& document) {
  const lumvet::Layers layers = document.layers().value();
  Json json;
  json["all"] = Json::array();
  for (const lumvet::Layer& layer : layers.all)
    json["all"].push_back({{"object", object_name(layer.id)},
                           {"name", layer.name},
                           {"intents", layer.intents},
                           {"creator", layer.usage.creator},
                           {"language", layer.usage.language},
                           {"zoom_from", or_null(layer.usage.zoom_from)},
                           {"zoom_to", or_null(layer.usage.zoom_to)},
                           {"shown_in_view", or_null(layer.usage.shown_in_view)},
                           {"shown_in_print", or_null(layer.usage.shown_in_print)},
                           {"shown_in_export", or_null(layer.usage.shown_in_export)},
                           {"page_element", layer.usage.page_element}});
  json["initial"] = configuration_facts(layers.initial);
  json["others"] = Json::array();
  for (const lumvet::LayerConfiguration& other : layers.others)
    json["others"].push_back(configuration_facts(other));
  return json;
}

Facts tags(const Document& document) {
  lumvet::Structure structure = document.structure().value();
  return {Json{{"marked", structure.is_marked}, {"suspect", structure.is_suspect}}, "elements",
          FactList::of(std::move(structure.elements), element_facts)};
}

}  // namespace tool::facts
