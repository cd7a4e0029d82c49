// SPDX-License-Identifier: Apache-2.0
#include "save/written_check.h"

#include <mutex>

#include "lumvet/linear/linear_check.h"

namespace lumvet::saving {
namespace {

class WrittenSource final : public ByteSource {
 public:
  WrittenSource(PatchableSink& sink, std::uint64_t begin) : sink_(sink), begin_(begin) {}

  std::uint64_t size() const override { return sink_.size() - begin_; }
  Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    const std::lock_guard lock(mutex_);
    return sink_.read_back(begin_ + offset, into);
  }
  std::string name() const override { return "what was written"; }

 private:
  PatchableSink& sink_;
  std::uint64_t begin_;
  mutable std::mutex mutex_;
};

Status check_linear(const Document& document, int pages) {
  const auto refused = [](const std::string& why) {
    return Error(ErrorCode::malformed,
                 "the document is damaged in a way that its linearized copy would be wrong (" +
                     why + "); repair it first");
  };
  if (document.page_count() != pages)
    return refused(std::to_string(document.page_count()) + " pages instead of " +
                   std::to_string(pages));
  LUMVET_TRY(const LinearCheck found, check_linearized(document));
  if (found.state != LinearCheck::State::yes) return refused("it is not linearized");
  if (!found.differences.empty()) return refused(found.differences.front());
  return Done{};
}

}  // namespace

Error opens_for_everybody() {
  return Error(ErrorCode::invalid_argument,
               "nothing was written, since the document would open without a password: what was "
               "given comes to an empty one once it is prepared for the cipher; choose another");
}

Status check_written(PatchableSink& sink, std::uint64_t begin, const WrittenCheck& check) {
  const auto source = std::make_shared<WrittenSource>(sink, begin);
  const Result<Document> opened = Document::open(source);
  if (check.is_locked && opened.ok()) return opens_for_everybody();
  if (check.is_locked && opened.error().code() == ErrorCode::password) return Done{};
  if (!opened.ok()) return opened.error();
  return check.linear_pages ? check_linear(*opened, *check.linear_pages) : Status(Done{});
}

}  // namespace lumvet::saving
