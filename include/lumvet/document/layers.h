// SPDX-License-Identifier: Apache-2.0
// Layers, which the standard calls optional content groups (ISO 32000-2, 8.11).
//
//   const lumvet::Layers layers = document.layers().value();
//   for (const lumvet::LayerLine& line : layers.initial.order) show(line);
//
// Threads: values. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/base/error.h"

namespace lumvet {

// What a page is drawn for: layers and annotations may show differently.
enum class Purpose { view, print, exporting };

// What a layer is for, as it says itself (8.11.4.4).
struct LayerUsage {
  std::string creator = {};                // the program that made it
  std::string subtype = {};                // "Artwork", "Technical"
  std::string language = {};               // "es-MX"
  bool language_preferred = false;         // when no layer fits the person's language exactly
  std::optional<double> zoom_from = {};    // 1 is 100 %
  std::optional<double> zoom_to = {};      // the first zoom at which it is not to be seen
  std::optional<bool> shown_in_view = {};  // the states recommended for each purpose
  std::optional<bool> shown_in_print = {};
  std::optional<bool> shown_in_export = {};
  std::string print_subtype = {};       // "Watermark", "Trapping"
  std::string user_kind = {};           // "Ind", "Ttl" or "Org"
  std::vector<std::string> users = {};  // whom it is for
  std::string page_element = {};        // "HF", "FG", "BG" or "L"
};

struct Layer {
  ObjectId id = {};
  std::string name = {};                  // UTF-8
  std::vector<std::string> intents = {};  // "View", "Design"
  LayerUsage usage = {};
};

// One line of the list in which a viewer shows layers.
struct LayerLine {
  int depth = 0;                  // 0 for the outermost
  std::optional<int> layer = {};  // its place in Layers::all; nothing for a heading
  std::string heading = {};       // UTF-8
};

// When the states recommended by usage apply by themselves (8.11.4.5).
struct LayerAutomation {
  std::string event = {};                    // "View", "Print", "Export"
  std::vector<std::string> categories = {};  // of the usage: "Zoom", "Print"
  std::vector<int> layers = {};              // places in Layers::all
};

struct LayerConfiguration {
  enum class BaseState { on, off, unchanged };

  std::string name = {};
  std::string creator = {};
  BaseState base = BaseState::on;
  std::vector<bool> visible = {};  // of each of Layers::all; unchanged counts as the initial state
  std::vector<bool> locked = {};   // of each of Layers::all: not for a person to switch
  std::vector<std::string> intents = {};
  std::vector<LayerLine> order = {};
  std::vector<std::vector<int>> one_of = {};  // layers of which at most one is to be on
  std::vector<LayerAutomation> automations = {};
  bool lists_visible_pages_only = false;
};

struct Layers {
  std::vector<Layer> all = {};
  LayerConfiguration initial = {};  // that of a document just opened
  std::vector<LayerConfiguration> others = {};
};

}  // namespace lumvet
