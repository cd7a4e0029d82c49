// SPDX-License-Identifier: Apache-2.0
#include "save/cross_references.h"

#include <algorithm>

#include "filters/deflate.h"
#include "objects/serializer.h"

namespace lumvet::saving {
namespace {

constexpr std::uint32_t kNeverAgain = 65535;  // the generation of free ones

std::string with_zeros(std::uint64_t number, std::size_t digits) {
  const std::string text = std::to_string(number);
  return std::string(digits - std::min(digits, text.size()), '0') + text;
}

void append_number(std::uint64_t number, std::size_t bytes, Bytes& out) {
  for (std::size_t byte = bytes; byte-- > 0;)
    out.push_back(static_cast<std::uint8_t>(number >> (8 * byte)));
}

Bytes plain_rows(std::span<const Section> sections, const RowForm& form) {
  Bytes rows;
  for (const Section& section : sections) {
    for (const Place& place : section.places) {
      rows.push_back(static_cast<std::uint8_t>(place.kind));
      append_number(place.where, form.place_bytes, rows);
      append_number(place.kind == Place::Kind::free ? kNeverAgain : place.index, form.index_bytes,
                    rows);
    }
  }
  return rows;
}

Bytes predicted(const Bytes& plain, std::size_t length) {
  constexpr std::uint8_t kUp = 2;
  Bytes rows;
  rows.reserve(plain.size() + plain.size() / length);
  for (std::size_t i = 0; i < plain.size(); ++i) {
    if (i % length == 0) rows.push_back(kUp);
    const std::uint8_t above = i < length ? 0 : plain[i - length];
    rows.push_back(static_cast<std::uint8_t>(plain[i] - above));
  }
  return rows;
}

}  // namespace

std::size_t width_of(std::uint64_t greatest_offset) {
  std::size_t width = 1;
  while (greatest_offset >> (8 * width) != 0) ++width;
  return width;
}

Result<std::string> table_of(std::span<const Section> sections) {
  constexpr std::uint64_t kMostOffset = 9'999'999'999;
  std::string text = "xref\n";
  for (const Section& section : sections) {
    text += std::to_string(section.first) + " " + std::to_string(section.places.size()) + "\n";
    for (const Place& place : section.places) {
      if (place.where > kMostOffset)
        return Error(ErrorCode::limit,
                     "the file is too large for a cross-reference table; use the compact layout");
      const bool is_free = place.kind == Place::Kind::free;
      text += with_zeros(is_free ? 0 : place.where, 10) + " " +
              with_zeros(is_free ? kNeverAgain : place.index, 5) + (is_free ? " f \n" : " n \n");
    }
  }
  return text;
}

Bytes stream_of(std::span<const Section> sections, const RowForm& form, Dict& dict) {
  const std::size_t length = 1 + form.place_bytes + form.index_bytes;
  dict.set("Type", Object::name("XRef"));
  dict.set("W", Array{Object(1), Object(static_cast<std::int64_t>(form.place_bytes)),
                      Object(static_cast<std::int64_t>(form.index_bytes))});
  if (sections.size() != 1 || sections[0].first != 0) {
    Array index;
    for (const Section& section : sections) {
      index.emplace_back(static_cast<std::int64_t>(section.first));
      index.emplace_back(static_cast<std::int64_t>(section.places.size()));
    }
    dict.set("Index", std::move(index));
  }
  Bytes rows = plain_rows(sections, form);
  if (form.is_packed) {
    rows = filters::deflate(predicted(rows, length));
    dict.set("Filter", Object::name("FlateDecode"));
    dict.set("DecodeParms",
             Dict{{"Predictor", 12}, {"Columns", static_cast<std::int64_t>(length)}});
  }
  dict.set("Length", static_cast<std::int64_t>(rows.size()));
  return rows;
}

std::string stream_object(std::uint32_t number, std::string_view dict, ByteView rows) {
  std::string text = std::to_string(number) + " 0 obj\n";
  text += dict;
  text += "\nstream\n";
  text += as_text(rows);
  return text + "\nendstream\nendobj\n";
}

std::string end_of_file(std::uint64_t start) {
  return "startxref\n" + std::to_string(start) + "\n%%EOF\n";
}

Result<std::string> ending_of(std::vector<Place> places, std::uint64_t start, bool is_compact,
                              const std::function<Dict(std::size_t size)>& trailer) {
  const auto number = static_cast<std::uint32_t>(places.size());
  if (is_compact) places.push_back({Place::Kind::in_file, start, 0});
  Dict dict = trailer(places.size());
  const Section all{0, places};
  std::string text;
  if (!is_compact) {
    LUMVET_TRY(text, table_of({&all, 1}));
    text += "trailer\n";
    objects::serialize(dict, text);
    return text + "\n" + end_of_file(start);
  }
  const Bytes rows = stream_of({&all, 1}, {width_of(start), 1, true}, dict);
  objects::serialize(dict, text);
  return stream_object(number, text, rows) + end_of_file(start);
}

}  // namespace lumvet::saving
