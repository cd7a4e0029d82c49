// SPDX-License-Identifier: Apache-2.0
// A redacted document held against what was to go.
#include <algorithm>
#include <set>

#include "base/attempt.h"
#include "document/inside.h"
#include "filters/stream_decoder.h"
#include "lumvet/redact/redaction.h"
#include "objects/text_string.h"
#include "redact/cut_content.h"
#include "redact/drawn_marks.h"
#include "redact/redaction_spots.h"
#include "redact/said_elsewhere.h"

namespace lumvet {
namespace {

class ProofReader {
 public:
  ProofReader(const Document& saved, const RedactRequest& request, const RedactReport& report)
      : saved_(saved), store_(store_of(saved)), request_(request), report_(report) {}

  Result<RedactProof> read() {
    for (const TextSearch& search : request_.searches) needles_.add(search);
    redacting::Needles searched = needles_;
    for (const std::string& words : report_.removed) {
      LUMVET_TRY(const bool is_searched, searched.are_in(words));
      (is_searched ? searched_ : taken_).insert(words);
      LUMVET_RETURN_IF_ERROR(needles_.add_words(words));
      if (!is_searched) LUMVET_RETURN_IF_ERROR(words_.add_words(words));
    }
    LUMVET_TRY(const std::vector<Revision> revisions, saved_.revisions());
    proof_.revisions = static_cast<int>(revisions.size());
    if (proof_.revisions > 1)
      proof_.left.push_back({"the file still holds an earlier state of the document", {}, {}});
    for (const RedactArea& area : report_.areas) LUMVET_RETURN_IF_ERROR(read_areas(area));
    LUMVET_RETURN_IF_ERROR(read_pages());
    LUMVET_RETURN_IF_ERROR(read_texts());
    LUMVET_RETURN_IF_ERROR(read_streams());
    return std::move(proof_);
  }

 private:
  // Letters that could still be taken out.
  Status read_areas(const RedactArea& area) {
    LUMVET_TRY(const Page page, saved_.page(area.page));
    std::vector<redacting::Polygon> polygons;
    polygons.reserve(area.quads.size());
    for (const Quad& quad : area.quads)
      polygons.push_back(redacting::shown_spot(page, quad, {}).corners);
    file::Ledger unused(core_of(saved_).shared_store());
    redacting::CutRecord record;
    redacting::ContentCutter cutter(core_of(saved_), unused, redacting::Areas(polygons), record);
    LUMVET_TRY([[maybe_unused]] const auto cut, cutter.cut_page(page));
    for (const std::string& text : record.texts) {
      if (is_of_look(text)) continue;
      proof_.left.push_back({"page " + std::to_string(area.page + 1) + " still has '" + text +
                                 "' in an area that was redacted",
                             {},
                             page.id()});
    }
    return Done{};
  }

  // Nothing but what was written over the places, once or several times.
  bool is_of_look(std::string text) const {
    for (const std::string& written : report_.written)
      for (std::size_t at = text.find(written); at != std::string::npos; at = text.find(written))
        text.erase(at, written.size());
    return text.find_first_not_of(' ') == std::string::npos;
  }

  Status read_pages() {
    std::vector<int> pages;
    pages.reserve(static_cast<std::size_t>(saved_.page_count()));
    for (int i = 0; i < saved_.page_count(); ++i) pages.push_back(i);
    proof_.pages = saved_.page_count();
    if (needles_.is_empty()) return Done{};
    LUMVET_TRY(const Document shown,
               redacting::with_marks_drawn(saved_, redacting::HiddenMarks::drawn));
    for (const TextSearch& search : request_.searches) {
      LUMVET_TRY(const std::vector<int> chosen, request_.pages.in(saved_.page_count()));
      const std::set<int> meant(chosen.begin(), chosen.end());
      LUMVET_RETURN_IF_ERROR(find_in(shown, pages, search, {}, [&](const PageHits& found) {
        auto& list = meant.contains(found.page) ? proof_.left : proof_.elsewhere;
        list.push_back(
            {"page " + std::to_string(found.page + 1) + " still has what was searched for",
             {},
             {}});
        return Status(Done{});
      }));
    }
    if (words_.is_empty()) return Done{};
    return read_pages_for_words(shown, pages);
  }

