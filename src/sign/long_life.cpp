// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/long_life.h"

#include <algorithm>
#include <iterator>

#include "edit/editable_document_impl.h"
#include "io/source_parts.h"
#include "save/full_writer.h"
#include "sign/appended_signature.h"
#include "sign/certificate_inside.h"
#include "sign/clock.h"
#include "sign/material.h"
#include "sign/placing.h"
#include "sign/revocations.h"
#include "sign/timestamps.h"

namespace lumvet {
namespace {

using signing::AppendedSignature;
using signing::Material;

bool holds(const std::vector<Bytes>& all, const Bytes& one) {
  return std::any_of(all.begin(), all.end(),
                     [&](const Bytes& each) { return as_text(each) == as_text(one); });
}

// What proves the chains, and is not in the document yet.
class Gathering {
 public:
  Gathering(const Trust& trust, const Material& there, std::int64_t time)
      : trust_(trust), there_(there), time_(time) {
    told_.add(trust.revocation_lists, trust.responses);
  }

  void add(const std::vector<Certificate>& chain) {
    for (std::size_t i = 0; i < chain.size(); ++i) {
      const auto is_there = [&](const std::vector<Certificate>& all) {
        return std::find(all.begin(), all.end(), chain[i]) != all.end();
      };
      if (!is_there(there_.certificates) && !is_there(found_.certificates))
        found_.certificates.push_back(chain[i]);
      if (i + 1 == chain.size()) break;
      const signing::Revocation told = told_.of(chain[i], chain[i + 1], time_);
      for (const std::size_t list : told.lists)
        take(trust_.revocation_lists[list], there_.lists, found_.lists);
      for (const std::size_t response : told.responses)
        take(trust_.responses[response], there_.responses, found_.responses);
    }
  }
  const Material& found() const { return found_; }

 private:
  static void take(const Bytes& one, const std::vector<Bytes>& there, std::vector<Bytes>& found) {
    if (!holds(there, one) && !holds(found, one)) found.push_back(one);
  }

