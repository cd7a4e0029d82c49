// SPDX-License-Identifier: Apache-2.0
// Attacks on signed documents: each fools whoever looks at the digest alone, and is caught.
#include <algorithm>
#include <random>

#include "lumvet/edit/editable_document.h"
#include "tests/support/attacks.h"

using namespace lumvet;
using namespace test;

namespace {

constexpr const char* kFont = "<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>";

// A page that pays 100, with a field, a mark, and objects that nothing leads to.
std::string paying(const std::string& more_of_page = "") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm 7 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(
      3,
      "<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 200]/Contents 4 0 R/Resources<</Font<</F 5 "
      "0 R>>>>/Annots[6 0 R 8 0 R]" +
          more_of_page + ">>");
  pdf.stream(4, "", "BT /F 20 Tf 40 100 Td (Pay 100) Tj ET");
  pdf.object(5, kFont);
  pdf.object(
      6,
      "<</Type/Annot/Subtype/Widget/FT/Tx/T(sum)/V(100)/Rect[40 40 140 60]/P 3 0 R/F 4/DA(/F "
      "10 Tf)/AP<</N 9 0 R>>>>");
  pdf.object(7, "<</Fields[6 0 R]/DR<</Font<</F 5 0 R>>>>/DA(/F 10 Tf)>>");
  pdf.object(8,
             "<</Type/Annot/Subtype/Square/Rect[150 90 250 130]/P 3 0 R/F 4/IC[1 1 1]/NM(cover)>>");
  pdf.stream(9, "/Type/XObject/Subtype/Form/BBox[0 0 100 20]/Resources<</Font<</F 5 0 R>>>>",
             "BT /F 10 Tf 2 5 Td (100) Tj ET");
  pdf.object(20, "<</Type/Pages/Kids[21 0 R]/Count 1>>");
  pdf.object(
      21,
      "<</Type/Page/Parent 20 0 R/MediaBox[0 0 300 200]/Contents 22 0 R/Resources<</Font<</F 5 "
      "0 R>>>>>>");
  pdf.stream(22, "", "BT /F 20 Tf 40 100 Td (Pay 900) Tj ET");
  return pdf.finish();
}

const Office& office() {
  static const Office one = Office::with();
  return one;
}

std::string signed_page(Certification certification = Certification::none) {
  SignRequest request = request_at();
  request.certification = certification;
  return sign_bytes(opened_again(paying()), office().chief, request);
}

const std::string& signed_once() {
  static const std::string file = signed_page();
  return file;
}

const std::string kOther = stream_text("BT /F 20 Tf 40 100 Td (Pay 900) Tj ET");

void check_caught(const std::string& file, Verdict verdict = Verdict::invalid) {
  CHECK(digest_alone_holds(file, office().root));
  const SignatureJudgement judgement = first_judged(file, office().root);
  CAPTURE(judgement.reasons);
  CHECK(judgement.verdict == verdict);
  CHECK_FALSE(judgement.reasons.empty());
}

// The signature's object once more, with something else in it, and a page that pays more.
std::string forged(const std::string& what, const std::string& with) {
  const int number = signature_number(signed_once());
  const std::string signature = object_text(signed_once(), number);
  return updated(signed_once(), {{4, kOther}, {number, replaced(signature, what, with)}});
}

std::string range_text() {
  const std::size_t at = signed_once().find("/ByteRange");
  return signed_once().substr(at, signed_once().find(']', at) + 1 - at);
}

std::string range_of(std::int64_t a, std::int64_t b, std::int64_t c, std::int64_t d) {
  return "/ByteRange [" + std::to_string(a) + " " + std::to_string(b) + " " + std::to_string(c) +
         " " + std::to_string(d) + "]";
}

}  // namespace

TEST_CASE("what is attacked is valid before", "[sign][attacks]") {
  const SignatureJudgement judgement = first_judged(signed_once(), office().root);
  CAPTURE(judgement.reasons);
  CHECK(judgement.verdict == Verdict::valid);
  CHECK(judgement.covers_document);
  CHECK(judgement.indication == "TOTAL-PASSED");
}

