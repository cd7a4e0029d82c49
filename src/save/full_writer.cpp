// SPDX-License-Identifier: Apache-2.0
#include "save/full_writer.h"

#include <algorithm>
#include <set>
#include <utility>

#include "base/attempt.h"
#include "base/findings_list.h"
#include "base/parallel.h"
#include "crypto/digest.h"
#include "crypto/random.h"
#include "document/inside.h"
#include "objects/serializer.h"
#include "save/cross_references.h"
#include "save/linear_writer.h"
#include "save/page_mending.h"
#include "save/piece_encoder.h"
#include "save/written_check.h"

namespace lumvet::saving {
namespace {

constexpr std::size_t kObjectsInFirst = 24;  // what every reader needs: catalog, top of the tree

class FullWriter {
 public:
  FullWriter(const FullDocument& document, const SaveOptions& options, const Lock& lock,
             ByteSink& sink)
      : document_(document),
        options_(options),
        lock_(lock),
        sink_(sink),
        encoder_(document.objects, numbers_, lock.security.get(), options.recompress) {}

  Result<std::uint64_t> write() {
    encoder_.reachable().collect_document(document_.catalog);
    encoder_.reachable().collect(document_.info);
    settle();
    places_.resize(pack_count_ + order_.size() + 1);
    if (encoder_.renumbered(document_.catalog.as_reference()).is_null())
      return Error(ErrorCode::malformed, "the document has no catalog to save");
    LUMVET_RETURN_IF_ERROR(put(header_of(version())));
    LUMVET_RETURN_IF_ERROR(write_objects());
    LUMVET_RETURN_IF_ERROR(write_cross_references());
    return position_;
  }

 private:
  bool compact() const { return options_.layout == FileLayout::compact; }

  std::string version() const {
    const std::string least = compact() ? "1.5" : encoder_.reachable().least_version();
    return std::max({document_.version, least, lock_.least_version()});
  }

  // Numbers streams behind everything else, which is how they are written: cross references in
  // the order of the file pack best. When objects are packed the first numbers are left to object
  // streams, so that a reader finds them at the front of the cross references, beside what it
  // needs first.
  void settle() {
    const Reachable& reachable = encoder_.reachable();
    numbers_.resize(reachable.order().size());
    for (const bool streams : {false, true}) {
      if (streams) first_stream_ = order_.size();
      for (std::size_t i = 0; i < numbers_.size(); ++i) {
        if (reachable.is_stream(i) != streams) continue;
        order_.push_back(i);
        numbers_[i] = static_cast<std::uint32_t>(order_.size());
      }
    }
    if (compact() && first_stream_ > kObjectsInFirst)
      pack_count_ =
          1 + (first_stream_ - kObjectsInFirst + kObjectsPerStream - 1) / kObjectsPerStream;
    else if (compact())
      pack_count_ = first_stream_ > 0 ? 1 : 0;
    for (std::uint32_t& number : numbers_) number += static_cast<std::uint32_t>(pack_count_);
  }

  Status put(ByteView bytes) {
    position_ += bytes.size();
    return sink_.write(bytes);
  }
  Status put(std::string_view text) { return put(as_bytes(text)); }

  // Small objects first and streams behind them, so that a file cut off on its way has lost
  // images and text but still knows its pages.
  Piece piece_at(std::size_t at, std::uint32_t pack) const {
    if (!compact() || at >= first_stream_) return {numbers_[order_[at]], {order_[at]}};
    const std::size_t most = at == 0 ? kObjectsInFirst : kObjectsPerStream;
    const auto first = order_.begin() + static_cast<std::ptrdiff_t>(at);
    const std::size_t count = std::min(most, first_stream_ - at);
    return {pack, {first, first + static_cast<std::ptrdiff_t>(count)}, true};
  }

