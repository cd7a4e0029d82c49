// SPDX-License-Identifier: Apache-2.0
// A book of pages that can be told apart wherever they are drawn, with what belongs to them.
#pragma once

#include <string>
#include <vector>

#include "lumvet/assemble/page_selection.h"
#include "tests/support/pdf_builder.h"

namespace test {

using namespace lumvet;

// Pages of 200 × 300 points, each with an entry of the outline, a note and a link to the next, a
// label and an element of structure.
inline Document book(int count, const std::string& page = "", const std::string& content = "") {
  PdfBuilder pdf;
  std::string kids;
  std::string elements;
  const auto reference = [](int number) { return std::to_string(number) + " 0 R "; };
  for (int i = 0; i < count; ++i) {
    kids += reference(100 + i);
    elements += reference(500 + i);
    pdf.object(100 + i, "<</Type/Page/Parent 2 0 R/StructParents " + std::to_string(i) +
                            "/Contents " + reference(200 + i) + "/Annots[" + reference(300 + i) +
                            reference(400 + i) + "]" + page + ">>");
    pdf.stream(200 + i, "", content + "/P<</MCID 0>>BDC " + std::to_string(i) + " w EMC");
    pdf.object(300 + i, "<</Subtype/Text/Rect[20 30 40 60]/Contents(note " + std::to_string(i) +
                            ")/QuadPoints[20 30 40 30 20 60 40 60]>>");
    pdf.object(400 + i, "<</Subtype/Link/Rect[100 200 150 220]/Dest[" +
                            reference(100 + (i + 1) % count) + "/XYZ 50 250 2]>>");
    pdf.object(500 + i, "<</S/P/P 5 0 R/Pg " + reference(100 + i) + "/K 0>>");
    pdf.object(600 + i, "<</Title(page " + std::to_string(i) + ")/Dest[" + reference(100 + i) +
                            "/FitH 300]" + (i + 1 < count ? "/Next " + reference(601 + i) : "") +
                            ">>");
  }
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Outlines<</First 600 0 R>>/StructTreeRoot 5 0 R"
             "/MarkInfo<</Marked true>>/PageLabels<</Nums[0<</S/r>>]>>>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) +
                    "/MediaBox[0 0 200 300]>>");
  pdf.object(5, "<</Type/StructTreeRoot/K[" + elements + "]>>");
  return open(pdf.finish()).value();
}

inline PageSelection pages(const std::string& text) { return PageSelection::parse(text).value(); }

// The numbers of the pages that forms within content were, each of which sets a line width; -1 for
// a form that is none.
inline std::vector<int> parts_in(const Document& document, const Object& resources,
                                 std::string_view content) {
  const Object own = document.resolve(resources).value();
  const Object forms = document.resolve(own.as_dict()["XObject"]).value();
  std::vector<int> parts;
  for (std::size_t at = content.find(" Do"); at != std::string_view::npos;
       at = content.find(" Do", at + 1)) {
    const std::size_t slash = content.rfind('/', at);
    const Object form =
        document.resolve(forms.as_dict()[content.substr(slash + 1, at - slash - 1)]).value();
    const ByteSlice bytes = document.decoded(form).value();
    const std::string_view its = as_text(bytes.view());
    const std::size_t mark = its.find("BDC");
    std::vector<int> below;
    if (mark == std::string_view::npos)
      below = parts_in(document, form.as_dict()["Resources"], its);
    else
      below = {std::stoi(std::string(its.substr(mark + 4)))};
    if (below.empty()) below = {-1};
    parts.insert(parts.end(), below.begin(), below.end());
  }
  return parts;
}

inline std::vector<int> parts_of(const Page& page) {
  const Bytes content = page.content().value();
  return parts_in(page.document(), page.dict()["Resources"], as_text(content));
}

}  // namespace test