  Status read_pages_for_words(const Document& shown, const std::vector<int>& pages) {
    return lumvet::read_pages(shown, pages, {}, [&](int index, const PageWords& words) -> Status {
      LUMVET_TRY(const bool are_there, words_.are_in(words.text()));
      if (are_there)
        proof_.elsewhere.push_back(
            {"page " + std::to_string(index + 1) + " has words that were taken out elsewhere",
             {},
             {}});
      return Done{};
    });
  }

  Status read_texts() {
    file::Ledger unused(core_of(saved_).shared_store());
    LUMVET_TRY([[maybe_unused]] const int changed,
               redacting::change_texts(
                   unused, saved_.trailer(), store_.limits(),
                   [&](const std::string& text) -> Result<std::optional<std::string>> {
                     ++proof_.texts;
                     LUMVET_TRY(const bool are_there, needles_.are_in(text));
                     if (are_there)
                       proof_.left.push_back({"a text outside of the pages still says it", {}, {}});
                     return std::optional<std::string>();
                   }));
    return Done{};
  }

  // Words as they are, in one byte or two for each letter.
  static std::vector<std::string> forms_of(const std::set<std::string>& all) {
    std::vector<std::string> forms;
    for (const std::string& words : all) {
      constexpr std::size_t kLeast = 6;  // letters that no bytes have by chance
      if (words.size() < kLeast) continue;
      forms.push_back(words);
      std::string wide;
      for (const char16_t unit : objects::utf8_to_utf16(words)) {
        wide += static_cast<char>(unit >> 8);
        wide += static_cast<char>(unit & 0xFF);
      }
      forms.push_back(std::move(wide));
    }
    return forms;
  }

  // In all that can be unpacked.
  Status read_streams() {
    const auto has = [](std::string_view text, const std::vector<std::string>& forms) {
      return std::any_of(forms.begin(), forms.end(), [&](const std::string& form) {
        return text.find(form) != std::string_view::npos;
      });
    };
    const std::vector<std::string> searched = forms_of(searched_);
    const std::vector<std::string> taken = forms_of(taken_);
    LUMVET_TRY(const std::vector<int> pages, request_.pages.in(saved_.page_count()));
    const bool is_everywhere = static_cast<int>(pages.size()) >= saved_.page_count();
    const file::Ledger objects(core_of(saved_).shared_store());
    const Dict& trailer = saved_.trailer();
    for (const ObjectId id :
         redacting::reachable_from(objects, {trailer["Root"], trailer["Info"]})) {
      const Object object = store_.resolve(Object(id));
      const Stream* stream = object.as_stream();
      if (stream == nullptr) continue;
      Budget budget(store_.limits());
      const auto bytes = filters::decode_whole(*stream, store_, budget, store_.findings());
      if (!bytes.ok()) continue;  // an image with a codec
      ++proof_.streams;
      const std::string_view text = as_text(bytes->view());
      const bool is_file = store_.get(stream->dict, "Type").is_name("EmbeddedFile");
      const std::string where = is_file ? "an attached file" : "a stream";
      if (has(text, searched))
        (is_everywhere ? proof_.left : proof_.elsewhere)
            .push_back({where + " has words that were searched for" +
                            (is_file ? "; attached files are only taken away as a whole" : ""),
                        {},
                        id});
      else if (has(text, taken))
        proof_.elsewhere.push_back({where + " has words that were taken out in an area", {}, id});
    }
    return Done{};
  }

  const Document& saved_;
  const file::ObjectStore& store_;
  const RedactRequest& request_;
  const RedactReport& report_;
  redacting::Needles needles_;  // all
  redacting::Needles words_;    // those of areas
  std::set<std::string> searched_;
  std::set<std::string> taken_;
  RedactProof proof_;
};

}  // namespace

Result<RedactProof> prove_redaction(const Document& saved, const RedactRequest& request,
                                    const RedactReport& report) {
  return attempted([&] { return ProofReader(saved, request, report).read(); });
}

}  // namespace lumvet