  const Trust& trust_;
  const Material& there_;
  std::int64_t time_;
  signing::Revocations told_;
  Material found_;
};

struct Prolonged {
  ProlongReport report;
  Bytes tail;                              // without a timestamp
  std::optional<AppendedSignature> stamp;  // with one
  Bytes token;
  int pages = 0;
};

Status put_material(EditableDocument& document, const Material& material) {
  auto& impl = Inside<EditableDocument>::impl(document);
  return impl.take_step([&](const Document&, file::Ledger& ledger) -> Result<std::string> {
    Dict catalog = impl.catalog(ledger);
    signing::add_material(ledger, catalog, material);
    impl.put_catalog(ledger, std::move(catalog));
    return std::string("added what proves signatures");
  });
}

Status stamp(const EditableDocument& document, const ProlongRequest& request, Prolonged& made) {
  std::size_t room = signing::kTimestampRoom;
  for (;;) {
    LUMVET_TRY(const Document now, document.now());
    EditableDocument copy = EditableDocument::of(now);
    Dict dict{{"Type", Object::name("DocTimeStamp")},
              {"Filter", Object::name("Adobe.PPKLite")},
              {"SubFilter", Object::name("ETSI.RFC3161")},
              {"ByteRange", AppendedSignature::byte_range()},
              {"Contents", AppendedSignature::contents(room)}};
    LUMVET_TRY(const signing::Place place,
               signing::place_signature(copy, {}, {.dict = std::move(dict), .is_timestamp = true}));
    LUMVET_TRY(AppendedSignature appended, AppendedSignature::of(copy, room));
    LUMVET_TRY(const Bytes digest, appended.digest(request.digest));
    LUMVET_TRY(made.token, signing::timestamp_of(digest, request.digest, request.timestamps));
    if (made.token.size() > appended.room()) {
      room = made.token.size();
      continue;
    }
    made.report.timestamp_field = place.field;
    made.report.bytes = appended.size();
    made.stamp = std::move(appended);
    return Done{};
  }
}

Result<Prolonged> prolonged(const Document& document, const ProlongRequest& request) {
  const std::int64_t time = request.time.value_or(signing::now_in_seconds());
  Prolonged made;
  made.pages = document.page_count();
  Trust trust = request.trust;
  LUMVET_TRY(auto signatures, verify_signatures(document, trust, {.time = time}));
  if (signatures.empty())
    return Error(ErrorCode::invalid_argument, "there is no signature in the document to prolong");
  if (request.issuers) {
    for (const SignatureJudgement& signature : signatures)
      for (const auto* chain : {&signature.chain, &signature.timestamp_chain})
        LUMVET_RETURN_IF_ERROR(fetch_revocations(trust, *chain, request.issuers, time));
    LUMVET_TRY(signatures, verify_signatures(document, trust, {.time = time}));
  }
  LUMVET_TRY(const Material there, signing::material_of(document));
  Gathering gathering(trust, there, time);
  for (const SignatureJudgement& signature : signatures) {
    if (signature.verdict != Verdict::valid)
      made.report.findings.push_back({"signature " + signature.field + " is " +
                                      name_of(signature.verdict) + ": " + signature.reasons[0]});
    gathering.add(signature.chain);
    gathering.add(signature.timestamp_chain);
  }
  const Material& found = gathering.found();
  made.report.certificates = static_cast<int>(found.certificates.size());
  made.report.lists = static_cast<int>(found.lists.size());
  made.report.responses = static_cast<int>(found.responses.size());
  const bool adds = !found.certificates.empty() || !found.lists.empty() || !found.responses.empty();
  if (!adds && !request.timestamps)
    return Error(ErrorCode::invalid_argument,
                 "all that proves the signatures is in the document already");
  EditableDocument edited = EditableDocument::of(document);
  if (adds) LUMVET_RETURN_IF_ERROR(put_material(edited, found));
  if (request.timestamps) {
    LUMVET_RETURN_IF_ERROR(stamp(edited, request, made));
    return made;
  }
  LUMVET_TRY(made.tail, edited.appended());
  made.report.bytes = document.file_size() + made.tail.size();
  return made;
}

Status write(const Document& document, const Prolonged& made, ByteSink& sink) {
  if (made.stamp) return made.stamp->write(made.token, sink);
  const ByteSource& source = *store_of(document).source();
  LUMVET_RETURN_IF_ERROR(
      io::each_part_of(source, 0, source.size(), [&](ByteView part) { return sink.write(part); }));
  return sink.write(made.tail);
}

void move_into(std::vector<Bytes>& all, std::vector<Bytes>& more) {
  std::move(more.begin(), more.end(), std::back_inserter(all));
}

}  // namespace

Result<int> fetch_revocations(Trust& trust, const std::vector<Certificate>& chain,
                              const IssuerSource& issuers, std::optional<std::int64_t> time) {
  const std::int64_t moment = time.value_or(signing::now_in_seconds());
  int added = 0;
  signing::Revocations told;
  told.add(trust.revocation_lists, trust.responses);
  for (std::size_t i = 0; i + 1 < chain.size(); ++i) {
    const auto is_known = [&] { return told.of(chain[i], chain[i + 1], moment).is_known; };
    if (is_known()) continue;
    const signing::RevocationPlaces places = signing::revocation_places(chain[i]);
    std::optional<Error> failed;
    const auto ask = [&](const std::string& address, ByteView request) {
      auto answer = issuers(address, request);
      if (!answer.ok()) {
        failed = answer.error();
        return;
      }
      Trust answered;
      if (const auto taken = answered.add_revocations(*answer); !taken.ok()) {
        failed = Error(ErrorCode::io, taken.error().message()).about(address);
        return;
      }
      ++added;
      told.add(answered.revocation_lists, answered.responses);
      move_into(trust.revocation_lists, answered.revocation_lists);
      move_into(trust.responses, answered.responses);
    };
    for (const std::string& address : places.responders) {
      if (is_known()) break;
      ask(address, signing::status_request(chain[i], chain[i + 1]));
    }
    for (const std::string& address : places.lists) {
      if (is_known()) break;
      ask(address, {});
    }
    if (failed && !is_known()) return *failed;
  }
  return added;
}

Result<ProlongReport> prolong(const Document& document, const ProlongRequest& request,
                              const std::filesystem::path& path, const SaveOptions& options) {
  LUMVET_TRY(Prolonged made, prolonged(document, request));
  LUMVET_TRY(const SaveReport saved,
             saving::save_to_file(path, options, [&](ByteSink& sink) -> Result<SaveReport> {
               LUMVET_RETURN_IF_ERROR(write(document, made, sink));
               return SaveReport{.pages = made.pages, .bytes = made.report.bytes};
             }));
  made.report.path = saved.path;
  return std::move(made.report);
}

Result<ProlongReport> prolong(const Document& document, const ProlongRequest& request,
                              ByteSink& sink) {
  LUMVET_TRY(Prolonged made, prolonged(document, request));
  LUMVET_RETURN_IF_ERROR(write(document, made, sink));
  return std::move(made.report);
}

}  // namespace lumvet
