// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

Document document_of(const std::string& catalog, const std::string& page = "",
                     const std::function<void(PdfBuilder&)>& more = {}) {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R" + catalog + ">>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]" + page + ">>");
  if (more) more(pdf);
  return test::open(pdf.finish()).value();
}

}  // namespace

TEST_CASE("a wrapper names the document that it is around, a cover what it covers", "[document]") {
  const Document document = document_of(
      "/Names<</EmbeddedFiles<</Names[(first)7 0 R]>>>>/AF[7 0 R]/Requirements[<</S/Encryption>>"
      "<</S/EnableJavaScripts/Penalty 20>>]/Collection<</View/T/D(first)/Sort<</S[/Pier/Name]>>"
      "/Schema<</Name<</Subtype/F/N(File)/O 2>>/Pier<</Subtype/N/N(Pier)/O 1/V false>>>>>>",
      "", [](PdfBuilder& pdf) {
        pdf.object(
            7,
            "<</Type/Filespec/UF(plan.pdf)/AFRelationship/EncryptedPayload/EP<</Subtype/Vault>>"
            "/CI<</Pier<</D 3/P(No. )>>/Name(deck)>>/EF<</F 8 0 R>>>>");
        pdf.stream(8, "/Type/EmbeddedFile", "x");
      });
  const std::vector<Attachment> attachments = document.attachments().value();
  REQUIRE(attachments.size() == 1);
  CHECK(attachments[0].relationship == "EncryptedPayload");
  CHECK(attachments[0].payload == "Vault");
  CHECK(attachments[0].items == std::vector<CollectionItem>{{"Name", "deck"}, {"Pier", "No. 3"}});
  const Collection collection = document.collection().value().value();
  CHECK(collection.view == Collection::View::tiles);
  CHECK(collection.shown_first == "plan.pdf");
  CHECK(collection.sorted_by == std::vector<std::string>{"Pier", "Name"});
  CHECK(collection.fields ==
        std::vector<CollectionField>{{"Pier", "Pier", "N", false}, {"Name", "File", "F", true}});
  CHECK(document.requirements().value() ==
        std::vector<Requirement>{{"Encryption", 100}, {"EnableJavaScripts", 20}});
  const Document plain = document_of("");
  CHECK_FALSE(plain.collection().value());
  CHECK(plain.requirements()->empty());
}

TEST_CASE("pages say how they come and how long they stay", "[document]") {
  const auto slide = [](const std::string& page) {
    return document_of("", page).page(0)->presentation().value();
  };
  CHECK(slide("") == Presentation());
  const Presentation wipe = slide("/Dur 5/Trans<</S/Wipe/D 0.5/Di 90>>");
  CHECK(wipe.seconds == 5.0);
  CHECK(wipe.transition == Transition{.style = "Wipe", .seconds = 0.5, .direction = 90});
  CHECK(slide("/Trans<</S/Fly/Di/None/SS 0.1/B true/M/O/Dm/V>>").transition ==
        Transition{.style = "Fly",
                   .is_vertical = true,
                   .goes_outward = true,
                   .direction = std::nullopt,
                   .scale = 0.1,
                   .is_opaque = true});
}

TEST_CASE("actions tell what they hide and which layers they switch", "[document]") {
  const Document document = document_of(
      "/OpenAction<</S/Hide/T[(deck.load)10 0 R 11 0 R]/Next<</S/SetOCGState/State[/OFF 12 0 R"
      "/Toggle 12 0 R/ON 12 0 R]>>>>/AcroForm<</Fields[10 0 R]>>",
      "/Annots[10 0 R 11 0 R]", [](PdfBuilder& pdf) {
        pdf.object(10, "<</Subtype/Widget/T(span)/Rect[0 0 1 1]>>");
        pdf.object(11, "<</Subtype/Square/Rect[0 0 1 1]>>");
        pdf.object(12, "<</Type/OCG/Name(Notes)>>");
      });
  const std::vector<Action> actions = document.opening_view()->actions;
  REQUIRE(actions.size() == 2);
  CHECK(actions[0].fields == std::vector<std::string>{"deck.load", "span"});
  CHECK(actions[0].objects == std::vector<ObjectId>{{11, 0}});
  using To = LayerSwitch::To;
  CHECK(actions[1].layers ==
        std::vector<LayerSwitch>{{{12, 0}, To::off}, {{12, 0}, To::toggle}, {{12, 0}, To::on}});
}

