// SPDX-License-Identifier: Apache-2.0
#include "lumvet/save/changes.h"

#include <algorithm>
#include <array>

#include "crypto/digest.h"
#include "document/inside.h"
#include "document/permission.h"
#include "document/xmp_writer.h"
#include "save/changes_state.h"
#include "save/full_writer.h"
#include "save/incremental_writer.h"

namespace lumvet {
namespace {

struct Known {
  const char* words;
  const char* key;
  std::optional<std::string> NewProperties::*value;
};
constexpr std::array<Known, 5> kKnown = {{{"title", "Title", &NewProperties::title},
                                          {"author", "Author", &NewProperties::author},
                                          {"subject", "Subject", &NewProperties::subject},
                                          {"keywords", "Keywords", &NewProperties::keywords},
                                          {"creator", "Creator", &NewProperties::creator}}};

Object text(const std::string& utf8) { return Object::string(objects::utf8_to_text(utf8)); }

}  // namespace

Changes::Changes(const Document& document) : impl_(std::make_unique<Impl>(document)) {}
Changes::Changes(Changes&&) noexcept = default;
Changes& Changes::operator=(Changes&&) noexcept = default;
Changes::~Changes() = default;

Status Changes::describe(const NewProperties& properties) {
  Impl::State state = impl_->history.now();
  std::vector<document::XmpChange> changes;
  std::string what;
  for (const Known& known : kKnown) {
    const std::optional<std::string>& value = properties.*known.value;
    if (!value) continue;
    state.info.set(known.key, value->empty() ? Object() : text(*value));
    changes.push_back({document::xmp_property(known.words), *value});
    what += (what.empty() ? "" : ", ") + std::string(known.words);
  }
  if (changes.empty()) return Error(ErrorCode::invalid_argument, "no property is given to be set");
  // A document without XMP gets none: the information says it all.
  const Object packet = impl_->ledger.resolve(state.catalog["Metadata"]);
  if (packet.is_stream()) {
    LUMVET_TRY(const ByteSlice bytes, impl_->document.decoded(packet));
    LUMVET_TRY(Bytes changed, document::changed_xmp(bytes.view(), changes));
    const Dict dict{{"Type", Object::name("Metadata")}, {"Subtype", Object::name("XML")}};
    state.catalog.set("Metadata", impl_->ledger.add(Stream::of(dict, std::move(changed))));
  }
  impl_->history.take("described by " + what, std::move(state));
  return Done{};
}

Status Changes::forget_properties() {
  Impl::State state = impl_->history.now();
  state.info = Dict();
  state.catalog.remove("Metadata");
  impl_->history.take("forgot all properties", std::move(state));
  return Done{};
}

Status Changes::set_language(const std::string& language) {
  Impl::State state = impl_->history.now();
  state.catalog.set("Lang", language.empty() ? Object() : text(language));
  impl_->history.take("set the language to " + (language.empty() ? "none" : language),
                      std::move(state));
  return Done{};
}

Status Changes::attach(NewAttachment attachment) {
  const std::string& name = attachment.name;
  if (name.empty() || name.find_first_of("/\\") != std::string::npos)
    return Error(ErrorCode::invalid_argument,
                 "'" + name + "' is no name for an attachment; give one without folders");
  const std::vector<std::string> names = attachment_names();
  if (std::find(names.begin(), names.end(), name) != names.end())
    return Error(ErrorCode::exists, "an attachment called " + name +
                                        " is already there; remove it first, or give another name");
  Impl::State state = impl_->history.now();
  crypto::Digest digest(crypto::DigestKind::md5);
  digest.update(attachment.bytes);
  Dict file{{"Type", Object::name("EmbeddedFile")},
            {"Params", Dict{{"Size", static_cast<std::int64_t>(attachment.bytes.size())},
                            {"CheckSum", Object::string(as_text(digest.finish()))}}}};
  if (!attachment.media_type.empty()) file.set("Subtype", Object::name(attachment.media_type));
  const ObjectId stream =
      impl_->ledger.add(Stream::of(std::move(file), std::move(attachment.bytes)));
  Dict specification{{"Type", Object::name("Filespec")},
                     {"F", text(name)},
                     {"UF", text(name)},
                     {"EF", Dict{{"F", stream}, {"UF", stream}}}};
  if (!attachment.description.empty()) specification.set("Desc", text(attachment.description));
  const std::string key =
      document::free_name(std::string(text(name).as_string()),
                          [&](const std::string& other) { return state.files.contains(other); });
  state.files.emplace(key, impl_->ledger.add(std::move(specification)));
  impl_->set_files(state);
  impl_->history.take("attached " + name, std::move(state));
  return Done{};
}

Status Changes::detach(const std::string& name) {
  Impl::State state = impl_->history.now();
  const auto found = std::find_if(state.files.begin(), state.files.end(), [&](const auto& file) {
    return impl_->name_of(file.first, file.second) == name;
  });
  if (found == state.files.end()) {
    std::string names;
    for (const std::string& other : attachment_names())
      names += (names.empty() ? "" : ", ") + other;
    return Error(ErrorCode::invalid_argument, "no attachment is called '" + name + "'; there " +
                                                  (names.empty() ? "is none" : "are: " + names));
  }
  state.files.erase(found);
  impl_->set_files(state);
  impl_->history.take("removed " + name, std::move(state));
  return Done{};
}

std::vector<std::string> Changes::attachment_names() const {
  std::vector<std::string> names;
  for (const auto& [key, file] : impl_->history.now().files)
    names.push_back(impl_->name_of(key, file));
  return names;
}

bool Changes::can_undo() const { return impl_->history.can_undo(); }
bool Changes::can_redo() const { return impl_->history.can_redo(); }
void Changes::undo() { impl_->history.undo(); }
void Changes::redo() { impl_->history.redo(); }
std::vector<std::string> Changes::steps() const { return impl_->history.steps(); }

Result<SaveReport> Changes::save(ByteSink& sink, const SaveOptions& options) const {
  const Document& document = impl_->document;
  LUMVET_RETURN_IF_ERROR(
      document::check_permission(document, &Permissions::change, "it be changed"));
  const file::Ledger all = impl_->all();
  // In which attached files, languages and XMP came.
  const std::string version = std::max(document.version(), std::string("1.4"));
  LUMVET_TRY(const std::uint64_t bytes,
             saving::write_full({all, core_of(document).root(), impl_->info_reference(), version,
                                 saving::first_id(document), store_of(document).security()},
                                options, sink));
  SaveReport report = impl_->report(bytes);
  saving::note_weak_lock(options, report.findings);
  return report;
}

Result<Bytes> Changes::update() const {
  const Document& document = impl_->document;
  LUMVET_RETURN_IF_ERROR(
      document::check_permission(document, &Permissions::change, "it be changed"));
  return saving::update_for(document, impl_->all(), impl_->info_reference());
}

Result<SaveReport> Changes::save_update(const std::filesystem::path& path,
                                        const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) -> Result<SaveReport> {
    LUMVET_TRY(const Bytes more, update());
    const ByteSource& source = *store_of(impl_->document).source();
    constexpr std::uint64_t kPart = 1 << 20;
    for (std::uint64_t at = 0; at < source.size(); at += kPart) {
      LUMVET_TRY(const ByteSlice part, source.slice(at, kPart));
      LUMVET_RETURN_IF_ERROR(sink.write(part.view()));
    }
    LUMVET_RETURN_IF_ERROR(sink.write(more));
    return impl_->report(source.size() + more.size());
  });
}

Result<SaveReport> Changes::append_to_file() const {
  LUMVET_TRY(const Bytes more, update());
  const std::uint64_t before = impl_->document.file_size();
  LUMVET_RETURN_IF_ERROR(append_bytes(impl_->document.name(), before, more));
  SaveReport report = impl_->report(before + more.size());
  report.path = impl_->document.name();
  return report;
}

Result<SaveReport> Changes::save(const std::filesystem::path& path,
                                 const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

}  // namespace lumvet
