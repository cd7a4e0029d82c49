// SPDX-License-Identifier: Apache-2.0
// Verbs that write every document they are given anew: one, many, those of a folder, or those
// that arrive in one.
#pragma once

#include <string>
#include <vector>

#include "command_line.h"
#include "inspect/comparison.h"
#include "saving.h"
#include "secrets.h"

namespace tool {

struct Batch {
  std::vector<std::string> inputs;
  bool json = false;
  bool watches = false;
  bool once = false;
  double settles = 2;  // seconds
  std::string failed;  // a folder
  Saving saving;
  Secrets secrets;
  Comparison comparison;
};

// How a document is saved.
struct BatchWork {
  lumvet::Result<lumvet::SaveReport> (*to_sink)(const lumvet::Document&, lumvet::ByteSink&,
                                                const lumvet::SaveOptions&);
  lumvet::Result<lumvet::SaveReport> (*to_file)(const lumvet::Document&,
                                                const std::filesystem::path&,
                                                const lumvet::SaveOptions&);
  bool tells_damage = false;  // as what a person wants to know
};

void add_batch_options(CLI::App& verb, Batch& batch);

// Gives the exit code.
int run_batch(const Batch& batch, const BatchWork& work);

}  // namespace tool
