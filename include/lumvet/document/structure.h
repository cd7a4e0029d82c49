// SPDX-License-Identifier: Apache-2.0
// The structure tree: what the content is, apart from its looks (ISO 32000-2, 14.7 to 14.9).
//
//   const lumvet::Structure structure = document.structure().value();
//   for (const lumvet::StructureElement& element : structure.elements)  // in reading order
//     std::cout << std::string(element.depth, ' ') << element.role << '\n';
//
// Threads: values. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/objects/object.h"

namespace lumvet {

// What an element holds, in reading order.
struct StructurePart {
  enum class Kind {
    element,         // another one
    marked_content,  // of a page's content
    object,          // an annotation or an image
  };

  Kind kind = Kind::element;
  int element = -1;              // its place in Structure::elements
  int mark = -1;                 // the number of the marked content
  std::optional<int> page = {};  // from 0: where the content or the object is
  ObjectId object = {};  // itself; of marked content the form it is in, 0 0 for the page's own
};

// What is said of an element for those who lay it out anew, read it aloud or convert it (14.7.6,
// 14.8.5).
struct StructureAttribute {
  std::string owner = {};     // "Layout", "Table"; of a name space its name
  std::string name = {};      // "Width", "Scope"
  Object value = {};          // references followed
  std::string of_class = {};  // the class that says it; empty for the element itself
};

struct StructureElement {
  ObjectId id = {};       // 0 0 when it stands in no object of its own
  std::string type = {};  // as the file names it: "Chapter"
  std::string role = {};  // the standard type it stands for: "Sect"; the type where none is known
  std::string name_space = {};   // of the type, for documents that use several (14.8.6)
  int parent = -1;               // its place in Structure::elements; -1 below the root
  int depth = 0;                 // 0 below the root
  std::optional<int> page = {};  // from 0; where its content begins, as stated
  std::string title = {};        // UTF-8, as everything below
  std::string language = {};     // its own, or that of what it lies in: "de-AT"
  std::string alternate = {};    // a description instead of the content (14.9.3)
  std::string actual_text = {};  // what the content reads (14.9.4)
  std::string expansion = {};    // of an abbreviation (14.9.5)
  std::vector<std::string> classes = {};
  // Those of its classes first, its own behind them: of two that say the same the last one counts.
  std::vector<StructureAttribute> attributes = {};
  std::vector<StructurePart> parts = {};
};

struct Structure {
  bool is_marked = false;   // the document claims to be tagged (14.7.1)
  bool is_suspect = false;  // and that the tags may be wrong
  bool has_user_properties = false;
  std::vector<StructureElement> elements = {};  // each before what it holds
};

}  // namespace lumvet
