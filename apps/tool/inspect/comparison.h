// SPDX-License-Identifier: Apache-2.0
// Documents side by side: what their bytes are spent on, and how they load over a connection.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include <lumvet/linear/loading.h>

#include "../command_line.h"
#include "sections.h"

namespace tool {

// A document with the name it goes by.
using Named = std::pair<std::string, lumvet::Document>;

// As it is asked for on the command line.
struct Comparison {
  bool sizes = false;
  bool loading = false;
  std::string pages;
  double round_trip = lumvet::Connection().round_trip;
  double speed = lumvet::Connection().speed;
  std::string image;  // a file
  bool replace = false;

  // Who describes a connection, or names pages, means it too.
  bool wants_loading() const {
    return loading || !image.empty() || !pages.empty() ||
           round_trip != lumvet::Connection().round_trip || speed != lumvet::Connection().speed;
  }
  bool is_asked() const { return sizes || wants_loading(); }
};

void add_comparison_options(CLI::App& verb, Comparison& comparison);

// Prints tables, or sets keys of the facts of each document, and draws the image.
lumvet::Status compare(const std::vector<Named>& documents, const Comparison& comparison,
                       std::ostream& out);
lumvet::Status compare(const std::vector<Named>& documents, const Comparison& comparison,
                       std::vector<Json>& facts);

}  // namespace tool
