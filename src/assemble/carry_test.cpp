// SPDX-License-Identifier: Apache-2.0
// What travels along with pages: places and links, labels, fields, notes, attachments, layers,
// marks of signatures; and what does not.

#include "lumvet/assemble/assembly.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

// Pages 10, 11, … whose contents say `mark` and their number; `page` are entries of every page.
std::string book(int count, const std::string& mark, const std::string& catalog = "",
                 const std::string& page = "", const std::string& others = "") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R" + catalog + ">>");
  std::string kids;
  for (int i = 0; i < count; ++i) {
    kids += std::to_string(10 + i) + " 0 R ";
    pdf.object(10 + i, "<</Type/Page/Parent 2 0 R/Contents " + std::to_string(30 + i) + " 0 R" +
                           page + ">>");
    pdf.stream(30 + i, "", mark + std::to_string(i + 1));
  }
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) +
                    "/MediaBox[0 0 100 100]>>");
  // Objects as "number body" lines; those of streams are parted by \r.
  for (std::size_t at = 0; at < others.size();) {
    const std::size_t end = others.find('\n', at);
    std::string line = others.substr(at, end - at);
    std::replace(line.begin(), line.end(), '\r', '\n');
    const std::size_t space = line.find(' ');
    pdf.object(std::stoi(line.substr(0, space)), line.substr(space + 1));
    at = end == std::string::npos ? others.size() : end + 1;
  }
  return pdf.finish();
}

Document opened(const std::string& bytes) { return test::open(bytes).value(); }

PageSelection pages(const std::string& text) { return PageSelection::parse(text).value(); }

struct Bound {
  Document document;
  std::string bytes;
  std::vector<std::string> notes;
  bool tells(const std::string& what) const {
    return std::any_of(notes.begin(), notes.end(),
                       [&](const auto& note) { return note.find(what) != std::string::npos; });
  }
};

Bound bound(const Assembly& assembly) {
  BufferSink sink;
  const SaveReport report = assembly.save(sink, {.layout = FileLayout::classic}).value();
  const std::string bytes(as_text(sink.bytes()));
  Bound result{Document::open(sink.take()).value(), bytes, {}};
  CHECK(result.document.findings().empty());
  for (const Finding& finding : report.findings) result.notes.push_back(finding.what);
  return result;
}

Bound bind_two(const std::string& a, const std::string& b, const Carry& carry = {},
               const AssemblyOptions& options = {}) {
  Assembly assembly(options);
  REQUIRE(assembly.add(opened(a), {}, carry).ok());
  REQUIRE(assembly.add(opened(b), {}, carry).ok());
  return bound(assembly);
}

Object annotation(const Document& document, int page, std::size_t i) {
  const Object list = document.resolve(document.page(page)->dict()["Annots"]).value();
  return document.resolve(list.as_array().at(i)).value();
}

int count_of(const std::string& text, const std::string& what) {
  int count = 0;
  for (std::size_t at = text.find(what); at != std::string::npos; at = text.find(what, at + 1))
    ++count;
  return count;
}

}  // namespace

TEST_CASE("places keep their names, or get others that their links follow", "[assemble]") {
  const auto source = [](const std::string& mark) {
    return book(2, mark, "/Names<</Dests<</Names[(end)[11 0 R/Fit](top)[10 0 R/XYZ 1 2 3]]>>>>",
                "/Annots[50 0 R]", "50 <</Type/Annot/Subtype/Link/Rect[0 0 9 9]/Dest(end)>>");
  };
  const Bound two = bind_two(source("a"), source("b"));
  std::map<std::string, int> places;
  for (const Destination& place : two.document.named_destinations().value())
    places[place.name] = place.page.value();
  CHECK(places == std::map<std::string, int>{{"end", 1}, {"top", 0}, {"end-2", 3}, {"top-2", 2}});
  CHECK(annotation(two.document, 0, 0).as_dict()["Dest"].as_string() == "end");
  CHECK(annotation(two.document, 2, 0).as_dict()["Dest"].as_string() == "end-2");
  CHECK(two.document.page(2)->annotations().value()[0].destination->page == 3);
  CHECK(two.notes.empty());

  const Bound without = bind_two(source("a"), source("b"), {.destinations = false});
  CHECK(without.document.named_destinations().value().empty());
  CHECK(without.document.page(2)->annotations().value()[0].destination->page == 3);
}

