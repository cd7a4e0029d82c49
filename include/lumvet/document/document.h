// SPDX-License-Identifier: Apache-2.0
// A PDF document opened for reading.
//
//   auto document = lumvet::Document::open("report.pdf");
//   if (!document) return complain(document.error());
//   std::cout << document->page_count();
//
// Copies share one opened file, which stays open while any of them, or a page taken from one,
// lives. Threads: immutable, share freely.
#pragma once

#include <array>
#include <filesystem>
#include <iosfwd>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/base/findings.h"
#include "lumvet/base/limits.h"
#include "lumvet/crypto/certificate_key.h"
#include "lumvet/document/action.h"
#include "lumvet/document/metadata.h"
#include "lumvet/document/page.h"
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

// One line of the outline (12.3.3).
struct OutlineEntry {
  std::string title;        // UTF-8
  int depth = 0;            // 0 for the outermost
  std::optional<int> page;  // from 0, when it leads to a page of this document
  bool is_open = false;     // whether what is below it is shown at first
  bool bold = false;
  bool italic = false;
  std::array<double, 3> color = {0, 0, 0};  // red, green, blue from 0 to 1
  std::optional<Destination> destination;   // its own, or that of its first action
  std::vector<Action> actions;              // one after the other
};

// A file inside the document (7.11.4).
struct Attachment {
  enum class From { document, annotation, associated };

  std::string name;                   // UTF-8; may hold what is no file name on this machine
  std::string description;            // UTF-8
  std::optional<std::uint64_t> size;  // bytes, as stated
  std::string media_type;             // "text/csv", as stated
  std::string relationship;           // to the document: "Source", "Data" (7.11.3)
  std::string created;                // as DocumentInfo's
  std::string modified;
  std::string checksum;  // MD5, 16 bytes, as stated; empty when not
  From from = From::document;
  std::optional<int> page;  // from 0, when it belongs to one
  Object stream;            // for Document::attached_bytes
};

// The bytes of an attachment.
struct AttachedBytes {
  ByteSlice bytes;
  std::optional<bool> checksum_fits;  // nothing when none was stated
};

struct FontUse {
  std::string name;  // "Helvetica", without a subset's "ABCDEF+"
  std::string kind;  // "TrueType", "Type 1", "CID TrueType", …
  bool embedded = false;
  bool subset = false;
  auto operator<=>(const FontUse&) const = default;
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
  // Laid out so that its first page can be shown before the rest has arrived ("fast web view"):
  // says so in its first object, and nothing was appended since (annex F).
  bool is_linearized() const;
  bool was_updated() const;  // has appended changes (7.5.6)
  // How it is protected; nothing when it is not.
  std::optional<Encryption> encryption() const;
  // Whether its cross references were useless, so that it was put together from its objects.
  bool was_repaired() const;

  // The states in which it was saved, oldest first; the last is the document as it is. Each can be
  // opened as it was. invalid_argument unless 0 <= index < revisions().size().
  std::vector<Revision> revisions() const;
  Result<Document> revision(int index) const;

  int page_count() const;
  Result<Page> page(int index) const;  // invalid_argument unless 0 <= index < page_count()

  DocumentInfo info() const;  // of the information dictionary alone
  Metadata metadata() const;
  std::vector<OutlineEntry> outline() const;
  std::vector<Destination> named_destinations() const;
  // What is printed on the page as its number: "iv", "A-3"; its number from 1 without labels.
  // invalid_argument unless 0 <= index < page_count().
  Result<std::string> page_label(int index) const;
  bool has_page_labels() const;
  // Of the document, its pages and their annotations.
  std::vector<Attachment> attachments() const;
  // Errors: malformed, password (of a document whose attachments alone are locked), limit, io.
  Result<AttachedBytes> attached_bytes(const Attachment& attachment) const;
  // Of all pages, sorted by name. Reads every page's resources.
  std::vector<FontUse> fonts() const;

  // Damage met so far; reading more may add to it.
  std::vector<Finding> findings() const;

  // The layer below: objects as they are in the file.
  const Dict& trailer() const;
  const Dict& catalog() const;
  // Follows references; null for what is missing or damaged.
  Object resolve(const Object& object) const;
  // The bytes of a stream behind all its filters. Errors: malformed when it is a picture or no
  // stream at all, unsupported, limit, io.
  Result<ByteSlice> decoded(const Object& stream) const;

  // For the rooms of this library.
  const document::Core& core() const { return *core_; }

 private:
  friend class LockedDocument;
  friend class Page;
  static Result<Document> from(std::shared_ptr<const file::ObjectStore> store);
  explicit Document(std::shared_ptr<const document::Core> core) : core_(std::move(core)) {}

  std::shared_ptr<const document::Core> core_;
};

}  // namespace lumvet
