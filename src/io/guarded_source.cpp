// SPDX-License-Identifier: Apache-2.0
#include "io/guarded_source.h"

#include "base/attempt.h"

namespace lumvet::io {
namespace {

class GuardedSource final : public ByteSource {
 public:
  explicit GuardedSource(std::shared_ptr<const ByteSource> source) : source_(std::move(source)) {}

  std::uint64_t size() const override { return source_->size(); }
  std::string name() const override { return source_->name(); }
  std::filesystem::path path() const override { return source_->path(); }

  Status read(std::uint64_t offset, std::span<std::uint8_t> into) const override {
    if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
    return noted(called_back([&] { return source_->read(offset, into); }));
  }
  Result<ByteSlice> slice(std::uint64_t offset, std::uint64_t length) const override {
    if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
    return noted(called_back([&] { return source_->slice(offset, length); }));
  }

 private:
  template <typename T>
  static Result<T> noted(Result<T> result) {
    if (!result.ok()) Attempt::note(result.error());
    return result;
  }

  std::shared_ptr<const ByteSource> source_;
};

}  // namespace

std::shared_ptr<const ByteSource> guarded(std::shared_ptr<const ByteSource> source) {
  return std::make_shared<const GuardedSource>(std::move(source));
}

}  // namespace lumvet::io