TEST_CASE("links to a file that is bound as well lead to its pages", "[assemble]") {
  const test::TemporaryFolder folder;
  const std::string link = "50 <</Type/Annot/Subtype/Link/Rect[0 0 9 9]/A<</S/GoToR/F(";
  test::write_file(folder / "a.pdf",
                   book(1, "a", "", "/Annots[50 0 R]", link + "b.pdf)/D[1/Fit]>>>>"));
  test::write_file(folder / "b.pdf",
                   book(2, "b", "", "/Annots[50 0 R]", link + "elsewhere.pdf)/D[0/Fit]>>>>"));
  Assembly assembly;
  for (const char* name : {"a.pdf", "b.pdf"})
    REQUIRE(assembly.add(Document::open(folder / name).value()).ok());
  const Bound book = bound(assembly);
  CHECK(book.document.page(0)->annotations().value()[0].destination->page == 2);
  const auto outside = book.document.page(1)->annotations().value()[0];
  REQUIRE(outside.actions.size() == 1);
  CHECK(outside.actions[0].kind == Action::Kind::go_to_remote);
  CHECK(outside.actions[0].target == "elsewhere.pdf");
}

TEST_CASE("labels go with their pages; pages without are counted on", "[assemble]") {
  const Document roman =
      opened(book(4, "a", "/PageLabels<</Nums[0<</S/r>>2<</S/D/P(A-)/St 7>>]>>"));
  const Document plain = opened(book(2, "b"));
  Assembly assembly;
  REQUIRE(assembly.add(roman, pages("2-4")).ok());
  REQUIRE(assembly.add(plain).ok());
  REQUIRE(assembly.add(roman, pages("1"), {.labels = false}).ok());
  const Document book = bound(assembly).document;
  std::vector<std::string> labels;
  for (int i = 0; i < book.page_count(); ++i) labels.push_back(book.page_label(i).value());
  CHECK(labels == std::vector<std::string>{"ii", "A-7", "A-8", "4", "5", "6"});
}

TEST_CASE("outlines keep their look, go below a heading, and tell what is lost", "[assemble]") {
  const std::string source =
      book(3, "a", "/Outlines 60 0 R", "",
           "60 <</First 61 0 R/Last 64 0 R/Count 5>>\n"
           "61 <</Title(Part)/Parent 60 0 R/First 62 0 R/Last 63 0 R/Count 2/Next 64 0 R>>\n"
           "62 <</Title(One)/Parent 61 0 R/Dest[10 0 R/FitH 5]/C[1 0 0]/F 2/Next 63 0 R>>\n"
           "63 <</Title(Two)/Parent 61 0 R/A<</S/GoTo/D[11 0 R/Fit]>>>>\n"
           "64 <</Title(Site)/Parent 60 0 R/A<</S/URI/URI(https://ostrel.example)>>/Count -1"
           "/First 65 0 R/Last 65 0 R>>\n"
           "65 <</Title(Empty)/Parent 64 0 R>>");
  struct Line {
    std::string title;
    int depth;
    std::optional<int> page;
    bool operator==(const Line&) const = default;
  };
  const auto lines = [&](const std::string& selection, const Carry& carry, Bound* all = nullptr) {
    Assembly assembly;
    REQUIRE(assembly.add(opened(book(1, "cover"))).ok());
    REQUIRE(assembly.add(opened(source), pages(selection), carry).ok());
    const Bound book = bound(assembly);
    if (all != nullptr) *all = book;
    std::vector<Line> found;
    for (const OutlineEntry& entry : book.document.outline().value())
      found.push_back({entry.title, entry.depth, entry.page});
    return found;
  };
  Bound whole{opened(source), "", {}};
  CHECK((lines("all", {.heading = "Annex"}, &whole) ==
         std::vector<Line>{
             {"Annex", 0, 1}, {"Part", 1, {}}, {"One", 2, 1}, {"Two", 2, 2}, {"Site", 1, {}}}));
  const OutlineEntry one = whole.document.outline().value()[2];
  CHECK(one.bold);
  CHECK(one.color == std::array<double, 3>{1, 0, 0});
  CHECK(one.destination->view == Destination::View::fit_h);
  CHECK(whole.document.outline().value()[1].is_open);
  CHECK(whole.notes.empty());
  Bound part{opened(source), "", {}};
  CHECK((lines("2", {}, &part) ==
         std::vector<Line>{{"Part", 0, {}}, {"Two", 1, 1}, {"Site", 0, {}}}));
  CHECK(part.tells("1 entry of the outline leads to pages that were not taken along"));
  CHECK((lines("3", {.lost_entries = true}) ==
         std::vector<Line>{{"Part", 0, {}}, {"One", 1, {}}, {"Two", 1, {}}, {"Site", 0, {}}}));
  CHECK(
      (lines("3", {.outlines = false, .heading = "Annex"}) == std::vector<Line>{{"Annex", 0, 1}}));
}

