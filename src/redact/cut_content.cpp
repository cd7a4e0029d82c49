// SPDX-License-Identifier: Apache-2.0
#include "redact/cut_content.h"

#include "base/allowance.h"
#include "filters/deflate.h"
#include "fonts/font.h"
#include "fonts/font_matcher.h"
#include "redact/stream_cutter.h"

namespace lumvet::redacting {

Stream stream_of(Dict dict, ContentCutter::Result cut) {
  for (const char* key : {"DecodeParms", "Length", "PieceInfo", "Metadata", "OPI", "AF", "Ref"})
    dict.remove(key);
  dict.set("Resources", std::move(cut.resources));
  dict.set("Filter", Object::name("FlateDecode"));
  return Stream::of(std::move(dict), filters::deflate(as_bytes(cut.content)));
}

ContentCutter::ContentCutter(const document::Core& core, file::Ledger& ledger, Areas areas,
                             CutRecord& record)
    : core_(core),
      ledger_(ledger),
      areas_(std::move(areas)),
      record_(record),
      images_(ledger, core.store().limits()) {}

lumvet::Result<ContentCutter::Result> ContentCutter::cut_page(const Page& page) {
  const Allowance allowance(core_.store().limits(), CancelToken());
  LUMVET_TRY(const Bytes content, page.content());
  const Object resources = core_.store().get(page.dict(), "Resources");
  CutState state;
  state.clip = page.media_box();
  return StreamCutter(*this, resources.as_dict(), page.id(), state).cut(content);
}

std::shared_ptr<const fonts::Font> ContentCutter::font_of(const Object& font) {
  const auto make = [&] {
    const Object dict = core_.store().resolve(font);
    return fonts::Font::make(dict.as_dict(), core_.store(), core_.store().limits(),
                             core_.store().findings(), fonts_of(FontSupply()));
  };
  if (!font.is_reference()) return make();
  std::shared_ptr<const fonts::Font>& known = fonts_[font.as_reference()];
  if (!known) known = make();
  return known;
}

}  // namespace lumvet::redacting
