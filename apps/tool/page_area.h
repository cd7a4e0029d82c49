// SPDX-License-Identifier: Apache-2.0
// An area of a page as it is written on the command line: "3:50,120,200,24".
#pragma once

#include <string>

#include <lumvet/base/result.h>
#include <lumvet/document/page.h>

namespace tool {

struct AreaOfPage {
  int page = 0;  // from 0
  lumvet::PageArea area = {};
};

// A page, and left, top, width and height in points as it is shown. Errors: invalid_argument, with
// the option's name.
lumvet::Result<AreaOfPage> page_area(const std::string& option, const std::string& text);

}  // namespace tool
