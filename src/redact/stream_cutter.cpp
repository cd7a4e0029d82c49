// SPDX-License-Identifier: Apache-2.0
#include "redact/stream_cutter.h"

#include <algorithm>
#include <cmath>

#include "base/allowance.h"
#include "content/inline_parts.h"
#include "document/appearance.h"
#include "document/geometry_objects.h"
#include "document/tree_builder.h"
#include "filters/stream_decoder.h"
#include "objects/content_numbers.h"
#include "redact/cut_paths.h"

namespace lumvet::redacting {
namespace {

constexpr std::size_t kMostOperands = 256;
constexpr double kFine = 0.01;  // points of the page

Matrix matrix_of(const std::vector<Object>& operands) {
  if (operands.size() < 6) return {};
  const auto at = [&](std::size_t i) { return operands[operands.size() - 6 + i].as_number(); };
  return {at(0), at(1), at(2), at(3), at(4), at(5)};
}

double scale_of(const Matrix& m) { return std::max(std::hypot(m.a, m.b), std::hypot(m.c, m.d)); }

void append_point(Point p, const char* op, std::string& out) {
  objects::append_rounded({p.x, p.y}, out);
  out += op;
}

void append_path(const Path& path, std::string& out) {
  std::size_t at = 0;
  for (const Path::Segment segment : path.segments()) switch (segment) {
      case Path::Segment::move: append_point(path.points()[at++], "m\n", out); break;
      case Path::Segment::line: append_point(path.points()[at++], "l\n", out); break;
      case Path::Segment::curve:
        for (int i = 0; i < 2; ++i) append_point(path.points()[at++], "", out);
        append_point(path.points()[at++], "c\n", out);
        break;
      case Path::Segment::close: out += "h\n"; break;
    }
}

}  // namespace

StreamCutter::StreamCutter(ContentCutter& all, const Dict& resources, ObjectId owner,
                           CutState state)
    : all_(all),
      store_(all.core_.store()),
      resources_(resources),
      owner_(owner),
      state_(std::move(state)),
      base_(state_.ctm) {}

Result<ContentCutter::Result> StreamCutter::cut(ByteView content) {
  objects::Parser parser(content, 0, objects::References::none, store_.limits().nesting);
  Operands operands;
  std::size_t begin = 0;
  const auto text = as_text(content);
  for (;;) {
    if (operands.empty()) {
      parser.lexer().skip_white();
      begin = parser.lexer().position();
    }
    auto parsed = parser.next();
    if (!parsed.ok()) {
      operands.clear();
      continue;
    }
    if (parsed->kind == objects::Parsed::Kind::end) break;
    if (parsed->kind == objects::Parsed::Kind::value) {
      if (operands.size() < kMostOperands) operands.push_back(std::move(parsed->value));
      continue;
    }
    if (++all_.operators_ > store_.limits().operators)
      return met_limit("a page has more operators than Limits::operators");
    LUMVET_RETURN_IF_ERROR(go_on());
    if (parsed->keyword == "BI") {
      LUMVET_RETURN_IF_ERROR(inline_image(parser, begin));
    } else {
      LUMVET_RETURN_IF_ERROR(
          apply(parsed->keyword, operands, text.substr(begin, parser.lexer().position() - begin)));
    }
    operands.clear();
  }
  flush_text();
  while (!open_marked_.empty()) end_marked();
  drop_procedures();
  // What was replaced wherever it was used is of no use any more.
  for (const auto& [kind, name] : left_) {
    if (used_.contains({kind, name})) continue;
    Dict list = store_.get(resources_, kind).as_dict();
    list.remove(name);
    resources_.set(kind, std::move(list));
    if (kind != kPattern) continue;
    const auto [first, end] = chosen_.equal_range(name);
    for (auto one = first; one != end; ++one) rewritten_.push_back({one->second, ""});
  }
  settle_rewritten();
  return ContentCutter::Result{std::move(out_), std::move(resources_), is_changed_};
}

Status StreamCutter::apply(const std::string& name, const Operands& operands,
                           std::string_view written) {
  if (build_path(name, operands)) {
    path_written_ += written;
    path_written_ += '\n';
    return Done{};
  }
  static const std::set<std::string> kPaints = {"S", "s",  "f", "F",  "f*",
                                                "B", "B*", "b", "b*", "n"};
  if (kPaints.contains(name)) return paint(name, written);
  if (name == "W" || name == "W*") {
    clip_ = name;
    return Done{};
  }
  if (path_written_.empty()) return apply_other(name, operands, written);
  // Within a path: it comes before all of the path.
  const bool is_color = choose_color(name, operands, written);
  if (is_color) {
    use_tiles(state_.fill);
    use_tiles(state_.stroke);
  }
  if (is_color || name == "BMC" || name == "BDC" || name == "EMC") {
    between_ += written;
    between_ += '\n';
    return Done{};
  }
  std::string before = std::exchange(out_, std::move(between_));
  const Status done = apply_other(name, operands, written);
  between_ = std::exchange(out_, std::move(before));
  return done;
}

Status StreamCutter::apply_other(const std::string& name, const Operands& operands,
                                 std::string_view written) {
  if (name == "Tj" || name == "TJ" || name == "'" || name == "\"")
    return show(name, operands, written);
  if (name == "Do") return draw_object(operands, written);
  if (name == "sh") return shade(operands, written);
  if (name == "gs") return choose_state(operands, written);
  if (name == "BMC" || name == "BDC") {
    begin_marked(name, operands, written);
    return Done{};
  }
  if (choose_color(name, operands, written)) {
    const std::size_t before = out_.size();
    keep(written);
    const CutState::Tiles& tiles = name == "scn" ? state_.fill : state_.stroke;
    if (!tiles.name.empty()) chosen_.insert({tiles.name, {before, out_.size()}});
    return Done{};
  }
  if (name == "EMC" && !open_marked_.empty()) end_marked();
  if (!change_state(name, operands)) place_text(name, operands);
  keep(written);
  return Done{};
}

bool StreamCutter::change_state(const std::string& name, const Operands& operands) {
  const double last = operands.empty() ? 0 : operands.back().as_number();
  if (name == "q") {
    constexpr std::size_t kMostSaved = 10'000;
    if (saved_.size() < kMostSaved)
      saved_.push_back(state_);
    else
      ++not_saved_;
  } else if (name == "Q") {
    if (not_saved_ > 0) {
      --not_saved_;
      return true;
    }
    if (saved_.empty()) return true;
    state_ = std::move(saved_.back());
    saved_.pop_back();
  } else if (name == "cm") {
    if (operands.size() >= 6) state_.ctm = matrix_of(operands).then(state_.ctm);
  } else if (name == "w") {
    state_.line.width = std::abs(last);
  } else if (name == "J") {
    state_.line.cap = static_cast<LineCap>(std::clamp(static_cast<int>(last), 0, 2));
  } else if (name == "j") {
    state_.line.join = static_cast<LineJoin>(std::clamp(static_cast<int>(last), 0, 2));
  } else if (name == "M") {
    state_.line.miter_limit = last;
  } else if (name == "d" && operands.size() >= 2) {
    state_.line.dashes.clear();
    for (const Object& length : operands[operands.size() - 2].as_array())
      state_.line.dashes.push_back(length.as_number());
    state_.line.dash_phase = last;
  } else {
    return false;
  }
  return true;
}

bool StreamCutter::build_path(const std::string& name, const Operands& operands) {
  const std::size_t count = operands.size();
  const auto at = [&](std::size_t from_end) -> Point {
    return {operands[count - from_end].as_number(), operands[count - from_end + 1].as_number()};
  };
  if (name == "m" && count >= 2) {
    path_.move_to(at(2));
  } else if (name == "l" && count >= 2) {
    path_.line_to(at(2));
  } else if (name == "c" && count >= 6) {
    path_.curve_to(at(6), at(4), at(2));
  } else if (name == "v" && count >= 4) {
    path_.curve_to(path_.current_point(), at(4), at(2));
  } else if (name == "y" && count >= 4) {
    path_.curve_to(at(4), at(2), at(2));
  } else if (name == "h") {
    path_.close();
  } else if (name == "re" && count >= 4) {
    const Point corner = at(4);
    const Point size = at(2);
    path_.move_to(corner);
    path_.line_to({corner.x + size.x, corner.y});
    path_.line_to({corner.x + size.x, corner.y + size.y});
    path_.line_to({corner.x, corner.y + size.y});
    path_.close();
  } else {
    return false;
  }
  return true;
}

bool StreamCutter::touches(const Rect& rect, const Matrix& to_page) const {
  const Rect seen = to_page.bounds_of(rect);
  if (!all_.areas_.touches(seen)) return false;
  Polygon corners = corners_of(rect);
  for (Point& p : corners) p = to_page.apply(p);
  // Without extent it may be touched all the same.
  return extent_of(corners) <= 0 || all_.areas_.share_of(hull_of(std::move(corners))) > 0;
}

Status StreamCutter::paint(const std::string& name, std::string_view written) {
  const bool closes = name == "s" || name == "b" || name == "b*";
  const bool fills = name != "S" && name != "s" && name != "n";
  const bool strokes = name == "S" || name == "s" || name[0] == 'B' || name[0] == 'b';
  const bool is_even_odd = name.back() == '*';
  if (closes) path_.close();
  const Path path = std::exchange(path_, Path());
  const std::string path_written = std::exchange(path_written_, {});
  const std::string clip = std::exchange(clip_, {});
  const std::string between = std::exchange(between_, {});
  const Matrix ctm = state_.ctm;
  const Rect seen = ctm.bounds_of(path.bounds());
  if (!clip.empty() && !path.is_empty()) state_.clip = state_.clip.intersected(seen);

  const auto as_it_was = [&]() -> Status {
    std::string tiles;
    if (fills) {
      LUMVET_TRY(tiles, cut_tiles(state_.fill, seen, "scn"));
    }
    if (strokes) {
      LUMVET_TRY(const std::string own, cut_tiles(state_.stroke, seen, "SCN"));
      tiles += own;
    }
    out_ += between;
    if (!tiles.empty()) {
      write("q\n" + tiles + path_written + std::string(written) + "\nQ\n");
      if (!clip.empty()) write(path_written + clip + "\nn\n");
      return Done{};
    }
    out_ += path_written;
    if (!clip.empty()) out_ += clip + '\n';
    keep(written);
    return Done{};
  };
  const double scale = scale_of(ctm);
  const double reach =
      strokes
          ? state_.line.width * scale *
                (state_.line.join == LineJoin::miter ? std::max(state_.line.miter_limit, 1.0) : 1)
          : 0;
  if (path.is_empty() || (!fills && !strokes) || !ctm.is_invertible() ||
      !all_.areas_.touches(seen.grown(std::max(reach, 1e-6))))
    return as_it_was();

  const Areas areas = all_.areas_.mapped(ctm.inverse());
  const double fine = kFine / std::max(scale, 1e-9);
  // Contours of which the rule counts the crossings hide the cut within what is clipped away, since
  // edges that lie upon one another would show.
  const bool is_clipped = is_even_odd && std::count(path.segments().begin(), path.segments().end(),
                                                    Path::Segment::move) > 1;
  constexpr double kWithin = 0.5;  // points of the page
  const auto filled =
      fills
          ? cut_filling(
                path, is_clipped ? all_.areas_.shrunk(kWithin).mapped(ctm.inverse()) : areas, fine)
          : std::nullopt;
  const auto lines = strokes ? cut_stroke(path, state_.line, areas, fine) : std::nullopt;
  if (!filled && !lines) return as_it_was();

  out_ += between;
  ++all_.record_.counts.paths;
  hit();
  const std::string fill = is_even_odd ? "f*\n" : "f\n";
  if (fills) {
    std::string kept;
    if (filled)
      append_path(*filled, kept);
    else
      kept = path_written;
    std::string tiles;
    if (!kept.empty()) {
      LUMVET_TRY(tiles, cut_tiles(state_.fill, seen, "scn"));
    }
    const bool clips = filled && is_clipped && !kept.empty();
    if (clips || !tiles.empty()) write("q\n");
    if (clips) exclude_areas(seen);
    if (!kept.empty()) write(tiles + kept + fill);
    if (clips || !tiles.empty()) write("Q\n");
  }
  if (strokes) {
    LUMVET_TRY(const std::string tiles, cut_tiles(state_.stroke, seen.grown(reach), "SCN"));
    if (!tiles.empty()) write("q\n" + tiles);
    if (lines)
      stroke_outside(*lines, seen.grown(std::max(reach, 1.0)));
    else
      write(path_written + (closes ? "h\n" : "") + "S\n");
    if (!tiles.empty()) write("Q\n");
  }
  if (!clip.empty()) write(path_written + clip + "\nn\n");
  return Done{};
}

void StreamCutter::exclude_areas(const Rect& seen) {
  constexpr double kFar = 1e6;
  const Matrix to_user = state_.ctm.inverse();
  for (const Polygon& hull : all_.areas_.hulls()) {
    const Rect bounds = bounds_of(hull);
    if (bounds.intersected(seen).is_empty()) continue;
    std::string clip;
    const Polygon around = corners_of(bounds.grown(kFar));
    for (const Polygon* polygon : {&around, &hull}) {
      const char* op = "m\n";
      for (const Point p : *polygon) {
        append_point(to_user.apply(p), op, clip);
        op = "l\n";
      }
      clip += "h\n";
    }
    write(clip + "W* n\n");
  }
}

void StreamCutter::stroke_outside(const std::vector<LinePart>& parts, const Rect& seen) {
  if (parts.empty()) return;
  write("q\n");
  exclude_areas(seen);
  for (const LinePart& part : parts) {
    std::string line;
    if (!state_.line.dashes.empty()) {
      line = "[";
      for (const double length : state_.line.dashes) objects::append_numbers({length}, line);
      line += "] ";
      objects::append_rounded({part.dash_phase}, line);
      line += "d\n";
    }
    append_path(part.path, line);
    write(line + "S\n");
  }
  write("Q\n");
}

Status StreamCutter::shade(const Operands& operands, std::string_view written) {
  const std::string name(operands.empty() ? "" : operands.back().as_name());
  if (!all_.areas_.touches(state_.clip) || !state_.ctm.is_invertible()) {
    keep(written);
    return Done{};
  }
  const Object object = store_.resolve(resource("Shading", name));
  const Dict& dict = object.as_stream() != nullptr ? object.as_stream()->dict : object.as_dict();
  constexpr std::int64_t kFirstMesh = 4;
  ++all_.record_.counts.paths;
  hit();
  if (store_.get(dict, "ShadingType").as_integer() >= kFirstMesh) {
    all_.record_.remarks.push_back("a mesh of colors that an area touches was taken out whole");
    replace("Shading", name);
    is_changed_ = true;
    return Done{};
  }
  use("Shading", name);
  write("q\n");
  exclude_areas(state_.clip);
  write(std::string(written) + "\nQ\n");
  return Done{};
}

Status StreamCutter::choose_state(const Operands& operands, std::string_view written) {
  const std::string name(operands.empty() ? "" : operands.back().as_name());
  const Object entry = resource("ExtGState", name);
  const Object object = store_.resolve(entry);
  const Dict& dict = object.as_dict();
  if (dict.contains("LW")) state_.line.width = store_.get(dict, "LW").as_number();
  if (dict.contains("LC"))
    state_.line.cap =
        static_cast<LineCap>(std::clamp<std::int64_t>(store_.get(dict, "LC").as_integer(), 0, 2));
  if (dict.contains("LJ"))
    state_.line.join =
        static_cast<LineJoin>(std::clamp<std::int64_t>(store_.get(dict, "LJ").as_integer(), 0, 2));
  if (dict.contains("ML")) state_.line.miter_limit = store_.get(dict, "ML").as_number();
  const Object font = store_.get(dict, "Font");
  if (font.as_array().size() >= 2) {
    state_.font = all_.font_of(font.as_array()[0]);
    state_.font_name.clear();
    state_.size = store_.resolve(font.as_array()[1]).as_number();
  }
  const Object mask = store_.get(dict, "SMask");
  const Object group = store_.get(mask.as_dict(), "G");
  if (group.as_stream() != nullptr) {
    const Object& form = mask.as_dict()["G"];
    LUMVET_TRY(auto cut, cut_form(form.as_reference(), *group.as_stream()));
    if (cut) {
      Dict changed_mask = mask.as_dict();
      const ObjectId id = all_.ledger_.add(Object(*std::move(cut)));
      if (form.is_reference()) all_.record_.replaced[form.as_reference()].push_back(id);
      changed_mask.set("G", id);
      Dict changed = dict;
      changed.set("SMask", std::move(changed_mask));
      replace("ExtGState", name);
      write("/" + add_resource("ExtGState", std::move(changed)) + " gs\n");
      return Done{};
    }
  }
  use("ExtGState", name);
  keep(written);
  return Done{};
}

Status StreamCutter::draw_object(const Operands& operands, std::string_view written) {
  use_tiles(state_.fill);
  const std::string name(operands.empty() ? "" : operands.back().as_name());
  const Object entry = resource("XObject", name);
  const Object object = store_.resolve(entry);
  const Stream* stream = object.as_stream();
  if (stream != nullptr && store_.get(stream->dict, "Subtype").is_name("Image"))
    return draw_image(entry.as_reference(), *stream, name, written);
  if (stream != nullptr && store_.get(stream->dict, "Subtype").is_name("Form")) {
    LUMVET_TRY(auto cut, cut_form(entry.as_reference(), *stream));
    if (cut) {
      const ObjectId id = all_.ledger_.add(Object(*std::move(cut)));
      if (entry.is_reference()) all_.record_.replaced[entry.as_reference()].push_back(id);
      replace("XObject", name);
      write("/" + add_resource("XObject", id) + " Do\n");
      return Done{};
    }
  }
  use("XObject", name);
  keep(written);
  return Done{};
}

Status StreamCutter::draw_image(ObjectId id, const Stream& image, const std::string& name,
                                std::string_view written) {
  const auto as_it_was = [&] {
    if (!name.empty()) use("XObject", name);
    keep(written);
    return Status(Done{});
  };
  if (!state_.ctm.is_invertible() || !touches({0, 0, 1, 1}, state_.ctm)) return as_it_was();
  const Areas within = all_.areas_.mapped(state_.ctm.inverse());
  auto cut = all_.images_.cut(image, within, resources_);
  if (!cut.ok() && cut.error().code() != ErrorCode::malformed &&
      cut.error().code() != ErrorCode::unsupported)
    return cut.error();
  if (cut.ok() && !*cut) return as_it_was();
  ++all_.record_.counts.images;
  hit();
  is_changed_ = true;
  if (!name.empty()) replace("XObject", name);
  if (!cut.ok()) {
    all_.record_.remarks.push_back("an image that cannot be read was taken out whole: " +
                                   cut.error().message());
    if (id != ObjectId()) all_.record_.replaced[id];
    return Done{};
  }
  const ObjectId made = all_.ledger_.add(Object(**std::move(cut)));
  if (id != ObjectId()) all_.record_.replaced[id].push_back(made);
  write("/" + add_resource("XObject", made) + " Do\n");
  return Done{};
}

Status StreamCutter::inline_image(objects::Parser& parser, std::size_t begin) {
  const content::InlineParts parts =
      content::read_inline_parts(parser, resources_, store_, store_.limits(), true);
  if (!parts.is_there) return Done{};
  const std::string_view written =
      as_text(parser.lexer().bytes()).substr(begin, parser.lexer().position() - begin);
  use_tiles(state_.fill);
  const Stream stream = Stream::of(parts.dict, Bytes(parts.data.begin(), parts.data.end()));
  return draw_image({}, stream, "", written);
}

Result<std::optional<Stream>> StreamCutter::cut_form(ObjectId id, const Stream& form) {
  const std::optional<Stream> none;
  const Matrix to_page = document::matrix_of(store_, form.dict).then(state_.ctm);
  const auto box = document::rect_of(store_, form.dict["BBox"]);
  if (box && !all_.areas_.touches(to_page.bounds_of(*box))) return none;
  const bool is_known = id != ObjectId();
  if (is_known && all_.running_.contains(id)) return none;
  if (all_.depth_ >= store_.limits().nesting) return none;
  Budget budget(store_.limits());
  auto content = filters::decode_whole(form, store_, budget, store_.findings());
  if (!content.ok()) {
    if (content.error().code() == ErrorCode::malformed ||
        content.error().code() == ErrorCode::unsupported)
      return none;
    return content.error();
  }
  CutState state = state_;
  state.fill = state.stroke = {};  // whose names are this stream's
  state.font_name.clear();
  state.ctm = to_page;
  if (box) state.clip = state.clip.intersected(to_page.bounds_of(*box));
  const Object own = store_.get(form.dict, "Resources");
  if (!own.is_dict()) has_borrowers_ = true;
  if (is_known) all_.running_.insert(id);
  ++all_.depth_;
  auto cut = StreamCutter(all_, own.is_dict() ? own.as_dict() : resources_, id, std::move(state))
                 .cut(content->view());
  --all_.depth_;
  if (is_known) all_.running_.erase(id);
  if (!cut.ok()) return cut.error();
  if (!cut->is_changed) return none;
  hit();
  is_changed_ = true;
  return std::optional(stream_of(form.dict, *std::move(cut)));
}

Object StreamCutter::resource(const char* kind, const std::string& name) const {
  const Object list = store_.get(resources_, kind);
  return list.as_dict()[name];
}

std::string StreamCutter::add_resource(const char* kind, Object object) {
  Dict list = store_.get(resources_, kind).as_dict();
  const std::string name =
      document::free_name("Cut", [&](const std::string& other) { return list.contains(other); });
  list.set(name, object.is_reference() ? object : Object(all_.ledger_.add(std::move(object))));
  resources_.set(kind, std::move(list));
  use(kind, name);
  return name;
}

void StreamCutter::keep(std::string_view written) {
  out_ += written;
  out_ += '\n';
}

void StreamCutter::write(const std::string& operators) {
  out_ += operators;
  is_changed_ = true;
}

}  // namespace lumvet::redacting
