// SPDX-License-Identifier: Apache-2.0
// What is true of the document as a whole.
#include <algorithm>
#include <cmath>

#include <lumvet/linear/linear_check.h>

#include "facts.h"

namespace tool {

Json protection_facts(const lumvet::Encryption& encryption) {
  constexpr const char* kAccess[] = {"locked", "user", "owner"};
  return {{"by", encryption.by_certificate ? "certificate" : "password"},
          {"cipher", encryption.cipher},
          {"key_bits", encryption.key_bits},
          {"revision", encryption.revision},
          {"metadata_encrypted", encryption.encrypts_metadata},
          {"attachments_only", encryption.attachments_only},
          {"access", kAccess[static_cast<int>(encryption.access)]},
          {"allowed", encryption.permissions.allowed()},
          {"refused", encryption.permissions.refused()}};
}

namespace facts {
namespace {

// Pages of one size, as shown.
struct SizeGroup {
  double width = 0;        // points
  double height = 0;       // points
  std::vector<int> pages;  // from 1
};

constexpr double kMillimetersPerPoint = 25.4 / 72;

std::vector<SizeGroup> group_sizes(const lumvet::Document& document) {
  std::vector<SizeGroup> groups;
  for (int i = 0; i < document.page_count(); ++i) {
    const auto page = document.page(i);
    if (!page.ok()) continue;
    const auto same = [&](const SizeGroup& group) {
      return std::abs(group.width - page->width()) < 0.5 &&
             std::abs(group.height - page->height()) < 0.5;
    };
    const auto found = std::find_if(groups.begin(), groups.end(), same);
    if (found != groups.end())
      found->pages.push_back(i + 1);
    else
      groups.push_back({page->width(), page->height(), {i + 1}});
  }
  return groups;
}

}  // namespace

Json box(const lumvet::Rect& rect) { return {rect.left, rect.bottom, rect.right, rect.top}; }

Json page_number(std::optional<int> page) { return page ? Json(*page + 1) : Json(); }

Json destination_facts(const std::optional<lumvet::Destination>& destination) {
  if (!destination) return {};
  constexpr const char* kViews[] = {"XYZ", "Fit", "FitH", "FitV", "FitR", "FitB", "FitBH", "FitBV"};
  return {{"name", destination->name},
          {"page", page_number(destination->page)},
          {"view", kViews[static_cast<int>(destination->view)]},
          {"left", or_null(destination->left)},
          {"top", or_null(destination->top)},
          {"right", or_null(destination->right)},
          {"bottom", or_null(destination->bottom)},
          {"zoom", or_null(destination->zoom)}};
}

Json action_facts(const std::vector<lumvet::Action>& actions) {
  Json all = Json::array();
  for (const lumvet::Action& action : actions) {
    Json one{{"type", action.type}, {"target", action.target}};
    if (action.destination) one["destination"] = destination_facts(action.destination);
    if (!action.fields.empty()) one["fields"] = action.fields;
    for (const lumvet::ObjectId& object : action.objects)
      one["objects"].push_back(object_name(object));
    for (const lumvet::LayerSwitch& layer : action.layers) {
      constexpr const char* kTo[] = {"on", "off", "toggle"};
      one["layers"].push_back(
          {{"object", object_name(layer.layer)}, {"to", kTo[static_cast<int>(layer.to)]}});
    }
    all.push_back(std::move(one));
  }
  return all;
}

namespace {

Json one_trigger_facts(const lumvet::Trigger& trigger) {
  return {{"event", trigger.event}, {"actions", action_facts(trigger.actions)}};
}

Json one_intent_facts(const lumvet::OutputIntent& intent) {
  return {{"subtype", intent.subtype},
          {"identifier", intent.identifier},
          {"condition", intent.condition},
          {"registry", intent.registry},
          {"info", intent.info},
          {"components", intent.components},
          {"has_profile", !intent.profile.is_null()}};
}

}  // namespace

Json trigger_facts(const std::vector<lumvet::Trigger>& triggers) {
  Json all = Json::array();
  for (const lumvet::Trigger& trigger : triggers) all.push_back(one_trigger_facts(trigger));
  return all;
}

namespace {

Json item_facts(const std::vector<lumvet::CollectionItem>& items) {
  Json json = Json::object();
  for (const lumvet::CollectionItem& one : items) json[one.key] = one.value;
  return json;
}

Json collection_facts(const std::optional<lumvet::Collection>& collection) {
  if (!collection) return {};
  constexpr const char* kViews[] = {"details", "tiles", "hidden", "custom"};
  Json json{{"view", kViews[static_cast<int>(collection->view)]},
            {"shown_first", collection->shown_first},
            {"sorted_by", collection->sorted_by}};
  json["fields"] = Json::array();
  for (const lumvet::CollectionField& field : collection->fields)
    json["fields"].push_back({{"key", field.key},
                              {"name", field.name},
                              {"type", field.type},
                              {"visible", field.is_visible}});
  return json;
}

}  // namespace

Facts overview(const lumvet::Document& document) {
  Json json{{"bytes", document.file_size()}, {"page_count", document.page_count()}};
  json["sizes"] = Json::array();
  for (const SizeGroup& group : group_sizes(document))
    json["sizes"].push_back(
        {{"points", {group.width, group.height}},
         {"mm", {group.width * kMillimetersPerPoint, group.height * kMillimetersPerPoint}},
         {"pages", group.pages}});
  json["version"] = document.version();
  json["extensions"] = Json::array();
  for (const lumvet::Extension& extension : document.extensions().value())
    json["extensions"].push_back({{"prefix", extension.prefix},
                                  {"base_version", extension.base_version},
                                  {"level", extension.level},
                                  {"revision", extension.revision},
                                  {"url", extension.url}});
  json["language"] = document.language().value();
  json["requirements"] = Json::array();
  for (const lumvet::Requirement& requirement : document.requirements().value())
    json["requirements"].push_back({{"type", requirement.type}, {"penalty", requirement.penalty}});
  json["collection"] = collection_facts(document.collection().value());
  json["linearized"] = document.is_linearized();
  const lumvet::LinearCheck check = lumvet::check_linearized(document).value();
  json["was_linearized"] = check.state == lumvet::LinearCheck::State::was_once;
  json["linear_differences"] = check.differences;
  json["repaired"] = document.was_repaired();
  json["revisions"] = Json::array();
  for (const lumvet::Revision& revision : document.revisions().value())
    json["revisions"].push_back({{"bytes", revision.size}});
  return json;
}

Facts properties(const lumvet::Document& document) {
  const lumvet::Metadata metadata = document.metadata().value();
  const lumvet::DocumentInfo& info = metadata.properties;
  return Json{{"title", info.title},
              {"author", info.author},
              {"subject", info.subject},
              {"keywords", info.keywords},
              {"creator", info.creator},
              {"producer", info.producer},
              {"created", info.created},
              {"modified", info.modified},
              {"conformance", metadata.conformance},
              {"disagreements", metadata.disagreements}};
}

Facts protection(const lumvet::Document& document) {
  const auto encryption = document.encryption();
  return encryption ? protection_facts(*encryption) : Json();
}

Facts view(const lumvet::Document& document) {
  constexpr const char* kLayouts[] = {"single page",           "one column",
                                      "two columns, odd left", "two columns, odd right",
                                      "two pages, odd left",   "two pages, odd right"};
  constexpr const char* kModes[] = {"none",        "outline", "thumbnails",
                                    "full screen", "layers",  "attachments"};
  constexpr const char* kDuplex[] = {"unstated", "simplex", "flip short edge", "flip long edge"};
  const lumvet::OpeningView view = document.opening_view().value();
  Json ranges = Json::array();
  for (const auto& [first, last] : view.print_pages) ranges.push_back({first + 1, last + 1});
  return Json{
      {"layout", kLayouts[static_cast<int>(view.layout)]},
      {"mode", kModes[static_cast<int>(view.mode)]},
      {"mode_after_full_screen", kModes[static_cast<int>(view.mode_after_full_screen)]},
      {"destination", destination_facts(view.destination)},
      {"actions", action_facts(view.actions)},
      {"hide_toolbar", view.hide_toolbar},
      {"hide_menubar", view.hide_menubar},
      {"hide_controls", view.hide_controls},
      {"fit_window", view.fit_window},
      {"center_window", view.center_window},
      {"title_in_window", view.title_in_window},
      {"right_to_left", view.right_to_left},
      {"view_area", view.view_area},
      {"view_clip", view.view_clip},
      {"print_area", view.print_area},
      {"print_clip", view.print_clip},
      {"print_scaling", view.print_scaling == lumvet::PrintScaling::none ? "none" : "as viewer"},
      {"duplex", kDuplex[static_cast<int>(view.duplex)]},
      {"tray_by_page_size", or_null(view.tray_by_page_size)},
      {"print_pages", ranges},
      {"copies", view.copies},
      {"enforced", view.enforced}};
}

namespace {

Json entry_facts(const lumvet::OutlineEntry& entry) {
  return {{"title", entry.title},
          {"depth", entry.depth},
          {"page", page_number(entry.page)},
          {"open", entry.is_open},
          {"bold", entry.bold},
          {"italic", entry.italic},
          {"color", entry.color},
          {"destination", destination_facts(entry.destination)},
          {"actions", action_facts(entry.actions)}};
}

Json named_destination_facts(const lumvet::Destination& destination) {
  return destination_facts(destination);
}

Json article_facts(const lumvet::Article& article) {
  Json json{{"title", article.properties.title},
            {"author", article.properties.author},
            {"subject", article.properties.subject},
            {"keywords", article.properties.keywords}};
  json["parts"] = Json::array();
  for (const lumvet::ArticlePart& part : article.parts)
    json["parts"].push_back({{"page", page_number(part.page)}, {"area", box(part.area)}});
  return json;
}

Json attachment_facts(const lumvet::Attachment& attachment) {
  constexpr const char* kFrom[] = {"document", "annotation", "associated"};
  return {{"name", attachment.name},
          {"description", attachment.description},
          {"bytes", or_null(attachment.size)},
          {"media_type", attachment.media_type},
          {"relationship", attachment.relationship},
          {"payload", attachment.payload},
          {"items", item_facts(attachment.items)},
          {"created", attachment.created},
          {"modified", attachment.modified},
          {"from", kFrom[static_cast<int>(attachment.from)]},
          {"page", page_number(attachment.page)}};
}

}  // namespace

Facts outline(const lumvet::Document& document) { return outline_list(document.outline().value()); }

FactList outline_list(std::vector<lumvet::OutlineEntry> entries) {
  return FactList::of(std::move(entries), entry_facts);
}

Facts destinations(const lumvet::Document& document) {
  return FactList::of(document.named_destinations().value(), named_destination_facts);
}

Facts triggers(const lumvet::Document& document) {
  return FactList::of(document.triggers().value(), one_trigger_facts);
}

Json intent_facts(const std::vector<lumvet::OutputIntent>& intents) {
  Json json = Json::array();
  for (const lumvet::OutputIntent& intent : intents) json.push_back(one_intent_facts(intent));
  return json;
}

Facts intents(const lumvet::Document& document) {
  return FactList::of(document.output_intents().value(), one_intent_facts);
}

Facts articles(const lumvet::Document& document) {
  return FactList::of(document.articles().value(), article_facts);
}

Facts attachments(const lumvet::Document& document) {
  return attachment_list(document.attachments().value());
}

FactList attachment_list(std::vector<lumvet::Attachment> files) {
  return FactList::of(std::move(files), attachment_facts);
}

Facts findings(const lumvet::Document& document) {
  return FactList::of(document.findings(), finding_facts);
}

}  // namespace facts
}  // namespace tool
