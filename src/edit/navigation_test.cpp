// SPDX-License-Identifier: Apache-2.0
// Page numbers, outlines and opening views, set and read again.
#include "lumvet/edit/editable_document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/saved.h"

using namespace lumvet;
using test::saved;

namespace {

// Six pages; an outline of two entries, of which one leads to the third page and one elsewhere.
Document report() {
  test::PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < 6; ++i) {
    kids += std::to_string(10 + i) + " 0 R ";
    pdf.object(10 + i, "<</Type/Page/Parent 2 0 R>>");
  }
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Outlines 3 0 R/ViewerPreferences<</HideToolbar "
             "true/Own 7>>/OpenAction<</S/JavaScript/JS(x)>>>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count 6/MediaBox[0 0 200 300]>>");
  pdf.object(3, "<</First 4 0 R/Last 5 0 R/Count 2>>");
  pdf.object(4,
             "<</Title(Bridges)/Parent 3 0 R/Next 5 0 R/Dest[12 0 R/FitH 200]/C[1 0 0]/F 2/Own 8"
             ">>");
  pdf.object(5, "<</Title(Office)/Parent 3 0 R/Prev 4 0 R/A<</S/URI/URI(https://o.example)>>>>");
  return test::open(pdf.finish()).value();
}

template <typename Value>
void refused(const Value& status, const char* why) {
  REQUIRE_FALSE(status.ok());
  CHECK(status.error().code() == ErrorCode::invalid_argument);
  CHECK_THAT(status.error().to_string(), Catch::Contains(why));
}

}  // namespace

TEST_CASE("pages are numbered as the examples say", "[edit]") {
  EditableDocument changes = EditableDocument::of(report());
  const auto runs = LabelRun::parse("1=Cover, 2=i,4=A-9,6=c").value();
  REQUIRE(runs.size() == 4);
  CHECK(runs[0] == LabelRun{0, Numerals::none, "Cover", 1});
  CHECK(runs[1] == LabelRun{1, Numerals::roman_lower, "", 1});
  CHECK(runs[2] == LabelRun{3, Numerals::decimal, "A-", 9});
  REQUIRE(changes.set_page_labels(runs).ok());
  const Document numbered = saved(changes);
  const std::vector<std::string> labels = {"Cover", "i", "ii", "A-9", "A-10", "c"};
  for (int i = 0; i < 6; ++i)
    CHECK(numbered.page_label(i).value() == labels[static_cast<std::size_t>(i)]);

  struct Case {
    const char* label;
    LabelRun run;
  };
  for (const Case& known :
       {Case{"iv", {0, Numerals::roman_lower, "", 4}},
        Case{"XL", {0, Numerals::roman_upper, "", 40}},
        Case{"B", {0, Numerals::letters_upper, "", 2}},
        Case{"App. b", {0, Numerals::letters_lower, "App. ", 2}},
        Case{"17", {0, Numerals::decimal, "", 17}}, Case{"iiii", {0, Numerals::none, "iiii", 1}},
        Case{"", {0, Numerals::none, "", 1}},
        Case{"Inhalt–1", {0, Numerals::decimal, "Inhalt–", 1}}}) {
    CAPTURE(known.label);
    CHECK(LabelRun::parse(std::string("1=") + known.label).value() ==
          std::vector<LabelRun>{known.run});
  }
  for (const char* wrong : {"i", "0=i", "x=i", "1=i,,2=1", "2", "1 2=i"})
    refused(LabelRun::parse(wrong), "write for example");

  // Before the first run pages are numbered from 1.
  REQUIRE(changes.set_page_labels(LabelRun::parse("3=A-1").value()).ok());
  CHECK(saved(changes).page_label(1).value() == "2");
  changes.undo();
  CHECK(saved(changes).page_label(1).value() == "i");
  REQUIRE(changes.set_page_labels({}).ok());
  CHECK_FALSE(saved(changes).has_page_labels().value());
  refused(changes.set_page_labels({{6}}), "there are 6");
  refused(changes.set_page_labels({{2}, {2}}), "two runs");
  refused(changes.set_page_labels({{2, Numerals::decimal, "", 0}}), "from 1");
}

