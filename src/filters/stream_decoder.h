// SPDX-License-Identifier: Apache-2.0
// A stream's bytes through its chain of filters (ISO 32000-2, 7.4.1).
#pragma once

#include <vector>

#include "base/budget.h"
#include "base/findings_list.h"
#include "filters/decoder.h"
#include "objects/resolver.h"

namespace lumvet::filters {

struct FilterStep {
  std::string name;  // in full
  Dict parameters;
};

// The filters of a stream dictionary, also under the short keys of inline images.
std::vector<FilterStep> filter_chain(const Dict& dict, const objects::Resolver& resolver);

// Decoded as far as this room can; `left` begins with an image codec that `images` has to undo,
// and is empty for everything else.
struct StreamContent {
  ByteSlice bytes;
  std::vector<FilterStep> left;
};

// Damage goes to `findings`. Errors: io, need_more_data, limit; unsupported for unknown filters.
Result<StreamContent> decode_stream(const Stream& stream, const objects::Resolver& resolver,
                                    Budget& budget, Findings& findings);

// The same piece by piece, for what is too large to be held whole.
struct StreamPieces {
  DecodingPtr bytes;
  std::vector<FilterStep> left;
};

// Reading ends with `limit` once all filters together have given more than `most_bytes`; damage is
// the first that any of them met. Errors: limit; malformed and unsupported for parameters and
// filters that make no sense.
Result<StreamPieces> decode_pieces(const Stream& stream, const objects::Resolver& resolver,
                                   std::uint64_t most_bytes);

// For streams that are no images; an image codec is an error there.
Result<ByteSlice> decode_whole(const Stream& stream, const objects::Resolver& resolver,
                               Budget& budget, Findings& findings);

}  // namespace lumvet::filters
