// SPDX-License-Identifier: Apache-2.0
// A source as the rooms above read it: what it cannot give now is noted on the attempt, and once
// the attempt is stopped it gives nothing more, so that nobody goes looking elsewhere for what is
// only late.
//
// Threads: const methods may run concurrently, if those of the source may.
#pragma once

#include "lumvet/io/byte_source.h"

namespace lumvet::io {

std::shared_ptr<const ByteSource> guarded(std::shared_ptr<const ByteSource> source);

}  // namespace lumvet::io
