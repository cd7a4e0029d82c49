// SPDX-License-Identifier: Apache-2.0
// Documents made by rule in which every node of a tree is the whole of the level below it several
// times: a few hundred bytes that stand for more nodes than can be counted.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "tests/support/pdf_builder.h"

namespace test {

// The levels of one tree, as they lie in a file.
struct SharedTree {
  std::string name;
  std::string catalog = {};  // entries, as all of these; @ is the uppermost level
  std::string page = {};     // instead of a resource dictionary and a box
  std::string resources = {};
  std::string content = {};
  std::string trailer = {};
  std::string pages = {};  // of the root of the page tree, instead of /Kids[3 0 R]/Count 1
  // A level is a list of nodes; @ is the level below. Of a stream, its entries.
  std::string node;
  bool is_list = true;        // or one node that names the level below several times itself
  std::string data = {};      // makes the nodes streams, which are numbered objects
  std::string leaf = "null";  // the lowest level
};

inline std::string replaced(std::string text, const std::string& with) {
  for (std::size_t at = 0; (at = text.find('@', at)) != std::string::npos; at += with.size())
    text.replace(at, 1, with);
  return text;
}

// `depth` levels, each node of which is there `times` times; every one with a number of its own, or
// directly in its list.
inline std::string document_of(const SharedTree& tree, int depth, int times, bool numbered) {
  constexpr int kFirst = 100;
  const auto reference = [](int number) { return std::to_string(number) + " 0 R"; };
  const std::string top = reference(kFirst);
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R" + replaced(tree.catalog, top) + ">>");
  pdf.object(2, "<</Type/Pages" +
                    (tree.pages.empty() ? "/Kids[3 0 R]/Count 1" : replaced(tree.pages, top)) +
                    ">>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/Contents 4 0 R/MediaBox[0 0 50 50]/Resources<<" +
                    replaced(tree.resources, top) + ">>" + replaced(tree.page, top) + ">>");
  pdf.stream(4, "", tree.content);
  for (int level = 0; level < depth; ++level) {
    const int number = kFirst + 2 * level;
    const std::string node = replaced(tree.node, reference(number + 2));
    if (!tree.data.empty()) {
      pdf.stream(number, node, tree.data);
    } else if (!tree.is_list) {
      pdf.object(number, node);
    } else {
      if (numbered) pdf.object(number + 1, node);
      std::string list;
      for (int i = 0; i < times; ++i) list += numbered ? reference(number + 1) + " " : node;
      pdf.object(number, "[" + list + "]");
    }
  }
  if (!tree.data.empty())
    pdf.stream(kFirst + 2 * depth, tree.leaf, "0 0 1 1 re f");
  else
    pdf.object(kFirst + 2 * depth, tree.leaf);
  return pdf.finish("/Root 1 0 R" + replaced(tree.trailer, top));
}

inline std::vector<SharedTree> shared_trees() {
  const std::string form = "/Subtype/Form/BBox[0 0 50 50]/Resources<</XObject<</A @/B @>>>>";
  return {
      {.name = "pages",
       .pages = "/Count 5/Kids @",
       .node = "<</Type/Pages/Count 5/Kids @>>",
       .leaf = "[3 0 R]"},
      {.name = "page labels",
       .catalog = "/PageLabels<</Kids @>>",
       .node = "<</Kids @>>",
       .leaf = "[<</Nums[0<</S/D>>]>>]"},
      {.name = "named destinations",
       .catalog = "/Names<</Dests<</Kids @>>>>",
       .node = "<</Limits[(a)(z)]/Kids @>>",
       .leaf = "[<</Names[(plan)[3 0 R/Fit]]>>]"},
      {.name = "attachments",
       .catalog = "/Names<</EmbeddedFiles<</Kids @>>>>",
       .node = "<</Kids @>>",
       .leaf = "[<</Names[(a)<</F(a.txt)/EF<</F 4 0 R>>>>]>>]"},
      {.name = "scripts",
       .catalog = "/Names<</JavaScript<</Kids @>>>>",
       .node = "<</Kids @>>",
       .leaf = "[<</Names[(a)<</S/JavaScript/JS(1)>>]>>]"},
      {.name = "outline",
       .catalog = "/Outlines<</First @>>",
       .node = "<</Title(a)/First<</Title(b)/First @/Next @>>/Next<</Title(c)/First @/Next @>>>>",
       .is_list = false,
       .leaf = "<</Title(d)>>"},
      {.name = "fields",
       .catalog = "/AcroForm<</Fields @>>",
       .node = "<</T(section)/Kids @>>",
       .leaf = "[<</T(name)/FT/Tx/V(Ida)>>]"},
      {.name = "options of fields",
       .catalog = "/AcroForm<</Fields[<</T(a)/FT/Ch/Opt @>>]>>",
       .node = "@",
       .leaf = "[(one)(two)]"},
      {.name = "structure",
       .catalog = "/StructTreeRoot<</K @>>/MarkInfo<</Marked true>>",
       .node = "<</S/Sect/K @>>",
       .leaf = "[<</S/P/K 0/Pg 3 0 R>>]"},
      {.name = "structure's parents",
       .catalog = "/StructTreeRoot<</K[]/ParentTree<</Kids @>>>>",
       .node = "<</Kids @>>",
       .leaf = "[<</Nums[0[null]]>>]"},
      {.name = "order of layers",
       .catalog = "/OCProperties<</OCGs[5 0 R]/D<</Order @>>>>",
       .node = "@",
       .leaf = "[(a heading)]"},
      {.name = "conditions of layers",
       .catalog = "/OCProperties<</OCGs[4 0 R]/D<<>>>>",
       .resources = "/Properties<</P<</Type/OCMD/VE[/Or @ @]>>>>",
       .content = "/OC/P BDC 0 0 9 9 re f EMC",
       .node = "[/Or @ @]",
       .is_list = false,
       .leaf = "[/Not 4 0 R]"},
      {.name = "actions",
       .catalog = "/OpenAction<</S/Named/N/NextPage/Next @>>",
       .node = "<</S/Named/N/NextPage/Next @>>",
       .leaf = "[<</S/URI/URI(x:)>>]"},
      {.name = "actions of annotations",
       .page = "/Annots[<</Subtype/Link/Rect[0 0 9 9]/A<</S/Named/N/NextPage/Next @>>>>]",
       .node = "<</S/Named/N/NextPage/Next @>>",
       .leaf = "[<</S/URI/URI(x:)>>]"},
      {.name = "appearances",
       .page = "/Annots[<</Subtype/Stamp/Rect[0 0 9 9]/AP<</N @>>>>]",
       .node = "<</On @/Off @>>",
       .is_list = false,
       .leaf = "<<>>"},
      {.name = "functions side by side",
       .resources = "/Shading<</S<</ShadingType 2/ColorSpace/DeviceGray/Coords[0 0 9 9]/Function<<"
                    "/FunctionType 3/Domain[0 1]/Bounds[.5]/Encode[0 1 0 1]/Functions @>>>>>>",
       .content = "/S sh",
       .node = "<</FunctionType 3/Domain[0 1]/Bounds[.5]/Encode[0 1 0 1]/Functions @>>",
       .leaf = "[<</FunctionType 2/Domain[0 1]/N 1>><</FunctionType 2/Domain[0 1]/N 1>>]"},
      {.name = "functions in lists",
       .resources =
           "/Shading<</S<</ShadingType 2/ColorSpace/DeviceGray/Coords[0 0 9 9]/Function @>>>>",
       .content = "/S sh",
       .node = "@",
       .leaf = "[<</FunctionType 2/Domain[0 1]/N 1>>]"},
      {.name = "color spaces",
       .resources = "/ColorSpace<</C @>>",
       .content = "/C cs 0 sc 0 0 9 9 re f",
       .node = "[/Indexed @ 1 (abcdef) @ @]",
       .is_list = false,
       .leaf = "/DeviceRGB"},
      {.name = "colorants",
       .resources = "/ColorSpace<</C @>>",
       .content = "/C cs 0 sc 0 0 9 9 re f",
       .node = "[/DeviceN[/a]@<</FunctionType 2/Domain[0 1]/N 1>><</Colorants<</a @/b @>>/Process<<"
               "/ColorSpace @>>>>]",
       .is_list = false,
       .leaf = "/DeviceGray"},
      {.name = "forms",
       .resources = "/XObject<</A @>>",
       .content = "/A Do",
       .node = form,
       .data = "/A Do /B Do",
       .leaf = form},
      {.name = "groups",
       .resources = "/XObject<</A @>>/ExtGState<</H<</ca .5>>>>",
       .content = "/H gs /A Do",
       .node = form + "/Group<</S/Transparency>>",
       .data = "0 0 9 9 re f q /A Do Q /B Do",
       .leaf = form},
      {.name = "patterns",
       .resources = "/Pattern<</A @>>",
       .content = "/Pattern cs /A scn 0 0 50 50 re f",
       .node = "/PatternType 1/PaintType 1/TilingType 1/BBox[0 0 9 9]/XStep 9/YStep 9"
               "/Resources<</Pattern<</A @/B @>>>>",
       .data = "/Pattern cs /A scn 0 0 9 9 re f /B scn 0 0 9 9 re f",
       .leaf = "/PatternType 1/PaintType 1/TilingType 1/BBox[0 0 9 9]/XStep 9/YStep 9"},
      {.name = "soft masks",
       .resources = "/ExtGState<</A<</SMask<</S/Alpha/G @>>>>>>",
       .content = "/A gs 0 0 50 50 re f",
       .node = "/Subtype/Form/BBox[0 0 50 50]/Group<</S/Transparency>>/Resources<</ExtGState<<"
               "/A<</SMask<</S/Alpha/G @>>>>/B<</SMask<</S/Luminosity/G @>>>>>>>>",
       .data = "/A gs 0 0 9 9 re f /B gs 0 0 9 9 re f",
       .leaf = "/Subtype/Form/BBox[0 0 50 50]/Group<</S/Transparency>>"},
      {.name = "glyphs of drawings",
       .resources = "/Font<</A<</Subtype/Type3/FontBBox[0 0 1 1]/FontMatrix[1 0 0 1 0 0]/FirstChar "
                    "97/LastChar 97/Widths[1]/Encoding<</Differences[97/a]>>/CharProcs<</a @>>>>>>",
       .content = "BT /A 1 Tf (aaa) Tj ET",
       .node = "/Resources<</Font<</A<</Subtype/Type3/FontBBox[0 0 1 1]/FontMatrix[1 0 0 1 0 0]"
               "/FirstChar 97/LastChar 97/Widths[1]/Encoding<</Differences[97/a]>>/CharProcs<<"
               "/a @>>>>>>>>",
       .data = "1 0 d0 BT /A 1 Tf (aaa) Tj ET",
       .leaf = ""},
      {.name = "filters",
       .page = "/Contents 6 0 R",
       .resources = "/XObject<</A<</F @>>>>",
       .node = "@",
       .leaf = "[/FlateDecode]"},
      {.name = "encryption",
       .trailer = "/Encrypt<</Filter/Standard/V 4/R 4/Length 128/P -4/O(aaaaaaaaaaaaaaaaaaaaaaaaaaa"
                  "aaaaa)/U(bbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbb)/CF<</StdCF @/X @>>/StmF/StdCF/StrF"
                  "/StdCF>>/ID[(a)(b)]",
       .node = "<</CFM/AESV2/X @>>",
       .leaf = "[/x]"},
      {.name = "numbers of a box", .page = "/MediaBox @", .node = "@", .leaf = "[0 0 9 9]"},
      {.name = "intents",
       .catalog = "/OutputIntents @",
       .node = "<</S/GTS_PDFX/DestOutputProfile @>>",
       .leaf = "[]"},
      {.name = "articles",
       .catalog = "/Threads @",
       .node = "<</F @/I @>>",
       .leaf = "[<</N 3 0 R>>]"},
      {.name = "measured areas",
       .page = "/VP @",
       .node = "<</BBox @/Measure<</X @/GPTS @>>>>",
       .leaf = "[0 0 9 9]"},
      {.name = "attributes",
       .catalog = "/StructTreeRoot<</K[<</S/P/A @/C @>>]/ClassMap<</a @>>>>",
       .node = "<</O/Layout/Width @/Height @>>",
       .leaf = "[/a/a]"},
      {.name = "associated files", .catalog = "/AF @", .node = "<</EF @/AF @>>", .leaf = "[]"},
      {.name = "resources of forms",
       .resources = "/XObject<</A @/B @>>/Properties<</P @>>",
       .node = "<</AF @/Resources<</XObject<</A @/B @>>>>>>",
       .is_list = false,
       .leaf = "<<>>"},
      {.name = "something of somebody's own",
       .catalog = "/OstrelTree @",
       .page = "/OstrelTree @",
       .node = "<</Kids @/More @>>",
       .leaf = "[1 2 3]"},
  };
}

}  // namespace test
