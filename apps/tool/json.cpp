// SPDX-License-Identifier: Apache-2.0
#include "json.h"

#include <cmath>
#include <iostream>

namespace tool {

std::string object_name(lumvet::ObjectId id) {
  return std::to_string(id.number) + " " + std::to_string(id.generation);
}

Json finding_facts(const lumvet::Finding& finding) {
  return {{"text", finding.to_string()},
          {"offset", finding.offset ? Json(*finding.offset) : Json()},
          {"object", finding.object ? Json(object_name(*finding.object)) : Json()}};
}

Json findings_json(const std::vector<lumvet::Finding>& findings) {
  Json json = Json::array();
  for (const lumvet::Finding& finding : findings) json.push_back(finding_facts(finding));
  return json;
}

double rounded(double points) {
  constexpr double kParts = 100;
  return std::round(points * kParts) / kParts;
}

Json quad_json(const lumvet::Quad& quad) {
  Json corners = Json::array();
  for (const lumvet::Point corner : quad) corners.push_back({rounded(corner.x), rounded(corner.y)});
  return corners;
}

void print_json(const Json& json) {
  std::cout << json.dump(2, ' ', false, Json::error_handler_t::replace) << '\n';
}

void print_json_line(const Json& json) {
  std::cout << json.dump(-1, ' ', false, Json::error_handler_t::replace) << '\n' << std::flush;
}

}  // namespace tool
