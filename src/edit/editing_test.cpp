// SPDX-License-Identifier: Apache-2.0
// Random operations on an editable document with everything taken back and done again, held against
// a plain model; what the view shows is what is saved, whole, linearized and appended.
#include <algorithm>
#include <random>
#include <set>
#include <thread>

#include "content/scene_data.h"
#include "lumvet/content/scene_cache.h"
#include "lumvet/edit/editable_document.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

constexpr int kPages = 23;

// Of a page that stands at `i`.
std::string mark_of(int i) { return std::to_string(i) + " 0 9 9 re f"; }

// A document with nodes within nodes, inherited entries, labels, an outline, names, links, a form
// and tags; every page differs.
std::string sample(bool nested) {
  test::PdfBuilder pdf;
  std::string outline_kids;
  std::string names;
  std::string fields;
  std::string elements;
  std::string parents;
  const auto page = [](int i) { return 100 + 10 * i; };
  const auto reference = [](int number) { return std::to_string(number) + " 0 R"; };
  std::string kids;
  for (int node = 0; node < 5; ++node) {
    std::string own;
    int count = 0;
    for (int i = node * 5; i < std::min(kPages, node * 5 + 5); ++i, ++count)
      own += reference(page(i)) + " ";
    if (nested)
      pdf.object(20 + node, "<</Type/Pages/Parent 2 0 R/Kids[" + own + "]/Count " +
                                std::to_string(count) + "/Rotate " + std::to_string(node % 2 * 90) +
                                "/MediaBox[0 0 " + std::to_string(60 + node) + " 60]>>");
    kids += nested ? reference(20 + node) + " " : own;
  }
  for (int i = 0; i < kPages; ++i) {
    const int id = page(i);
    const std::string parent = nested ? reference(20 + i / 5) : "2 0 R";
    pdf.object(id, "<</Type/Page/Parent " + parent + "/Contents " + reference(id + 1) +
                       "/StructParents " + std::to_string(i) + "/Annots[" + reference(id + 2) +
                       " " + reference(id + 3) + "]>>");
    pdf.stream(id + 1, "", mark_of(i));
    pdf.object(id + 2, "<</Type/Annot/Subtype/Link/Rect[1 1 9 9]/Dest[" +
                           reference(page((i + 1) % kPages)) + "/Fit]>>");
    pdf.object(id + 3,
               "<</Type/Annot/Subtype/Widget/FT/Tx/T(f" + std::to_string(i) + ")/Rect[1 1 9 9]>>");
    pdf.object(id + 4, "<</Title(Entry " + std::to_string(i) + ")/Parent 5 0 R/Dest[" +
                           reference(id) + "/Fit]" + (i > 0 ? "/Prev " + reference(id - 6) : "") +
                           (i + 1 < kPages ? "/Next " + reference(id + 14) : "") + ">>");
    pdf.object(id + 5, "<</Type/StructElem/S/P/P 7 0 R/Pg " + reference(id) + "/K 0/T(t" +
                           std::to_string(i) + ")>>");
    names += "(p" + std::to_string(100 + i) + ")[" + reference(id) + "/Fit]";
    fields += reference(id + 3) + " ";
    elements += reference(id + 5) + " ";
    parents += std::to_string(i) + "[" + reference(id + 5) + "]";
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Outlines 5 0 R/Names<</Dests<</Names[" + names +
                    "]>>>>/AcroForm<</Fields[" + fields +
                    "]>>/PageLabels<</Nums[0<</S/r>>4<</S/D>>]>>"
                    "/StructTreeRoot 7 0 R/MarkInfo<</Marked true>>>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(kPages) +
                    "/MediaBox[0 0 50 50]>>");
  pdf.object(3, "<</Title(Day 0)>>");
  pdf.object(5, "<</Type/Outlines/First 104 0 R/Last " + reference(page(kPages - 1) + 4) +
                    "/Count " + std::to_string(kPages) + ">>");
  pdf.object(7,
             "<</Type/StructTreeRoot/K[" + elements + "]/ParentTree<</Nums[" + parents + "]>>>>");
  return pdf.finish("/Root 1 0 R/Info 3 0 R");
}

// Another document, of two pages.
const Document& guest() {
  static const Document document = [] {
    test::PdfBuilder pdf;
    pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
    pdf.object(2, "<</Type/Pages/Kids[3 0 R 4 0 R]/Count 2/MediaBox[0 0 30 30]>>");
    pdf.object(3, "<</Type/Page/Parent 2 0 R/Contents 5 0 R>>");
    pdf.object(4, "<</Type/Page/Parent 2 0 R/Contents 6 0 R/Rotate 90>>");
    pdf.stream(5, "", mark_of(-2)).stream(6, "", mark_of(-3));
    return test::open(pdf.finish()).value();
  }();
  return document;
}

struct ModelPage {
  int source = -1;  // -1 for a blank one, -2 and -3 for another document's
  int rotation = 0;
  std::string label;  // empty for a blank one's
  bool is_copy = false;
  bool operator==(const ModelPage&) const = default;
};

struct Model {
  std::vector<ModelPage> pages;
  std::string title = "Day 0";
  std::string language;
  std::vector<std::string> files;

  // What can be asked of a document, in its words.
  std::string told() const {
    std::string text = title + "|" + language + "|";
    std::set<int> there;
    for (const ModelPage& page : pages) {
      text += (page.source == -1 ? "" : mark_of(page.source)) + "@" +
              std::to_string(page.rotation) + " ";
      if (!page.label.empty()) text += page.label + " ";
      if (page.source >= 0 && !page.is_copy) there.insert(page.source);
    }
    for (const std::string& file : files) text += file + " ";
    for (int i = 0; i < kPages; ++i)
      if (there.contains(i)) text += "Entry " + std::to_string(i) + " ";
    text += std::to_string(there.size()) + " names";
    return text;
  }
};

std::string told(const Document& document, const Model& model) {
  std::string text =
      document.metadata().value().properties.title + "|" + document.language().value() + "|";
  for (int i = 0; i < document.page_count(); ++i) {
    const Page page = document.page(i).value();
    std::string content(as_text(page.content().value()));
    while (!content.empty() && content.back() == '\n') content.pop_back();
    text += content + "@" + std::to_string(page.rotation()) + " ";
    if (i < static_cast<int>(model.pages.size()) &&
        !model.pages[static_cast<std::size_t>(i)].label.empty())
      text += document.page_label(i).value() + " ";
  }
  std::vector<std::string> files;
  for (const Attachment& file : document.attachments().value()) files.push_back(file.name);
  std::sort(files.begin(), files.end());
  for (const std::string& file : files) text += file + " ";
  std::vector<std::string> entries;
  for (const OutlineEntry& entry : document.outline().value()) {
    REQUIRE(entry.page);
    text += entry.title + " ";
  }
  const std::size_t names = document.named_destinations().value().size();
  std::set<int> sources;
  for (const ModelPage& page : model.pages)
    if (page.source >= 0) sources.insert(page.source);
  CHECK(document.form().value().fields.size() == sources.size());
  CHECK(document.structure().value().elements.size() == names);
  for (int i = 0; i < document.page_count(); ++i)
    for (const Annotation& mark : document.page(i)->annotations().value())
      if (mark.kind == Annotation::Kind::link) CHECK((mark.destination && mark.destination->page));
  for (const FormField& field : document.form().value().fields)
    CHECK(field.widgets.at(0).page.has_value());
  return text + std::to_string(names) + " names";
}

std::vector<std::string> drawn(const Document& document) {
  std::vector<std::string> sheets;
  for (int i = 0; i < document.page_count(); ++i) {
    const Raster sheet = render(document.page(i).value(), {.dpi = 36, .threads = 1}).value();
    sheets.push_back(std::to_string(sheet.width()) + ":" + std::string(as_text(sheet.bytes())));
  }
  return sheets;
}

// An editable document and its model, changed in the same way.
class Pair {
 public:
  Pair(const Document& document, unsigned seed)
      : edited(EditableDocument::of(document)), random_(seed) {
    Model first;
    for (int i = 0; i < kPages; ++i) {
      const Page page = document.page(i).value();
      first.pages.push_back({i, page.rotation(), document.page_label(i).value()});
    }
    states_.push_back(first);
  }

  const Model& model() const { return states_[at_]; }

  void change() {
    Model next = model();
    const int count = static_cast<int>(next.pages.size());
    const std::vector<int> some = selection(count);
    const PageSelection pages = PageSelection::of(some);
    bool is_done = false;
    switch (below(13)) {
      case 0: {
        const int quarters = below(4);
        is_done = edited.rotate(pages, 90 * quarters).ok();
        for (const int i : some) {
          int& rotation = next.pages[static_cast<std::size_t>(i)].rotation;
          rotation = (rotation + 90 * quarters) % 360;
        }
        break;
      }
      case 1: {
        const int before = below(count + 1);
        is_done = edited.move(pages, before).ok();
        std::vector<ModelPage> moved;
        std::vector<ModelPage> others;
        int at = 0;
        for (const int i : some) moved.push_back(next.pages[static_cast<std::size_t>(i)]);
        for (int i = 0; i < count; ++i)
          if (std::find(some.begin(), some.end(), i) == some.end()) {
            others.push_back(next.pages[static_cast<std::size_t>(i)]);
            if (i < before) ++at;
          }
        others.insert(others.begin() + at, moved.begin(), moved.end());
        next.pages = others;
        break;
      }
      case 2: {
        if (count < 6) return;
        is_done = edited.drop(pages).ok();
        std::vector<ModelPage> kept;
        for (int i = 0; i < count; ++i)
          if (std::find(some.begin(), some.end(), i) == some.end())
            kept.push_back(next.pages[static_cast<std::size_t>(i)]);
        next.pages = kept;
        break;
      }
      case 3: {
        is_done = edited.reverse(pages).ok();
        std::vector<int> sorted = some;
        std::sort(sorted.begin(), sorted.end());
        for (std::size_t i = 0; i < sorted.size() / 2; ++i)
          std::swap(next.pages[static_cast<std::size_t>(sorted[i])],
                    next.pages[static_cast<std::size_t>(sorted[sorted.size() - 1 - i])]);
        break;
      }
      case 4: {
        const int before = below(count + 1);
        is_done = edited.insert_blank(before, 2, {40, 40}).ok();
        next.pages.insert(next.pages.begin() + before, 2, ModelPage{-1, 0, ""});
        break;
      }
      case 5:
        next.title = "Day " + std::to_string(below(100));
        is_done = edited.set_properties({.title = next.title}).ok();
        break;
      case 6:
        next.language = below(2) == 0 ? "de" : "en-GB";
        is_done = edited.set_language(next.language).ok();
        break;
      case 8: {
        if (count > 40) return;
        is_done = edited.duplicate(pages).ok();
        std::vector<ModelPage> all;
        for (int i = 0; i < count; ++i) {
          all.push_back(next.pages[static_cast<std::size_t>(i)]);
          if (std::find(some.begin(), some.end(), i) == some.end()) continue;
          all.push_back(all.back());
          all.back().is_copy = true;
        }
        next.pages = all;
        break;
      }
      case 9: {
        if (count < 12) return;
        std::vector<int> kept;
        for (int i = 0; i < count; ++i)
          if (below(8) > 0) kept.push_back((i * 7 + 3) % count);
        kept.push_back(kept.front());
        is_done = edited.keep(PageSelection::of(kept)).ok();
        std::vector<ModelPage> all;
        std::set<int> met;
        for (const int i : kept) {
          all.push_back(next.pages[static_cast<std::size_t>(i)]);
          if (!met.insert(i).second) all.back().is_copy = true;
        }
        next.pages = all;
        break;
      }
      case 10: {
        if (count % 2 != 0) return;
        const bool reversed = below(2) == 0;
        is_done = edited.interleave(reversed).ok();
        std::vector<ModelPage> all;
        for (int i = 0; i < count / 2; ++i) {
          all.push_back(next.pages[static_cast<std::size_t>(i)]);
          all.push_back(
              next.pages[static_cast<std::size_t>(reversed ? count - 1 - i : count / 2 + i)]);
        }
        next.pages = all;
        break;
      }
      case 11: {
        if (count > 40) return;
        const int before = below(count + 1);
        is_done = edited.insert(guest(), PageSelection::parse("2,1").value(), before).ok();
        next.pages.insert(next.pages.begin() + before, 1, ModelPage{-2, 0, ""});
        next.pages.insert(next.pages.begin() + before, 1, ModelPage{-3, 90, ""});
        break;
      }
      case 7: {
        const std::string name = "f" + std::to_string(next.files.size()) + ".csv";
        is_done = edited.attach({.name = name, .bytes = Bytes(100, 'x')}).ok();
        next.files.push_back(name);
        break;
      }
      default: {
        const std::size_t back = static_cast<std::size_t>(below(4));
        for (std::size_t i = 0; i < back && at_ > 0; ++i, --at_) edited.undo();
        const std::size_t on = static_cast<std::size_t>(below(3));
        for (std::size_t i = 0; i < on && at_ + 1 < states_.size(); ++i, ++at_) edited.redo();
        return;
      }
    }
    REQUIRE(is_done);
    states_.resize(at_ + 1, states_.front());
    states_.push_back(std::move(next));
    ++at_;
  }

  EditableDocument edited;

 private:
  int below(int end) { return static_cast<int>(random_() % static_cast<unsigned>(end)); }

  std::vector<int> selection(int count) {
    std::vector<int> all(static_cast<std::size_t>(count));
    for (int i = 0; i < count; ++i) all[static_cast<std::size_t>(i)] = i;
    std::shuffle(all.begin(), all.end(), random_);
    all.resize(static_cast<std::size_t>(1 + below(3)));
    return all;
  }

  std::mt19937 random_;
  std::vector<Model> states_;
  std::size_t at_ = 0;
};

}  // namespace

