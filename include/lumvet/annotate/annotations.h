// SPDX-License-Identifier: Apache-2.0
// Marks on the pages of a document that is being changed: made, changed, answered, moved, taken
// away (ISO 32000-2, 12.5), each with an appearance that every viewer shows.
//
//   auto drawing = lumvet::EditableDocument::of(opened);
//   const lumvet::Page page = opened.page(0).value();
//   lumvet::Annotation crack = lumvet::note_at(page, {120, 80}, "A crack, 4 mm wide");
//   crack.author = "Ilse Marren";
//   const lumvet::ObjectId id = lumvet::add_annotation(drawing, 0, crack).value();
//   lumvet::Annotation answer{.kind = lumvet::Annotation::Kind::text, .contents = "Seen."};
//   answer.in_reply_to = id;
//   lumvet::add_annotation(drawing, 0, answer).value();
//   drawing.save("drawing-2.pdf").value();
//
// Annotations are values in the page's own space, as Page::annotations() gives them. Those that are
// made of what a person sees come from the functions below, which take points from the page's top
// left corner as it is shown. Each change is one step, which can be undone. Errors of all changes:
// invalid_argument for pages and annotations that are not there; password when the document's owner
// lets nobody annotate it; unsupported when a certificate allows no such change (12.8.2.2); io,
// need_more_data, limit.
//
// Threads: as EditableDocument's; the rest are free functions. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/draw/drawing.h"
#include "lumvet/edit/editable_document.h"
#include "lumvet/geometry/quad.h"

namespace lumvet {

// From a page as it is shown to its own space, and back.
LUMVET_EXPORT Point page_point(const Page& page, Point shown);
LUMVET_EXPORT Rect page_rect(const Page& page, const PageArea& shown);
LUMVET_EXPORT PageArea shown_area(const Page& page, const Rect& rect);

// The same for marks, some of which stay upright however their page is turned, and are held by
// their upper left corner (table 167, NoRotate).
LUMVET_EXPORT Rect mark_rect(const Page& page, const Annotation& mark, const PageArea& shown);
LUMVET_EXPORT PageArea mark_area(const Page& page, const Annotation& mark);

// Marks as they are shown, upright on the page as it is; each may be changed before it is added.
LUMVET_EXPORT Annotation note_at(const Page& page, Point at, const std::string& contents);
// Of `highlight`, `underline`, `squiggly`, `strike_out` or `redact`, over text or what lies there.
LUMVET_EXPORT Annotation text_mark(const Page& page, Annotation::Kind kind,
                                   const std::vector<Quad>& quads);
// Of a kind that fills an area: `square`, `circle`, `free_text`, `stamp`, `caret`, `link`; and file
// attachments.
LUMVET_EXPORT Annotation mark_in(const Page& page, Annotation::Kind kind, const PageArea& area);
// Of a kind that goes through points: `line`, `polygon`, `polyline`.
LUMVET_EXPORT Annotation mark_through(const Page& page, Annotation::Kind kind,
                                      const std::vector<Point>& points);
LUMVET_EXPORT Annotation ink(const Page& page, const std::vector<std::vector<Point>>& strokes);
// What ink looks like when a pen was pressed more here and less there: for each point of each
// stroke 0 to 1, of the border's width; without one all of it. For MarkParts::look.
LUMVET_EXPORT Drawing pressed_ink(const Annotation& ink,
                                  const std::vector<std::vector<double>>& pressures);
// The same elsewhere: moved, turned or scaled in the page's space.
LUMVET_EXPORT Annotation transformed(Annotation annotation, const Matrix& by);

// What a mark is made of besides.
struct MarkParts {
  // In place of the look that its entries give; as large as it is shown, fitted to the rectangle
  // and as opaque as the annotation. Of stamps and watermarks above all.
  std::optional<Drawing> look = {};
  // The same as a form (8.10) that stands alone, as look_of() gives it, opacity and all. Errors:
  // invalid_argument for what is none.
  std::optional<Object> form = {};
  std::optional<NewAttachment> file = {};  // of a file attachment
};

// The look that an annotation has, with all that it needs in place of references; for
// MarkParts::form, in any document. Null when it has none. Errors: invalid_argument for what is no
// annotation of the document; limit.
LUMVET_EXPORT Result<Object> look_of(const Document& document, ObjectId annotation);

// Whether marks of a kind can be made; others (sounds, films, what printers add) are only read,
// drawn, moved and taken away.
LUMVET_EXPORT bool can_be_made(Annotation::Kind kind);

struct NewMark {
  int page = 0;  // from 0
  Annotation annotation = {};
  MarkParts parts = {};
  // The name of another mark of the page that this one answers, there already or added before it.
  std::string reply_to = {};
};

// Gives what it is from now on. Without a name it gets one that nothing on its page has; places
// that follow from its points or text are made anew. A reply may be anywhere on its page.
LUMVET_EXPORT Result<ObjectId> add_annotation(EditableDocument& document, int page,
                                              const Annotation& annotation,
                                              const MarkParts& parts = {});
// Many in one step, in order.
LUMVET_EXPORT Result<std::vector<ObjectId>> add_annotations(EditableDocument& document,
                                                            const std::vector<NewMark>& marks);
// In place of what it was; what `Annotation` does not tell stays. So does its look, when nothing
// that can be seen changes but its place, or, of stamps and watermarks, their size; else it is made
// anew. Pictures and pages that stamps and watermarks show stay until their icon changes, as opaque
// as is said now. Errors: unsupported for one that is locked.
LUMVET_EXPORT Status change_annotation(EditableDocument& document, ObjectId id,
                                       const Annotation& annotation, const MarkParts& parts = {});
// With their pop-ups, and with the answers to them.
LUMVET_EXPORT Status remove_annotations(EditableDocument& document,
                                        const std::vector<ObjectId>& annotations);
// In front of all others of its page, or behind them.
LUMVET_EXPORT Status raise_annotation(EditableDocument& document, ObjectId id);
LUMVET_EXPORT Status lower_annotation(EditableDocument& document, ObjectId id);

// What is drawn into the pages.
struct FlattenOptions {
  // Kinds that go into the page; all that can be seen but links when there is none. Of `widget`
  // the form's fields go too.
  std::vector<Annotation::Kind> kinds = {};
};
// They look as before and are no longer marks; answers and pop-ups of what goes go too. Hidden ones
// stay. Gives how many it was.
LUMVET_EXPORT Result<int> flatten_annotations(EditableDocument& document,
                                              const PageSelection& pages,
                                              const FlattenOptions& options = {});

}  // namespace lumvet
