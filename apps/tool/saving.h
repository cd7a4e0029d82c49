// SPDX-License-Identifier: Apache-2.0
// What every verb that writes a document has: where to, in which layout, whether over a file.
#pragma once

#include <functional>
#include <string>

#include <lumvet/edit/editable_document.h>

#include "command_line.h"
#include "console.h"
#include "protecting.h"

namespace tool {

struct Saving {
  std::string output;
  std::string layout = "compact";
  bool replace = false;
  bool keep_times = false;
  bool recompress = false;
  bool appends = false;
  bool only_plans = false;
  bool skips_existing = false;  // outputs that are there already, of several
  Protecting protecting = {};
};

// For changes of a document, which can be appended to its bytes, or only be planned.
void add_change_options(CLI::App& verb, Saving& saving,
                        const std::string& plan = "Print what would be changed, and write nothing");

// Where the help of a verb tells of what all verbs share that write documents.
enum class SavingHelp { in_one_line, in_full };

// All but the output, which is added with them where it is one file.
void add_form_options(CLI::App& verb, Saving& saving, SavingHelp help = SavingHelp::in_one_line);
void add_saving_options(CLI::App& verb, Saving& saving, bool is_required = true);

// Errors: invalid_argument when the output is the input and is not to be appended to.
lumvet::Status check_not_input(const std::string& input, const Saving& saving);

// `progress` outlives them. Errors: io; invalid_argument.
lumvet::Result<lumvet::SaveOptions> options_of(const Saving& saving, ProgressLine& progress);

// For verbs with several outputs: goes on with what an earlier run did not get to.
void add_skip_option(CLI::App& verb, bool& skips);

// Said first, before minutes of work. Errors: exists.
lumvet::Status check_output(const Saving& saving);

// Saves with progress on the terminal, to the output or to standard output, which "-" is.
using Save = std::function<lumvet::Result<lumvet::SaveReport>(lumvet::ByteSink&,
                                                              const lumvet::SaveOptions&)>;
using SaveToFile = std::function<lumvet::Result<lumvet::SaveReport>(const std::filesystem::path&,
                                                                    const lumvet::SaveOptions&)>;
lumvet::Result<lumvet::SaveReport> save_as(const Saving& saving, const Save& to_sink,
                                           const SaveToFile& to_file);

// A document with its changes: whole, or appended to what is there. Errors: as its saves'.
lumvet::Result<lumvet::SaveReport> save_edited(lumvet::EditableDocument& changes,
                                               const std::string& input, const Saving& saving);
// The same, and tells what they were; gives the exit code.
int save_changes(lumvet::EditableDocument& changes, const std::string& input, const Saving& saving,
                 bool json);

}  // namespace tool
