// SPDX-License-Identifier: Apache-2.0
#include "file/object_index.h"
#include "base/findings_list.h"

#include <algorithm>
#include <array>

#include "file/object_reader.h"
#include "objects/parser.h"

namespace lumvet::file {
namespace {

Object read_quietly(const std::shared_ptr<const ByteSource>& source, std::uint64_t offset,
                    int nesting) {
  Findings unheard;  // what is read again later is reported then
  const auto read = read_object_at(
      source, offset, [](ObjectId) { return Object(); }, nesting, unheard);
  return read.ok() ? read->value : Object();
}

bool is_encryption(const std::shared_ptr<const ByteSource>& source, const ScannedObject& object,
                   int nesting) {
  const Object value = read_quietly(source, object.offset, nesting);
  const Dict& dict = value.as_dict();
  return dict["Filter"].is_name("Standard") && dict.contains("V") && dict["O"].is_string() &&
         dict["U"].is_string();
}

}  // namespace

std::vector<XrefEntry> index_of(const Scan& scan, std::uint64_t most_objects,
                                const PackedNumbers& packed_numbers) {
  std::vector<XrefEntry> entries;
  const auto put = [&](std::uint32_t number, const XrefEntry& entry) {
    if (number >= most_objects) return;
    if (number >= entries.size()) entries.resize(std::size_t{number} + 1);
    entries[number] = entry;
  };
  for (const ScannedObject& object : scan.objects) {
    put(object.id.number, {object.offset, object.id.generation, XrefEntry::Kind::in_file});
    if (object.kind != ScannedObject::Kind::object_stream) continue;
    const std::vector<std::uint32_t> numbers = packed_numbers(object);
    for (std::size_t i = 0; i < numbers.size(); ++i)
      put(numbers[i],
          {object.id.number, static_cast<std::uint32_t>(i), XrefEntry::Kind::in_stream});
  }
  return entries;
}

Dict trailer_of(const std::shared_ptr<const ByteSource>& source, const Scan& scan, int nesting,
                Findings& findings) {
  struct Found {
    std::uint64_t offset;
    Dict dict;
  };
  std::vector<Found> found;
  for (const std::uint64_t offset : scan.trailers) {
    constexpr std::uint64_t kTrailerWithin = 64 * 1024;
    const Result<ByteSlice> slice = source->slice(offset, kTrailerWithin);
    if (!slice.ok()) continue;
    objects::Parser parser(slice->view(), 0, objects::References::allowed, nesting);
    std::vector<objects::Damage> damages;
    parser.tolerate(damages);
    const Result<Object> dict = parser.value();
    if (dict.ok() && dict->is_dict()) found.push_back({offset, dict->as_dict()});
  }
  for (const ScannedObject& object : scan.objects) {
    if (object.kind != ScannedObject::Kind::cross_references) continue;
    const Object stream = read_quietly(source, object.offset, nesting);
    if (stream.is_stream()) found.push_back({object.offset, stream.as_dict()});
  }
  std::stable_sort(found.begin(), found.end(),
                   [](const Found& a, const Found& b) { return a.offset < b.offset; });
  Dict trailer;
  for (const Found& one : found)
    for (const std::string_view key : {"Root", "Info", "ID", "Encrypt"})
      if (one.dict.contains(key)) trailer.set(key, one.dict[key]);
  // With its trailer an encrypted file loses the way to what says how it is encrypted.
  if (!trailer.contains("Encrypt"))
    for (const ScannedObject& object : scan.objects)
      if (object.kind == ScannedObject::Kind::encryption && is_encryption(source, object, nesting))
        trailer.set("Encrypt", Object(object.id));
  if (!trailer.contains("Root"))
    findings.add({"no trailer names the catalog; it was looked for among the objects", {}, {}});
  return trailer;
}

}  // namespace lumvet::file