TEST_CASE("an edited document is what a plain model says, whatever is done and taken back",
          "[edit]") {
  for (unsigned seed = 0; seed < 6; ++seed) {
    const Document base = test::open(sample(seed % 2 == 0)).value();
    Pair pair(base, seed);
    for (int step = 0; step < 40; ++step) {
      CAPTURE(seed, step);
      pair.change();
      const Document now = pair.edited.now().value();
      REQUIRE(told(now, pair.model()) == pair.model().told());
    }
    CHECK(base.findings().empty());
  }
}

TEST_CASE("what an edited document shows is what is saved and opened again, in every way",
          "[edit]") {
  for (unsigned seed = 10; seed < 14; ++seed) {
    const Document base = test::open(sample(seed % 2 == 0)).value();
    Pair pair(base, seed);
    for (int step = 0; step < 12; ++step) {
      CAPTURE(seed, step);
      pair.change();
      const Document now = pair.edited.now().value();
      const std::vector<std::string> sheets = drawn(now);
      for (const FileLayout layout : {FileLayout::compact, FileLayout::linearized}) {
        BufferSink sink;
        REQUIRE(pair.edited.save(sink, {.layout = layout}).ok());
        const Document saved = Document::open(sink.take()).value();
        CHECK(told(saved, pair.model()) == pair.model().told());
        CHECK(drawn(saved) == sheets);
        CHECK(saved.findings().empty());
      }
      const test::TemporaryFolder folder;
      REQUIRE(pair.edited.save_appended(folder / "appended.pdf").ok());
      const Document appended = Document::open(folder / "appended.pdf").value();
      CHECK(told(appended, pair.model()) == pair.model().told());
      CHECK(drawn(appended) == sheets);
      CHECK(appended.findings().empty());
    }
  }
}

