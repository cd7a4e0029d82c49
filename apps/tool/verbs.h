// SPDX-License-Identifier: Apache-2.0
// One function per verb: each adds its options to the command line and says what to run.
#pragma once

#include <functional>

#include "command_line.h"

namespace tool {

// Gives the exit code.
using Run = std::function<int()>;

void add_inspect(CLI::App& app, Run& run);
void add_render(CLI::App& app, Run& run);
void add_text(CLI::App& app, Run& run);
void add_find(CLI::App& app, Run& run);
void add_merge(CLI::App& app, Run& run);
void add_split(CLI::App& app, Run& run);
void add_arrange(CLI::App& app, Run& run);
void add_annotate(CLI::App& app, Run& run);
void add_fill(CLI::App& app, Run& run);
void add_redact(CLI::App& app, Run& run);
void add_attach(CLI::App& app, Run& run);
void add_set(CLI::App& app, Run& run);
void add_sign(CLI::App& app, Run& run);
void add_verify(CLI::App& app, Run& run);
void add_prolong(CLI::App& app, Run& run);
void add_trust(CLI::App& app, Run& run);
void add_linearize(CLI::App& app, Run& run);
void add_protect(CLI::App& app, Run& run);
void add_repair(CLI::App& app, Run& run);
void add_compose(CLI::App& app, Run& run);
void add_help(CLI::App& app, Run& run);

}  // namespace tool
