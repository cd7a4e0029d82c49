// SPDX-License-Identifier: Apache-2.0
#include "carrying.h"

#include <array>

#include <CLI/CLI.hpp>

namespace tool {
namespace {

struct CarriedKind {
  const char* name;
  bool lumvet::Carry::*carry;
};

constexpr std::array<CarriedKind, 13> kKinds = {{{"outlines", &lumvet::Carry::outlines},
                                                 {"labels", &lumvet::Carry::labels},
                                                 {"destinations", &lumvet::Carry::destinations},
                                                 {"links", &lumvet::Carry::links},
                                                 {"annotations", &lumvet::Carry::annotations},
                                                 {"fields", &lumvet::Carry::fields},
                                                 {"attachments", &lumvet::Carry::attachments},
                                                 {"layers", &lumvet::Carry::layers},
                                                 {"tags", &lumvet::Carry::structure},
                                                 {"metadata", &lumvet::Carry::metadata},
                                                 {"opening", &lumvet::Carry::opening},
                                                 {"output-intents", &lumvet::Carry::output_intents},
                                                 {"articles", &lumvet::Carry::articles}}};

}  // namespace

void add_carrying_options(CLI::App& verb, Carrying& carrying) {
  std::vector<std::string> names;
  std::string listed;
  for (const CarriedKind& kind : kKinds) {
    names.emplace_back(kind.name);
    listed += (listed.empty() ? "" : ", ") + names.back();
  }
  verb.add_option("--without", carrying.without, "Leave out some of: " + listed)
      ->check(CLI::IsMember(names).description(""))
      ->delimiter(',')
      ->type_name("WHAT");
  verb.add_flag("--keep-lost-entries", carrying.keeps_lost_entries,
                "Keep entries of the outline whose pages stay behind, as text");
}

lumvet::Carry carry_of(const Carrying& carrying) {
  lumvet::Carry carry;
  carry.lost_entries = carrying.keeps_lost_entries;
  for (const CarriedKind& kind : kKinds)
    for (const std::string& name : carrying.without)
      if (name == kind.name) carry.*kind.carry = false;
  return carry;
}

}  // namespace tool
