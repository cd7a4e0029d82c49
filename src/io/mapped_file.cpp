// SPDX-License-Identifier: Apache-2.0
#include "io/mapped_file.h"

#include <sys/mman.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <csignal>
#include <mutex>

#include "base/attempt.h"

namespace lumvet::io {
namespace {

// What the handler looks at. A slot is in use while `begin` is not 0; it is freed by one thread and
// taken by another under the lock, and the handler reads it without.
struct Slot {
  std::atomic<std::uintptr_t> begin = 0;
  std::atomic<std::uintptr_t> end = 0;
  std::atomic<bool> is_short = false;
};
std::array<Slot, 1024> slots;
std::mutex taking;
struct sigaction before {};

void hand_on(int signal, siginfo_t* info, void* context) {
  if ((before.sa_flags & SA_SIGINFO) != 0) return before.sa_sigaction(signal, info, context);
  if (before.sa_handler != SIG_DFL && before.sa_handler != SIG_IGN)
    return before.sa_handler(signal);
  // What happens without any handler, when the place is touched again.
  ::sigaction(SIGBUS, &before, nullptr);
}

// Puts zeros where bytes have gone, so that whoever reads there goes on, and is told afterwards.
void on_missing_page(int signal, siginfo_t* info, void* context) {
  const int kept = errno;
  const auto at = reinterpret_cast<std::uintptr_t>(info->si_addr);
  for (Slot& slot : slots) {
    const std::uintptr_t begin = slot.begin.load(std::memory_order_acquire);
    if (begin == 0 || at < begin || at >= slot.end.load(std::memory_order_acquire)) continue;
    const auto page = static_cast<std::uintptr_t>(::sysconf(_SC_PAGESIZE));
    void* const place = reinterpret_cast<void*>(at / page * page);
    if (::mmap(place, page, PROT_READ, MAP_PRIVATE | MAP_ANONYMOUS | MAP_FIXED, -1, 0) ==
        MAP_FAILED)
      break;
    slot.is_short.store(true, std::memory_order_release);
    Attempt::note_lost_bytes();
    errno = kept;
    return;
  }
  errno = kept;
  hand_on(signal, info, context);
}

void set_handler() {
  struct sigaction ours {};
  ours.sa_sigaction = on_missing_page;
  ours.sa_flags = SA_SIGINFO | SA_NODEFER;
  ::sigemptyset(&ours.sa_mask);
  ::sigaction(SIGBUS, &ours, &before);
}

}  // namespace

std::unique_ptr<MappedFile> MappedFile::map(int file, std::size_t size) {
  static std::once_flag once;
  std::call_once(once, set_handler);
  const std::lock_guard lock(taking);
  for (std::size_t i = 0; i < slots.size(); ++i) {
    Slot& slot = slots[i];
    if (slot.begin.load(std::memory_order_relaxed) != 0) continue;
    void* mapped = ::mmap(nullptr, size, PROT_READ, MAP_PRIVATE, file, 0);
    if (mapped == MAP_FAILED) return nullptr;
    const auto begin = reinterpret_cast<std::uintptr_t>(mapped);
    slot.is_short.store(false, std::memory_order_relaxed);
    slot.end.store(begin + size, std::memory_order_release);
    slot.begin.store(begin, std::memory_order_release);
    return std::unique_ptr<MappedFile>(
        new MappedFile({static_cast<const std::uint8_t*>(mapped), size}, i));
  }
  errno = 0;
  return nullptr;
}

MappedFile::~MappedFile() {
  const std::lock_guard lock(taking);
  slots[slot_].begin.store(0, std::memory_order_release);
  ::munmap(const_cast<std::uint8_t*>(bytes_.data()), bytes_.size());
}

bool MappedFile::was_shortened() const {
  return slots[slot_].is_short.load(std::memory_order_acquire);
}

}  // namespace lumvet::io
