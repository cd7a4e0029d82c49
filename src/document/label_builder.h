// SPDX-License-Identifier: Apache-2.0
// The number tree of page labels (ISO 32000-2, 12.4.2) of a new order of pages.
//
// Threads: free functions.
#pragma once

#include "document/page_labels.h"
#include "file/ledger.h"

namespace lumvet::document {

// Of these labels, one for each page, in runs that are numbered on.
Object build_page_labels(file::Ledger& ledger, const std::vector<PageLabels::Label>& labels);

}  // namespace lumvet::document
