// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

// Layers are objects 11 (Steel), 12 (Cracks), 13 (Notes).
Layers layers_of(const std::string& properties) {
  PdfBuilder pdf;
  pdf.page("").object(1, "<</Type/Catalog/Pages 2 0 R/OCProperties<<" + properties + ">>>>");
  pdf.object(11, "<</Type/OCG/Name(Steel)/Intent[/View/Design]>>")
      .object(12,
              "<</Type/OCG/Name(Cracks)/Usage<</CreatorInfo<</Creator(Ostrel Draw)/Subtype"
              "/Technical>>/Language<</Lang(de)/Preferred/ON>>/Zoom<</min .5/max 2>>/View"
              "<</ViewState/ON>>/Print<</Subtype/Watermark/PrintState/OFF>>/Export<</ExportState"
              "/ON>>/User<</Type/Org/Name[(Office)(Yard)]>>/PageElement<</Subtype/FG>>>>>>")
      .object(13, "<</Type/OCG/Name<FEFF004E>>>");
  return test::open(pdf.finish()).value().layers().value();
}

std::string seen(const std::vector<bool>& states) {
  std::string text;
  for (const bool state : states) text += state ? '1' : '0';
  return text;
}

}  // namespace

TEST_CASE("layers tell their names, intents and what they are for", "[document]") {
  const Layers layers = layers_of("/OCGs[11 0 R 12 0 R 13 0 R 12 0 R]/D<<>>");
  REQUIRE(layers.all.size() == 3);
  CHECK(layers.all[0].name == "Steel");
  CHECK(layers.all[0].intents == std::vector<std::string>{"View", "Design"});
  CHECK(layers.all[2].name == "N");
  CHECK(layers.all[2].intents == std::vector<std::string>{"View"});
  const LayerUsage& usage = layers.all[1].usage;
  CHECK(usage.creator == "Ostrel Draw");
  CHECK(usage.subtype == "Technical");
  CHECK(usage.language == "de");
  CHECK(usage.language_preferred);
  CHECK(usage.zoom_from == 0.5);
  CHECK(usage.zoom_to == 2.0);
  CHECK(usage.shown_in_view == true);
  CHECK(usage.shown_in_print == false);
  CHECK(usage.shown_in_export == true);
  CHECK(usage.print_subtype == "Watermark");
  CHECK(usage.user_kind == "Org");
  CHECK(usage.users == std::vector<std::string>{"Office", "Yard"});
  CHECK(usage.page_element == "FG");
  CHECK_FALSE(layers.all[0].usage.shown_in_print);
}

TEST_CASE("configurations say what is visible", "[document]") {
  const auto [configuration, expected] = GENERATE(table<std::string, std::string>({
      {"", "111"},
      {"/OFF[12 0 R]", "101"},
      {"/BaseState/OFF/ON[13 0 R]", "001"},
      {"/ON[12 0 R]/OFF[12 0 R 99 0 R]", "101"},
      {"/BaseState/OFF", "000"},
  }));
  CAPTURE(configuration);
  const Layers layers = layers_of("/OCGs[11 0 R 12 0 R 13 0 R]/D<<" + configuration + ">>");
  CHECK(seen(layers.initial.visible) == expected);
  CHECK(layers.others.empty());
}

TEST_CASE("other configurations change the initial one", "[document]") {
  const Layers layers = layers_of(
      "/OCGs[11 0 R 12 0 R 13 0 R]/D<</OFF[11 0 R]/Locked[13 0 R]/RBGroups[[11 0 R 12 0 R]]"
      "/AS[<</Event/Print/Category[/Print]/OCGs[12 0 R]>>]/ListMode/VisiblePages>>"
      "/Configs[<</Name(Site)/Creator(Yard)/BaseState/Unchanged/OFF[13 0 R]/Intent/All>>]");
  CHECK(seen(layers.initial.locked) == "001");
  CHECK(layers.initial.one_of == std::vector<std::vector<int>>{{0, 1}});
  REQUIRE(layers.initial.automations.size() == 1);
  CHECK(layers.initial.automations[0].event == "Print");
  CHECK(layers.initial.automations[0].categories == std::vector<std::string>{"Print"});
  CHECK(layers.initial.automations[0].layers == std::vector<int>{1});
  CHECK(layers.initial.lists_visible_pages_only);
  REQUIRE(layers.others.size() == 1);
  CHECK(layers.others[0].name == "Site");
  CHECK(layers.others[0].creator == "Yard");
  CHECK(layers.others[0].intents == std::vector<std::string>{"All"});
  CHECK(seen(layers.others[0].visible) == "010");
}

TEST_CASE("the order of layers has headings and levels", "[document]") {
  const auto lines = [](const std::string& order) {
    std::string text;
    for (const LayerLine& line :
         layers_of("/OCGs[11 0 R 12 0 R 13 0 R]/D<</Order " + order + ">>").initial.order)
      text += std::to_string(line.depth) + ":" +
              (line.layer ? std::to_string(*line.layer) : line.heading) + " ";
    return text;
  };
  CHECK(lines("[13 0 R 11 0 R]") == "0:2 0:0 ");
  CHECK(lines("[11 0 R[12 0 R 13 0 R]]") == "0:0 1:1 1:2 ");
  CHECK(lines("[[(Works)11 0 R[(Inner)12 0 R]]13 0 R]") == "0:Works 1:0 1:Inner 2:1 0:2 ");
  CHECK(lines("[[[[]]]77 0 R 11 0 R]") == "0:0 ");
  CHECK_THROWS_WITH(lines(std::string(5000, '[') + std::string(5000, ']')),
                    Catch::Contains("Limits::nesting"));
}
