// SPDX-License-Identifier: Apache-2.0
#include "printable.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <cstdio>
#include <iostream>
#include <streambuf>

namespace tool {
namespace {

struct Decoded {
  std::uint32_t character = 0;
  std::size_t bytes = 1;
  bool is_valid = false;
  bool is_cut_off = false;  // the rest of it may follow
};

Decoded decode(std::string_view text) {
  const auto lead = static_cast<unsigned char>(text[0]);
  if (lead < 0x80) return {lead, 1, true};
  const std::size_t length = lead >= 0xF0 ? 4 : lead >= 0xE0 ? 3 : 2;
  if (lead < 0xC2 || lead > 0xF4) return {lead};
  std::uint32_t character = lead & (0x7Fu >> length);
  for (std::size_t i = 1; i < length; ++i) {
    if (i == text.size()) return {lead, 1, false, true};
    const auto next = static_cast<unsigned char>(text[i]);
    if ((next & 0xC0) != 0x80) return {lead};
    character = character << 6 | (next & 0x3Fu);
  }
  constexpr std::array<std::uint32_t, 5> kLeast = {0, 0, 0x80, 0x800, 0x10000};
  const bool is_surrogate = character >= 0xD800 && character <= 0xDFFF;
  if (character < kLeast[length] || character > 0x10FFFF || is_surrogate) return {lead};
  return {character, length, true};
}

bool is_printable(std::uint32_t c) {
  if (c == '\n' || c == '\t') return true;
  if (c < 0x20 || (c >= 0x7F && c < 0xA0)) return false;
  const bool turns_direction = c == 0x061C || c == 0x200E || c == 0x200F ||
                               (c >= 0x202A && c <= 0x202E) || (c >= 0x2066 && c <= 0x2069);
  const bool ends_line = c == 0x2028 || c == 0x2029;
  return !turns_direction && !ends_line;
}

// Appends what is safe of a text, and gives how much was used: all but a character that is cut off.
std::size_t append_printable(std::string_view text, bool is_end, std::string& out) {
  std::size_t at = 0;
  while (at < text.size()) {
    const std::size_t plain = at;
    while (at < text.size() && text[at] >= ' ' && text[at] < '\x7F') ++at;
    out += text.substr(plain, at - plain);
    if (at == text.size()) break;
    const Decoded decoded = decode(text.substr(at));
    if (decoded.is_cut_off && !is_end) break;
    if (decoded.is_valid && is_printable(decoded.character)) {
      out += text.substr(at, decoded.bytes);
    } else {
      std::array<char, 8> escaped{};
      std::snprintf(escaped.data(), escaped.size(), "\\u%04x", decoded.character & 0xFFFF);
      out += escaped.data();
    }
    at += decoded.bytes;
  }
  return at;
}

std::streambuf*& raw(std::ostream& stream) {
  static std::streambuf* out = nullptr;
  static std::streambuf* error = nullptr;
  return &stream == &std::cout ? out : error;
}

}  // namespace

std::string printable(std::string_view text) {
  std::string out;
  append_printable(text, true, out);
  return out;
}

class PrintableOutput::Filter final : public std::streambuf {
 public:
  explicit Filter(std::ostream& stream) : stream_(stream), to_(stream.rdbuf()) {
    raw(stream) = to_;
    stream.rdbuf(this);
  }
  ~Filter() override {
    pass_on(true);
    stream_.rdbuf(to_);
  }
  Filter(const Filter&) = delete;
  Filter& operator=(const Filter&) = delete;

 protected:
  int_type overflow(int_type c) override {
    if (traits_type::eq_int_type(c, traits_type::eof())) return traits_type::not_eof(c);
    const char one = traits_type::to_char_type(c);
    return xsputn(&one, 1) == 1 ? c : traits_type::eof();
  }
  std::streamsize xsputn(const char* text, std::streamsize size) override {
    constexpr std::size_t kMost = 1 << 16;
    waiting_.append(text, static_cast<std::size_t>(size));
    return waiting_.size() < kMost || pass_on(false) ? size : 0;
  }
  int sync() override { return pass_on(false) && to_->pubsync() == 0 ? 0 : -1; }

 private:
  bool pass_on(bool is_end) {
    std::string text;
    waiting_.erase(0, append_printable(waiting_, is_end, text));
    const auto size = static_cast<std::streamsize>(text.size());
    return to_->sputn(text.data(), size) == size;
  }

  std::ostream& stream_;
  std::streambuf* to_;
  std::string waiting_;
};

PrintableOutput::PrintableOutput()
    : out_(std::make_unique<Filter>(std::cout)), error_(std::make_unique<Filter>(std::cerr)) {}
PrintableOutput::~PrintableOutput() = default;

std::ostream& raw_output() {
  static std::ostream stream(raw(std::cout) != nullptr ? raw(std::cout) : std::cout.rdbuf());
  std::cout.flush();
  return stream;
}

std::ostream& raw_errors() {
  static std::ostream stream(raw(std::cerr) != nullptr ? raw(std::cerr) : std::cerr.rdbuf());
  std::cerr.flush();
  return stream;
}

}  // namespace tool