TEST_CASE("universal forgery: byte ranges that say nothing, or too much", "[sign][attacks]") {
  const auto parts = parts_of(signed_once());
  const auto [a, b, c, d] = parts.range;
  const auto n = [](std::uint64_t number) { return static_cast<std::int64_t>(number); };
  for (const std::string& range :
       {std::string(), std::string("/ByteRange null"), std::string("/ByteRange []"),
        range_of(0, -n(b), n(c), n(d)), range_of(0, n(b), -1, n(d))})
    check_caught(forged(range_text(), range));
  // These do not even hold for the digest alone.
  for (const std::string& range :
       {range_of(0, n(b), n(c), 1'000'000'000), range_of(0, n(c) + 10, n(b), n(d)),
        range_of(0, n(b), 9'000'000'000'000'000'000, 9'000'000'000'000'000'000)})
    CHECK(first_judged(forged(range_text(), range), office().root).verdict == Verdict::invalid);
}

TEST_CASE("universal forgery: a signature without its message", "[sign][attacks]") {
  const int number = signature_number(signed_once());
  const std::string signature = object_text(signed_once(), number);
  const std::size_t at = signature.find("/Contents");
  const std::string contents = signature.substr(at, signature.find('>', at) + 1 - at);
  for (const char* other : {"", "/Contents null", "/Contents <>", "/Contents ()"})
    check_caught(forged(contents, other));
}

TEST_CASE("wrapping: the signed bytes are elsewhere, and others in their place",
          "[sign][attacks]") {
  // The second part is copied behind the end, and the signature once more leads there.
  const auto parts = parts_of(signed_once());
  const auto [a, b, c, d] = parts.range;
  const std::string second = signed_once().substr(c, d);
  const std::string with_copy = signed_once() + second;
  const int number = signature_number(signed_once());
  const std::string signature = object_text(signed_once(), number);
  const std::string moved = replaced(
      signature, range_text(),
      range_of(0, static_cast<std::int64_t>(b), static_cast<std::int64_t>(signed_once().size()),
               static_cast<std::int64_t>(d)));
  check_caught(updated(with_copy, {{4, kOther}, {number, moved}}));
  // The signature's object is written again as it was: what it names is not its own string.
  check_caught(updated(signed_once(), {{4, kOther}, {number, signature}}));
}

TEST_CASE("incremental saving: pages change behind the signature", "[sign][attacks]") {
  check_caught(updated(signed_once(), {{4, kOther}}));
  check_caught(updated(signed_once(), {{3, replaced(object_text(signed_once(), 3), "/Contents 4",
                                                    "/Contents 22")}}));
  check_caught(updated(signed_once(), {{5, replaced(kFont, "Helvetica", "Symbol")}}));
}

TEST_CASE("incremental saving: without a table, without a trailer, without either",
          "[sign][attacks]") {
  for (const Ending ending : {Ending::without_table, Ending::without_trailer, Ending::nothing})
    check_caught(updated(signed_once(), {{4, kOther}}, ending));
  // Bodies between, and the old end once more behind them.
  const std::size_t end = signed_once().rfind("startxref");
  check_caught(updated(signed_once(), {{4, kOther}}, Ending::nothing) + signed_once().substr(end));
}

TEST_CASE("shadow: what hid something is taken away", "[sign][attacks]") {
  const std::string page = object_text(signed_once(), 3);
  check_caught(updated(signed_once(), {{3, replaced(page, "8 0 R", "")}}), Verdict::unjudged);
  check_caught(updated(signed_once(), {{8, "<</Type/Annot/Subtype/Square/Rect[0 0 0 0]/F 2>>"}}),
               Verdict::unjudged);
}

TEST_CASE("shadow: a field shows something else than it holds", "[sign][attacks]") {
  check_caught(
      updated(signed_once(),
              {{9, stream_text("BT /F 10 Tf 2 5 Td (900) Tj ET",
                               "/Type/XObject/Subtype/Form/BBox[0 0 100 20]/Resources<</Font<</F "
                               "5 0 R>>>>")}}),
      Verdict::unjudged);
  const std::string field = object_text(signed_once(), 6);
  check_caught(
      updated(signed_once(), {{6, replaced(field, "/Rect[40 40 140 60]", "/Rect[0 0 300 200]")}}),
      Verdict::unjudged);
}

TEST_CASE("shadow: pages that hung loose are shown", "[sign][attacks]") {
  const std::string catalog = object_text(signed_once(), 1);
  const std::size_t at = catalog.find("/Pages 2 0 R");
  REQUIRE(at != std::string::npos);
  check_caught(updated(signed_once(), {{1, replaced(catalog, "/Pages 2 0 R", "/Pages 20 0 R")}}));
}

TEST_CASE("shadow: layers and scripts come later", "[sign][attacks]") {
  const std::string catalog = object_text(signed_once(), 1);
  for (const char* more : {"/OCProperties<</OCGs[]/D<<>>>>", "/OpenAction<</S/JavaScript/JS(1)>>",
                           "/Names<</JavaScript<</Names[]>>>>"})
    check_caught(updated(signed_once(), {{1, "<<" + std::string(more) + catalog.substr(2)}}));
}

TEST_CASE("certified documents: marks that look like content, and strange signature fields",
          "[sign][attacks]") {
  const std::string words =
      "<</Type/Annot/Subtype/FreeText/Rect[40 90 140 130]/P 3 0 R/F 4/DA(/Helv 20 Tf)/Contents(Pay "
      "900)>>";
  const auto with_mark = [&](Certification certification, const std::string& mark) {
    const std::string file = signed_page(certification);
    const std::string page = object_text(file, 3);
    return updated(file, {{3, replaced(page, "8 0 R", "8 0 R 90 0 R")}, {90, mark}});
  };
  check_caught(with_mark(Certification::no_changes, words));
  check_caught(with_mark(Certification::fill_in, words));
  check_caught(with_mark(Certification::annotate, words), Verdict::unjudged);
  // A note is what the certificate allows.
  const std::string note =
      "<</Type/Annot/Subtype/Text/Rect[10 10 28 28]/P 3 0 R/F 4/Contents(Seen)>>";
  CHECK(first_judged(with_mark(Certification::annotate, note), office().root).verdict ==
        Verdict::valid);

  const std::string file = signed_page(Certification::fill_in);
  const std::string page = object_text(file, 3);
  const std::string form = object_text(file, 7);
  const std::string field =
      "<</Type/Annot/Subtype/Widget/FT/Sig/T(strange)/Rect[40 90 140 130]/P 3 0 R/F 4/AP<</N 9 0 "
      "R>>>>";
  check_caught(updated(file, {{3, replaced(page, "8 0 R", "8 0 R 90 0 R")},
                              {7, replaced(form, "6 0 R", "6 0 R 90 0 R")},
                              {90, field}}),
               Verdict::unjudged);
  const std::string other_field = replaced(field, "/FT/Sig", "/FT/Tx/V(900)");
  check_caught(updated(file, {{3, replaced(page, "8 0 R", "8 0 R 90 0 R")},
                              {7, replaced(form, "6 0 R", "6 0 R 90 0 R")},
                              {90, other_field}}));
}

// The field filled in, with a look that says something.
std::string filled_in(const std::string& file, const std::string& look,
                      const std::string& value = "(300)") {
  return updated(file, {{6, replaced(object_text(file, 6), "/V(100)", "/V" + value)},
                        {9, stream_text(look,
                                        "/Type/XObject/Subtype/Form/BBox[0 0 100 20]"
                                        "/Resources<</Font<</F 5 0 R>>>>")}});
}

std::string words_at(int x, const std::string& words) {
  return "BT 0 g /F 10 Tf " + std::to_string(x) + " 5 Td (" + words + ") Tj ET ";
}

TEST_CASE("certified documents: filling in is judged by the level", "[sign][attacks]") {
  const auto filled = [&](Certification certification) {
    return first_judged(filled_in(signed_page(certification), words_at(2, "300")), office().root)
        .verdict;
  };
  CHECK(filled(Certification::no_changes) == Verdict::invalid);
  CHECK(filled(Certification::fill_in) == Verdict::valid);
  CHECK(filled(Certification::annotate) == Verdict::valid);
}

TEST_CASE("certified documents: a field that is filled in shows what it holds", "[sign][attacks]") {
  const std::string file = signed_page(Certification::fill_in);
  const auto caught = [&](const std::string& look, const std::string& words) {
    const std::string filled = filled_in(file, look);
    check_caught(filled, Verdict::unjudged);
    const std::string reason = first_judged(filled, office().root).reasons.at(0);
    CAPTURE(reason);
    CHECK(reason.find(words) != std::string::npos);
  };
  caught(words_at(2, "900"), "field sum says '900', and holds '300'");
  caught(words_at(2, "100"), "says '100'");  // the look of before
  caught("", "says ''");
  // The value is there and not seen: beyond the edge, white, covered, not painted.
  caught(words_at(300, "300") + words_at(2, "900"), "says '900'");
  caught("1 1 1 rg BT /F 10 Tf 2 5 Td (300) Tj ET " + words_at(40, "900"), "says '900'");
  caught(words_at(2, "300") + "1 1 1 rg 0 0 30 20 re f " + words_at(40, "900"), "says '900'");
  caught("3 Tr " + words_at(2, "300") + "0 Tr " + words_at(40, "900"), "says '900'");
  // More than it holds.
  caught(words_at(2, "300") + words_at(40, "000"), "says '300 000'");
  // What blanks and line ends part is the same.
  CHECK(
      first_judged(filled_in(file, words_at(2, "30") + words_at(40, "0")), office().root).verdict ==
      Verdict::valid);
  // Pictures are no text.
  const std::string with_form =
      updated(file, {{6, replaced(object_text(file, 6), "/V(100)", "/V(300)")},
                     {9, stream_text(words_at(2, "300") + "/X Do",
                                     "/Type/XObject/Subtype/Form/BBox[0 0 100 20]"
                                     "/Resources<</Font<</F 5 0 R>>/XObject<</X 22 0 R>>>>")}});
  check_caught(with_form, Verdict::unjudged);
  // Without a look everybody draws the value.
  const std::string without = replaced(object_text(file, 6), "/AP<</N 9 0 R>>", "");
  CHECK(first_judged(updated(file, {{6, replaced(without, "/V(100)", "/V(300)")}}), office().root)
            .verdict == Verdict::valid);
}

TEST_CASE("certified documents: a box that is filled in shows its state", "[sign][attacks]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm 7 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 200]/Annots[6 0 R]>>");
  pdf.object(6,
             "<</Type/Annot/Subtype/Widget/FT/Btn/T(safe)/V/Off/AS/Off/Rect[40 40 60 60]/P 3 0 R"
             "/F 4/AP<</N<</Yes 9 0 R/Off 10 0 R>>>>>>");
  pdf.object(7, "<</Fields[6 0 R]>>");
  for (const int number : {9, 10})
    pdf.stream(number, "/Type/XObject/Subtype/Form/BBox[0 0 20 20]",
               number == 9 ? "5 5 10 10 re f" : "5 5 10 10 re S");
  SignRequest request = request_at();
  request.certification = Certification::fill_in;
  const std::string file = sign_bytes(opened_again(pdf.finish()), office().chief, request);
  const auto with = [&](const std::string& value, const std::string& state) {
    return updated(file, {{6, replaced(replaced(object_text(file, 6), "/V/Off", "/V/" + value),
                                       "/AS/Off", "/AS/" + state)}});
  };
  CHECK(first_judged(with("Yes", "Yes"), office().root).verdict == Verdict::valid);
  check_caught(with("Yes", "Off"), Verdict::unjudged);
  check_caught(with("Off", "Yes"));  // which shows something else, with the value that it had
}

