// SPDX-License-Identifier: Apache-2.0
// What the tool prints for programs: keys in the order of writing, one key for one thing.
#pragma once

#include <nlohmann/json.hpp>
#include <string>
#include <vector>

#include <lumvet/base/findings.h>
#include <lumvet/geometry/quad.h>

namespace tool {

using Json = nlohmann::ordered_json;

std::string object_name(lumvet::ObjectId id);  // "12 0"

// An object with "text", "offset" and "object".
Json finding_facts(const lumvet::Finding& finding);
Json findings_json(const std::vector<lumvet::Finding>& findings);

// Points to a hundredth.
double rounded(double points);
// Four corners, each two numbers: points from the top left corner of the page as shown.
Json quad_json(const lumvet::Quad& quad);

// On standard output, over several lines. Names inside documents may be no valid text; what cannot
// be shown is replaced, not refused.
void print_json(const Json& json);
// The same on one line.
void print_json_line(const Json& json);

}  // namespace tool
