// SPDX-License-Identifier: Apache-2.0
#include "fonts/predefined_encoding.h"

#include <unicode/uchar.h>
#include <unicode/ucnv.h>

#include <algorithm>
#include <mutex>
#include <string>
#include <unordered_map>

namespace lumvet::fonts {

struct PredefinedEncoding::Family {
  std::string_view begin;  // of the names, without the -H or -V at their end
  const char* charset;     // as ICU calls it
  Lengths lengths;
  bool is_row_cell = false;
};

struct PredefinedEncoding::Converter {
  std::mutex mutex;
  UConverter* converter = nullptr;
  std::unordered_map<std::uint32_t, std::uint32_t> known;
  ~Converter() {
    if (converter != nullptr) ucnv_close(converter);
  }
};

// Table 116.
const PredefinedEncoding::Family* PredefinedEncoding::find(std::string_view name) {
  static const Family kFamilies[] = {
      {"UniGB-UCS2", "UTF-16BE", Lengths::utf16},
      {"UniGB-UTF16", "UTF-16BE", Lengths::utf16},
      {"UniGB-UTF8", "UTF-8", Lengths::utf8},
      {"UniGB-UTF32", "UTF-32BE", Lengths::four},
      {"UniCNS-UCS2", "UTF-16BE", Lengths::utf16},
      {"UniCNS-UTF16", "UTF-16BE", Lengths::utf16},
      {"UniCNS-UTF8", "UTF-8", Lengths::utf8},
      {"UniCNS-UTF32", "UTF-32BE", Lengths::four},
      {"UniJIS-UCS2-HW", "UTF-16BE", Lengths::utf16},
      {"UniJIS-UCS2", "UTF-16BE", Lengths::utf16},
      {"UniJIS-UTF16", "UTF-16BE", Lengths::utf16},
      {"UniJIS2004-UTF16", "UTF-16BE", Lengths::utf16},
      {"UniJIS-UTF8", "UTF-8", Lengths::utf8},
      {"UniJIS-UTF32", "UTF-32BE", Lengths::four},
      {"UniKS-UCS2", "UTF-16BE", Lengths::utf16},
      {"UniKS-UTF16", "UTF-16BE", Lengths::utf16},
      {"UniKS-UTF8", "UTF-8", Lengths::utf8},
      {"UniKS-UTF32", "UTF-32BE", Lengths::four},
      {"GB-EUC", "gb18030", Lengths::extended_unix},
      {"GBpc-EUC", "gb18030", Lengths::extended_unix},
      {"GBK-EUC", "gb18030", Lengths::big},
      {"GBKp-EUC", "gb18030", Lengths::big},
      {"GBK2K", "gb18030", Lengths::national},
      {"B5pc", "Big5-HKSCS", Lengths::big},
      {"HKscs-B5", "Big5-HKSCS", Lengths::big},
      {"ETen-B5", "Big5-HKSCS", Lengths::big},
      {"ETenms-B5", "Big5-HKSCS", Lengths::big},
      {"CNS-EUC", "EUC-TW", Lengths::extended_unix},
      {"83pv-RKSJ", "windows-31j", Lengths::shift_jis},
      {"90ms-RKSJ", "windows-31j", Lengths::shift_jis},
      {"90msp-RKSJ", "windows-31j", Lengths::shift_jis},
      {"90pv-RKSJ", "windows-31j", Lengths::shift_jis},
      {"Add-RKSJ", "windows-31j", Lengths::shift_jis},
      {"Ext-RKSJ", "windows-31j", Lengths::shift_jis},
      {"EUC", "EUC-JP", Lengths::extended_unix},
      {"", "EUC-JP", Lengths::two, true},  // H and V by themselves
      {"KSC-EUC", "windows-949", Lengths::extended_unix},
      {"KSCms-UHC", "windows-949", Lengths::big},
      {"KSCms-UHC-HW", "windows-949", Lengths::big},
      {"KSCpc-EUC", "windows-949", Lengths::big},
  };
  const auto* found = std::find_if(std::begin(kFamilies), std::end(kFamilies),
                                   [name](const Family& family) { return family.begin == name; });
  return found == std::end(kFamilies) ? nullptr : found;
}

std::shared_ptr<const PredefinedEncoding> PredefinedEncoding::named(std::string_view name) {
  if (name.empty() || (name.back() != 'H' && name.back() != 'V')) return nullptr;
  const bool vertical = name.back() == 'V';
  name.remove_suffix(1);
  if (!name.empty()) {
    if (name.back() != '-' || name.size() == 1) return nullptr;
    name.remove_suffix(1);
  }
  const Family* family = find(name);
  if (family == nullptr) return nullptr;
  std::shared_ptr<PredefinedEncoding> encoding(new PredefinedEncoding(*family, vertical));
  return encoding->converter_->converter == nullptr ? nullptr : encoding;
}

PredefinedEncoding::PredefinedEncoding(const Family& family, bool vertical)
    : lengths_(family.lengths),
      is_row_cell_(family.is_row_cell),
      vertical_(vertical),
      converter_(std::make_unique<Converter>()) {
  UErrorCode status = U_ZERO_ERROR;
  converter_->converter = ucnv_open(family.charset, &status);
}

PredefinedEncoding::~PredefinedEncoding() = default;

CodeRead PredefinedEncoding::next(std::string_view text) const {
  const auto byte = [text](std::size_t i) {
    return i < text.size() ? static_cast<std::uint8_t>(text[i]) : std::uint8_t{0};
  };
  const std::uint8_t first = byte(0);
  std::size_t bytes = 1;
  switch (lengths_) {
    case Lengths::two: bytes = 2; break;
    case Lengths::four: bytes = 4; break;
    case Lengths::utf8: bytes = first < 0xC0 ? 1 : first < 0xE0 ? 2 : first < 0xF0 ? 3 : 4; break;
    case Lengths::utf16: bytes = first >= 0xD8 && first < 0xDC ? 4 : 2; break;
    case Lengths::shift_jis:
      bytes = (first >= 0x81 && first <= 0x9F) || (first >= 0xE0 && first <= 0xFC) ? 2 : 1;
      break;
    case Lengths::extended_unix:
      bytes = first == 0x8E && byte(1) >= 0xA1 && byte(2) >= 0xA1 ? 4
              : first == 0x8E || (first >= 0xA1 && first != 0xFF) ? 2
                                                                  : 1;
      break;
    case Lengths::big: bytes = first >= 0x81 && first != 0xFF ? 2 : 1; break;
    case Lengths::national:
      bytes = first < 0x81 || first == 0xFF ? 1 : byte(1) >= 0x30 && byte(1) <= 0x39 ? 4 : 2;
      break;
  }
  bytes = std::min(bytes, text.size());
  std::uint32_t code = 0;
  for (std::size_t i = 0; i < bytes; ++i) code = code << 8 | byte(i);
  return {code, bytes};
}

std::optional<std::uint32_t> PredefinedEncoding::unicode(const CodeRead& read) const {
  const std::lock_guard lock(converter_->mutex);
  const auto known = converter_->known.find(read.code);
  if (known != converter_->known.end())
    return known->second == 0 ? std::nullopt : std::optional(known->second);
  const std::uint32_t code = is_row_cell_ ? read.code | 0x8080 : read.code;
  std::string bytes;
  for (std::size_t i = read.bytes; i > 0; --i)
    bytes += static_cast<char>(code >> (8 * (i - 1)) & 0xFF);
  const char* from = bytes.data();
  UErrorCode status = U_ZERO_ERROR;
  ucnv_reset(converter_->converter);
  const UChar32 character =
      ucnv_getNextUChar(converter_->converter, &from, bytes.data() + bytes.size(), &status);
  constexpr UChar32 kUnknown = 0xFFFD;
  const bool good = U_SUCCESS(status) && character > 0 && character != kUnknown;
  const std::uint32_t value = good ? static_cast<std::uint32_t>(character) : 0;
  converter_->known.emplace(read.code, value);
  return good ? std::optional(value) : std::nullopt;
}

std::optional<double> PredefinedEncoding::usual_width(const CodeRead& read) const {
  constexpr double kHalf = 0.5;
  if (read.bytes == 1) return kHalf;
  const auto character = unicode(read);
  if (!character) return std::nullopt;
  const int width = u_getIntPropertyValue(static_cast<UChar32>(*character), UCHAR_EAST_ASIAN_WIDTH);
  if (width == U_EA_NARROW || width == U_EA_HALFWIDTH) return kHalf;
  return std::nullopt;
}

}  // namespace lumvet::fonts
