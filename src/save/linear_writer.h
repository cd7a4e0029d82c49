// SPDX-License-Identifier: Apache-2.0
// Linearized files (ISO 32000-2, annex F).
#pragma once

#include "save/full_writer.h"

namespace lumvet::saving {

// Gives the bytes written. Errors: as write_full's; malformed for a document without pages.
Result<std::uint64_t> write_linearized(const FullDocument& document, const SaveOptions& options,
                                       const Lock& lock, ByteSink& sink);

}  // namespace lumvet::saving
