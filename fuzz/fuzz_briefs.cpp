// SPDX-License-Identifier: Apache-2.0
// Any bytes as a brief, as a text in CommonMark and as rows of CSV: no crash, and what is set is
// a document that can be read.
#include <string_view>

#include "fuzz/small_limits.h"
#include "lumvet/compose/brief.h"

namespace {

void look_at(const lumvet::Result<lumvet::Flow>& flow) {
  if (!flow.ok()) return;
  const auto document = flow->as_document();
  if (document.ok() && document->page_count() < 1) __builtin_trap();
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  // The first byte says as what; what lies behind a zero is the data of a brief.
  if (size < 1) return 0;
  const std::string_view text(reinterpret_cast<const char*>(data) + 1, size - 1);
  const std::size_t end = std::min(text.find('\0'), text.size());
  lumvet::BriefOptions options{.fonts = lumvet::FontSupply(), .limits = fuzz::kSmallLimits};
  options.folder = "/nowhere";
  options.data = std::string(text.substr(std::min(end + 1, text.size())));
  if (data[0] == 't')
    look_at(lumvet::flow_of_commonmark(text, {}, options));
  else if (data[0] == 'c')
    static_cast<void>(lumvet::data_of_csv(text));
  else
    look_at(lumvet::flow_of_brief(text.substr(0, end), options));
  return 0;
}
