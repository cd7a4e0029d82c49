// SPDX-License-Identifier: Apache-2.0
#include "saving.h"

#include "console.h"
#include "files.h"

namespace tool {

void add_saving_options(CLI::App& verb, Saving& saving) {
  verb.add_option("-o,--output", saving.output, "The new document; - is standard output")
      ->required()
      ->type_name("FILE");
  verb.add_option("--layout", saving.layout,
                  "compact (small), or classic for readers older than 2003")
      ->check(CLI::IsMember({"compact", "classic"}))
      ->type_name("LAYOUT");
  verb.add_flag("--replace", saving.replace, "Replace the output if it is already there");
}

lumvet::Status check_output(const Saving& saving) {
  std::error_code ignored;
  if (saving.output != "-" && !saving.replace && std::filesystem::exists(saving.output, ignored))
    return lumvet::Error(lumvet::ErrorCode::exists,
                         saving.output + " is already there; nothing was written");
  return lumvet::Done{};
}

lumvet::Result<lumvet::SaveReport> save_as(const Saving& saving, const Save& to_sink,
                                           const SaveToFile& to_file) {
  ProgressLine progress("writing object");
  const lumvet::SaveOptions options{
      .layout =
          saving.layout == "classic" ? lumvet::FileLayout::classic : lumvet::FileLayout::compact,
      .replace = saving.replace,
      .progress = [&progress](std::uint64_t done, std::uint64_t total) {
        progress.update(done, total);
      }};
  if (saving.output != "-") return to_file(saving.output, options);
  lumvet::BufferSink sink;
  LUMVET_TRY(lumvet::SaveReport report, to_sink(sink, options));
  LUMVET_CHECK(StandardOutput().write(sink.bytes()));
  return report;
}

}  // namespace tool
