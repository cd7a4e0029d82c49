// SPDX-License-Identifier: Apache-2.0
// Of resources that many pages share, those that one page uses (ISO 32000-2, 7.8.3).
//
// Threads: free functions.
#pragma once

#include "lumvet/document/document.h"

namespace lumvet::assemble {

// The page's resources without the fonts, images, patterns and so on that its content does not
// name. As they are where that cannot be known: when something without resources of its own uses
// the page's, or the content cannot be read.
Object used_resources(const Document& document, const Page& page);

}  // namespace lumvet::assemble
