// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/page.h"

#include <string>

#include "base/budget.h"
#include "document/core.h"
#include "filters/stream_decoder.h"
#include "lumvet/document/document.h"

namespace lumvet {

double Page::width() const {
  return (rotation_ % 180 == 0 ? crop_box_.width() : crop_box_.height()) * user_unit_;
}

double Page::height() const {
  return (rotation_ % 180 == 0 ? crop_box_.height() : crop_box_.width()) * user_unit_;
}

Matrix Page::to_display() const {
  const Rect& box = crop_box_;
  Matrix turned;
  switch (rotation_) {
    case 90: turned = {0, 1, 1, 0, -box.bottom, -box.left}; break;
    case 180: turned = {-1, 0, 0, 1, box.right, -box.bottom}; break;
    case 270: turned = {0, -1, -1, 0, box.top, box.right}; break;
    default: turned = {1, 0, 0, -1, -box.left, box.top}; break;
  }
  return turned.then(Matrix::scaling(user_unit_, user_unit_));
}

Document Page::document() const {
  return Document(std::static_pointer_cast<const document::Core>(core_));
}

const document::Core& Page::core() const {
  return *static_cast<const document::Core*>(core_.get());
}

Result<Bytes> Page::content() const {
  const file::ObjectStore& store = core().store();
  const Object contents = store.get(dict_, "Contents");
  Array parts = contents.as_array();
  if (!contents.is_array() && dict_.contains("Contents")) parts = {dict_["Contents"]};
  Bytes bytes;
  Budget budget(store.limits());
  for (const Object& part : parts) {
    const Object object = store.resolve(part);
    const Stream* stream = object.as_stream();
    if (stream == nullptr) {
      store.findings().add(
          {"a part of the content of page " + std::to_string(index_ + 1) + " is missing",
           {},
           part.as_reference()});
      continue;
    }
    Result<ByteSlice> decoded = filters::decode_whole(*stream, store, budget, store.findings());
    if (!decoded.ok()) {
      const ErrorCode code = decoded.error().code();
      if (code != ErrorCode::malformed && code != ErrorCode::unsupported)
        return std::move(decoded).error().during("reading page " + std::to_string(index_ + 1));
      store.findings().add(
          {decoded.error().message(), decoded.error().offset(), part.as_reference()});
      continue;
    }
    bytes.insert(bytes.end(), decoded->view().begin(), decoded->view().end());
    bytes.push_back('\n');
  }
  return bytes;
}

}  // namespace lumvet
