// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/document.h"

#include <algorithm>
#include <istream>
#include <limits>

#include "base/attempt.h"
#include "base/budget.h"
#include "crypto/digest.h"
#include "document/annotations.h"
#include "document/articles.h"
#include "document/attachments.h"
#include "document/collections.h"
#include "document/declarations.h"
#include "document/destinations.h"
#include "document/form.h"
#include "document/geometry_objects.h"
#include "document/inside.h"
#include "document/layers.h"
#include "document/metadata.h"
#include "document/opening_view.h"
#include "document/outline.h"
#include "document/resource_uses.h"
#include "document/revisions.h"
#include "document/structure.h"
#include "document/text_entries.h"
#include "document/triggers.h"
#include "filters/stream_decoder.h"
#include "lumvet/document/locked_document.h"

namespace lumvet {
namespace {

using document::Core;

// Nothing when it is none or has no area.
std::optional<Rect> read_box(const file::ObjectStore& store, const Object& object) {
  const std::optional<Rect> rect = document::rect_of(store, object);
  return rect && !rect->is_empty() ? rect : std::nullopt;
}

Rect box_within(const Page& page, const std::optional<Rect>& box) {
  if (!box) return page.crop_box();
  const Rect within = box->intersected(page.media_box());
  return within.is_empty() ? page.crop_box() : within;
}

TabOrder tab_order_of(const Object& order) {
  if (order.is_name("R")) return TabOrder::rows;
  if (order.is_name("C")) return TabOrder::columns;
  if (order.is_name("S")) return TabOrder::structure;
  if (order.is_name("A")) return TabOrder::as_listed;
  if (order.is_name("W")) return TabOrder::widgets_first;
  return TabOrder::unstated;
}

constexpr Rect kLetter{0, 0, 612, 792};

}  // namespace

Result<Document> Document::open(const std::filesystem::path& path, const OpenOptions& options) {
  LUMVET_TRY(auto source, open_file_source(path));
  return open(std::move(source), options);
}

Result<Document> Document::open(Bytes bytes, const OpenOptions& options) {
  return open(make_buffer_source(std::move(bytes)), options);
}

Result<Document> Document::open(std::istream& stream, const OpenOptions& options) {
  LUMVET_TRY(auto source, read_stream_source(stream));
  return open(std::move(source), options);
}

Result<Document> Document::open(std::shared_ptr<const ByteSource> source,
                                const OpenOptions& options) {
  const std::string name = source->name();
  LUMVET_TRY(const LockedDocument waiting, LockedDocument::open(std::move(source), options));
  Result<Document> document =
      options.key ? waiting.unlock(*options.key) : waiting.unlock(options.password);
  if (!document.ok()) return std::move(document).error().about(name);
  return document;
}

Result<Document> Document::from(std::shared_ptr<const file::ObjectStore> store) {
  LUMVET_TRY(document::FoundCatalog found, document::find_catalog(std::move(store)));
  auto core = std::make_shared<const Core>(std::move(found));
  const auto& security = core->store().security();
  if (security && security->tells_attachments_apart()) {
    LUMVET_TRY(std::set<std::uint32_t> numbers,
               attempted([&] { return document::attached_streams(*core); }));
    core->store().know_attachments(std::move(numbers));
  }
  return Document(std::move(core));
}

std::string Document::name() const { return core_->store().source()->name(); }
std::uint64_t Document::file_size() const { return core_->store().source()->size(); }

std::string Document::version() const { return core_->version(); }
bool Document::is_linearized() const { return core_->linearized_size() == file_size(); }

bool Document::was_updated() const {
  const std::size_t sections = core_->store().cross_references().places().size();
  return sections > (core_->linearized_size() ? 2 : 1);
}

std::optional<Encryption> Document::encryption() const { return core_->store().encryption(); }
bool Document::was_repaired() const { return core_->store().cross_references().is_rebuilt(); }

Result<std::vector<Revision>> Document::revisions() const {
  return attempted([&] { return document::find_revisions(core_->store()); });
}

Result<Document> Document::revision(int index) const {
  LUMVET_TRY(const std::vector<Revision> all, revisions());
  if (index < 0 || index >= static_cast<int>(all.size()))
    return Error(ErrorCode::invalid_argument, "there is no revision " + std::to_string(index + 1) +
                                                  "; the document has " +
                                                  std::to_string(all.size()));
  const file::ObjectStore& store = core_->store();
  const std::uint64_t size = all[static_cast<std::size_t>(index)].size;
  return document::read_from(*this, document::beginning_of(store.source(), size));
}

Result<Document> document::read_from(const Document& document,
                                     std::shared_ptr<const ByteSource> source) {
  return attempted([&]() -> Result<Document> {
    LUMVET_TRY(auto store, store_of(document).earlier(std::move(source)));
    LUMVET_TRY(FoundCatalog found, find_catalog(std::move(store)));
    return Inside<Document>::of(std::make_shared<const Core>(std::move(found)));
  });
}

int Document::page_count() const { return core_->pages().count(); }

Result<Page> Document::page(int index) const {
  if (index < 0 || index >= page_count())
    return Error(ErrorCode::invalid_argument, "there is no page " + std::to_string(index + 1) +
                                                  "; the document has " +
                                                  std::to_string(page_count()));
  return attempted([&] { return read_page(index); });
}

Result<Page> Document::read_page(int index) const {
  const file::ObjectStore& store = core_->store();
  LUMVET_TRY(document::PageNode node, core_->pages().find(index));
  Page page;
  page.core_ = core_;
  page.index_ = index;
  page.id_ = node.id;
  const std::string where = "page " + std::to_string(index + 1);
  const auto media = read_box(store, node.dict["MediaBox"]);
  if (!media)
    store.findings().add(
        {where + " has no usable media box; 612 × 792 points were taken", {}, node.id});
  page.media_box_ = media.value_or(kLetter);
  page.crop_box_ =
      read_box(store, node.dict["CropBox"]).value_or(page.media_box_).intersected(page.media_box_);
  if (page.crop_box_.is_empty()) page.crop_box_ = page.media_box_;
  const std::int64_t rotation = store.get(node.dict, "Rotate").as_integer();
  if (rotation % 90 != 0)
    store.findings().add({where + " is turned by " + std::to_string(rotation) +
                              " degrees, which is no quarter turn; it was left unturned",
                          {},
                          node.id});
  else
    page.rotation_ = static_cast<int>((rotation % 360 + 360) % 360);
  page.bleed_box_ = box_within(page, read_box(store, node.dict["BleedBox"]));
  page.trim_box_ = box_within(page, read_box(store, node.dict["TrimBox"]));
  page.art_box_ = box_within(page, read_box(store, node.dict["ArtBox"]));
  page.tab_order_ = tab_order_of(store.get(node.dict, "Tabs"));
  const double unit = store.get(node.dict, "UserUnit").as_number(1);
  if (unit > 0 && unit < 1e6) page.user_unit_ = unit;
  page.dict_ = std::move(node.dict);
  return page;
}

Result<DocumentInfo> Document::info() const {
  return attempted([&] { return document::read_info(*core_); });
}

Result<Metadata> Document::metadata() const {
  return attempted([&] { return document::read_metadata(*core_); });
}

Result<std::vector<OutlineEntry>> Document::outline() const {
  return outline(std::numeric_limits<std::size_t>::max());
}

Result<std::vector<OutlineEntry>> Document::outline(std::size_t most) const {
  return attempted([&] { return document::read_outline(*core_, most); });
}

Result<std::vector<Attachment>> Document::attachments() const { return attachments(page_count()); }

Result<std::vector<Attachment>> Document::attachments(int pages) const {
  return attempted([&] { return document::read_attachments(*core_, pages); });
}

Result<std::optional<Collection>> Document::collection() const {
  return attempted([&] { return document::read_collection(*core_); });
}

Result<std::vector<Article>> Document::articles() const {
  return attempted([&] { return document::read_articles(*core_); });
}

Result<std::vector<Requirement>> Document::requirements() const {
  return attempted([&] { return document::read_requirements(*core_); });
}

Result<std::vector<Destination>> Document::named_destinations() const {
  return attempted([&] { return document::read_named_destinations(*core_); });
}

Result<std::string> Document::page_label(int index) const {
  if (index < 0 || index >= page_count())
    return Error(ErrorCode::invalid_argument, "there is no page " + std::to_string(index + 1));
  return attempted([&] { return core_->labels()->of(index); });
}

Result<bool> Document::has_page_labels() const {
  return attempted([&] { return core_->labels()->are_given(); });
}

Result<AttachedBytes> Document::attached_bytes(const Attachment& attachment) const {
  const std::string step = "reading the attachment " + attachment.name;
  AttachedBytes attached;
  Result<Object> stream = attachment.stream;
  if (stream->is_reference()) stream = object(stream->as_reference());
  if (!stream.ok()) return std::move(stream).error().during(step);
  Result<ByteSlice> bytes = decoded(*stream);
  if (!bytes.ok()) return std::move(bytes).error().during(step);
  attached.bytes = *std::move(bytes);
  if (!attachment.checksum.empty()) {
    const Bytes digest = crypto::digest(crypto::DigestKind::md5, {attached.bytes.view()});
    attached.checksum_fits = as_text(digest) == attachment.checksum;
  }
  return attached;
}

Result<std::vector<FontUse>> Document::fonts() const {
  return attempted([&] { return document::read_resource_uses(*core_).fonts; });
}

Result<std::vector<std::vector<Annotation>>> Document::annotations(int threads) const {
  return attempted([&] { return document::read_all_annotations(*this, threads); });
}

Result<OpeningView> Document::opening_view() const {
  return attempted([&] { return document::read_opening_view(*core_); });
}

Result<std::string> Document::language() const {
  return attempted([&] { return document::text_entry(core_->store(), core_->catalog(), "Lang"); });
}

Result<std::vector<Trigger>> Document::triggers() const {
  return attempted([&] { return document::read_document_triggers(*core_); });
}

Result<Layers> Document::layers() const {
  return attempted([&] { return document::read_layers(*core_); });
}

Result<Structure> Document::structure() const {
  return attempted([&] { return document::read_structure(*core_); });
}

Result<Form> Document::form() const {
  return attempted([&] { return document::read_form(*core_); });
}

Result<std::vector<OutputIntent>> Document::output_intents() const {
  return attempted([&] { return document::read_output_intents(core_->store(), core_->catalog()); });
}

Result<std::vector<Extension>> Document::extensions() const {
  return attempted([&] { return document::read_extensions(*core_); });
}

std::vector<Finding> Document::findings() const { return core_->store().findings().list(); }
const Dict& Document::trailer() const { return core_->store().trailer(); }
const Dict& Document::catalog() const { return core_->catalog(); }

Result<Object> Document::object(ObjectId id) const {
  return attempted([&] { return core_->store().load(id); });
}

Result<std::optional<ObjectPlace>> Document::place_of(ObjectId id) const {
  return attempted([&]() -> std::optional<ObjectPlace> {
    const file::ObjectStore& store = core_->store();
    const std::optional<std::uint64_t> offset = store.place_of(id.number);
    if (!offset) return std::nullopt;
    ObjectPlace place{*offset, {}};
    const file::XrefEntry entry = store.entry_of(id.number);
    if (entry.kind == file::XrefEntry::Kind::in_stream)
      place.packed_in = ObjectId{static_cast<std::uint32_t>(entry.where), 0};
    return place;
  });
}

Result<std::uint32_t> Document::first_unused_number() const {
  return attempted([&] { return core_->store().first_unused(); });
}

Result<Object> Document::resolve(const Object& object) const {
  return attempted([&] { return core_->store().resolve(object); });
}

Result<ByteSlice> Document::decoded(const Object& object) const {
  return attempted([&]() -> Result<ByteSlice> {
    const Object resolved = core_->store().resolve(object);
    const Stream* stream = resolved.as_stream();
    if (stream == nullptr) return Error(ErrorCode::malformed, "there is no stream here");
    Budget budget(core_->store().limits());
    return filters::decode_whole(*stream, core_->store(), budget, core_->store().findings());
  });
}

}  // namespace lumvet
