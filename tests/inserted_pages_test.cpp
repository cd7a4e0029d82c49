// SPDX-License-Identifier: Apache-2.0
// Pages of other documents in an edited one, held against the same pages bound.
#include <algorithm>
#include <map>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/office.h"
#include "tests/support/saved.h"

using namespace lumvet;
using test::office;
using test::saved;

namespace {

PageSelection pages(const std::string& text) { return PageSelection::parse(text).value(); }

}  // namespace

TEST_CASE("pages of another document are inserted as they would be bound", "[edit]") {
  const auto seen = [](const Document& document) {
    std::string all;
    std::map<std::string, std::size_t> fields;
    for (const FormField& field : document.form().value().fields)
      fields[field.name] += field.widgets.size();
    for (const auto& [name, widgets] : fields) all += name + std::to_string(widgets) + " ";
    for (int i = 0; i < document.page_count(); ++i) {
      const Page page = document.page(i).value();
      all += std::string(as_text(render(page, {.dpi = 24}).value().bytes()));
      for (const Annotation& mark : page.annotations().value()) {
        all += to_text(Object(mark.rect.left)) + mark.contents;
        if (mark.destination && mark.destination->page)
          all += "to " + std::to_string(*mark.destination->page);
      }
    }
    std::vector<std::string> others;
    for (const Layer& layer : document.layers().value().all) others.push_back(layer.name);
    for (const Attachment& file : document.attachments().value()) others.push_back(file.name);
    for (const auto& element : document.structure().value().elements)
      others.push_back(element.type);
    for (const OutlineEntry& entry : document.outline().value())
      others.push_back(entry.title + std::to_string(entry.page.value_or(-1)));
    std::sort(others.begin(), others.end());
    for (const std::string& other : others) all += other + " ";
    return all;
  };
  for (const char* first : {"report.pdf", "inspection.pdf", "annex.pdf"})
    for (const char* second : {"inspection.pdf", "report.pdf", "annex.pdf"}) {
      CAPTURE(first, second);
      const Document own = Document::open(office(first)).value();
      const Document other = Document::open(office(second)).value();
      Assembly assembly;
      REQUIRE(assembly.add(own).ok());
      REQUIRE(assembly.add(other, pages("1")).ok());
      EditableDocument edited = EditableDocument::of(own);
      REQUIRE(edited.insert(other, pages("1"), own.page_count()).ok());
      const std::string expected = seen(saved(assembly));
      CHECK(seen(edited.now().value()) == expected);
      CHECK(seen(saved(edited)) == expected);
      edited.undo();
      CHECK(edited.appended()->empty());
    }
}

TEST_CASE("the same fonts and images come into a document once", "[edit]") {
  const Document annex = Document::open(office("annex.pdf")).value();
  EditableDocument edited = EditableDocument::of(Document::open(office("report.pdf")).value());
  REQUIRE(edited.insert(annex, pages("1"), 1).ok());
  const std::size_t once = edited.appended()->size();
  REQUIRE(edited.insert(annex, pages("1"), 1).ok());
  CHECK(edited.appended()->size() < once + once / 2);
}