TEST_CASE("fields of several forms are kept apart or joined, with all that they need",
          "[assemble]") {
  // A group with a text field of one widget and a box of two; fonts of one name that differ.
  const auto form = [](const std::string& font, const std::string& value) {
    return book(2, "a", "/AcroForm<</Fields[70 0 R]/DA(/F 9 Tf)/DR<</Font<</F 80 0 R>>>>>>",
                "/Annots[72 0 R 73 0 R]",
                "70 <</T(check)/Kids[72 0 R 71 0 R]>>\n"
                "71 <</T(good)/FT/Btn/V/Yes/Parent 70 0 R/Kids[73 0 R]>>\n"
                "72 <</T(name)/FT/Tx/Ff 2/V(" +
                    value +
                    ")/DA(/F 12 Tf 0 g)/Parent 70 0 R/Type/Annot"
                    "/Subtype/Widget/Rect[0 0 9 9]>>\n"
                    "73 <</Type/Annot/Subtype/Widget/Rect[10 0 19 9]/AS/Yes/Parent 71 0 R>>\n"
                    "80 <</Type/Font/Subtype/Type1/BaseFont/" +
                    font + ">>");
  };
  const auto names = [](const Document& document) {
    std::map<std::string, std::size_t> found;
    for (const FormField& field : document.form().value().fields)
      if (field.is_terminal) found[field.name] = field.widgets.size();
    return found;
  };
  using Names = std::map<std::string, std::size_t>;
  const Bound apart = bind_two(form("Helvetica", "Ostrel"), form("Courier", "Pell"));
  // Each page shows both widgets, so that each field has two of them.
  CHECK(names(apart.document) ==
        Names{{"check.name", 2}, {"check.good", 2}, {"check-2.name", 2}, {"check-2.good", 2}});
  CHECK(apart.tells("1 form field got another name"));
  const Form fields = apart.document.form().value();
  const auto field = [&](const std::string& name) {
    return *std::find_if(fields.fields.begin(), fields.fields.end(),
                         [&](const FormField& f) { return f.name == name; });
  };
  CHECK(field("check.name").value() == "Ostrel");
  CHECK(field("check-2.name").value() == "Pell");
  CHECK(field("check-2.name").flags == 2);
  for (const FieldWidget& widget : field("check-2.good").widgets) CHECK(widget.page.value() >= 2);
  const Object acro = apart.document.resolve(apart.document.catalog()["AcroForm"]).value();
  const Object fonts =
      apart.document.resolve(apart.document.resolve(acro.as_dict()["DR"]).value().as_dict()["Font"])
          .value();
  const auto base_font = [&](const std::string& name) {
    return std::string(
        apart.document.resolve(fonts.as_dict()[name]).value().as_dict()["BaseFont"].as_name());
  };
  CHECK(base_font("F") == "Helvetica");
  CHECK(base_font("F-2") == "Courier");
  CHECK(count_of(apart.bytes, "(/F-2 12 Tf 0 g)") >= 1);

  const Bound joined =
      bind_two(form("Helvetica", "Ostrel"), form("Helvetica", "Pell"), {}, {.join_fields = true});
  CHECK(names(joined.document) == Names{{"check.name", 4}, {"check.good", 4}});
  CHECK_FALSE(joined.tells("another name"));
  const Bound seen = bind_two(form("Helvetica", "a"), form("Helvetica", "b"), {.fields = false});
  CHECK(seen.document.form().value().fields.empty());
  CHECK(seen.document.page(0)->annotations().value().size() == 2);
  CHECK(seen.tells("4 form fields can be seen"));
}

