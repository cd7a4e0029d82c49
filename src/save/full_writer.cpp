// SPDX-License-Identifier: Apache-2.0
#include "save/full_writer.h"

#include <algorithm>
#include <utility>

#include "base/attempt.h"
#include "base/parallel.h"
#include "crypto/digest.h"
#include "crypto/random.h"
#include "document/inside.h"
#include "filters/deflate.h"
#include "objects/serializer.h"
#include "save/cross_reference_rows.h"
#include "save/linear_writer.h"
#include "save/object_encoder.h"
#include "save/reachable.h"

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
        reachable_(document.objects),
        encoder_([this](ObjectId id) { return renumbered(id); }, lock.security.get()) {
    if (options.recompress) encoder_.recompress(document.objects);
  }

  Result<std::uint64_t> write() {
    reachable_.collect_document(document_.catalog);
    reachable_.collect(document_.info);
    settle();
    places_.resize(pack_count_ + order_.size() + 1);
    if (renumbered(document_.catalog.as_reference()).is_null())
      return Error(ErrorCode::malformed, "the document has no catalog to save");
    LUMVET_RETURN_IF_ERROR(put(header_of(version())));
    LUMVET_RETURN_IF_ERROR(write_objects());
    LUMVET_RETURN_IF_ERROR(compact() ? write_cross_reference_stream()
                                     : write_cross_reference_table());
    return position_;
  }

 private:
  bool compact() const { return options_.layout == FileLayout::compact; }

  std::string version() const {
    const std::string least = compact() ? "1.5" : "1.0";
    return std::max({document_.version, least, lock_.least_version()});
  }

  // Numbers streams behind everything else, which is how they are written: cross references in
  // the order of the file pack best. When objects are packed the first numbers are left to object
  // streams, so that a reader finds them at the front of the cross references, beside what it
  // needs first.
  void settle() {
    const std::vector<ObjectId>& met = reachable_.order();
    numbers_.resize(met.size());
    for (const bool streams : {false, true}) {
      if (streams) first_stream_ = order_.size();
      for (std::size_t i = 0; i < met.size(); ++i) {
        if (reachable_.is_stream(i) != streams) continue;
        order_.push_back(met[i]);
        lengths_.push_back(reachable_.stream_length(i));
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

  // The new reference; null for objects that are missing.
  Object renumbered(ObjectId old) const {
    const auto place = reachable_.place_of(old);
    return place ? Object(ObjectId{numbers_[*place], 0}) : Object();
  }

  Status put(ByteView bytes) {
    position_ += bytes.size();
    return sink_.write(bytes);
  }
  Status put(std::string_view text) { return put(as_bytes(text)); }

  Status put(std::uint32_t number, const EncodedObject& object) {
    places_[number] = {Place::Kind::in_file, position_, 0};
    LUMVET_RETURN_IF_ERROR(put(object.head));
    LUMVET_RETURN_IF_ERROR(put(object.body.view()));
    return put(object.tail);
  }

  // What is written in one piece: an object, or several in an object stream.
  struct Piece {
    std::uint32_t number;
    std::size_t first;  // places in order_
    std::size_t count;
    bool is_packed;
    Result<EncodedObject> encoded = EncodedObject{};
    Bytes digest = {};
  };

  // Small objects first and streams behind them, so that a file cut off on its way has lost
  // images and text but still knows its pages.
  std::vector<Piece> pieces() const {
    std::vector<Piece> pieces;
    std::uint32_t pack = 1;
    std::size_t at = 0;
    while (compact() && at < first_stream_) {
      const std::size_t most = at == 0 ? kObjectsInFirst : kObjectsPerStream;
      const std::size_t count = std::min(most, first_stream_ - at);
      pieces.push_back({pack++, at, count, true});
      at += count;
    }
    for (; at < order_.size(); ++at) pieces.push_back({number_of(at), at, 1, false});
    return pieces;
  }

  std::uint32_t number_of(std::size_t place) const {
    return static_cast<std::uint32_t>(pack_count_ + place + 1);
  }

  // Some at a time are encoded on all threads and then written in order.
  Status write_objects() {
    std::vector<Piece> all = pieces();
    const int threads = thread_count(options_.threads);
    for (std::size_t begin = 0; begin < all.size();) {
      constexpr std::uint64_t kAtOnce = 4 << 20;  // bytes of streams
      constexpr std::size_t kMostAtOnce = 1024;
      std::size_t end = begin;
      for (std::uint64_t bytes = 0;
           end < all.size() && end - begin < kMostAtOnce && bytes < kAtOnce; ++end)
        bytes += lengths_[all[end].first];
      share_out(end - begin, threads, [&](int, std::size_t i) { encode(all[begin + i]); });
      for (; begin < end; ++begin) {
        LUMVET_RETURN_IF_ERROR(step(all[begin].first));
        LUMVET_RETURN_IF_ERROR(write_piece(all[begin]));
      }
    }
    if (options_.progress) options_.progress(order_.size(), order_.size());
    return Done{};
  }

  void encode(Piece& piece) const {
    if (options_.cancel.is_cancelled()) return;  // step() tells
    piece.encoded = encoded(piece);
    if (piece.encoded.ok() && !lock_.security) piece.digest = piece.encoded->digest();
  }

  Result<EncodedObject> encoded(const Piece& piece) const {
    if (!piece.is_packed)
      return encoder_.encode({piece.number, 0},
                             document_.objects.resolve(Object(order_[piece.first])));
    std::vector<ObjectEncoder::Packed> packed;
    for (std::size_t at = piece.first; at < piece.first + piece.count; ++at)
      packed.push_back(
          {number_of(at), encoder_.text_of(document_.objects.resolve(Object(order_[at])))});
    return encoder_.encode_packed({piece.number, 0}, packed);
  }

  Status write_piece(Piece& piece) {
    LUMVET_TRY(const EncodedObject encoded, std::exchange(piece.encoded, EncodedObject{}));
    digest_.update(piece.digest);
    for (std::size_t i = 0; piece.is_packed && i < piece.count; ++i)
      places_[number_of(piece.first + i)] = {Place::Kind::in_stream, piece.number,
                                             static_cast<std::uint32_t>(i)};
    return put(piece.number, encoded);
  }

  Status step(std::size_t done) {
    if (options_.cancel.is_cancelled())
      return Error(ErrorCode::cancelled, "saving was cancelled; nothing was written");
    if (options_.progress && done - told_ >= 256) options_.progress(told_ = done, order_.size());
    return Done{};
  }

  Dict trailer(std::size_t size) {
    constexpr std::size_t kIdBytes = 16;
    // What is locked is different each time anyway.
    const Bytes digest = lock_.security ? crypto::random_bytes(kIdBytes) : digest_.finish();
    const std::string id(as_text(ByteView(digest).first(kIdBytes)));
    return trailer_of(document_, lock_, size, renumbered(document_.catalog.as_reference()),
                      renumbered(document_.info.as_reference()), id);
  }

  Status write_cross_reference_table() {
    const std::uint64_t start = position_;
    std::string text = "xref\n0 " + std::to_string(places_.size()) + "\n0000000000 65535 f \n";
    for (std::size_t i = 1; i < places_.size(); ++i) {
      constexpr std::uint64_t kMostOffset = 9'999'999'999;
      if (places_[i].where > kMostOffset)
        return Error(
            ErrorCode::limit,
            "the file grows too large for a cross-reference table; use the compact layout");
      const std::string digits = std::to_string(places_[i].where);
      text += std::string(10 - digits.size(), '0') + digits + " 00000 n \n";
    }
    LUMVET_RETURN_IF_ERROR(put(text));
    std::string end = "trailer\n";
    objects::serialize(trailer(places_.size()), end);
    return finish(end + "\n", start);
  }

  Status write_cross_reference_stream() {
    const auto number = static_cast<std::uint32_t>(places_.size());
    const std::uint64_t start = position_;
    places_.emplace_back();
    places_[number] = {Place::Kind::in_file, start, 0};
    std::size_t width = 1;
    while (start >> (8 * width) != 0) ++width;
    Dict dict = trailer(places_.size());
    const Bytes rows = filters::deflate(predicted_rows(places_, width));
    dict.set("Type", Object::name("XRef"));
    dict.set("W", Array{Object(1), Object(static_cast<std::int64_t>(width)), Object(1)});
    dict.set("Filter", Object::name("FlateDecode"));
    dict.set("DecodeParms",
             Dict{{"Predictor", 12}, {"Columns", static_cast<std::int64_t>(width + 2)}});
    dict.set("Length", static_cast<std::int64_t>(rows.size()));
    std::string text = std::to_string(number) + " 0 obj\n";
    objects::serialize(dict, text);
    LUMVET_RETURN_IF_ERROR(put(text + "\nstream\n"));
    LUMVET_RETURN_IF_ERROR(put(rows));
    return finish("\nendstream\nendobj\n", start);
  }

  Status finish(const std::string& before, std::uint64_t start) {
    const std::string end = before + "startxref\n" + std::to_string(start) + "\n%%EOF\n";
    position_ += end.size();
    return sink_.write(as_bytes(end));
  }

  const FullDocument& document_;
  const SaveOptions& options_;
  const Lock& lock_;
  ByteSink& sink_;
  Reachable reachable_;
  ObjectEncoder encoder_;
  std::vector<ObjectId> order_;         // in which they are written
  std::vector<std::uint64_t> lengths_;  // of streams, by their places in it
  std::vector<std::uint32_t> numbers_;  // new ones, by their places among the reachable
  std::size_t first_stream_ = 0;        // where the streams begin
  std::size_t pack_count_ = 0;          // object streams to come
  crypto::Digest digest_{crypto::DigestKind::sha512};
  std::uint64_t position_ = 0;
  std::uint64_t told_ = 0;     // of the progress
  std::vector<Place> places_;  // by new number
};

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
  return lock;
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

Result<std::uint64_t> write_full(const FullDocument& document, const SaveOptions& options,
                                 ByteSink& sink) {
  LUMVET_TRY(const Lock lock, lock_for(document, options));
  const bool is_linearized =
      options.layout == FileLayout::linearized || options.layout == FileLayout::linearized_classic;
  return is_linearized ? write_linearized(document, options, lock, sink)
                       : FullWriter(document, options, lock, sink).write();
}

Result<Document> opened(const objects::Resolver& objects, ObjectId catalog,
                        std::optional<std::string> name) {
  BufferSink sink;
  LUMVET_RETURN_IF_ERROR(write_full({objects, Object(catalog), Object(), "1.7", {}}, {}, sink));
  return Document::open(make_buffer_source(sink.take(), std::move(name)));
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
