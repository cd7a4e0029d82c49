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

}  // namespace

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
  constexpr std::size_t kMostRooms = 2;
  if (given->rooms.size() > kMostRooms) given->rooms.resize(kMostRooms);
  const std::lock_guard lock(kept().mutex);
  if (kept().all.size() < 2 * std::max(1u, std::thread::hardware_concurrency()))
    kept().all.push_back(std::move(given));
}

}  // namespace lumvet::rendering
