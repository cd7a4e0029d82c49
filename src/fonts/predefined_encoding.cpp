// SPDX-License-Identifier: Apache-2.0
#include "fonts/predefined_encoding.h"

#include <unicode/uchar.h>
#include <unicode/ucnv.h>
#include <unicode/unorm2.h>
#include <unicode/utf16.h>

#include <algorithm>
#include <mutex>
#include <string>
#include <unordered_map>

namespace lumvet::fonts {

namespace {

// The character that one for compatibility is the same as.
std::uint32_t plain_form(std::uint32_t character) {
  UErrorCode status = U_ZERO_ERROR;
  const UNormalizer2* forms = unorm2_getNFCInstance(&status);
  if (U_FAILURE(status)) return character;
  UChar text[4];
  const int32_t units = unorm2_getDecomposition(forms, static_cast<UChar32>(character), text,
                                                static_cast<int32_t>(std::size(text)), &status);
  UChar32 plain = 0;
  int32_t at = 0;
  if (U_FAILURE(status) || units <= 0) return character;
  U16_NEXT(text, at, units, plain);
  return at == units ? static_cast<std::uint32_t>(plain) : character;
}

}  // namespace

struct PredefinedEncoding::Family {
  std::string_view begin;     // of the names, without the -H or -V at their end
  std::string_view ordering;  // of the collection
  const char* charset;        // as ICU calls it
  Lengths lengths;
  std::uint32_t first_letter;  // the CID of the space of ASCII, which the others follow
  CharacterCollection::Form form = CharacterCollection::Form::wide;
  bool is_row_cell = false;  // two bytes of seven bits: rows and cells of a national standard
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
      {"UniGB-UCS2", "GB1", "UTF-16BE", Lengths::utf16, 1, CharacterCollection::Form::usual},
      {"UniGB-UTF16", "GB1", "UTF-16BE", Lengths::utf16, 1, CharacterCollection::Form::usual},
      {"UniGB-UTF8", "GB1", "UTF-8", Lengths::utf8, 1, CharacterCollection::Form::usual},
      {"UniGB-UTF32", "GB1", "UTF-32BE", Lengths::four, 1, CharacterCollection::Form::usual},
      {"UniCNS-UCS2", "CNS1", "UTF-16BE", Lengths::utf16, 1, CharacterCollection::Form::usual},
      {"UniCNS-UTF16", "CNS1", "UTF-16BE", Lengths::utf16, 1, CharacterCollection::Form::usual},
      {"UniCNS-UTF8", "CNS1", "UTF-8", Lengths::utf8, 1, CharacterCollection::Form::usual},
      {"UniCNS-UTF32", "CNS1", "UTF-32BE", Lengths::four, 1, CharacterCollection::Form::usual},
      {"UniJIS-UCS2-HW", "Japan1", "UTF-16BE", Lengths::utf16, 231},
      {"UniJIS-UCS2", "Japan1", "UTF-16BE", Lengths::utf16, 1},
      {"UniJIS-UTF16", "Japan1", "UTF-16BE", Lengths::utf16, 1, CharacterCollection::Form::usual},
      {"UniJIS2004-UTF16", "Japan1", "UTF-16BE", Lengths::utf16, 1,
       CharacterCollection::Form::newer},
      {"UniJIS-UTF8", "Japan1", "UTF-8", Lengths::utf8, 1, CharacterCollection::Form::usual},
      {"UniJIS-UTF32", "Japan1", "UTF-32BE", Lengths::four, 1, CharacterCollection::Form::usual},
      {"UniKS-UCS2", "Korea1", "UTF-16BE", Lengths::utf16, 1, CharacterCollection::Form::usual},
      {"UniKS-UTF16", "Korea1", "UTF-16BE", Lengths::utf16, 1, CharacterCollection::Form::usual},
      {"UniKS-UTF8", "Korea1", "UTF-8", Lengths::utf8, 1, CharacterCollection::Form::usual},
      {"UniKS-UTF32", "Korea1", "UTF-32BE", Lengths::four, 1, CharacterCollection::Form::usual},
      {"GB-EUC", "GB1", "gb18030", Lengths::extended_unix, 814},
      {"GBpc-EUC", "GB1", "gb18030", Lengths::extended_unix, 1},
      {"GBK-EUC", "GB1", "gb18030", Lengths::big, 814},
      {"GBKp-EUC", "GB1", "gb18030", Lengths::big, 1},
      {"GBK2K", "GB1", "gb18030", Lengths::national, 1},
      {"B5pc", "CNS1", "Big5-HKSCS", Lengths::big, 1},
      {"HKscs-B5", "CNS1", "Big5-HKSCS", Lengths::big, 1},
      {"ETen-B5", "CNS1", "Big5-HKSCS", Lengths::big, 13648},
      {"ETenms-B5", "CNS1", "Big5-HKSCS", Lengths::big, 1},
      {"CNS-EUC", "CNS1", "EUC-TW", Lengths::extended_unix, 13648},
      {"83pv-RKSJ", "Japan1", "windows-31j", Lengths::shift_jis, 1},
      {"90ms-RKSJ", "Japan1", "windows-31j", Lengths::shift_jis, 231},
      {"90msp-RKSJ", "Japan1", "windows-31j", Lengths::shift_jis, 1},
      {"90pv-RKSJ", "Japan1", "windows-31j", Lengths::shift_jis, 1},
      {"Add-RKSJ", "Japan1", "windows-31j", Lengths::shift_jis, 231},
      {"Ext-RKSJ", "Japan1", "windows-31j", Lengths::shift_jis, 231},
      {"EUC", "Japan1", "EUC-JP", Lengths::extended_unix, 231},
      {"", "Japan1", "EUC-JP", Lengths::two, 231, CharacterCollection::Form::wide,
       true},  // H and V by themselves
      {"KSC-EUC", "Korea1", "windows-949", Lengths::extended_unix, 8094},
      {"KSCms-UHC", "Korea1", "windows-949", Lengths::big, 1},
      {"KSCms-UHC-HW", "Korea1", "windows-949", Lengths::big, 8094},
      {"KSCpc-EUC", "Korea1", "windows-949", Lengths::big, 1},
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
    : family_(family),
      collection_(*CharacterCollection::named(family.ordering)),
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
  switch (family_.lengths) {
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

std::optional<std::uint32_t> PredefinedEncoding::character(const CodeRead& read) const {
  const std::lock_guard lock(converter_->mutex);
  const auto known = converter_->known.find(read.code);
  if (known != converter_->known.end())
    return known->second == 0 ? std::nullopt : std::optional(known->second);
  const std::uint32_t code = family_.is_row_cell ? read.code | 0x8080 : read.code;
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

std::optional<std::uint32_t> PredefinedEncoding::cid(const CodeRead& read) const {
  // Letters of one byte have the forms that the map's name tells, in Unicode so where half-width
  // ones are asked for.
  const bool is_own =
      (read.bytes == 1 && family_.lengths != Lengths::utf8) || family_.first_letter != 1;
  constexpr std::uint32_t kTilde = 0x7E;
  if (is_own && read.code >= ' ' && read.code <= kTilde)
    return family_.first_letter + (read.code - ' ');
  const auto meant = character(read);
  if (!meant) return std::nullopt;
  auto cid = collection_.cid(*meant, family_.form);
  if (!cid) cid = collection_.cid(plain_form(*meant), family_.form);
  return cid && vertical_ ? collection_.upright(*cid) : cid;
}

std::optional<double> PredefinedEncoding::usual_width(const CodeRead& read) const {
  constexpr double kHalf = 0.5;
  if (read.bytes == 1) return kHalf;
  const auto known = character(read);
  if (!known) return std::nullopt;
  const int width = u_getIntPropertyValue(static_cast<UChar32>(*known), UCHAR_EAST_ASIAN_WIDTH);
  if (width == U_EA_NARROW || width == U_EA_HALFWIDTH) return kHalf;
  return std::nullopt;
}

}  // namespace lumvet::fonts
