// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/assembly.h"

#include "assemble/binder.h"
#include "base/attempt.h"
#include "document/permission.h"
#include "save/full_writer.h"

namespace lumvet {

struct Assembly::Impl {
  AssemblyOptions options;
  std::vector<assemble::Part> parts;
  int page_count = 0;
};

Assembly::Assembly(const AssemblyOptions& options) : impl_(std::make_unique<Impl>()) {
  impl_->options = options;
}
Assembly::Assembly(Assembly&&) noexcept = default;
Assembly& Assembly::operator=(Assembly&&) noexcept = default;
Assembly::~Assembly() = default;

int Assembly::page_count() const { return impl_->page_count; }

Status Assembly::add(const Document& document, const PageSelection& pages, const Carry& carry) {
  LUMVET_RETURN_IF_ERROR(document::check_permission(document, &Permissions::assemble,
                                                    "pages be taken out of it or rearranged"));
  Result<std::vector<int>> indices = pages.in(document.page_count());
  if (!indices.ok()) return std::move(indices).error().about(document.name());
  assemble::Part part{document, {}, carry, {}};
  for (const int index : *indices) {
    Result<Page> page = document.page(index);
    if (!page.ok()) return std::move(page).error().about(document.name());
    part.pages.push_back(*std::move(page));
  }
  impl_->page_count += static_cast<int>(part.pages.size());
  impl_->parts.push_back(std::move(part));
  return Done{};
}

Result<SaveReport> Assembly::save(ByteSink& sink, const SaveOptions& options) const {
  return attempted([&]() -> Result<SaveReport> {
    if (impl_->page_count == 0)
      return Error(ErrorCode::invalid_argument, "there are no pages to bind; add a document first");
    return assemble::Binder(impl_->parts, impl_->options).bind(options, sink);
  });
}

Result<SaveReport> Assembly::save(const std::filesystem::path& path,
                                  const SaveOptions& options) const {
  return saving::save_to_file(path, options, [&](ByteSink& sink) { return save(sink, options); });
}

}  // namespace lumvet