  // Some at a time are encoded on all threads and then written in order.
  Status write_objects() {
    const int threads = thread_count(options_.threads);
    std::uint32_t packs = 0;
    for (std::size_t at = 0; at < order_.size();) {
      constexpr std::uint64_t kAtOnce = 4 << 20;  // bytes of streams
      constexpr std::size_t kMostAtOnce = 1024;
      std::vector<Piece> pieces;
      std::size_t end = at;
      for (std::uint64_t bytes = 0;
           end < order_.size() && pieces.size() < kMostAtOnce && bytes < kAtOnce;) {
        bytes += encoder_.reachable().stream_length(order_[end]);
        pieces.push_back(piece_at(end, packs + 1));
        packs += pieces.back().is_packed ? 1 : 0;
        end += pieces.back().objects.size();
      }
      std::vector<Piece*> each;
      for (Piece& piece : pieces) each.push_back(&piece);
      LUMVET_RETURN_IF_ERROR(encoder_.encode(each, threads, options_.cancel));
      for (Piece& piece : pieces) {
        tell(at);
        at += piece.objects.size();
        LUMVET_RETURN_IF_ERROR(write_piece(piece));
      }
    }
    if (options_.progress) options_.progress(order_.size(), order_.size());
    return Done{};
  }

  Status write_piece(Piece& piece) {
    const EncodedObject encoded = std::exchange(piece.encoded, {});
    if (!lock_.security) digest_.update(encoded.fingerprint());
    places_[piece.number] = {Place::Kind::in_file, position_, 0};
    for (std::size_t i = 0; piece.is_packed && i < piece.objects.size(); ++i)
      places_[numbers_[piece.objects[i]]] = {Place::Kind::in_stream, piece.number,
                                             static_cast<std::uint32_t>(i)};
    LUMVET_RETURN_IF_ERROR(put(encoded.head));
    LUMVET_RETURN_IF_ERROR(put(encoded.body.view()));
    return put(encoded.tail);
  }

  void tell(std::size_t done) {
    constexpr std::size_t kStep = 256;
    if (options_.progress && done - told_ >= kStep) options_.progress(told_ = done, order_.size());
  }

  Dict trailer(std::size_t size) {
    constexpr std::size_t kIdBytes = 16;
    // What is locked is different each time anyway.
    const Bytes digest = lock_.security ? crypto::random_bytes(kIdBytes) : digest_.finish();
    const std::string id(as_text(ByteView(digest).first(kIdBytes)));
    return trailer_of(document_, lock_, size, encoder_.renumbered(document_.catalog.as_reference()),
                      encoder_.renumbered(document_.info.as_reference()), id);
  }

  Status write_cross_references() {
    LUMVET_TRY(const std::string text,
               ending_of(std::move(places_), position_, compact(),
                         [this](std::size_t size) { return trailer(size); }));
    return put(text);
  }

