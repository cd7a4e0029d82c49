// SPDX-License-Identifier: Apache-2.0
// Whatever a document shares: every public call answers, in memory that follows the limits. What
// would visit each node by itself ends never, or when no memory is left.
#include <atomic>
#include <cstdlib>
#include <new>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/public_calls.h"
#include "tests/support/sanitized.h"
#include "tests/support/shared_trees.h"

using namespace lumvet;

namespace {

// Memory that is taken by this program, in bytes: now, and the most since somebody began to look.
std::atomic<std::size_t> taken = 0;
std::atomic<std::size_t> most_taken = 0;

constexpr std::size_t kPrefix = __STDCPP_DEFAULT_NEW_ALIGNMENT__;

void* take(std::size_t size) noexcept {
  void* block = std::malloc(size + kPrefix);
  if (block == nullptr) return nullptr;
  *static_cast<std::size_t*>(block) = size;
  const std::size_t now = taken.fetch_add(size) + size;
  std::size_t most = most_taken.load();
  while (now > most && !most_taken.compare_exchange_weak(most, now)) {
  }
  return static_cast<char*>(block) + kPrefix;
}

void release(void* pointer) noexcept {
  if (pointer == nullptr) return;
  void* block = static_cast<char*>(pointer) - kPrefix;
  taken.fetch_sub(*static_cast<std::size_t*>(block));
  std::free(block);
}

// Few, so that reaching them takes no time.
constexpr Limits kLimits{.operators = 20'000,
                         .page_memory = std::uint64_t{16} << 20,
                         .followed_bytes = std::uint64_t{1} << 20,
                         .followed_ratio = 64};
constexpr std::size_t kMostTaken = std::size_t{48} << 20;

// An answer, or an error that says what is too much.
void ask_all(const std::string& bytes) {
  const std::size_t before = taken;
  most_taken = before;
  const Result<Document> document =
      Document::open(Bytes(bytes.begin(), bytes.end()), {.limits = kLimits});
  CHECK(most_taken - before < kMostTaken);
  if (!document.ok()) {
    CHECK_FALSE(document.error().message().empty());
    return;
  }
  for (const auto& calls :
       {test::calls::of_documents(), test::calls::of_all_pages(), test::calls::of_saves()})
    for (const test::Call& call : calls) {
      INFO(call.name);
      most_taken = before;
      const Result<std::string> answer = call.answer(*document);
      if (!answer.ok() && answer.error().code() == ErrorCode::limit)
        CHECK_THAT(answer.error().message(), Catch::Contains("Limits::"));
      CHECK(most_taken - before < kMostTaken);
    }
}

}  // namespace

void* operator new(std::size_t size) {
  if (void* memory = take(size)) return memory;
  throw std::bad_alloc();
}
void* operator new[](std::size_t size) { return ::operator new(size); }
void* operator new(std::size_t size, const std::nothrow_t&) noexcept { return take(size); }
void* operator new[](std::size_t size, const std::nothrow_t&) noexcept { return take(size); }
void operator delete(void* pointer) noexcept { release(pointer); }
void operator delete[](void* pointer) noexcept { release(pointer); }
void operator delete(void* pointer, const std::nothrow_t&) noexcept { release(pointer); }
void operator delete[](void* pointer, const std::nothrow_t&) noexcept { release(pointer); }
void operator delete(void* pointer, std::size_t) noexcept { release(pointer); }
void operator delete[](void* pointer, std::size_t) noexcept { release(pointer); }

TEST_CASE("trees whose nodes are shared at every level are answered for", "[shared]") {
  const std::vector<test::SharedTree> trees = test::shared_trees();
  struct Shape {
    int depth;
    int times;
    bool numbered;
  };
  const auto shape = GENERATE(Shape{40, 2, false}, Shape{40, 2, true}, Shape{3, 300, false});
  if (test::kIsSanitized && shape.numbered) return;  // as long again for nearly the same
  for (const test::SharedTree& tree : trees) {
    INFO(tree.name << ", " << shape.depth << " deep, " << shape.times << " times"
                   << (shape.numbered ? ", numbered" : ""));
    ask_all(test::document_of(tree, shape.depth, shape.times, shape.numbered));
  }
}