TEST_CASE("notes keep their answers and windows, on each copy of a page its own", "[assemble]") {
  const Document source = opened(
      book(1, "a", "", "/Annots[50 0 R 51 0 R 52 0 R]",
           "50 <</Type/Annot/Subtype/Text/Rect[0 0 9 9]/Contents(rust)/Popup 51 0 R/P 10 0 R>>\n"
           "51 <</Type/Annot/Subtype/Popup/Rect[9 9 50 50]/Parent 50 0 R>>\n"
           "52 <</Type/Annot/Subtype/Text/Rect[0 0 9 9]/Contents(seen)/IRT 50 0 R>>"));
  Assembly assembly;
  REQUIRE(assembly.add(source, pages("1,1")).ok());
  const Document book = bound(assembly).document;
  for (int page = 0; page < 2; ++page) {
    const Object list = book.resolve(book.page(page)->dict()["Annots"]).value();
    REQUIRE(list.as_array().size() == 3);
    const Array& ids = list.as_array();
    CHECK(annotation(book, page, 0).as_dict()["Popup"] == ids[1]);
    CHECK(annotation(book, page, 1).as_dict()["Parent"] == ids[0]);
    CHECK(annotation(book, page, 2).as_dict()["IRT"] == ids[0]);
    CHECK(annotation(book, page, 0).as_dict()["P"].as_reference() == book.page(page)->id());
  }
  Assembly plain;
  REQUIRE(plain.add(source, {}, {.annotations = false}).ok());
  CHECK_FALSE(bound(plain).document.page(0)->dict().contains("Annots"));
}

TEST_CASE("attachments come along, and two of one name both do", "[assemble]") {
  const auto source = [](const std::string& text) {
    PdfBuilder pdf;
    pdf.page("", "/MediaBox[0 0 9 9]");
    pdf.object(1,
               "<</Type/Catalog/Pages 2 0 R/Names<</EmbeddedFiles<</Names[(readings)5 0 R]>>>>>>");
    pdf.object(5, "<</Type/Filespec/F(readings.csv)/UF(readings.csv)/EF<</F 6 0 R>>>>");
    pdf.stream(6, "/Type/EmbeddedFile", text);
    return pdf.finish();
  };
  const auto texts = [](const Document& document) {
    std::vector<std::string> found;
    for (const Attachment& attachment : document.attachments().value())
      found.emplace_back(as_text(document.attached_bytes(attachment)->bytes.view()));
    return found;
  };
  CHECK(texts(bind_two(source("1;2"), source("3;4")).document) ==
        std::vector<std::string>{"1;2", "3;4"});
  CHECK(texts(bind_two(source("1;2"), source("1;2"), {.attachments = false}).document).empty());
}

TEST_CASE("layers in use come along as they look", "[assemble]") {
  const std::string source =
      book(2, "a",
           "/OCProperties<</OCGs[90 0 R 91 0 R 92 0 R]/D<</BaseState/OFF/ON[91 0 R]"
           "/Order[(All)90 0 R[91 0 R 92 0 R]]/RBGroups[[90 0 R 91 0 R]]>>>>",
           "/Resources<</Properties<</A 90 0 R/B 91 0 R>>>>",
           "90 <</Type/OCG/Name(hidden)>>\n91 <</Type/OCG/Name(shown)>>\n"
           "92 <</Type/OCG/Name(unused)>>");
  const Layers layers = bind_two(source, source).document.layers().value();
  REQUIRE(layers.all.size() == 4);
  CHECK(layers.all[0].name == "hidden");
  CHECK(layers.all[3].name == "shown");
  CHECK(layers.initial.visible == std::vector<bool>{false, true, false, true});
  CHECK(layers.initial.one_of == std::vector<std::vector<int>>{{0, 1}, {2, 3}});
  REQUIRE(layers.initial.order.size() == 6);
  CHECK(layers.initial.order[0].heading == "All");
  CHECK(bind_two(source, source, {.layers = false}).document.layers().value().all.empty());
}

