// SPDX-License-Identifier: Apache-2.0
// Documents described as data: a brief in JSON, or a text in CommonMark with a style.
//
//   const lumvet::Flow bill = lumvet::flow_of_brief(
//       R"({"title": "Costs", "blocks": [{"heading": "Costs"}, {"paragraph": "900"}]})").value();
//   bill.save("costs.pdf").value();
//
// brief_schema() says what a brief may hold; docs/brief.md says what it means. Errors tell the
// line, the column and the path of what is wrong in it. Threads: free functions. Since: 0.2
#pragma once

#include <filesystem>
#include <string>
#include <string_view>

#include "lumvet/compose/flow.h"

namespace lumvet {

struct BriefOptions {
  // What {words} in braces and "each" stand for: a JSON object of values and of lists of rows, or a
  // list alone, which is called "rows". Without any, braces are braces.
  std::string data = {};
  // From which pictures and fonts are named; the current one for none. A brief can name any file
  // that the program may read.
  std::filesystem::path folder = {};
  FontSupply fonts = FontSupply();
  Limits limits = {};  // of pictures, and of how deep things lie within each other
};

// Errors: malformed for what is no JSON; invalid_argument for unknown keys, with the nearest one
// that there is, for values of another kind than wanted, and for words in braces that mean nothing;
// limit for a brief that says more than 1,000,000 blocks; as Picture::load's and Typeface::named's.
LUMVET_EXPORT Result<Flow> flow_of_brief(std::string_view brief, const BriefOptions& options = {});

// `style` is a brief without blocks, of which the styles "body", "strong", "emphasis", "code",
// "quote" and "link" are used; empty for none. HTML within the text is left out. Errors: as above.
LUMVET_EXPORT Result<Flow> flow_of_commonmark(std::string_view text, std::string_view style = {},
                                              const BriefOptions& options = {});

// A JSON Schema (draft 2020-12).
LUMVET_EXPORT std::string_view brief_schema();

// A table with a head, as data for BriefOptions: rows of texts by the names in the first row (RFC
// 4180, with commas or semicolons). Errors: malformed, with the line, for rows of another length
// than the first and for quotes that do not end.
LUMVET_EXPORT Result<std::string> data_of_csv(std::string_view csv);

}  // namespace lumvet
