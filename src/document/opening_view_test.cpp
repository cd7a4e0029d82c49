// SPDX-License-Identifier: Apache-2.0
// What the catalog says of the whole document: how to show it, what to do with it, its language,
// extensions and output intents.
#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

Document with_catalog(const std::string& entries, const std::string& page = "") {
  PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 100 100]" + page);
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R" + entries + ">>");
  return test::open(pdf.finish()).value();
}

}  // namespace

TEST_CASE("what a document does not ask for is as the standard presumes", "[document]") {
  const OpeningView view = with_catalog("").opening_view().value();
  CHECK(view.layout == PageLayout::single_page);
  CHECK(view.mode == PageMode::none);
  CHECK(view.print_scaling == PrintScaling::as_viewer);
  CHECK(view.duplex == Duplex::unstated);
  CHECK(view.view_area == "CropBox");
  CHECK(view.copies == 1);
  CHECK_FALSE(view.tray_by_page_size);
  CHECK_FALSE(view.destination);
  CHECK_FALSE(view.title_in_window);
}

TEST_CASE("a document's wishes for its first view are read", "[document]") {
  const Document document = with_catalog(
      "/PageLayout/TwoPageRight/PageMode/UseOC/OpenAction[3 0 R/FitH 80]/Lang(de-AT)"
      "/ViewerPreferences<</HideToolbar true/HideMenubar true/HideWindowUI true/FitWindow true"
      "/CenterWindow true/DisplayDocTitle true/NonFullScreenPageMode/UseOutlines/Direction/R2L"
      "/ViewArea/TrimBox/ViewClip/ArtBox/PrintArea/MediaBox/PrintClip/BleedBox/PrintScaling/None"
      "/Duplex/DuplexFlipLongEdge/PickTrayByPDFSize true/PrintPageRange[1 1 2 9]/NumCopies 3"
      "/Enforce[/PrintScaling]>>");
  const OpeningView view = document.opening_view().value();
  CHECK(view.layout == PageLayout::two_page_right);
  CHECK(view.mode == PageMode::layers);
  CHECK(view.mode_after_full_screen == PageMode::outline);
  REQUIRE(view.destination);
  CHECK(view.destination->page == 0);
  CHECK(view.destination->top == 80);
  CHECK(view.actions.empty());
  CHECK((view.hide_toolbar && view.hide_menubar && view.hide_controls && view.fit_window));
  CHECK((view.center_window && view.title_in_window && view.right_to_left));
  CHECK(view.view_area == "TrimBox");
  CHECK(view.view_clip == "ArtBox");
  CHECK(view.print_area == "MediaBox");
  CHECK(view.print_clip == "BleedBox");
  CHECK(view.print_scaling == PrintScaling::none);
  CHECK(view.duplex == Duplex::flip_long_edge);
  CHECK(view.tray_by_page_size == true);
  CHECK(view.copies == 3);
  CHECK(view.enforced == std::vector<std::string>{"PrintScaling"});
  CHECK(document.language().value() == "de-AT");
  // The second range goes beyond the only page.
  CHECK(view.print_pages == std::vector<std::pair<int, int>>{{0, 0}});
  REQUIRE(document.findings().size() == 1);
  CHECK(document.findings()[0].object == ObjectId{1, 0});
}

TEST_CASE("wishes that nobody knows are found and ignored", "[document]") {
  const Document document =
      with_catalog("/PageLayout/Spiral/PageMode 7/ViewerPreferences<</Duplex(up)>>");
  const OpeningView view = document.opening_view().value();
  CHECK(view.layout == PageLayout::single_page);
  CHECK(view.mode == PageMode::none);
  CHECK(view.duplex == Duplex::unstated);
  CHECK(document.findings().size() == 3);
}