TEST_CASE("who fills in or signs a field does not move it", "[sign][attacks]") {
  // A field in a group, with a place of its own, and an empty signature field.
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm 7 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 200]/Annots[6 0 R 8 0 R]>>");
  pdf.object(4, "<</T(group)/DA(/F 10 Tf)/Kids[5 0 R]>>");
  pdf.object(5, "<</FT/Tx/T(sum)/V(100)/Parent 4 0 R/Kids[6 0 R]>>");
  pdf.object(6, "<</Type/Annot/Subtype/Widget/Rect[40 40 140 60]/Parent 5 0 R/P 3 0 R/F 4>>");
  pdf.object(7, "<</Fields[4 0 R 8 0 R]>>");
  pdf.object(8, "<</Type/Annot/Subtype/Widget/FT/Sig/T(seal)/Rect[9 9 30 30]/P 3 0 R/F 4>>");
  SignRequest request = request_at();
  request.certification = Certification::fill_in;
  const std::string file = sign_bytes(opened_again(pdf.finish()), office().chief, request);
  const auto verdict_with = [&](const Objects& objects) {
    return first_judged(updated(file, objects), office().root).verdict;
  };
  const std::string filled = replaced(object_text(file, 5), "/V(100)", "/V(300)");
  const std::string moved =
      replaced(object_text(file, 6), "/Rect[40 40 140 60]", "/Rect[0 0 300 200]");
  CHECK(verdict_with({{5, filled}}) == Verdict::valid);
  CHECK(verdict_with({{5, filled}, {6, moved}}) == Verdict::invalid);
  CHECK(verdict_with({{4, replaced(object_text(file, 4), "/F 10 Tf", "/F 90 Tf")}}) ==
        Verdict::invalid);

  SignRequest second = request_at();
  second.field = "seal";
  const std::string twice = sign_bytes(opened_again(file), office().chief, second);
  CHECK(first_judged(twice, office().root).verdict == Verdict::valid);
  const std::string elsewhere =
      replaced(object_text(twice, 8), "/Rect[9 9 30 30]", "/Rect[0 0 300 200]");
  CHECK(first_judged(updated(twice, {{8, elsewhere}}), office().root).verdict == Verdict::invalid);
}