TEST_CASE("name trees are searched with and without limits; structure leads to pages",
          "[document]") {
  const Document document = document_of(
      "/Names<</Dests 5 0 R>>/Outlines 7 0 R/StructTreeRoot 12 0 R", "", [](PdfBuilder& pdf) {
        pdf.object(5, "<</Kids[6 0 R 10 0 R 11 0 R]>>");
        pdf.object(6, "<</Names[(a)[3 0 R/Fit]]>>");
        pdf.object(10, "<</Limits[(x)(z)]/Names[(b)[3 0 R/Fit]]>>");
        pdf.object(11, "<</Kids[<</Names[(c)[3 0 R/FitB]]>>]>>");
        pdf.object(7, "<</First 8 0 R/Last 9 0 R/Count 2>>");
        pdf.object(8, "<</Title(name)/Parent 7 0 R/Next 9 0 R/Dest(c)>>");
        pdf.object(9,
                   "<</Title(structure)/Parent 7 0 R/Prev 8 0 R/A<</S/GoTo/SD[13 0 R/FitH 5]"
                   "/D[99 0 R/Fit]>>>>");
        pdf.object(12, "<</Type/StructTreeRoot/K 13 0 R>>");
        pdf.object(13, "<</S/Sect/P 12 0 R/K[14 0 R]>>");
        pdf.object(14, "<</S/H1/P 13 0 R/Pg 3 0 R>>");
      });
  const std::vector<OutlineEntry> outline = document.outline().value();
  REQUIRE(outline.size() == 2);
  CHECK(outline[0].destination->page == 0);
  CHECK(outline[0].destination->view == Destination::View::fit_b);
  REQUIRE(outline[1].actions.size() == 1);
  CHECK(outline[1].actions[0].destination->page == 0);
  CHECK(outline[1].actions[0].destination->view == Destination::View::fit_h);
}

TEST_CASE("articles lead from part to part, and end where they lead back", "[document]") {
  const auto document = [](const std::string& last) {
    return document_of("/Threads[20 0 R 99 0 R]", "/B[21 0 R 22 0 R]", [&](PdfBuilder& pdf) {
      pdf.object(20, "<</Type/Thread/F 21 0 R/I<</Title(Pier 3)/Author(Ana Reuss)>>>>");
      pdf.object(21, "<</T 20 0 R/N 22 0 R/V 22 0 R/P 3 0 R/R[9 9 1 2]>>");
      pdf.object(22, "<</N " + last + "/V 21 0 R/P 77 0 R/R[0 0 1 1]>>");
    });
  };
  for (const char* last : {"21 0 R", "22 0 R", "null", "88 0 R"}) {
    CAPTURE(last);
    const std::vector<Article> articles = document(last).articles().value();
    REQUIRE(articles.size() == 1);
    CHECK(articles[0].properties.title == "Pier 3");
    CHECK(articles[0].properties.author == "Ana Reuss");
    CHECK(articles[0].parts == std::vector<ArticlePart>{{0, {1, 2, 9, 9}}, {{}, {0, 0, 1, 1}}});
  }
}

