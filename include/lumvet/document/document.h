// SPDX-License-Identifier: Apache-2.0
// A PDF document opened for reading.
//
//   auto document = lumvet::Document::open("report.pdf");
//   if (!document) return complain(document.error());
//   std::cout << document->page_count();
//
// Copies share one opened file, which stays open while any of them, or a page taken from one,
// lives. Whatever reads the file again answers with io, or with need_more_data when the bytes it
// needs have not arrived yet, and can then be asked once more; nothing is kept of a reading that
// was cut short. Damage never is an error of what only lists things: it goes to findings().
// Threads: immutable, share freely.
#pragma once

#include <filesystem>
#include <iosfwd>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/base/findings.h"
#include "lumvet/base/inside.h"
#include "lumvet/base/limits.h"
#include "lumvet/crypto/certificate_key.h"
#include "lumvet/document/article.h"
#include "lumvet/document/attachment.h"
#include "lumvet/document/collection.h"
#include "lumvet/document/form.h"
#include "lumvet/document/layers.h"
#include "lumvet/document/metadata.h"
#include "lumvet/document/opening_view.h"
#include "lumvet/document/outline.h"
#include "lumvet/document/output_intent.h"
#include "lumvet/document/page.h"
#include "lumvet/document/structure.h"
#include "lumvet/io/byte_source.h"
#include "lumvet/security/encryption.h"

namespace lumvet {

struct OpenOptions {
  Limits limits = {};
  std::string password = {};               // UTF-8; the owner's or the user's
  std::optional<CertificateKey> key = {};  // for documents encrypted for certificates
};

// One state in which the document was saved (7.5.6).
struct Revision {
  std::uint64_t size = 0;  // bytes of the file at that time
};

// What the document uses beyond its version (7.12).
struct Extension {
  std::string prefix = {};        // whose it is: "ISO_"
  std::string base_version = {};  // "1.7"
  std::int64_t level = 0;
  std::string revision = {};
  std::string url = {};
  bool operator==(const Extension&) const = default;
};

// Where an object lies in the file.
struct ObjectPlace {
  std::uint64_t offset = 0;  // bytes from its beginning; of the object stream if in one
  std::optional<ObjectId> packed_in = {};  // an object stream (7.5.7)
};

namespace document {
class Core;
}
namespace file {
class ObjectStore;
}

class LUMVET_EXPORT Document {
 public:
  // Each reads the cross references and the catalog only; pages are read when asked for.
  // Errors: io; malformed when it is no PDF document, empty or cut off; password; limit;
  // need_more_data.
  static Result<Document> open(const std::filesystem::path& path, const OpenOptions& options = {});
  static Result<Document> open(std::shared_ptr<const ByteSource> source,
                               const OpenOptions& options = {});
  static Result<Document> open(Bytes bytes, const OpenOptions& options = {});
  static Result<Document> open(std::istream& stream, const OpenOptions& options = {});

  // A path, or how its source is called.
  std::string name() const;
  std::uint64_t file_size() const;  // bytes
  std::string version() const;      // "1.7": of the catalog if newer than the header's
  Result<std::vector<Extension>> extensions() const;
  // Laid out so that its first page can be shown before the rest has arrived ("fast web view"):
  // says so in its first object, and nothing was appended since (annex F).
  bool is_linearized() const;
  bool was_updated() const;  // has appended changes (7.5.6)
  // How it is protected; nothing when it is not.
  std::optional<Encryption> encryption() const;
  // Whether its cross references were useless, so that it was put together from its objects.
  bool was_repaired() const;

  // The states in which it was saved, oldest first; the last is the document as it is. Each can be
  // opened as it was. invalid_argument unless 0 <= index < revisions()->size().
  Result<std::vector<Revision>> revisions() const;
  Result<Document> revision(int index) const;

  int page_count() const;
  Result<Page> page(int index) const;  // invalid_argument unless 0 <= index < page_count()

  // Errors of all that follow, and of the pages': io, need_more_data, limit.
  Result<DocumentInfo> info() const;  // of the information dictionary alone
  Result<Metadata> metadata() const;
  Result<std::vector<OutlineEntry>> outline() const;
  // So many of its first entries, where reading all would take long.
  Result<std::vector<OutlineEntry>> outline(std::size_t most) const;
  Result<std::vector<Destination>> named_destinations() const;
  // What is printed on the page as its number: "iv", "A-3"; its number from 1 without labels.
  // invalid_argument unless 0 <= index < page_count().
  Result<std::string> page_label(int index) const;
  Result<bool> has_page_labels() const;
  // Of the document, its pages and their annotations.
  Result<std::vector<Attachment>> attachments() const;
  // Of the document and so many of its first pages, where reading all would take long.
  Result<std::vector<Attachment>> attachments(int pages) const;
  // Where it is a cover for what is attached to it, how that is to be shown.
  Result<std::optional<Collection>> collection() const;
  Result<std::vector<Requirement>> requirements() const;
  Result<std::vector<Article>> articles() const;
  // Errors: malformed, password (of a document whose attachments alone are locked), limit, io.
  Result<AttachedBytes> attached_bytes(const Attachment& attachment) const;
  // Of all pages, sorted by name. Reads every page's resources.
  Result<std::vector<FontUse>> fonts() const;
  // Of each page from the first, as Page::annotations gives them one page at a time; read on so
  // many threads, 0 being one for each core. All of them are held in memory at once.
  Result<std::vector<std::vector<Annotation>>> annotations(int threads = 0) const;

  // How it asks to be shown.
  Result<OpeningView> opening_view() const;
  Result<std::string> language() const;  // "de-AT"; empty when it states none
  // Actions on events of the document, scripts to be run on opening among them.
  Result<std::vector<Trigger>> triggers() const;
  Result<Layers> layers() const;
  // Empty of a document that is not tagged.
  Result<Structure> structure() const;
  Result<Form> form() const;
  Result<std::vector<OutputIntent>> output_intents() const;

  // Damage met so far; reading more may add to it.
  std::vector<Finding> findings() const;

  // The layer below: objects as they are in the file.
  const Dict& trailer() const;
  const Dict& catalog() const;
  // Null for a number that is not in use. Errors: malformed, limit, io, need_more_data, password.
  Result<Object> object(ObjectId id) const;
  // Nothing for a number that is not in use.
  Result<std::optional<ObjectPlace>> place_of(ObjectId id) const;
  Result<std::uint32_t> first_unused_number() const;  // greater than any in use
  // Follows references; null for what is missing or damaged.
  Result<Object> resolve(const Object& object) const;
  // The bytes of a stream behind all its filters. Errors: malformed when it is an image or no
  // stream at all, unsupported, limit, io.
  Result<ByteSlice> decoded(const Object& stream) const;

 private:
  friend struct Inside<Document>;
  friend class LockedDocument;
  friend class Page;
  static Result<Document> from(std::shared_ptr<const file::ObjectStore> store);
  Result<Page> read_page(int index) const;
  explicit Document(std::shared_ptr<const document::Core> core) : core_(std::move(core)) {}

  std::shared_ptr<const document::Core> core_;
};

}  // namespace lumvet
