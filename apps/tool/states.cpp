// SPDX-License-Identifier: Apache-2.0
#include "states.h"

#include <algorithm>
#include <cctype>
#include <filesystem>
#include <iostream>

#include <lumvet/compare/comparison.h>
#include <lumvet/save/save.h>

#include "console.h"
#include "files.h"
#include "page_list.h"
#include "saving.h"

namespace tool {
namespace {

// Its place among them. Errors: invalid_argument; as Document::revisions'.
lumvet::Result<std::size_t> place_of(const std::vector<lumvet::Revision>& states,
                                     const std::string& number, const std::string& input) {
  const bool is_number = !number.empty() && number.size() < 8 &&
                         number.find_first_not_of("0123456789") == std::string::npos;
  const std::size_t wanted = is_number ? std::stoul(number) : 0;
  if (wanted >= 1 && wanted <= states.size()) return wanted - 1;
  return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                       "there is no state '" + number + "'; " + input + " has " +
                           count_of(states.size(), "state", "states"));
}

// Before anything else is done: the document that is judged is never written over.
int check(const std::string& input, const StateChoice& choice) {
  Saving saving;
  saving.output = choice.output;
  saving.replace = choice.replace;
  if (const auto free = check_output(saving); !free.ok()) return fail(free.error());
  const auto other = check_not_input(input, saving);
  return other.ok() ? kDone : refuse(other.error());
}

std::vector<std::string> notes_on(const std::vector<lumvet::SignatureJudgement>& signatures,
                                  std::size_t state) {
  std::vector<std::string> notes;
  for (const auto& signature : signatures) {
    if (signature.revision != static_cast<int>(state)) continue;
    const auto time = signature.proven_time ? signature.proven_time : signature.claimed_time;
    std::string note = signature.signer.empty() ? "Somebody" : signature.signer;
    note += signature.is_timestamp ? " stamped this state" : " signed this state";
    if (time) note += " on " + time_text(*time);
    notes.push_back(note + ": " + name_of(signature.verdict) + ".");
    for (std::string reason : signature.reasons) {
      reason[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(reason[0])));
      notes.push_back(reason + ".");
    }
    for (const lumvet::LaterChange& change : signature.changes)
      notes.push_back("Since then: " + change.what + ".");
  }
  return notes;
}

// The first bytes of a source.
lumvet::Status copy_start(const lumvet::ByteSource& source, std::uint64_t size,
                          lumvet::ByteSink& sink) {
  constexpr std::uint64_t kPart = 1 << 20;
  for (std::uint64_t at = 0; at < size; at += kPart) {
    LUMVET_TRY(const lumvet::ByteSlice part, source.slice(at, std::min(kPart, size - at)));
    LUMVET_RETURN_IF_ERROR(sink.write(part.view()));
  }
  return lumvet::Done{};
}

}  // namespace

int write_state(const lumvet::Document& document, const std::string& input,
                const StateChoice& choice) {
  if (const int code = check(input, choice); code != kDone) return code;
  const auto states = document.revisions();
  if (!states.ok()) return fail(states.error());
  const auto place = place_of(*states, choice.number, input);
  if (!place.ok()) return refuse(place.error());
  const auto source = lumvet::open_file_source(input);
  if (!source.ok()) return fail(source.error());
  auto file = lumvet::AtomicFile::create(
      choice.output, choice.replace ? lumvet::IfExists::replace : lumvet::IfExists::refuse);
  if (!file.ok()) return fail(file.error());
  const std::uint64_t size = (*states)[*place].size;
  if (const auto done = copy_start(**source, size, *file); !done.ok()) return fail(done.error());
  if (const auto done = file->commit(); !done.ok()) return fail(done.error());
  std::cout << choice.output << "  state " << *place + 1 << " of " << states->size() << ", "
            << size_for_people(size) << '\n';
  return kDone;
}

int lay_beside(const lumvet::Document& document, const std::string& input,
               const StateChoice& choice,
               const std::vector<lumvet::SignatureJudgement>& signatures) {
  if (const int code = check(input, choice); code != kDone) return code;
  const auto states = document.revisions();
  if (!states.ok()) return fail(states.error());
  const auto place = place_of(*states, choice.number, input);
  if (!place.ok()) return refuse(place.error());
  const auto before = document.revision(static_cast<int>(*place));
  if (!before.ok()) return fail(before.error());
  ProgressLine line("comparing page");
  const auto pages = lumvet::compare_pages(
      *before, document,
      {.cancel = interruption(),
       .progress = [&](std::uint64_t done, std::uint64_t total) { line.update(done, total); }});
  if (!pages.ok()) return fail(pages.error());
  const std::string number = std::to_string(*place + 1);
  const auto sheets =
      lumvet::side_by_side(*before, document, *pages,
                           {.title = std::filesystem::path(input).filename().string() + ": state " +
                                     number + " and today's",
                            .language = "en",
                            .before = "State " + number,
                            .after = "Today",
                            .notes = notes_on(signatures, *place)});
  if (!sheets.ok()) return fail(sheets.error());
  const auto saved = lumvet::save(*sheets, choice.output, {.replace = choice.replace});
  if (!saved.ok()) return fail(saved.error());
  std::vector<int> differing;
  for (const lumvet::PageComparison& each : *pages)
    if (!each.is_same()) differing.push_back(each.after ? *each.after : *each.before);
  std::cout << choice.output << "  state " << number << " of " << states->size()
            << " beside today's: "
            << (differing.empty() ? "no page shows anything else"
                                  : pages_for_people(differing) +
                                        (differing.size() == 1 ? " differs" : " differ"))
            << '\n';
  return kDone;
}

}  // namespace tool
