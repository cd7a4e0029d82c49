// SPDX-License-Identifier: Apache-2.0
// The part of a brief that says how things look: the document's options, fonts, named styles that
// build on each other.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <string>

#include "compose/brief_node.h"
#include "lumvet/compose/brief.h"

namespace lumvet::compose {

// Letters and paragraphs together, as styles of a brief say both.
struct Look {
  TextStyle letters;
  ParagraphStyle paragraph;
};

class BriefStyles {
 public:
  // Reads all but the blocks. Throws as BriefNode does.
  BriefStyles(const BriefNode& brief, const BriefOptions& options);

  const FlowOptions& document() const { return document_; }
  bool has(const std::string& name) const { return looks_.contains(name); }
  // Of a style that is there; the plain one for one of the known names that is not described.
  const Look& look(const std::string& name) const;
  // The same, told where the name stands.
  const Look& look(const BriefNode& name) const;
  // To letters, what a style says otherwise than the body; in headings bold and italic letters are
  // of the headings' family.
  void add(const std::string& name, bool is_heading, TextStyle& letters) const;
  Typeface face(const BriefNode& name) const;
  Page first_page(const BriefNode& name) const;
  static Color color(const BriefNode& text);

 private:
  void read_document(const BriefNode& brief);
  void read_style(const std::string& name, const BriefNode& styles, int depth);
  void apply(const BriefNode& style, Look& look) const;
  void add_defaults();
  // "strong", "emphasis" or "strong_emphasis" of a family, where the system has it.
  Typeface variant(const Typeface& face, const std::string& name) const;

  BriefOptions options_;
  FlowOptions document_;
  std::map<std::string, Look> looks_;
};

}  // namespace lumvet::compose
