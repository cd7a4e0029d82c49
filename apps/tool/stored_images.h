// SPDX-License-Identifier: Apache-2.0
// The images that pages show, written as they are stored.
#pragma once

#include <string>
#include <vector>

#include <lumvet/document/document.h>

namespace tool {

struct StoredImages {
  std::string folder;
  bool replace = false;
  bool json = false;
};

// Each image once, however often it is shown at a place on a page; gives the exit code.
int write_stored_images(const lumvet::Document& document, const std::vector<int>& pages,
                        const StoredImages& wanted);

}  // namespace tool
