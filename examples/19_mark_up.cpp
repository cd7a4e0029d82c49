// SPDX-License-Identifier: Apache-2.0
// Marks a drawing: a crack circled, a note with an answer, a word highlighted wherever it stands.
#include <iostream>

#include <lumvet/annotate/annotations.h>
#include <lumvet/text/page_words.h>
#include <lumvet/text/text_search.h>

using Kind = lumvet::Annotation::Kind;

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "19_mark_up DRAWING.pdf MARKED.pdf\n";
    return 2;
  }
  try {
    const auto opened = lumvet::Document::open(argv[1]).value();
    const lumvet::Page page = opened.page(0).value();
    auto drawing = lumvet::EditableDocument::of(opened);

    lumvet::Annotation circle = lumvet::mark_in(page, Kind::circle, {300, 280, 90, 60});
    circle.border.width = 2;
    lumvet::add_annotation(drawing, 0, circle).value();

    lumvet::Annotation note = lumvet::note_at(page, {400, 280}, "A crack, 4 mm wide?");
    note.author = "Ilse Marren";
    const lumvet::ObjectId question = lumvet::add_annotation(drawing, 0, note).value();
    lumvet::Annotation answer = lumvet::note_at(page, {400, 280}, "Yes, measured on 14 October.");
    answer.author = "Tobin Achterhuis";
    answer.in_reply_to = question;
    lumvet::add_annotation(drawing, 0, answer).value();

    const auto words = lumvet::PageWords::of(page).value();
    const auto search = lumvet::TextSearch::of("bridge").value();
    for (const lumvet::TextSpan& hit : search.in(words).value())
      lumvet::add_annotation(
          drawing, 0, lumvet::text_mark(page, Kind::highlight, words.quads(hit.begin, hit.end)))
          .value();
    drawing.save(argv[2]).value();
    for (const std::string& step : drawing.steps()) std::cout << step << '\n';
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