TEST_CASE("what is appended to a file step by step is there when it is opened again", "[edit]") {
  const test::TemporaryFolder folder;
  for (unsigned seed = 20; seed < 24; ++seed) {
    const auto path = folder / (std::to_string(seed) + ".pdf");
    const std::string bytes = sample(seed % 2 == 0);
    std::ofstream(path, std::ios::binary) << bytes;
    Pair pair(Document::open(path).value(), seed);
    for (int step = 0; step < 25; ++step) {
      CAPTURE(seed, step);
      pair.change();
      const auto appended = pair.edited.append_to_file();
      REQUIRE(appended.ok());
      CHECK(appended->bytes == std::filesystem::file_size(path));
      CHECK(test::read_file(path).starts_with(bytes));
      const Document again = Document::open(path).value();
      CHECK(told(again, pair.model()) == pair.model().told());
      CHECK_FALSE(again.was_repaired());
      CHECK(again.findings().empty());
    }
    const std::uint64_t size = std::filesystem::file_size(path);
    CHECK(pair.edited.append_to_file().ok());  // with nothing new
    CHECK(std::filesystem::file_size(path) == size);
  }
}

TEST_CASE("a page of a long document is rotated in some hundred bytes", "[edit]") {
  const Document base = test::open(sample(true)).value();
  EditableDocument edited = EditableDocument::of(base);
  REQUIRE(edited.rotate(PageSelection::parse("7").value(), 90).ok());
  CHECK(edited.appended()->size() < 700);
  edited.undo();
  CHECK(edited.appended()->empty());
  REQUIRE(edited.move(PageSelection::parse("3").value(), 20).ok());
  CHECK(edited.appended()->size() < 2500);
}