TEST_CASE("structure comes along with its pages, and pages lead back to it", "[assemble]") {
  // Two pages with a paragraph each in one chapter, a link on the second, an empty cell.
  const auto source = [](const std::string& role) {
    return book(2, "a", "/MarkInfo<</Marked true>>/StructTreeRoot 80 0 R",
                "/StructParents 0/Annots[50 0 R]",
                "50 <</Type/Annot/Subtype/Link/Rect[0 0 9 9]/StructParent 7/A<</S/URI/URI(x)>>>>\n"
                "80 <</Type/StructTreeRoot/K[81 0 R]/RoleMap<</Chapter/" +
                    role +
                    ">>>>\n"
                    "81 <</S/Chapter/P 80 0 R/Lang(de)/K[82 0 R 83 0 R 84 0 R]/ID(c)>>\n"
                    "82 <</S/P/P 81 0 R/Pg 10 0 R/K 3/Alt(first)>>\n"
                    "83 <</S/P/P 81 0 R/Pg 11 0 R/K[0<</Type/MCR/Pg 11 0 R/MCID 1>>"
                    "<</Type/OBJR/Obj 50 0 R/Pg 11 0 R>>]/Alt(second)>>\n"
                    "84 <</S/TD/P 81 0 R>>");
  };
  Assembly assembly;
  REQUIRE(assembly.add(opened(source("Sect")), pages("2")).ok());
  REQUIRE(assembly.add(opened(source("Part"))).ok());
  const Document both = bound(assembly).document;
  const auto get = [&](const Object& object, const char* key) {
    return both.resolve(both.resolve(object).value().as_dict()[key]).value();
  };
  const Object root = both.resolve(both.catalog()["StructTreeRoot"]).value();
  const Object tops = get(root, "K");
  REQUIRE(tops.as_array().size() == 2);
  CHECK(get(get(root, "RoleMap"), "Chapter").is_name("Sect"));
  CHECK(get(get(root, "RoleMap"), "Chapter-2").is_name("Part"));
  CHECK(get(tops.as_array()[1], "S").is_name("Chapter-2"));
  CHECK(get(tops.as_array()[0], "Lang").as_string() == "de");
  const Object first = get(tops.as_array()[0], "K");
  REQUIRE(first.as_array().size() == 2);  // the second paragraph and the cell
  CHECK(get(first.as_array()[0], "Alt").as_string() == "second");
  CHECK(get(first.as_array()[0], "K").as_array().size() == 3);
  CHECK(get(tops.as_array()[1], "K").as_array().size() == 3);
  CHECK(get(both.catalog()["MarkInfo"], "Marked").as_bool());
  // From what is on a page back to its element, and to whom that belongs.
  std::map<std::int64_t, Object> parents;
  const Object numbers = get(get(root, "ParentTree"), "Nums");
  for (std::size_t i = 0; i + 1 < numbers.as_array().size(); i += 2)
    parents[numbers.as_array()[i].as_integer()] = both.resolve(numbers.as_array()[i + 1]).value();
  for (int page = 0; page < 3; ++page) {
    const std::int64_t place = both.page(page)->dict()["StructParents"].as_integer(-1);
    const Array elements = parents.at(place).as_array();
    const Object element = elements.back();
    CHECK(elements.size() == (page == 1 ? 4u : 2u));
    CHECK(get(element, "Alt").as_string() == (page == 1 ? "first" : "second"));
    CHECK(both.resolve(element).value().as_dict()["Pg"].as_reference() == both.page(page)->id());
  }
  const Object link = annotation(both, 0, 0);
  CHECK(parents.at(link.as_dict()["StructParent"].as_integer(-1)).as_dict()["Alt"].as_string() ==
        "second");
  CHECK(both.structure().value().is_marked);
  CHECK(both.structure().value().elements.size() == 7);
}