TEST_CASE("fields that a signature locks stay as they are", "[sign][attacks]") {
  SignRequest request = request_at();
  using Which = FieldLock::Which;
  for (const auto& [lock, verdict] :
       {std::pair(FieldLock{Which::all, {}}, Verdict::invalid),
        std::pair(FieldLock{Which::these, {"sum"}}, Verdict::invalid),
        std::pair(FieldLock{Which::these, {"other"}}, Verdict::valid),
        std::pair(FieldLock{Which::all_but_these, {"sum"}}, Verdict::valid)}) {
    request.lock = lock;
    const std::string file = sign_bytes(opened_again(paying()), office().chief, request);
    CHECK(first_judged(filled_in(file, words_at(2, "300")), office().root).verdict == verdict);
  }
}

TEST_CASE("one signature is the value of one field", "[sign][attacks]") {
  const int number = signature_number(signed_once());
  const std::string form = object_text(signed_once(), 7);
  const std::size_t kids = form.find("6 0 R");
  REQUIRE(kids != std::string::npos);
  const std::string file =
      updated(signed_once(), {{7, replaced(form, "6 0 R", "6 0 R 91 0 R")},
                              {91, "<</FT/Sig/T(second)/V " + std::to_string(number) + " 0 R>>"}});
  const auto all = judged(file, office().root);
  REQUIRE(all.size() == 2);
  CHECK(std::any_of(all.begin(), all.end(), [](const SignatureJudgement& each) {
    return each.verdict == Verdict::invalid;
  }));
}