TEST_CASE("a viewer records only pages that show something else", "[edit]") {
  const Document base = test::open(sample(true)).value();
  EditableDocument edited = EditableDocument::of(base);
  SceneCache scenes;
  const auto scene_of = [&](const Document& document, int page) {
    return scenes.get(document.page(page).value()).value();
  };
  std::vector<const void*> first;
  const auto address_of = [](const Scene& scene) { return &lumvet::data_of(scene); };
  for (int i = 0; i < kPages; ++i) first.push_back(address_of(scene_of(base, i)));
  REQUIRE(edited.move(PageSelection::parse("1").value(), 3).ok());
  REQUIRE(edited.rotate(PageSelection::parse("9").value(), 90).ok());
  REQUIRE(edited.set_properties({.title = "other"}).ok());
  const Document now = edited.now().value();
  CHECK(edited.pages_changed_since(base).value() == std::vector<int>{8});
  for (int i = 0; i < kPages; ++i) {
    const int before = i < 2 ? i + 1 : i == 2 ? 0 : i;
    CHECK((address_of(scene_of(now, i)) == first[static_cast<std::size_t>(before)]) == (i != 8));
  }
  edited.undo();
  edited.undo();
  CHECK(edited.pages_changed_since(base)->empty());
  CHECK(edited.pages_changed_since(now).value() == std::vector<int>{8});
  const Document other = test::open(sample(false)).value();
  CHECK(edited.pages_changed_since(other).error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("steps that belong together are one, and are called so", "[edit]") {
  EditableDocument edited = EditableDocument::of(test::open(sample(true)).value());
  REQUIRE(edited.set_language("de").ok());
  edited.begin_steps("scanned sheets put right");
  REQUIRE(edited.rotate(PageSelection::parse("1").value(), 90).ok());
  edited.begin_steps("within");
  REQUIRE(edited.drop(PageSelection::parse("2").value()).ok());
  edited.end_steps();
  CHECK_FALSE(edited.rotate(PageSelection::parse("1").value(), 45).ok());
  edited.end_steps();
  REQUIRE(edited.set_language("en").ok());
  CHECK(edited.steps() == std::vector<std::string>{"set the language to de",
                                                   "scanned sheets put right",
                                                   "set the language to en"});
  edited.undo();
  edited.undo();
  CHECK(edited.now()->page_count() == kPages);
  CHECK(edited.now()->language().value() == "de");
  edited.redo();
  CHECK(edited.now()->page_count() == kPages - 1);
  CHECK(edited.now()->page(0)->rotation() == 90);
}

TEST_CASE("dropped pages leave nothing behind in a file that is saved whole", "[edit]") {
  EditableDocument edited = EditableDocument::of(test::open(sample(true)).value());
  REQUIRE(edited.drop(PageSelection::parse("5,6").value()).ok());
  BufferSink sink;
  REQUIRE(edited.save(sink, {.layout = FileLayout::classic}).ok());
  const std::string text(as_text(sink.bytes()));
  for (const int gone : {4, 5}) {
    CHECK(text.find("stream\n" + mark_of(gone)) == std::string::npos);
    CHECK(text.find("(t" + std::to_string(gone) + ")") == std::string::npos);
    CHECK(text.find("(f" + std::to_string(gone) + ")") == std::string::npos);
  }
  CHECK(text.find("stream\n" + mark_of(6)) != std::string::npos);
}

TEST_CASE("older states can be read by other threads while newer ones are made",
          "[edit][threads]") {
  const Document base = test::open(sample(true)).value();
  EditableDocument edited = EditableDocument::of(base);
  std::vector<std::jthread> readers;
  std::vector<std::string> wrong(12);
  for (std::size_t round = 0; round < wrong.size(); ++round) {
    REQUIRE(edited.rotate(PageSelection(), 90).ok());
    const Document now = edited.now().value();
    const int expected = now.page(0)->rotation();
    readers.emplace_back([now, expected, &said = wrong[round]] {
      for (int i = 0; i < now.page_count(); ++i) {
        const auto page = now.page(i);
        if (!page.ok() || !render(*page, {.dpi = 20, .threads = 1}).ok()) said = "not drawn";
      }
      if (now.page(0)->rotation() != expected) said = "another state";
    });
    if (round % 3 == 2) edited.undo();
  }
  readers.clear();
  CHECK(std::count(wrong.begin(), wrong.end(), "") == static_cast<std::ptrdiff_t>(wrong.size()));
}

TEST_CASE("a page is cropped where it is shown, however it is turned", "[edit]") {
  const Document base = test::open(sample(true)).value();
  for (const int degrees : {0, 90, 180, 270}) {
    CAPTURE(degrees);
    EditableDocument edited = EditableDocument::of(base);
    REQUIRE(edited.rotate(PageSelection::parse("2").value(), degrees).ok());
    const Document before = edited.now().value();
    REQUIRE(
        edited.crop(PageSelection::parse("2").value(), {.left = 5, .top = 10, .right = 1}).ok());
    const Document after = edited.now().value();
    const Page page = before.page(1).value();
    const Page cropped = after.page(1).value();
    CHECK(cropped.width() == Approx(page.width() - 6));
    CHECK(cropped.height() == Approx(page.height() - 10));
    const Raster part =
        render(page, {.area = PageArea{5, 10, page.width() - 6, page.height() - 10}, .threads = 1})
            .value();
    const Raster all = render(cropped, {.threads = 1}).value();
    CHECK(as_text(part.bytes()) == as_text(all.bytes()));
    const Status nothing_left = edited.crop(PageSelection::parse("2").value(), {.left = 500});
    REQUIRE_FALSE(nothing_left.ok());
    CHECK(nothing_left.error().code() == ErrorCode::invalid_argument);
    CHECK_THAT(nothing_left.error().message(), Catch::Contains("page 2"));
  }
}

// A font that the tree names was a page in every state but the first, since only there the tree was
// looked at as that of a file whose objects had to be looked for.
TEST_CASE("every state of a damaged document has the pages that were found in it", "[edit]") {
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R 4 0 R]/Count 2>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>");
  pdf.object(4, "<</Type/Font/BaseFont/Helvetica>>");
  const std::string text = pdf.finish();
  const Document document = test::open(text.substr(0, text.rfind("xref\n"))).value();
  REQUIRE(document.was_repaired());
  REQUIRE(document.page_count() == 1);
  EditableDocument edited = EditableDocument::of(document);
  REQUIRE(edited.set_language("de").ok());
  CHECK(edited.now()->page_count() == 1);
  REQUIRE(edited.rotate(PageSelection::of({0}), 90).ok());
  CHECK(edited.now()->page_count() == 1);
  REQUIRE(edited.insert_blank(1, 1, {50, 50}).ok());
  CHECK(edited.now()->page_count() == 2);
  while (edited.can_undo()) edited.undo();
  CHECK(edited.now()->page_count() == 1);
}