TEST_CASE("articles come along with the parts on pages taken along", "[assemble]") {
  const std::string source = book(3, "a", "/Threads[60 0 R 65 0 R]", "",
                                  "60 <</Type/Thread/F 61 0 R/I<</Title(Pier 3)>>>>\n"
                                  "61 <</T 60 0 R/N 62 0 R/V 63 0 R/P 10 0 R/R[0 0 1 1]>>\n"
                                  "62 <</N 63 0 R/V 61 0 R/P 11 0 R/R[0 0 2 2]>>\n"
                                  "63 <</N 61 0 R/V 62 0 R/P 12 0 R/R[0 0 3 3]>>\n"
                                  "65 <</Type/Thread/F 66 0 R/I<</Title(Deck)>>>>\n"
                                  "66 <</T 65 0 R/N 66 0 R/V 66 0 R/P 11 0 R/R[0 0 4 4]>>");
  Assembly assembly;
  REQUIRE(assembly.add(opened(source), pages("3,1")).ok());
  REQUIRE(assembly.add(opened(source), pages("2"), {.articles = false}).ok());
  const Document both = bound(assembly).document;
  const std::vector<Article> articles = both.articles().value();
  REQUIRE(articles.size() == 1);
  CHECK(articles[0].properties.title == "Pier 3");
  CHECK(articles[0].parts == std::vector<ArticlePart>{{1, {0, 0, 1, 1}}, {0, {0, 0, 3, 3}}});
  // Pages lead to their parts, and the ring is closed both ways.
  for (const ArticlePart& part : articles[0].parts) {
    const Object beads = both.resolve(both.page(*part.page)->dict()["B"]).value();
    REQUIRE(beads.as_array().size() == 1);
    const Dict bead = both.resolve(beads.as_array()[0])->as_dict();
    CHECK(both.resolve(bead["N"])->as_dict()["V"] == beads.as_array()[0]);
    CHECK(both.resolve(bead["V"])->as_dict()["N"] == beads.as_array()[0]);
  }
  CHECK_FALSE(both.page(2)->dict().contains("B"));
}

TEST_CASE("classes of elements that mean different things are told apart", "[assemble]") {
  const auto source = [](const std::string& width) {
    return book(1, "a", "/StructTreeRoot 80 0 R", "/StructParents 0",
                "80 <</Type/StructTreeRoot/K[81 0 R]/ClassMap<</wide<</O/Layout/Width " + width +
                    ">>>>>>\n81 <</S/P/P 80 0 R/Pg 10 0 R/K 0/C[/wide 0]>>");
  };
  const Structure structure = bind_two(source("100"), source("200")).document.structure().value();
  REQUIRE(structure.elements.size() == 2);
  CHECK(structure.elements[0].attributes.at(0).value.as_integer() == 100);
  CHECK(structure.elements[1].attributes.at(0).value.as_integer() == 200);
  const Structure alike = bind_two(source("100"), source("100")).document.structure().value();
  CHECK(alike.elements[1].classes == std::vector<std::string>{"wide"});
}

TEST_CASE("covers, what readers need, associated files and how pages are shown come along",
          "[assemble]") {
  const std::string first =
      book(1, "a",
           "/Names<</EmbeddedFiles<</Names[(one)60 0 R]>>>>/AF[60 0 R]/Collection<</View/T/D(one)>>"
           "/Requirements[<</S/Encryption>>]",
           "/Dur 5/Trans<</S/Wipe>>/AF[60 0 R]/VP[<</BBox[0 0 9 9]/Measure<</R(1:50)>>>>]"
           "/OutputIntents[<</S/GTS_PDFX/OutputConditionIdentifier(FOGRA52)>>]",
           "60 <</Type/Filespec/UF(one.csv)/AFRelationship/Data/EF<</F 61 0 R>>>>\n"
           "61 <</Type/EmbeddedFile/Length 1>>\rstream\r1\rendstream");
  const std::string second = book(1, "b", "/Requirements[<</S/Geospatial2D>>]");
  const Document both = bind_two(first, second).document;
  CHECK(both.collection()->value().view == Collection::View::tiles);
  CHECK(both.collection()->value().shown_first == "one.csv");
  CHECK(both.requirements().value() ==
        std::vector<Requirement>{{"Encryption", 100}, {"Geospatial2D", 100}});
  const Page page = both.page(0).value();
  CHECK(page.presentation()->seconds == 5.0);
  CHECK(page.presentation()->transition->style == "Wipe");
  CHECK(page.measured_areas()->at(0).measure->scale == "1:50");
  CHECK(page.output_intents()->at(0).identifier == "FOGRA52");
  CHECK(both.attachments()->size() == 1);
  const Object list = both.resolve(both.catalog()["AF"]).value();
  CHECK(both.resolve(page.dict()["AF"])->as_array() == list.as_array());
  const Document without = bind_two(first, second, {.attachments = false}).document;
  CHECK_FALSE(without.collection().value());
  CHECK_FALSE(without.catalog().contains("AF"));
}