TEST_CASE("actions on events are data, wherever they are asked for", "[document]") {
  const Document document = with_catalog(
      "/OpenAction<</S/JavaScript/JS(start\\(\\))/Next<</S/GoTo/D[3 0 R/Fit]>>>>"
      "/AA<</WC<</S/JavaScript/JS(bye)>>/DP<</S/Named/N/NextPage>>>>"
      "/Names<</JavaScript<</Names[(a)<</S/JavaScript/JS(all\\(\\))>>]>>>>",
      "/AA<</O<</S/URI/URI(http://ostrel.example/)>>/C<</S/Hide>>>>"
      "/Trans<</S/Dissolve/D -4>>/Dur 2");
  const OpeningView view = document.opening_view().value();
  REQUIRE(view.actions.size() == 2);
  CHECK(view.actions[0].target == "start()");
  CHECK_FALSE(view.destination);  // the script comes first, and may lead anywhere
  const std::vector<Trigger> triggers = document.triggers().value();
  REQUIRE(triggers.size() == 3);
  CHECK(triggers[0].event == "opened");
  CHECK(triggers[0].actions[0].target == "all()");
  CHECK(triggers[1].event == "before closing");
  CHECK(triggers[2].event == "after printing");
  CHECK(triggers[2].actions[0].kind == Action::Kind::named);
  const std::vector<Trigger> of_page = document.page(0)->triggers().value();
  REQUIRE(of_page.size() == 2);
  CHECK(of_page[0].event == "page opened");
  CHECK(of_page[0].actions[0].target == "http://ostrel.example/");
  CHECK(of_page[1].actions[0].kind == Action::Kind::hide);
}

TEST_CASE("extensions of the standard are listed, one or several of a developer", "[document]") {
  const Document document = with_catalog(
      "/Version/2.0/Extensions<</OSTR<</BaseVersion/1.7/ExtensionLevel 3>>"
      "/ISO_[<</BaseVersion/2.0/ExtensionLevel 32001/ExtensionRevision(:2022)/URL(http://a)>>"
      "<</BaseVersion/2.0/ExtensionLevel 32002>>]>>");
  CHECK(document.version() == "2.0");
  CHECK(document.extensions().value() ==
        std::vector<Extension>{{"ISO_", "2.0", 32001, ":2022", "http://a"},
                               {"ISO_", "2.0", 32002, "", ""},
                               {"OSTR", "1.7", 3, "", ""}});
}

TEST_CASE("output intents name their condition and hold their profile", "[document]") {
  PdfBuilder pdf;
  pdf.page("").object(1,
                      "<</Type/Catalog/Pages 2 0 R/OutputIntents[<</S/GTS_PDFA1"
                      "/OutputConditionIdentifier(sRGB)/OutputCondition(Screen)/RegistryName"
                      "(http://r)/Info(Office)/DestOutputProfile 9 0 R>> null]>>");
  pdf.stream(9, "/N 3", "profile");
  const Document document = test::open(pdf.finish()).value();
  const std::vector<OutputIntent> intents = document.output_intents().value();
  REQUIRE(intents.size() == 1);
  CHECK(intents[0].subtype == "GTS_PDFA1");
  CHECK(intents[0].identifier == "sRGB");
  CHECK(intents[0].condition == "Screen");
  CHECK(intents[0].registry == "http://r");
  CHECK(intents[0].info == "Office");
  CHECK(intents[0].components == 3);
  CHECK(as_text(document.decoded(intents[0].profile)->view()) == "profile");
}

TEST_CASE("every box of a page lies within its media box", "[document]") {
  const Page page = with_catalog("",
                                 "/CropBox[10 10 90 90]/TrimBox[20 20 80 80]"
                                 "/ArtBox[-50 30 70 40]/Tabs/S")
                        .page(0)
                        .value();
  CHECK(page.bleed_box() == Rect{10, 10, 90, 90});  // missing: as the crop box
  CHECK(page.trim_box() == Rect{20, 20, 80, 80});
  CHECK(page.art_box() == Rect{0, 30, 70, 40});
  CHECK(page.tab_order() == TabOrder::structure);
  CHECK(with_catalog("", "/Tabs/Q").page(0)->tab_order() == TabOrder::unstated);
}
