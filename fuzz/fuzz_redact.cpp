// SPDX-License-Identifier: Apache-2.0
// Any content of a page, redacted in the middle: no crash, and no letter is left in the area.
#include <string_view>

#include "fuzz/small_limits.h"
#include "lumvet/io/byte_sink.h"
#include "lumvet/redact/redaction.h"

namespace {

lumvet::Result<lumvet::Document> page_with(std::string_view content) {
  const std::string text =
      "%PDF-2.0\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n"
      "2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj\n"
      "3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 60 60]/Contents 4 0 R/Resources<</XObject<<"
      "/X 5 0 R/I 6 0 R>>/Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>/ExtGState<<"
      "/G<</SMask<</S/Alpha/G 5 0 R>>>>>>/Shading<</S<</ShadingType 2/ColorSpace/DeviceGray/Coords"
      "[0 0 9 9]/Function<</FunctionType 2/Domain[0 1]/N 1>>>>>>>>>>endobj\n"
      "5 0 obj<</Subtype/Form/BBox[0 0 60 60]/Length 44>>stream\n"
      "BT /F 9 Tf 5 30 Td (abc) Tj ET 9 9 40 40 re f\nendstream endobj\n"
      "6 0 obj<</Subtype/Image/Width 2/Height 2/ColorSpace/DeviceGray/BitsPerComponent 8/Length "
      "4>>stream\nabcd\nendstream endobj\n"
      "4 0 obj<</Length " +
      std::to_string(content.size()) + ">>stream\n" + std::string(content) +
      "\nendstream endobj\ntrailer<</Root 1 0 R>>";
  return lumvet::Document::open(lumvet::Bytes(text.begin(), text.end()),
                                {.limits = fuzz::kSmallLimits});
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const auto document = page_with({reinterpret_cast<const char*>(data), size});
  if (!document.ok()) return 0;
  lumvet::RedactRequest request;
  request.areas = {{.page = 0, .quads = {{lumvet::Point{15, 15}, {45, 20}, {40, 45}, {10, 40}}}}};
  auto edited = lumvet::EditableDocument::of(*document);
  const auto report = lumvet::redact(edited, request);
  if (!report.ok()) return 0;
  lumvet::BufferSink sink;
  if (!edited.save(sink).ok()) return 0;
  const auto saved = lumvet::Document::open(sink.take(), {.limits = fuzz::kSmallLimits});
  if (!saved.ok()) __builtin_trap();
  const auto proof = lumvet::prove_redaction(*saved, request, *report);
  if (proof.ok() && !proof->holds()) __builtin_trap();
  return 0;
}
