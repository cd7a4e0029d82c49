// SPDX-License-Identifier: Apache-2.0
// The facts of each section, as docs/inspect.md describes them.
#pragma once

#include "sections.h"

namespace tool::facts {

Facts overview(const lumvet::Document& document);
Facts properties(const lumvet::Document& document);
Facts protection(const lumvet::Document& document);  // null when it is not protected
Facts view(const lumvet::Document& document);
Facts outline(const lumvet::Document& document);
FactList outline_list(std::vector<lumvet::OutlineEntry> entries);
Facts destinations(const lumvet::Document& document);
Facts triggers(const lumvet::Document& document);
Facts intents(const lumvet::Document& document);
Json intent_facts(const std::vector<lumvet::OutputIntent>& intents);
Facts articles(const lumvet::Document& document);
Facts attachments(const lumvet::Document& document);
FactList attachment_list(std::vector<lumvet::Attachment> files);
Facts findings(const lumvet::Document& document);

Facts pages(const lumvet::Document& document);
Facts fonts(const lumvet::Document& document);
FactList font_list(std::vector<lumvet::FontUse> uses);
Facts images(const lumvet::Document& document);
Facts annotations(const lumvet::Document& document);
Facts form(const lumvet::Document& document);  // its fields are the list
Facts layers(const lumvet::Document& document);
Facts tags(const lumvet::Document& document);  // its elements are the list

// Shared by both files: null for what is not there, pages from 1, objects as "12 0", boxes as four
// numbers.
Json page_number(std::optional<int> page);
Json box(const lumvet::Rect& rect);
Json destination_facts(const std::optional<lumvet::Destination>& destination);
Json action_facts(const std::vector<lumvet::Action>& actions);
Json trigger_facts(const std::vector<lumvet::Trigger>& triggers);

// What `read` gives; an error of it names the section that it was read for.
template <typename Read>
auto reading(const char* section, const Read& read) {
  try {
    return read();
  } catch (const lumvet::ResultError& error) {
    throw lumvet::ResultError(
        lumvet::Error(error.error()).during("reading its " + std::string(section)));
  }
}

template <typename Value>
Json or_null(const std::optional<Value>& value) {
  return value ? Json(*value) : Json();
}

}  // namespace tool::facts
