// SPDX-License-Identifier: Apache-2.0
#include "render/workspace.h"

#include <algorithm>
#include <exception>
#include <mutex>
#include <thread>

namespace lumvet::rendering {
namespace {

struct Kept {
  std::mutex mutex;
  std::vector<std::unique_ptr<Workspace>> all;
};

Kept& kept() {
  static Kept all;
  return all;
}

constexpr std::size_t kMostRooms = 4;
constexpr std::size_t kMostBytes = 1 << 20;  // what one tile takes, and some more

void drop_if_large(Bytes& bytes) {
  if (bytes.capacity() > kMostBytes) Bytes().swap(bytes);
}

}  // namespace

Bytes Workspace::take_room() {
  if (rooms.empty()) return {};
  Bytes room = std::move(rooms.back());
  rooms.pop_back();
  return room;
}

BorrowedWorkspace borrow_workspace() {
  const std::lock_guard lock(kept().mutex);
  if (kept().all.empty()) return BorrowedWorkspace(new Workspace);
  BorrowedWorkspace workspace(kept().all.back().release());
  kept().all.pop_back();
  return workspace;
}

void GiveBack::operator()(Workspace* workspace) const {
  std::unique_ptr<Workspace> given(workspace);
  // What was left in the middle of something is not clean.
  if (std::uncaught_exceptions() > 0) return;
  if (given->rooms.size() > kMostRooms) given->rooms.resize(kMostRooms);
  for (Bytes& room : given->rooms) drop_if_large(room);
  drop_if_large(given->apart);
  drop_if_large(given->colors);
  given->glyphs.trim();
  const std::lock_guard lock(kept().mutex);
  if (kept().all.size() < 2 * std::max(1u, std::thread::hardware_concurrency()))
    kept().all.push_back(std::move(given));
}

}  // namespace lumvet::rendering