TEST_CASE("an outline read, changed and set again keeps what was not changed", "[edit]") {
  const Document before = report();
  auto entries = before.outline().value();
  REQUIRE(entries.size() == 2);
  entries[1].title = "The office";
  entries[1].depth = 1;
  OutlineEntry fresh;
  fresh.title = "Größen";
  fresh.page = 4;
  fresh.italic = true;
  fresh.color = {0, 0.5, 1};
  entries.insert(entries.begin(), fresh);
  entries[1].is_open = true;
  EditableDocument changes = EditableDocument::of(before);
  REQUIRE(changes.set_outline(entries).ok());
  const Document document = saved(changes);
  const auto outline = document.outline().value();
  REQUIRE(outline.size() == 3);
  CHECK(outline[0].title == "Größen");
  CHECK(outline[0].page == 4);
  CHECK(outline[0].destination->view == Destination::View::fit);
  CHECK(outline[0].italic);
  CHECK(outline[0].color == std::array<double, 3>{0, 0.5, 1});
  CHECK(outline[1].page == 2);
  CHECK(outline[1].destination == before.outline().value()[0].destination);
  CHECK(outline[1].bold);
  CHECK(outline[1].is_open);
  CHECK(document.resolve(Object(outline[1].object)).value().as_dict()["Own"].as_integer() == 8);
  CHECK(outline[2].title == "The office");
  CHECK(outline[2].depth == 1);
  REQUIRE(outline[2].actions.size() == 1);
  CHECK(outline[2].actions[0].target == "https://o.example");

  // One that is led elsewhere forgets where it led.
  entries[2].page = 0;
  entries[2].destination.reset();
  REQUIRE(changes.set_outline(entries).ok());
  const auto led = saved(changes).outline().value();
  CHECK(led[2].page == 0);
  CHECK(led[2].actions.empty());
  changes.undo();
  CHECK(saved(changes).outline().value()[2].actions.size() == 1);
  REQUIRE(changes.set_outline({}).ok());
  CHECK(saved(changes).outline().value().empty());

  entries[0].depth = 1;
  refused(changes.set_outline(entries), "deeper");
  entries[0].depth = 0;
  entries[0].page = 6;
  refused(changes.set_outline(entries), "there are 6");
  entries[0].title.clear();
  refused(changes.set_outline(entries), "no title");
}

TEST_CASE("every way to ask for a view is read again as it was set", "[edit]") {
  const Document before = report();
  using View = Destination::View;
  for (const View view : {View::xyz, View::fit, View::fit_h, View::fit_v, View::fit_r, View::fit_b,
                          View::fit_bh, View::fit_bv}) {
    Destination place;
    place.page = 3;
    place.view = view;
    if (view == View::xyz) place.zoom = 1.5;
    if (view != View::fit && view != View::fit_b && view != View::fit_v && view != View::fit_bv)
      place.top = 250;
    if (view != View::fit && view != View::fit_b && view != View::fit_h && view != View::fit_bh)
      place.left = 20;
    if (view == View::fit_r) {
      place.right = 100;
      place.bottom = 50;
    }
    EditableDocument changes = EditableDocument::of(before);
    REQUIRE(changes
                .set_view({.layout = PageLayout::two_page_right,
                           .mode = PageMode::outline,
                           .destination = place,
                           .hide_toolbar = false,
                           .fit_window = true,
                           .title_in_window = true,
                           .right_to_left = true,
                           .print_scaling = PrintScaling::none,
                           .duplex = Duplex::flip_short_edge,
                           .copies = 3})
                .ok());
    const Document document = saved(changes);
    const OpeningView opening = document.opening_view().value();
    CHECK(opening.layout == PageLayout::two_page_right);
    CHECK(opening.mode == PageMode::outline);
    CHECK(opening.destination == place);
    CHECK(opening.actions.empty());  // the script that was there went
    CHECK_FALSE(opening.hide_toolbar);
    CHECK(opening.fit_window);
    CHECK(opening.title_in_window);
    CHECK(opening.right_to_left);
    CHECK(opening.print_scaling == PrintScaling::none);
    CHECK(opening.duplex == Duplex::flip_short_edge);
    CHECK(opening.copies == 3);
    const Object preferences = document.resolve(document.catalog()["ViewerPreferences"]).value();
    CHECK(preferences.as_dict()["Own"].as_integer() == 7);
  }
  EditableDocument changes = EditableDocument::of(before);
  Destination nowhere;
  refused(changes.set_view({.destination = nowhere}), "no page");
  nowhere.page = 9;
  refused(changes.set_view({.destination = nowhere}), "there are 6");
  refused(changes.set_view({.copies = 0}), "one copy");
  CHECK_FALSE(changes.can_undo());
}