TEST_CASE("keys that stand twice are read by nobody alike", "[sign][attacks]") {
  // Before it is signed: what another program shows is another page, or another value.
  SignRequest request = request_at();
  request.form = SignatureForm::pkcs7;  // which leaves the catalog as it is
  for (const auto& [what, with] : {std::pair("/Pages 2 0 R", "/Pages 20 0 R/Pages 2 0 R"),
                                   std::pair("/T(sum)/V(100)", "/T(sum)/V(900)/V(100)")}) {
    PdfBuilder pdf;
    const std::string plain = paying();
    const std::string file = replaced(plain, what, with);
    Objects objects;
    for (const int number : {1, 2, 3, 4, 5, 6, 7, 8, 9, 20, 21, 22})
      objects[number] = object_text(file, number);
    for (const auto& [number, text] : objects) pdf.object(number, text);
    check_caught(sign_bytes(opened_again(pdf.finish()), office().chief, request),
                 Verdict::unjudged);
  }
}

TEST_CASE("hybrid files that show two states", "[sign][attacks]") {
  // Those who know cross-reference streams see another object 4 than those who know tables.
  const std::string file = signed_once();
  const std::size_t hidden = file.size();
  std::string rows;
  const auto put = [&](std::size_t offset) {
    rows += '\1';
    for (int shift = 24; shift >= 0; shift -= 8)
      rows += static_cast<char>(offset >> static_cast<unsigned>(shift) & 0xFF);
    rows += '\0';
  };
  std::string more = "4 0 obj\n" + kOther + "\nendobj\n";
  put(hidden);
  const std::size_t stream = hidden + more.size();
  more += "96 0 obj\n" + stream_text(rows, "/Type/XRef/W[1 4 1]/Index[4 1]/Size 200/Root 1 0 R") +
          "\nendobj\n";
  const std::string with_hidden =
      updated(file + more, {{97, "null"}}, Ending::whole, "/XRefStm " + std::to_string(stream));
  const SignatureJudgement judgement = first_judged(with_hidden, office().root);
  CHECK(judgement.verdict == Verdict::invalid);
  // The same before it is signed.
  const std::string plain = paying();
  std::string before = "4 0 obj\n" + kOther + "\nendobj\n";
  rows.clear();
  put(plain.size());
  const std::size_t at = plain.size() + before.size();
  before += "96 0 obj\n" + stream_text(rows, "/Type/XRef/W[1 4 1]/Index[4 1]/Size 200/Root 1 0 R") +
            "\nendobj\n";
  const std::string hybrid =
      updated(plain + before, {{97, "null"}}, Ending::whole, "/XRefStm " + std::to_string(at));
  check_caught(sign_bytes(opened_again(hybrid), office().chief), Verdict::unjudged);
}

