// SPDX-License-Identifier: Apache-2.0
#include "save/recompressed.h"
#include "base/findings_list.h"

#include <algorithm>

#include "filters/deflate.h"
#include "filters/stream_decoder.h"

namespace lumvet::saving {
namespace {

using filters::FilterStep;

bool is_without_loss(const FilterStep& step) {
  for (const char* name :
       {"FlateDecode", "LZWDecode", "ASCII85Decode", "ASCIIHexDecode", "RunLengthDecode"})
    if (step.name == name) return true;
  return false;
}

bool predicts(const FilterStep& step) { return step.parameters["Predictor"].as_integer(1) > 1; }

void set_filters(const std::vector<FilterStep>& steps, Dict& dict) {
  Array names;
  Array parameters;
  bool has_parameters = false;
  for (const FilterStep& step : steps) {
    names.push_back(Object::name(step.name));
    has_parameters = has_parameters || !step.parameters.is_empty();
    parameters.push_back(step.parameters.is_empty() ? Object() : Object(step.parameters));
  }
  const bool is_one = steps.size() == 1;
  dict.remove("DecodeParms");
  if (steps.empty()) return dict.remove("Filter");
  dict.set("Filter", is_one ? names[0] : Object(std::move(names)));
  if (has_parameters)
    dict.set("DecodeParms", is_one ? parameters[0] : Object(std::move(parameters)));
}

}  // namespace

std::optional<RecompressedStream> recompressed(const Stream& stream,
                                               const objects::Resolver& objects) {
  if (stream.dict.contains("F")) return std::nullopt;
  const std::vector<FilterStep> chain = filters::filter_chain(stream.dict, objects);
  const auto kept = std::find_if_not(chain.begin(), chain.end(), is_without_loss);
  if (kept == chain.begin()) return std::nullopt;
  // The last of them is undone without its predictor, under which rows pack better.
  std::vector<FilterStep> undone(chain.begin(), kept);
  std::vector<FilterStep> anew = {{"FlateDecode", {}}};
  if (predicts(undone.back())) {
    for (const char* key : {"Predictor", "Colors", "BitsPerComponent", "Columns"}) {
      anew.front().parameters.set(key, undone.back().parameters[key]);
      undone.back().parameters.remove(key);
    }
  }
  Stream packed = stream;
  set_filters(undone, packed.dict);
  Budget budget{Limits()};
  Findings damage;
  const auto content = filters::decode_stream(packed, objects, budget, damage);
  if (!content.ok() || !damage.list().empty()) return std::nullopt;
  RecompressedStream result{stream.dict,
                            filters::deflate(content->bytes.view(), filters::Effort::most)};
  const ByteView plain = content->bytes.view();
  if (plain.size() <= result.bytes.size() && !predicts(anew.front())) {
    result.bytes.assign(plain.begin(), plain.end());
    anew.clear();
  }
  if (result.bytes.size() >= stream.length) return std::nullopt;
  anew.insert(anew.end(), kept, chain.end());
  set_filters(anew, result.dict);
  return result;
}

}  // namespace lumvet::saving
