// SPDX-License-Identifier: Apache-2.0
#include "appearance/posters.h"

#include <algorithm>

#include "document/appearance.h"
#include "document/geometry_objects.h"
#include "objects/content_numbers.h"

namespace lumvet::appearance {
namespace {

struct Poster {
  ObjectId shown;  // an image or a form
  Matrix placed;   // from its space to the form's
};

// Of a film: an image, which takes a square of one unit.
std::optional<Poster> film_poster(const file::ObjectStore& store, const Dict& annotation,
                                  const Rect& rect) {
  const Object movie = store.get(annotation, "Movie");
  const Object& poster = movie.as_dict()["Poster"];
  const Object image = store.resolve(poster);
  if (!poster.is_reference() || !image.is_stream() ||
      !store.get(image.as_stream()->dict, "Width").is_number())
    return std::nullopt;
  return Poster{poster.as_reference(), Matrix::scaling(rect.width(), rect.height())};
}

// Of a screen: a form, as large as its box.
std::optional<Poster> screen_icon(const file::ObjectStore& store, const Dict& annotation,
                                  const Rect& rect) {
  const Object looks = store.get(annotation, "MK");
  const Object& icon = looks.as_dict()["I"];
  const Object form = store.resolve(icon);
  if (!icon.is_reference() || !form.is_stream()) return std::nullopt;
  const Dict& dict = form.as_stream()->dict;
  const auto stated = document::rect_of(store, dict["BBox"]);
  if (!stated) return std::nullopt;
  const Rect box = document::matrix_of(store, dict).bounds_of(*stated);
  if (box.width() <= 0 || box.height() <= 0) return std::nullopt;
  const double scale = std::min(rect.width() / box.width(), rect.height() / box.height());
  return Poster{icon.as_reference(),
                {scale, 0, 0, scale, (rect.width() - scale * (box.left + box.right)) / 2,
                 (rect.height() - scale * (box.bottom + box.top)) / 2}};
}

}  // namespace

std::optional<ObjectId> poster_form(const file::ObjectStore& store, const Dict& annotation,
                                    file::Ledger& ledger) {
  const auto rect = document::rect_of(store, annotation["Rect"]);
  if (!rect || rect->width() <= 0 || rect->height() <= 0) return std::nullopt;
  std::optional<Poster> poster = film_poster(store, annotation, *rect);
  if (!poster) poster = screen_icon(store, annotation, *rect);
  if (!poster) return std::nullopt;
  const Matrix& m = poster->placed;
  std::string content;
  objects::append_numbers({m.a, m.b, m.c, m.d, m.e, m.f}, content);
  content += "cm /Poster Do\n";
  const Dict forms{{"Poster", poster->shown}};
  return ledger.add(
      Stream::of({{"Type", Object::name("XObject")},
                  {"Subtype", Object::name("Form")},
                  {"BBox", document::array_of(Rect{0, 0, rect->width(), rect->height()})},
                  {"Resources", Dict{{"XObject", forms}}}},
                 Bytes(content.begin(), content.end())));
}

}  // namespace lumvet::appearance