TEST_CASE("every byte that is changed, taken out or put in is noticed", "[sign][attacks]") {
  const auto parts = parts_of(signed_once());
  const std::uint64_t b = parts.range[1];
  const std::uint64_t c = parts.range[2];
  std::mt19937 random(22);
  const auto place = [&] {
    return std::uniform_int_distribution<std::size_t>(0, signed_once().size() - 1)(random);
  };
  // Zeros behind the message are no part of it; another zero, or a digit's other case, is the same.
  const auto is_the_same = [&](const std::string& file) {
    const auto document = Document::open(to_bytes(file));
    return document.ok() && file.size() == signed_once().size() &&
           file.substr(0, b) == signed_once().substr(0, b) &&
           file.substr(c) == signed_once().substr(c) && parts_of(file).message == parts.message;
  };
  Trust trust;
  REQUIRE(trust.add(to_bytes(office().root.pem())).ok());
  const auto is_noticed = [&](const std::string& file) {
    const auto document = Document::open(to_bytes(file));
    if (!document.ok()) return true;
    const auto all = verify_signatures(*document, trust, {.time = kSigned});
    if (!all.ok() || all->empty()) return true;
    return all->front().verdict != Verdict::valid;
  };
  for (int i = 0; i < 2000; ++i) {
    std::string file = signed_once();
    const std::size_t at = place();
    file[at] = static_cast<char>(file[at] ^ (1 << (i % 8)));
    CAPTURE(at, i % 8, b, c);
    CHECK((is_noticed(file) || is_the_same(file)));
  }
  for (int i = 0; i < 500; ++i) {
    std::string file = signed_once();
    const std::size_t at = place();
    if (i % 2 == 0)
      file.erase(at, 1);
    else
      file.insert(at, 1, "0 \nA<"[i % 5]);
    CAPTURE(at, i % 2, b, c);
    CHECK(is_noticed(file));
  }
}
