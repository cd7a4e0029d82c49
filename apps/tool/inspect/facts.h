// SPDX-License-Identifier: Apache-2.0
// The facts of each section, as docs/inspect.md describes them.
#pragma once

#include "sections.h"

namespace tool::facts {

Json overview(const lumvet::Document& document);
Json properties(const lumvet::Document& document);
Json protection(const lumvet::Document& document);  // null when it is not protected
Json view(const lumvet::Document& document);
Json outline(const lumvet::Document& document);
Json outline(const std::vector<lumvet::OutlineEntry>& entries);
Json destinations(const lumvet::Document& document);
Json triggers(const lumvet::Document& document);
Json intents(const lumvet::Document& document);
Json intent_facts(const std::vector<lumvet::OutputIntent>& intents);
Json articles(const lumvet::Document& document);
Json attachments(const lumvet::Document& document);
Json attachments(const std::vector<lumvet::Attachment>& files);
Json findings(const lumvet::Document& document);

Json pages(const lumvet::Document& document);
Json fonts(const lumvet::Document& document);
Json fonts(const std::vector<lumvet::FontUse>& uses);
Json images(const lumvet::Document& document);
Json annotations(const lumvet::Document& document);
Json form(const lumvet::Document& document);
Json layers(const lumvet::Document& document);
Json tags(const lumvet::Document& document);

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