TEST_CASE("a signature stays as a drawing only", "[assemble]") {
  const std::string source =
      book(1, "a", "/AcroForm<</Fields[70 0 R 71 0 R]/SigFlags 3>>", "/Annots[70 0 R 71 0 R]",
           "70 <</T(Signature)/FT/Sig/V<</Type/Sig/Contents<00>/ByteRange[0 1 2 3]>>/Type/Annot"
           "/Subtype/Widget/Rect[10 20 30 60]/AP<</N 75 0 R>>>>\n"
           "71 <</T(later)/FT/Sig/Type/Annot/Subtype/Widget/Rect[0 0 9 9]>>\n"
           "75 <</Subtype/Form/BBox[0 0 10 10]/Length 12>>\rstream\r0 0 5 5 re f\rendstream");
  Assembly assembly;
  REQUIRE(assembly.add(opened(source)).ok());
  const Bound book = bound(assembly);
  CHECK(book.tells("1 signature can be seen, but no longer be verified"));
  const Form form = book.document.form().value();
  REQUIRE(form.fields.size() == 1);
  CHECK(form.fields[0].name == "later");
  CHECK(count_of(book.bytes, "ByteRange") == 0);
  const Bytes content = book.document.page(0)->content().value();
  CHECK_THAT(std::string(as_text(content)),
             Catch::Contains("2 0 0 4 10 20 cm\n/Drawn Do") && Catch::StartsWith("q"));
}

TEST_CASE("scripts never come along", "[assemble]") {
  const std::string script = "<</S/JavaScript/JS(app.alert\\(1\\))>>";
  const Bound both = bind_two(
      book(1, "a",
           "/OpenAction" + script + "/AA<</WC" + script + ">>/Names<</JavaScript<</Names[(x)" +
               script + "]>>>>/AcroForm<</Fields[70 0 R]/CO[70 0 R]>>",
           "/AA<</O 61 0 R>>/Annots[50 0 R 70 0 R]",
           "50 <</Type/Annot/Subtype/Link/Rect[0 0 9 9]/A<</S/URI/URI(https://a.example)/Next " +
               script + ">>>>\n61 " + script +
               "\n70 <</T(sum)/FT/Tx/AA<</C 61 0 R>>/Type/Annot/Subtype/Widget/Rect[0 0 9 9]>>"),
      book(1, "b"));
  CHECK(count_of(both.bytes, "JavaScript") == 0);
  CHECK(count_of(both.bytes, "app.alert") == 0);
  CHECK(both.tells("left out"));
  CHECK(both.document.page(0)->annotations().value()[0].actions.size() == 1);
}

TEST_CASE("what several documents have alike is written once, however deep it lies", "[assemble]") {
  const auto source = [](const std::string& page) {
    PdfBuilder pdf;
    pdf.page(page, "/MediaBox[0 0 9 9]/Resources<</Font<</F 5 0 R>>/XObject<</X 8 0 R>>>>");
    pdf.object(5, "<</Type/Font/Subtype/TrueType/BaseFont/Ostrel/FontDescriptor 6 0 R>>");
    pdf.object(6, "<</Type/FontDescriptor/FontName/Ostrel/FontFile2 7 0 R>>");
    pdf.stream(7, "/Length1 9", "font file");
    pdf.stream(8, "/Type/XObject/Subtype/Form/BBox[0 0 9 9]/Resources<</Font<</F 5 0 R>>>>",
               "letterhead of the office");
    return pdf.finish();
  };
  Assembly assembly;
  for (const char* text : {"one", "two", "three"}) REQUIRE(assembly.add(opened(source(text))).ok());
  const Bound book = bound(assembly);
  for (const char* once : {"/Type/FontDescriptor", "font file", "/BaseFont/Ostrel", "letterhead"})
    CHECK(count_of(book.bytes, once) == 1);
  CHECK(bound(assembly).bytes == book.bytes);
}