TEST_CASE("parts of a page tell how they are measured", "[document]") {
  const auto areas = [](const std::string& measure) {
    return document_of("", "/VP[<</BBox[0 0 5 5]/Name(Plan)/Measure" + measure + ">>]")
        .page(0)
        ->measured_areas()
        .value();
  };
  const auto drawing = areas(
      "<</Subtype/RL/R(1 in = 4 ft)/X[<</U(ft)/C 0.0556/D 1>><</U(in)/C 12/F/F/D 8/FD true>>]"
      "/D[<</U(m)/RT(.)/RD(,)/PS()/O/P>>]/O[3 4]/CYX 2>>");
  REQUIRE(drawing.size() == 1);
  CHECK(drawing[0].area == Rect{0, 0, 5, 5});
  CHECK(drawing[0].name == "Plan");
  const Measure measure = drawing[0].measure.value();
  CHECK(measure.kind == Measure::Kind::drawing);
  CHECK(measure.scale == "1 in = 4 ft");
  CHECK(measure.x == std::vector<MeasureUnit>{{.label = "ft", .factor = 0.0556, .precision = 1},
                                              {.label = "in",
                                               .factor = 12,
                                               .fraction = MeasureUnit::Fraction::fraction,
                                               .precision = 8,
                                               .is_kept = true}});
  CHECK(measure.distance == std::vector<MeasureUnit>{{.label = "m",
                                                      .thousands = ".",
                                                      .decimal_sign = ",",
                                                      .before = "",
                                                      .label_first = true}});
  CHECK(measure.origin == Point{3, 4});
  CHECK(measure.y_to_x == 2.0);
  const Measure map = areas(
                          "<</Subtype/GEO/Bounds[0 0 0 1 1 1]/LPTS[0 0 1 1]"
                          "/GPTS[47.1 13.2 47.2 13.4]/GCS<</Type/PROJCS/EPSG 31255/WKT(x)>>>>")
                          .at(0)
                          .measure.value();
  CHECK(map.kind == Measure::Kind::map);
  CHECK(map.bounds == std::vector<Point>{{0, 0}, {0, 1}, {1, 1}});
  CHECK(map.places == std::vector<Point>{{0, 0}, {1, 1}});
  CHECK(map.points == std::vector<MapPoint>{{47.1, 13.2}, {47.2, 13.4}});
  CHECK((map.is_projected && map.epsg == 31255 && map.wkt == "x"));
  CHECK_FALSE(areas("null").at(0).measure);
  CHECK(document_of("").page(0)->measured_areas().value().empty());
}

TEST_CASE("a page may be meant for other printing than the document", "[document]") {
  const Document document =
      document_of("/OutputIntents[<</S/GTS_PDFX/OutputConditionIdentifier(FOGRA39)>>]",
                  "/OutputIntents[<</S/GTS_PDFX/OutputConditionIdentifier(FOGRA52)>>]");
  CHECK(document.output_intents()->at(0).identifier == "FOGRA39");
  CHECK(document.page(0)->output_intents()->at(0).identifier == "FOGRA52");
}

TEST_CASE("files are found wherever something is associated with them", "[document]") {
  const Document document = document_of(
      "/AF[20 0 R]/StructTreeRoot<</K 40 0 R>>",
      "/AF[21 0 R]/Annots[<</Subtype/Square/Rect[0 0 1 1]/AF[22 0 R]>>]"
      "/Resources<</XObject<</X 30 0 R>>/Properties<</P<</AF[24 0 R]>>>>>>",
      [](PdfBuilder& pdf) {
        for (int i = 20; i < 27; ++i) {
          const std::string number = std::to_string(i);
          pdf.object(i, "<</Type/Filespec/UF(" + number + ")/EF<</F " + std::to_string(i + 30) +
                            " 0 R>>>>");
          pdf.stream(i + 30, "/Type/EmbeddedFile", number);
        }
        pdf.stream(30, "/Subtype/Form/BBox[0 0 1 1]/AF[23 0 R]/Resources<</XObject<</Y 31 0 R>>>>",
                   "");
        pdf.stream(31, "/Subtype/Form/BBox[0 0 1 1]/AF[26 0 R]/Resources<</XObject<</X 30 0 R>>>>",
                   "");
        pdf.object(40, "<</S/P/AF 41 0 R/Pg 3 0 R>>").object(41, "[25 0 R 20 0 R]");
      });
  std::string names;
  for (const Attachment& file : document.attachments().value()) {
    CHECK(file.from == Attachment::From::associated);
    names += file.name + (file.page ? "p " : " ");
  }
  CHECK(names == "20 21p 22p 23p 24p 26p 25p ");
  CHECK(document.attachments(0)->size() == 1);
}