  const FullDocument& document_;
  const SaveOptions& options_;
  const Lock& lock_;
  ByteSink& sink_;
  std::vector<std::uint32_t> numbers_;  // new ones, by their places among the reachable
  PieceEncoder encoder_;
  std::vector<std::size_t> order_;  // in which the reachable are written
  std::size_t first_stream_ = 0;    // where the streams begin
  std::size_t pack_count_ = 0;      // object streams to come
  crypto::Digest digest_{crypto::DigestKind::sha512};
  std::uint64_t position_ = 0;
  std::uint64_t told_ = 0;     // of the progress
  std::vector<Place> places_;  // by new number
};

// Whether nobody is to open it without a password or a key.
bool must_stay_shut(const SaveOptions& options) {
  const auto& lock = options.protection;
  return lock && (!lock->user_password.empty() || !lock->recipients.empty()) &&
         !lock->attachments_only;
}

bool opens_without_password(const Lock& lock) {
  Findings ignored;
  return security::SecurityHandler::unlock(lock.security->dictionary(), lock.first_id, {}, ignored)
      .ok();
}

bool is_linearized(const SaveOptions& options) {
  return options.layout == FileLayout::linearized ||
         options.layout == FileLayout::linearized_classic;
}

}  // namespace

std::string Lock::least_version() const {
  if (!security) return "";
  const Encryption& encryption = security->encryption();
  constexpr int kNewest = 256;
  if (encryption.key_bits == kNewest) return "2.0";
  return encryption.cipher == "AES" ? "1.6" : "1.4";
}

Result<Lock> lock_for(const FullDocument& document, const SaveOptions& options) {
  Lock lock{document.security, document.first_id};
  const bool changes = options.remove_protection || options.protection;
  if (document.security && changes && document.security->encryption().access != Access::owner)
    return Error(ErrorCode::password,
                 "only its owner may change the document's protection or take it away; give the "
                 "owner's password");
  if (options.remove_protection && !options.protection) lock.security = nullptr;
  if (!options.protection) return lock;
  constexpr std::size_t kIdBytes = 16;
  if (lock.first_id.empty()) lock.first_id = as_text(crypto::random_bytes(kIdBytes));
  LUMVET_TRY(lock.security, security::SecurityHandler::lock(*options.protection, lock.first_id));
  if (must_stay_shut(options) && opens_without_password(lock)) return opens_for_everybody();
  return lock;
}

Status note_signatures(const Document& document, std::vector<Finding>& findings) {
  // Each field once, however often a hostile tree leads to it.
  struct Open {
    Object field;
    bool is_signature;  // as those above it say
  };
  LUMVET_TRY(const Object form, document.resolve(document.catalog()["AcroForm"]));
  std::vector<Open> open = {{form.as_dict()["Fields"], false}};
  std::set<ObjectId> met;
  int count = 0;
  while (!open.empty()) {
    const Open at = std::move(open.back());
    open.pop_back();
    if (at.field.is_reference() && !met.insert(at.field.as_reference()).second) continue;
    LUMVET_TRY(const Object object, document.resolve(at.field));
    for (const Object& item : object.as_array())
      if (item.is_reference()) open.push_back({item, at.is_signature});
    const Dict& dict = object.as_dict();
    LUMVET_TRY(const Object type, document.resolve(dict["FT"]));
    const bool is_signature = type.is_null() ? at.is_signature : type.is_name("Sig");
    if (is_signature && dict.contains("V")) ++count;
    if (dict.contains("Kids")) open.push_back({dict["Kids"], is_signature});
  }
  if (count == 0) return Done{};
  findings.push_back(
      {std::to_string(count) + (count == 1 ? " signature ends" : " signatures end") +
       " here: a signature is good for its own bytes, and the file was written anew; "
       "changes that are appended leave signatures whole"});
  return Done{};
}

void note_weak_lock(const SaveOptions& options, std::vector<Finding>& findings) {
  if (!options.protection) return;
  if (options.protection->cipher == NewProtection::Cipher::rc4_128)
    findings.push_back(
        {"RC4 keeps out nobody who means it; lock with AES-256 unless viewers "
         "older than 2005 must open the document",
         {},
         {}});
  if (options.protection->cipher == NewProtection::Cipher::aes_128)
    findings.push_back(
        {"passwords of an AES-128 lock are tried out quickly, so a short one "
         "protects little; lock with AES-256 unless viewers older than 2012 must "
         "open the document",
         {},
         {}});
}

Dict trailer_of(const FullDocument& document, const Lock& lock, std::uint64_t size,
                const Object& catalog, const Object& info, const std::string& id) {
  // The key of a lock is made of the identifier, be it empty.
  const std::string& own = document.first_id.empty() ? id : document.first_id;
  const std::string& first = lock.security ? lock.first_id : own;
  Dict dict{{"Size", static_cast<std::int64_t>(size)},
            {"Root", catalog},
            {"ID", Array{Object::string(first), Object::string(id)}}};
  if (document.info.is_reference()) dict.set("Info", info);
  if (lock.security) dict.set("Encrypt", lock.security->dictionary());
  return dict;
}

std::string header_of(const std::string& version) {
  return "%PDF-" + version + "\n%\xE2\xE3\xCF\xD3\n";
}

namespace {

Result<std::uint64_t> write_unchecked(const FullDocument& document, const SaveOptions& options,
                                      ByteSink& sink) {
  LUMVET_TRY(const Lock lock, lock_for(document, options));
  return is_linearized(options) ? write_linearized(document, options, lock, sink)
                                : FullWriter(document, options, lock, sink).write();
}

WrittenCheck check_for(const FullDocument& document, const SaveOptions& options) {
  WrittenCheck check;
  check.is_locked = must_stay_shut(options);
  if (is_linearized(options)) check.linear_pages = document.damaged_pages;
  return check;
}

}  // namespace

Result<std::uint64_t> write_full(const FullDocument& document, const SaveOptions& options,
                                 ByteSink& sink) {
  const WrittenCheck check = check_for(document, options);
  if (!check.is_needed()) return write_unchecked(document, options, sink);
  if (auto* patchable = dynamic_cast<PatchableSink*>(&sink)) {
    const std::uint64_t begin = patchable->size();
    LUMVET_TRY(const std::uint64_t bytes, write_unchecked(document, options, sink));
    LUMVET_RETURN_IF_ERROR(check_written(*patchable, begin, check));
    return bytes;
  }
  // What cannot be read again has a lock that was tried before.
  if (!check.linear_pages) return write_unchecked(document, options, sink);
  BufferSink buffer;
  LUMVET_TRY(const std::uint64_t bytes, write_unchecked(document, options, buffer));
  LUMVET_RETURN_IF_ERROR(check_written(buffer, 0, check));
  LUMVET_RETURN_IF_ERROR(sink.write(buffer.bytes()));
  return bytes;
}

Object information(const Document& document) {
  const Object& stated = document.trailer()["Info"];
  return store_of(document).resolve(stated).is_dict() ? stated : Object();
}

Result<std::uint64_t> write_document(const Document& document, const std::string& version,
                                     const SaveOptions& options, ByteSink& sink) {
  if (document.page_count() == 0)
    return Error(ErrorCode::malformed, "the document has no page that could be saved");
  const bool is_sound = has_sound_pages(document);
  file::Ledger ledger(core_of(document).shared_store());
  int pages = document.page_count();
  if (!is_sound) {
    LUMVET_TRY(pages, mend_pages(document, ledger));
  }
  const objects::Resolver& objects =
      is_sound ? static_cast<const objects::Resolver&>(store_of(document)) : ledger;
  FullDocument full{objects, core_of(document).root(), information(document),
                    version, first_id(document),       store_of(document).security()};
  if (!is_sound || !document.findings().empty()) full.damaged_pages = pages;
  return write_full(full, options, sink);
}

Result<Document> opened(const objects::Resolver& objects, ObjectId catalog,
                        std::optional<std::string> name, const Limits& limits) {
  BufferSink sink;
  LUMVET_RETURN_IF_ERROR(write_full({objects, Object(catalog), Object(), "1.7", {}}, {}, sink));
  return Document::open(make_buffer_source(sink.take(), std::move(name)), {.limits = limits});
}

std::string first_id(const Document& document) {
  const Object ids = store_of(document).resolve(document.trailer()["ID"]);
  if (ids.as_array().empty()) return {};
  return std::string(store_of(document).resolve(ids.as_array()[0]).as_string());
}

Result<SaveReport> save_to_file(const std::filesystem::path& path, const SaveOptions& options,
                                const std::function<Result<SaveReport>(ByteSink&)>& write) {
  const auto written = [&](ByteSink& sink) -> Result<SaveReport> {
    LUMVET_TRY(SaveReport report, attempted([&] { return write(sink); }));
    if (options.refuse_findings && !report.findings.empty())
      return Error(ErrorCode::malformed,
                   "nothing was written, since something would have to be noted: " +
                       report.findings.front().to_string());
    report.path = path;
    return report;
  };
  const auto save = [&]() -> Result<SaveReport> {
    if (is_written_through(path)) {
      BufferSink buffer;
      LUMVET_TRY(SaveReport report, written(buffer));
      LUMVET_RETURN_IF_ERROR(write_through(path, buffer.bytes()));
      return report;
    }
    LUMVET_TRY(AtomicFile file,
               AtomicFile::create(path, options.replace ? IfExists::replace : IfExists::refuse));
    if (options.keep_times) file.keep_times();
    LUMVET_TRY(SaveReport report, written(file));
    LUMVET_RETURN_IF_ERROR(file.commit());
    return report;
  };
  Result<SaveReport> saved = save();
  if (!saved.ok()) return std::move(saved).error().about(path.string());
  return saved;
}

}  // namespace lumvet::saving
