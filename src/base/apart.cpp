// SPDX-License-Identifier: Apache-2.0
#include "base/apart.h"

namespace lumvet {

std::atomic<int>& threads_left_behind() {
  static std::atomic<int> count = 0;
  return count;
}

}  // namespace lumvet
