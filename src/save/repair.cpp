// SPDX-License-Identifier: Apache-2.0
#include "lumvet/save/repair.h"
#include "base/findings_list.h"

#include "base/attempt.h"
#include "base/budget.h"
#include "document/content_feed.h"
#include "document/inside.h"
#include "file/ledger.h"
#include "filters/stream_decoder.h"
#include "save/full_writer.h"
#include "save/page_mending.h"
#include "save/tree_repair.h"

namespace lumvet {
namespace {

// Whether all of it can be decoded, looked at a piece at a time.
bool decodes_whole(const file::ObjectStore& store, const Stream& stream) {
  const auto pieces =
      filters::decode_pieces(stream, store, most_decoded(store.limits(), stream.length));
  if (!pieces.ok()) return false;
  constexpr std::size_t kPiece = 1 << 16;
  Bytes piece(kPiece);
  for (std::size_t read = kPiece; read == kPiece;) {
    const auto more = pieces->bytes->read(piece);
    if (!more.ok()) return false;
    read = *more;
  }
  return !pieces->bytes->damage();
}

// Replaces a stream whose bytes are damaged by what could be decoded of it.
void mend_stream(const file::ObjectStore& store, ObjectId id, const Stream& stream,
                 file::Ledger& ledger) {
  if (decodes_whole(store, stream)) return;
  Findings damage;
  Budget budget(store.limits());
  const auto content = filters::decode_stream(stream, store, budget, damage);
  const std::vector<Finding> found = damage.list();
  for (Finding finding : found) {
    finding.object = id;
    store.findings().add(std::move(finding));
  }
  if (!content.ok()) {
    store.findings().add({content.error().message() + "; the stream was taken over as it is",
                          content.error().offset(), id});
    return;
  }
  if (found.empty()) return;
  Dict dict = stream.dict;
  dict.remove("Filter");
  dict.remove("DecodeParms");
  Array filters;
  Array parameters;
  for (const filters::FilterStep& step : content->left) {
    filters.push_back(Object::name(step.name));
    parameters.push_back(step.parameters);
  }
  if (!filters.empty()) {
    dict.set("Filter", std::move(filters));
    dict.set("DecodeParms", std::move(parameters));
  }
  const ByteView bytes = content->bytes.view();
  ledger.set(id, Object(Stream::of(std::move(dict), Bytes(bytes.begin(), bytes.end()))));
}

void mend_streams(const file::ObjectStore& store, file::Ledger& ledger) {
  for (std::uint32_t number = 0; number < store.size(); ++number) {
    const file::XrefEntry entry = store.entry_of(number);
    if (entry.kind != file::XrefEntry::Kind::in_file) continue;
    const ObjectId id{number, static_cast<std::uint16_t>(entry.detail)};
    const Object object = store.resolve(Object(id));
    const Stream* stream = object.as_stream();
    // The file's own furniture is written anew anyway.
    if (stream == nullptr || stream->dict["Type"].is_name("ObjStm") ||
        stream->dict["Type"].is_name("XRef"))
      continue;
    mend_stream(store, id, *stream, ledger);
  }
}

// Read for what is missing in them, which is a finding.
void read_contents(const Document& document) {
  for (int i = 0; i < document.page_count(); ++i)
    if (const Result<Page> page = document.page(i); page.ok()) {
      document::ContentFeed content(*page);
      while (content.has_more() && content.advance(content.window().size()).ok()) continue;
    }
}

}  // namespace

Result<SaveReport> repair(const Document& document, ByteSink& sink, const SaveOptions& options) {
  return attempted([&]() -> Result<SaveReport> {
    file::Ledger ledger = file::Ledger(core_of(document).shared_store());
    SaveReport report;
    LUMVET_TRY(report.pages, saving::mend_pages(document, ledger));
    read_contents(document);
    mend_streams(store_of(document), ledger);
    saving::mend_outline_counts(document, ledger);
    saving::mend_tree_limits(document, ledger);
    const saving::FullDocument full{ledger,
                                    core_of(document).root(),
                                    saving::information(document),
                                    document.version(),
                                    saving::first_id(document),
                                    store_of(document).security(),
                                    report.pages};
    LUMVET_TRY(report.bytes, saving::write_full(full, options, sink));
    report.findings = document.findings();
    LUMVET_RETURN_IF_ERROR(saving::note_signatures(document, report.findings));
    saving::note_weak_lock(options, report.findings);
    return report;
  });
}

Result<SaveReport> repair(const Document& document, const std::filesystem::path& path,
                          const SaveOptions& options) {
  return saving::save_to_file(path, options,
                              [&](ByteSink& sink) { return repair(document, sink, options); });
}

}  // namespace lumvet
