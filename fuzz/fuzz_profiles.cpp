// SPDX-License-Identifier: Apache-2.0
// Any bytes as an ICC profile of one, three or four components: no crash, and colors that are
// colors.
#include "base/findings_list.h"
#include "color/profile.h"
#include "file/ledger.h"
#include "fuzz/small_limits.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size < 1) return 0;
  constexpr std::size_t kComponents[] = {1, 3, 4};
  const std::size_t components = kComponents[data[0] % 3];
  const lumvet::file::Ledger ledger;
  lumvet::Budget budget(fuzz::kSmallLimits);
  lumvet::Findings findings;
  const auto space =
      lumvet::color::space_of_profile(lumvet::Stream::of({}, lumvet::Bytes(data + 1, data + size)),
                                      components, ledger, budget, findings);
  if (!space.ok()) return 0;
  std::vector<double> values(components);
  for (const double value : {0.0, 0.3, 1.0}) {
    std::fill(values.begin(), values.end(), value);
    const auto rgb = (*space)->to_rgb(values);
    for (const double part : {rgb.red, rgb.green, rgb.blue})
      if (!(part >= 0 && part <= 1)) __builtin_trap();
  }
  return 0;
}
