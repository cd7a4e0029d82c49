// SPDX-License-Identifier: Apache-2.0
#include "lumvet/edit/editable_document.h"

#include <algorithm>

#include "document/certification.h"
#include "document/permission.h"
#include "edit/editable_document_impl.h"
#include "io/appending.h"
#include "io/source_parts.h"
#include "save/full_writer.h"

namespace lumvet {

EditableDocument::Impl::Impl(const Document& document)
    : opened(document),
      file(store_of(document).with(nullptr)),
      history(store_of(document).changes() != nullptr
                  ? store_of(document).changes()
                  : std::make_shared<const file::ObjectChanges>()),
      next_number(store_of(document).first_beyond()) {
  known_changes = history.now();
  known = document;
}

Result<Document> EditableDocument::Impl::now() const {
  const ObjectChangesPtr& changes = history.now();
  {
    const std::lock_guard lock(mutex);
    if (known_changes == changes) return *known;
  }
  return attempted([&]() -> Result<Document> {
    auto core = std::make_shared<const document::Core>(core_of(opened), file->with(changes));
    Document document = Inside<Document>::of(std::move(core));
    if (Attempt::is_stopped()) return document;
    const std::lock_guard lock(mutex);
    known_changes = changes;
    known = document;
    return document;
  });
}

Status EditableDocument::Impl::may_be_changed() const {
  return document::check_permission(opened, &Permissions::change, "it be changed");
}

Status EditableDocument::Impl::may_be_arranged() const {
  return may_be_changed().ok() ? Status(Done{})
                               : document::check_permission(opened, &Permissions::assemble,
                                                            "its pages be taken out or rearranged");
}

Status EditableDocument::Impl::may_be_annotated() const {
  LUMVET_RETURN_IF_ERROR(
      document::check_permission(opened, &Permissions::annotate, "it be annotated"));
  return attempted([&] {
    return document::check_certification(core_of(opened), document::ChangeKind::annotate);
  });
}

Status EditableDocument::Impl::may_be_filled_in() const {
  const bool may_annotate =
      document::check_permission(opened, &Permissions::annotate, "it be annotated").ok();
  if (!may_annotate)
    LUMVET_RETURN_IF_ERROR(
        document::check_permission(opened, &Permissions::fill_forms, "its fields be filled in"));
  return attempted([&] {
    return document::check_certification(core_of(opened), document::ChangeKind::fill_in);
  });
}

int EditableDocument::Impl::origin_of(const Document& document, int index) const {
  const auto page = core_of(document).pages().find(index);
  if (!page.ok()) return -1;
  const auto& origins = history.now()->origins;
  if (const auto known = origins.find(page->id); known != origins.end()) return known->second;
  if (&core_of(document) == &core_of(opened)) return index;
  return core_of(opened).pages().index_of(page->id).value_or(-1);
}

void EditableDocument::Impl::put(file::Ledger& ledger, ObjectId id, Object object) const {
  const Result<Object> stated = file->load(id);
  if (stated.ok() && *stated == object)
    ledger.drop(id);
  else
    ledger.set(id, std::move(object));
}

SaveReport EditableDocument::Impl::report(const Document& document, std::uint64_t bytes) const {
  SaveReport report;
  report.bytes = bytes;
  report.pages = document.page_count();
  report.findings = document.findings();
  const std::vector<Finding>& notes = history.now()->notes;
  report.findings.insert(report.findings.end(), notes.begin(), notes.end());
  return report;
}

EditableDocument::EditableDocument(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
EditableDocument::EditableDocument(EditableDocument&&) noexcept = default;
EditableDocument& EditableDocument::operator=(EditableDocument&&) noexcept = default;
EditableDocument::~EditableDocument() = default;

EditableDocument EditableDocument::of(const Document& document) {
  return EditableDocument(std::make_unique<Impl>(document));
}

Result<Document> EditableDocument::now() const { return impl_->now(); }

Result<std::vector<int>> EditableDocument::pages_changed_since(const Document& state) const {
  const document::Core& before = core_of(state);
  if (before.family() != core_of(impl_->opened).family())
    return Error(ErrorCode::invalid_argument,
                 state.name() + " is another document than the one that is changed");
  LUMVET_TRY(const Document document, now());
  return attempted([&]() -> Result<std::vector<int>> {
    const document::Core& after = core_of(document);
    std::vector<int> changed;
    for (const file::ObjectStore* store : {&after.store(), &before.store()}) {
      if (store->changes() == nullptr) continue;
      for (const auto& [page, stamp] : store->changes()->pages)
        if (after.stamp_of_page(page) != before.stamp_of_page(page))
          if (const auto index = after.pages().index_of(page)) changed.push_back(*index);
    }
    std::sort(changed.begin(), changed.end());
    changed.erase(std::unique(changed.begin(), changed.end()), changed.end());
    return changed;
  });
}

Result<std::vector<int>> EditableDocument::page_origins() const {
  LUMVET_TRY(const Document document, now());
  return attempted([&]() -> Result<std::vector<int>> {
    std::vector<int> origins;
    for (int i = 0; i < document.page_count(); ++i)
      origins.push_back(impl_->origin_of(document, i));
    return origins;
  });
}

bool EditableDocument::can_undo() const { return impl_->history.can_undo(); }
bool EditableDocument::can_redo() const { return impl_->history.can_redo(); }
void EditableDocument::undo() { impl_->history.undo(); }
void EditableDocument::redo() { impl_->history.redo(); }
std::vector<std::string> EditableDocument::steps() const { return impl_->history.steps(); }

void EditableDocument::begin_steps(std::string what) {
  impl_->history.begin_group(std::move(what));
}
void EditableDocument::end_steps() { impl_->history.end_group(); }

Result<SaveReport> EditableDocument::save(ByteSink& sink, const SaveOptions& options) const {
  LUMVET_TRY(const Document document, now());
  return attempted([&]() -> Result<SaveReport> {
    // In which attached files, languages and XMP came.
    const std::string version = std::max(document.version(), std::string("1.4"));
    LUMVET_TRY(const std::uint64_t bytes, saving::write_document(document, version, options, sink));
    SaveReport report = impl_->report(document, bytes);
    LUMVET_RETURN_IF_ERROR(saving::note_signatures(document, report.findings));
    saving::note_weak_lock(options, report.findings);
    return report;
  });
}

Result<SaveReport> EditableDocument::save(const std::filesystem::path& path,
                                          const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

Result<Bytes> EditableDocument::Impl::append(saving::AppendedState& after) const {
  if (history.now()->keeps_nothing)
    return Error(ErrorCode::unsupported,
                 "what was redacted would stay in the bytes in front; save the document whole");
  return attempted([&]() -> Result<Bytes> {
    const file::Ledger ledger(file, *history.now());
    return saving::appended_bytes(*file, ledger, after);
  });
}

Result<Bytes> EditableDocument::appended() const {
  saving::AppendedState from_scratch;
  return impl_->append(from_scratch);
}

Result<SaveReport> EditableDocument::save_appended(const std::filesystem::path& path,
                                                   const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save_appended(sink); });
}

Result<SaveReport> EditableDocument::save_appended(ByteSink& sink) const {
  LUMVET_TRY(const Bytes more, appended());
  const ByteSource& source = *impl_->file->source();
  LUMVET_RETURN_IF_ERROR(
      io::each_part_of(source, 0, source.size(), [&](ByteView part) { return sink.write(part); }));
  LUMVET_RETURN_IF_ERROR(sink.write(more));
  LUMVET_TRY(const Document document, now());
  return impl_->report(document, source.size() + more.size());
}

Result<SaveReport> EditableDocument::append_to_file() {
  const std::filesystem::path path = impl_->file->source()->path();
  if (path.empty())
    return Error(ErrorCode::invalid_argument,
                 impl_->opened.name() +
                     " was opened from no file that changes could be appended to; save it under a "
                     "name instead");
  saving::AppendedState after = impl_->appended;
  LUMVET_TRY(const Bytes more, impl_->append(after));
  LUMVET_TRY(const Document document, now());
  const std::uint64_t before =
      impl_->appended.size != 0 ? impl_->appended.size : impl_->file->source()->size();
  LUMVET_RETURN_IF_ERROR(io::append_bytes(path, before, more));
  impl_->appended = std::move(after);
  SaveReport report = impl_->report(document, before + more.size());
  report.path = path;
  return report;
}

}  // namespace lumvet
