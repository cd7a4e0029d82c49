// SPDX-License-Identifier: Apache-2.0
#include "lumvet/security/encryption.h"

namespace lumvet {
namespace {

struct Sentence {
  bool Permissions::*permission;
  const char* words;
};

constexpr Sentence kSentences[] = {
    {&Permissions::print_sharply, "printing sharply"},
    {&Permissions::copy, "copying text and images"},
    {&Permissions::change, "changing pages"},
    {&Permissions::annotate, "annotating"},
    {&Permissions::fill_forms, "filling in forms"},
    {&Permissions::assemble, "rearranging pages"},
};

// Bit positions as table 22 counts them, from 1.
bool bit(std::uint32_t bits, int position) { return (bits >> (position - 1) & 1) != 0; }

std::vector<std::string> sentences(const Permissions& permissions, bool wanted) {
  std::vector<std::string> words;
  if (permissions.print == wanted) words.emplace_back("printing");
  for (const Sentence& sentence : kSentences)
    if (permissions.*sentence.permission == wanted) words.emplace_back(sentence.words);
  return words;
}

}  // namespace

Permissions Permissions::from_bits(std::uint32_t bits, int revision) {
  Permissions permissions;
  permissions.print = bit(bits, 3);
  permissions.change = bit(bits, 4);
  permissions.copy = bit(bits, 5);
  permissions.annotate = bit(bits, 6);
  if (revision <= 2) {
    permissions.print_sharply = permissions.print;
    permissions.fill_forms = permissions.annotate;
    permissions.assemble = permissions.change;
  } else {
    permissions.print_sharply = permissions.print && bit(bits, 12);
    permissions.fill_forms = permissions.annotate || bit(bits, 9);
    permissions.assemble = permissions.change || bit(bits, 11);
  }
  return permissions;
}

std::uint32_t Permissions::to_bits() const {
  // What is reserved is set, but for the two lowest; and reading aloud is never refused (bit 10).
  std::uint32_t bits = 0xFFFFF0C0u | 1u << 9;
  const auto set = [&bits](bool allowed, int position) {
    const std::uint32_t mask = 1u << (position - 1);
    bits = allowed ? bits | mask : bits & ~mask;
  };
  set(print, 3);
  set(change, 4);
  set(copy, 5);
  set(annotate, 6);
  set(fill_forms || annotate, 9);
  set(assemble || change, 11);
  set(print && print_sharply, 12);
  return bits;
}

std::vector<std::string> Permissions::allowed() const { return sentences(*this, true); }
std::vector<std::string> Permissions::refused() const { return sentences(*this, false); }

}  // namespace lumvet