TEST_CASE("what is not to come along does not", "[assemble]") {
  const std::string rich =
      book(1, "a",
           "/Lang(de)/PageLayout/TwoColumnLeft/ViewerPreferences<</FitWindow true>>"
           "/OpenAction[10 0 R/Fit]/PageLabels<</Nums[0<</S/R>>]>>"
           "/OutputIntents[<</S/GTS_PDFX/OutputConditionIdentifier(FOGRA39)>>]"
           "/Outlines<</First 60 0 R>>",
           "/Annots[50 0 R]",
           "50 <</Type/Annot/Subtype/Link/Rect[0 0 9 9]/Dest[10 0 R/Fit]>>\n"
           "60 <</Title(x)/Dest[10 0 R/Fit]>>");
  const Bound all = bind_two(rich, rich);
  CHECK(all.document.language().value() == "de");
  CHECK(all.document.output_intents().value().size() == 1);
  CHECK(all.document.opening_view().value().destination->page == 0);
  CHECK(all.document.outline().value().size() == 2);
  const Bound none = bind_two(rich, rich,
                              {.outlines = false,
                               .labels = false,
                               .destinations = false,
                               .links = false,
                               .annotations = false,
                               .fields = false,
                               .attachments = false,
                               .layers = false,
                               .structure = false,
                               .metadata = false,
                               .opening = false,
                               .output_intents = false});
  CHECK(none.document.catalog().size() == 2);
  CHECK(none.document.page(0)->annotations().value().empty());
}

TEST_CASE("sources made to grow without end do not", "[assemble]") {
  // Lists of layers that hold themselves twice, elements that share one long list of kids, fields
  // that are their own parents, pages that share one long list of notes.
  const Document layers = opened(book(1, "a", "/OCProperties<</OCGs[90 0 R]/D<</Order 91 0 R>>>>",
                                      "/Resources<</Properties<</A 90 0 R>>>>",
                                      "90 <</Type/OCG/Name(x)>>\n91 [91 0 R 90 0 R 92 0 R 92 0 R]\n"
                                      "92 [91 0 R 92 0 R 92 0 R 90 0 R]"));
  Assembly with_layers;
  REQUIRE(with_layers.add(layers).ok());
  CHECK(bound(with_layers).document.layers().value().all.size() == 1);

  Assembly with_fields;
  REQUIRE(with_fields
              .add(opened(book(1, "a", "/AcroForm<</Fields[70 0 R]>>", "/Annots[70 0 R 71 0 R]",
                               "70 <</T(a)/Subtype/Widget/Rect[0 0 9 9]/Parent 71 0 R>>\n"
                               "71 <</T(b)/Subtype/Widget/Rect[0 0 9 9]/Parent 70 0 R>>")))
              .ok());
  CHECK(bound(with_fields).document.page_count() == 1);

  std::string notes;
  for (int i = 0; i < 300; ++i) notes += "<</Subtype/Text/Rect[0 0 9 9]>>";
  const std::string bytes = book(9, "a", "", "/Annots 60 0 R", "60 [" + notes + "]");
  const Document shared =
      Document::open(Bytes(bytes.begin(), bytes.end()), {.limits = {.objects = 1000}}).value();
  Assembly with_notes;
  REQUIRE(with_notes.add(shared).ok());
  BufferSink sink;
  CHECK(with_notes.save(sink).error().code() == ErrorCode::limit);
  CHECK(sink.bytes().empty());

  std::string kids;
  for (int i = 0; i < 200; ++i) kids += "<</S/P/K 61 0 R>>";
  const std::string tagged =
      book(1, "a", "/StructTreeRoot<</K 61 0 R>>", "", "61 [0 " + kids + "]");
  const Document structure =
      Document::open(Bytes(tagged.begin(), tagged.end()), {.limits = {.objects = 5000}}).value();
  Assembly with_structure;
  REQUIRE(with_structure.add(structure).ok());
  CHECK(bound(with_structure).document.page_count() == 1);
}
