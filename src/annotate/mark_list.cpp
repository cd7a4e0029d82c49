// SPDX-License-Identifier: Apache-2.0
#include "lumvet/annotate/mark_list.h"

#include <array>
#include <cmath>
#include <map>

#include <nlohmann/json.hpp>

#include "annotate/chosen_marks.h"
#include "annotate/files_of_marks.h"
#include "annotate/fitted_marks.h"
#include "annotate/hex_color.h"
#include "base/csv.h"
#include "base/text_place.h"
#include "document/annotation_flags.h"
#include "lumvet/annotate/measuring.h"
#include "lumvet/base/nearest_word.h"

namespace lumvet {
namespace {

using Json = nlohmann::ordered_json;
using Kind = Annotation::Kind;

constexpr std::array<std::pair<std::string_view, Kind>, 25> kNames = {
    {{"note", Kind::text},
     {"link", Kind::link},
     {"free-text", Kind::free_text},
     {"line", Kind::line},
     {"square", Kind::square},
     {"circle", Kind::circle},
     {"polygon", Kind::polygon},
     {"polyline", Kind::polyline},
     {"highlight", Kind::highlight},
     {"underline", Kind::underline},
     {"squiggly", Kind::squiggly},
     {"strike-out", Kind::strike_out},
     {"caret", Kind::caret},
     {"stamp", Kind::stamp},
     {"ink", Kind::ink},
     {"popup", Kind::popup},
     {"file-attachment", Kind::file_attachment},
     {"redaction", Kind::redact},
     {"sound", Kind::sound},
     {"movie", Kind::movie},
     {"screen", Kind::screen},
     {"watermark", Kind::watermark},
     {"field", Kind::widget},
     {"3d", Kind::three_d},
     {"rich-media", Kind::rich_media}}};

double rounded(double points) { return std::round(points * 100) / 100; }

Json point_json(const Page& page, Point p) {
  const Point shown = page.to_display().apply(p);
  return Json::array({rounded(shown.x), rounded(shown.y)});
}

template <typename Points>
Json points_json(const Page& page, const Points& points) {
  Json list = Json::array();
  for (const Point p : points) list.push_back(point_json(page, p));
  return list;
}

// One that is told by a unit and a factor; what it gives in any case.
void put_measure(const Annotation& mark, Json& json) {
  const Measure& measure = *mark.measure;
  if (const std::string text = measured_text(mark, measure); !text.empty()) json["measured"] = text;
  if (measure.kind != Measure::Kind::drawing || measure.x.size() != 1) return;
  const MeasureUnit& unit = measure.x[0];
  json["measure"] = {{"scale", measure.scale},
                     {"unit", unit.label},
                     {"factor", unit.factor},
                     {"decimals", std::lround(std::log10(std::max(unit.precision, 1)))}};
}

// A mark of a kind where nothing else is said of it.
Annotation usual_mark(const Page& page, Kind kind) {
  Annotation mark = kind == Kind::text ? note_at(page, {}, "") : mark_in(page, kind, {});
  mark.kind = kind;
  return mark;
}

Json mark_json(const Page& page, const Annotation& mark,
               const std::map<ObjectId, std::string>& names) {
  const Annotation usual = usual_mark(page, mark.kind);
  const PageArea area = mark_area(page, mark);
  Json json{{"page", page.index() + 1}, {"kind", name_of(mark.kind)}};
  const auto put = [&](const char* key, const std::string& text) {
    if (!text.empty()) json[key] = text;
  };
  put("name", mark.name);
  put("author", mark.author);
  put("subject", mark.subject);
  put("contents", mark.contents);
  put("created", mark.created);
  put("modified", mark.modified);
  json["area"] = {rounded(area.left), rounded(area.top), rounded(area.width), rounded(area.height)};
  if (!mark.vertices.empty()) json["points"] = points_json(page, mark.vertices);
  for (const auto& quad : mark.quads)
    json["quads"].push_back(points_json(page, std::array{quad[0], quad[1], quad[3], quad[2]}));
  for (const auto& stroke : mark.strokes) json["strokes"].push_back(points_json(page, stroke));
  json["color"] = mark.color.empty() ? "none" : annotate::hex_color(mark.color);
  if (!mark.interior_color.empty()) json["fill"] = annotate::hex_color(mark.interior_color);
  if (mark.opacity < 1) json["opacity"] = mark.opacity;
  put("blend", mark.blend);
  if (mark.has_border) {
    json["border"] = {{"width", mark.border.width}};
    if (mark.border.style != "S") json["border"]["style"] = mark.border.style;
    if (!mark.border.dash.empty()) json["border"]["dashes"] = mark.border.dash;
  }
  if (mark.border.cloud > 0) json["cloud"] = mark.border.cloud;
  if (!mark.line_ends[0].empty() || !mark.line_ends[1].empty()) json["ends"] = mark.line_ends;
  if (mark.has_caption) json["caption"] = mark.caption_is_above ? "above" : "within";
  if (!(mark.leaders == LeaderLines()))
    json["leaders"] = {rounded(mark.leaders.length), rounded(mark.leaders.extension),
                       rounded(mark.leaders.offset)};
  if (mark.inset != std::array<double, 4>())
    for (const double side : mark.inset) json["inset"].push_back(rounded(side));
  if (mark.alignment != Annotation::Alignment::left)
    json["align"] = mark.alignment == Annotation::Alignment::right ? "right" : "center";
  if (mark.measure) put_measure(mark, json);
  put("intent", mark.intent);
  put("icon", mark.icon);
  if (const int turn = (mark.rotation - usual.rotation + 360) % 360; turn != 0)
    json["turned"] = turn;
  put("text_look", mark.default_appearance);
  put("overlay", mark.overlay_text);
  if (mark.in_reply_to)
    if (const auto of = names.find(*mark.in_reply_to); of != names.end())
      json["reply_to"] = of->second;
  if (mark.is_grouped) json["grouped"] = true;
  put("state_model", mark.review_model);
  put("state", mark.review_state);
  put("file", mark.file);
  if (!mark.actions.empty() && mark.actions[0].kind == Action::Kind::uri)
    put("address", mark.actions[0].target);
  if (mark.destination && mark.destination->page) json["leads_to"] = *mark.destination->page + 1;
  const auto stays_upright = [](const Annotation& one) {
    return (one.flags & document::kNoRotate) != 0;
  };
  if (stays_upright(mark) != stays_upright(usual)) json["upright"] = stays_upright(mark);
  if (!mark.is_printed()) json["printed"] = false;
  if (mark.is_hidden()) json["hidden"] = true;
  if (mark.is_locked()) json["locked"] = true;
  return json;
}

// What `each` makes of every mark of these kinds, by pages.
template <typename Each>
Status each_mark(const Document& document, const std::vector<Kind>& kinds, const Each& each) {
  LUMVET_TRY(const auto all, document.annotations());
  for (int i = 0; i < document.page_count(); ++i) {
    const std::vector<Annotation>& marks = all[static_cast<std::size_t>(i)];
    if (marks.empty()) continue;
    LUMVET_TRY(const Page page, document.page(i));
    std::map<ObjectId, std::string> names;
    for (const Annotation& mark : marks) names.emplace(mark.id, mark.name);
    for (const std::size_t i : annotate::chosen_marks(marks, kinds))
      if (is_listed(marks[i].kind)) each(page, marks[i], names);
  }
  return Done{};
}

// A number that a place on a page can have.
bool is_place(const Json& json) {
  constexpr double kMost = 1e6;  // points
  return json.is_number() && std::abs(json.get<double>()) <= kMost;
}

// One mark of a list.
class MarkReader {
 public:
  MarkReader(const Json& json, std::size_t place, const Document& document,
             const MarkListOptions& options)
      : json_(json),
        where_("mark " + std::to_string(place)),
        document_(document),
        options_(options) {}

  // Of a page that the document does not have without its place.
  Result<NewMark> read() {
    if (!json_.is_object()) return wrong("is no object");
    for (const auto& [key, value] : json_.items()) LUMVET_RETURN_IF_ERROR(check_key(key));
    LUMVET_TRY(const double number, number_of("page"));
    NewMark made;
    made.page = static_cast<int>(number) - 1;
    if (made.page < 0) return wrong("has no page; pages are counted from 1");
    const std::string name = text("kind");
    const auto kind = mark_kind(name);
    if (!kind || *kind == Kind::widget) return unknown_kind(name);
    if (made.page >= document_.page_count()) {
      made.annotation.kind = *kind;
      return made;
    }
    LUMVET_TRY(const Page page, document_.page(made.page));
    mark_ = usual_mark(page, *kind);
    set_flag("upright", 5, (mark_.flags & document::kNoRotate) != 0);
    LUMVET_TRY(const double turn, number_of("turned"));
    if (std::fmod(turn, 90) != 0) return wrong("is turned by no quarter turns");
    mark_.rotation = (mark_.rotation + static_cast<int>(std::fmod(turn, 360)) + 360) % 360;
    LUMVET_RETURN_IF_ERROR(read_place(page));
    read_texts();
    LUMVET_RETURN_IF_ERROR(read_looks());
    LUMVET_RETURN_IF_ERROR(read_measure());
    LUMVET_RETURN_IF_ERROR(read_pressures(made.parts));
    LUMVET_RETURN_IF_ERROR(read_files(page, made.parts));
    made.annotation = std::move(mark_);
    return made;
  }

 private:
  Error wrong(const std::string& what) const {
    return Error(ErrorCode::invalid_argument, where_ + " " + what);
  }

  Status check_key(const std::string& key) const {
    static const std::vector<std::string> kKeys = {
        "page",         "kind",    "name",        "author",  "subject",  "contents",  "created",
        "modified",     "area",    "points",      "quads",   "strokes",  "color",     "fill",
        "opacity",      "blend",   "border",      "cloud",   "ends",     "caption",   "leaders",
        "inset",        "align",   "intent",      "upright", "icon",     "text_look", "overlay",
        "reply_to",     "grouped", "state_model", "state",   "file",     "address",   "leads_to",
        "printed",      "hidden",  "locked",      "measure", "measured", "pressures", "picture",
        "picture_page", "turned"};
    if (std::find(kKeys.begin(), kKeys.end(), key) != kKeys.end()) return Done{};
    const auto near = nearest_word(key, kKeys);
    return wrong("has the key '" + key + "', which marks do not have" +
                 (near ? "; did you mean " + *near + "?" : ""));
  }

  Error unknown_kind(const std::string& name) const {
    std::vector<std::string> names;
    for (const auto& [known, kind] : kNames)
      if (kind != Kind::widget) names.emplace_back(known);
    const auto near = nearest_word(name, names);
    if (near) return wrong("is of the kind '" + name + "'; did you mean " + *near + "?");
    std::string all;
    for (const std::string& known : names) all += (all.empty() ? "" : ", ") + known;
    return wrong("is of no kind that is known: " + all);
  }

  std::string text(const char* key) const {
    const auto found = json_.find(key);
    return found != json_.end() && found->is_string() ? found->get<std::string>() : std::string();
  }
  bool is_set(const char* key, bool otherwise) const {
    const auto found = json_.find(key);
    return found != json_.end() && found->is_boolean() ? found->get<bool>() : otherwise;
  }
  void set_flag(const char* key, int bit, bool otherwise) {
    const std::int64_t mask = std::int64_t{1} << (bit - 1);
    mark_.flags = is_set(key, otherwise) ? mark_.flags | mask : mark_.flags & ~mask;
  }
  Result<double> number_of(const char* key) const {
    const auto found = json_.find(key);
    if (found == json_.end()) return 0.0;
    if (!is_place(*found))
      return wrong(std::string("has a ") + key + " that is no number, or far too large");
    return found->get<double>();
  }

  // None when it is not there.
  Result<std::vector<double>> numbers_of(const char* key, std::size_t count) const {
    const auto found = json_.find(key);
    if (found == json_.end()) return std::vector<double>();
    if (!found->is_array() || found->size() != count ||
        !std::all_of(found->begin(), found->end(), is_place))
      return wrong(std::string("has ") + key + " that are not " + std::to_string(count) +
                   " numbers");
    return found->get<std::vector<double>>();
  }

  Result<std::vector<Point>> points(const Json& list, const Page& page) const {
    std::vector<Point> all;
    if (!list.is_array()) return wrong("has points that are no list");
    for (const Json& one : list) {
      if (!one.is_array() || one.size() != 2 || !is_place(one[0]) || !is_place(one[1]))
        return wrong("has a point that is not two numbers");
      all.push_back(page_point(page, {one[0].get<double>(), one[1].get<double>()}));
    }
    return all;
  }

  Status read_place(const Page& page) {
    std::vector<Point> all;
    if (const auto found = json_.find("points"); found != json_.end()) {
      LUMVET_TRY(mark_.vertices, points(*found, page));
      all = mark_.vertices;
    }
    if (const auto found = json_.find("strokes"); found != json_.end() && found->is_array())
      for (const Json& one : *found) {
        LUMVET_TRY(std::vector<Point> stroke, points(one, page));
        all.insert(all.end(), stroke.begin(), stroke.end());
        mark_.strokes.push_back(std::move(stroke));
      }
    if (const auto found = json_.find("quads"); found != json_.end() && found->is_array())
      for (const Json& one : *found) {
        LUMVET_TRY(const std::vector<Point> corners, points(one, page));
        if (corners.size() != 4) return wrong("has a quad that is not four points");
        mark_.quads.push_back({corners[0], corners[1], corners[3], corners[2]});
        all.insert(all.end(), corners.begin(), corners.end());
      }
    const auto area = json_.find("area");
    if (area == json_.end()) {
      if (all.empty()) return wrong("has neither area nor points");
      mark_.rect = Rect::nothing();
      for (const Point p : all) mark_.rect.include(p);
      return Done{};
    }
    LUMVET_TRY(const std::vector<double> sides, numbers_of("area", 4));
    mark_.rect = mark_rect(page, mark_, {sides[0], sides[1], sides[2], sides[3]});
    return Done{};
  }

  void read_texts() {
    mark_.name = text("name");
    mark_.author = text("author");
    mark_.subject = text("subject");
    mark_.contents = text("contents");
    mark_.created = text("created");
    mark_.modified = text("modified");
    mark_.blend = text("blend");
    if (json_.contains("icon")) mark_.icon = text("icon");
    if (json_.contains("text_look")) mark_.default_appearance = text("text_look");
    mark_.overlay_text = text("overlay");
    mark_.review_model = text("state_model");
    mark_.review_state = text("state");
    mark_.is_grouped = is_set("grouped", false);
    set_flag("hidden", 2, false);
    set_flag("printed", 3, true);
    set_flag("locked", 8, false);
    if (json_.contains("intent")) mark_.intent = text("intent");
    const std::string side = text("align");
    if (side == "center") mark_.alignment = Annotation::Alignment::centered;
    if (side == "right") mark_.alignment = Annotation::Alignment::right;
    if (const std::string address = text("address"); !address.empty())
      mark_.actions = {{.kind = Action::Kind::uri, .type = "URI", .target = address}};
  }

  // By how many times smaller the drawing is ("scale": 50), or by units to the point ("factor").
  Status read_measure() {
    const auto found = json_.find("measure");
    if (found == json_.end()) return Done{};
    if (!found->is_object()) return wrong("has a measure that is no object");
    const auto number = [&](const char* key, double otherwise) {
      const auto stated = found->find(key);
      return stated != found->end() && is_place(*stated) ? stated->get<double>() : otherwise;
    };
    const auto unit = found->find("unit");
    const std::string name =
        unit != found->end() && unit->is_string() ? unit->get<std::string>() : "m";
    Measure measure = drawing_scale(number("scale", 1), name,
                                    static_cast<int>(std::clamp(number("decimals", 2), 0.0, 6.0)));
    measure.x[0].factor = number("factor", measure.x[0].factor);
    if (const auto scale = found->find("scale"); scale != found->end() && scale->is_string())
      measure.scale = scale->get<std::string>();
    if (mark_.contents.empty()) mark_.contents = measured_text(mark_, measure);
    mark_.measure = std::make_shared<const Measure>(std::move(measure));
    return Done{};
  }

  // How much a pen was pressed, for each point of each stroke.
  Status read_pressures(MarkParts& parts) const {
    const auto found = json_.find("pressures");
    if (found == json_.end()) return Done{};
    std::vector<std::vector<double>> pressures;
    if (!found->is_array()) return wrong("has pressures that are no list");
    for (const Json& stroke : *found) {
      if (!stroke.is_array() || !std::all_of(stroke.begin(), stroke.end(), is_place))
        return wrong("has pressures that are no lists of numbers");
      pressures.push_back(stroke.get<std::vector<double>>());
    }
    if (mark_.kind == Kind::ink && mark_.rect.width() > 0 && mark_.rect.height() > 0)
      parts.look = pressed_ink(mark_, pressures);
    return Done{};
  }

  // The file of an attachment, and the picture that is the look of a stamp or a watermark.
  Status read_files(const Page& page, MarkParts& parts) const {
    if (!options_.folder) return Done{};
    if (mark_.kind == Kind::file_attachment) {
      LUMVET_TRY(parts.file, annotate::file_for_mark(*options_.folder, text("file")));
    }
    const std::string name = text("picture");
    if (name.empty()) return Done{};
    if (mark_.kind != Kind::stamp && mark_.kind != Kind::watermark)
      return wrong("has a picture, which only stamps and watermarks show");
    LUMVET_TRY(const double number, number_of("picture_page"));
    const PageArea area = shown_area(page, mark_.rect);
    if (!(area.width > 0 && area.height > 0)) return wrong("has no area for its picture");
    auto look = annotate::picture_for_mark(*options_.folder / name,
                                           std::max(static_cast<int>(number), 1) - 1, area.width,
                                           area.height);
    if (!look.ok()) return std::move(look).error().about(where_ + ": " + name);
    parts.look = *std::move(look);
    return Done{};
  }

  Status read_looks() {
    for (const auto& [key, parts] :
         {std::pair{"color", &mark_.color}, std::pair{"fill", &mark_.interior_color}}) {
      if (!json_.contains(key)) continue;
      parts->clear();
      const std::string value = text(key);
      if (value.empty() || value == "none") continue;
      const auto color = Color::parse(value);
      if (!color.ok()) return wrong(std::string("has a ") + key + ": " + color.error().message());
      *parts = color->parts();
    }
    if (json_.contains("opacity")) {
      LUMVET_TRY(mark_.opacity, number_of("opacity"));
      if (!(mark_.opacity >= 0 && mark_.opacity <= 1)) return wrong("has an opacity beyond 0 to 1");
    }
    if (const auto border = json_.find("border"); border != json_.end() && border->is_object()) {
      mark_.has_border = true;
      if (const auto width = border->find("width"); width != border->end() && width->is_number())
        mark_.border.width = std::clamp(width->get<double>(), 0.0, 100.0);
      if (const auto dashes = border->find("dashes");
          dashes != border->end() && dashes->is_array()) {
        for (const Json& length : *dashes)
          if (is_place(length)) mark_.border.dash.push_back(length.get<double>());
        mark_.border.style = "D";
      }
      if (const auto style = border->find("style"); style != border->end() && style->is_string())
        mark_.border.style = style->get<std::string>();
    }
    LUMVET_TRY(const double cloud, number_of("cloud"));
    mark_.border.cloud = std::clamp(cloud, 0.0, 2.0);
    LUMVET_TRY(const std::vector<double> leaders, numbers_of("leaders", 3));
    if (!leaders.empty()) mark_.leaders = {leaders[0], leaders[1], leaders[2]};
    LUMVET_TRY(const std::vector<double> inset, numbers_of("inset", 4));
    std::copy(inset.begin(), inset.end(), mark_.inset.begin());
    mark_.has_caption = json_.contains("caption");
    mark_.caption_is_above = text("caption") == "above";
    if (const auto ends = json_.find("ends"); ends != json_.end() && ends->is_array())
      for (std::size_t i = 0; i < 2 && i < ends->size(); ++i)
        if ((*ends)[i].is_string()) mark_.line_ends[i] = (*ends)[i].get<std::string>();
    if (json_.contains("leads_to")) {
      LUMVET_TRY(const double page, number_of("leads_to"));
      mark_.destination = Destination{.page = static_cast<int>(page) - 1};
    }
    return Done{};
  }

  const Json& json_;
  std::string where_;
  const Document& document_;
  const MarkListOptions& options_;
  Annotation mark_;
};

}  // namespace

bool is_listed(Kind kind) {
  return kind != Kind::widget && kind != Kind::popup && kind != Kind::other;
}

std::string_view name_of(Kind kind) {
  for (const auto& [name, known] : kNames)
    if (known == kind) return name;
  return {};
}

std::optional<Kind> mark_kind(std::string_view name) {
  for (const auto& [known, kind] : kNames)
    if (known == name) return kind;
  return std::nullopt;
}

Result<std::string> marks_as_json(const Document& document, const std::vector<Kind>& kinds) {
  Json list = Json::array();
  LUMVET_RETURN_IF_ERROR(each_mark(
      document, kinds,
      [&](const Page& page, const Annotation& mark, const std::map<ObjectId, std::string>& names) {
        list.push_back(mark_json(page, mark, names));
      }));
  return list.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<std::string> marks_as_csv(const Document& document, const std::vector<Kind>& kinds) {
  std::string table = "page,kind,author,modified,state,contents\r\n";
  LUMVET_RETURN_IF_ERROR(each_mark(
      document, kinds,
      [&](const Page& page, const Annotation& mark, const std::map<ObjectId, std::string>&) {
        table += std::to_string(page.index() + 1);
        for (const std::string& cell : {std::string(name_of(mark.kind)), mark.author,
                                        mark.modified.empty() ? mark.created : mark.modified,
                                        mark.review_state, mark.contents})
          table += "," + csv_cell(cell);
        table += "\r\n";
      }));
  return table;
}

Result<ReadMarks> read_marks(std::string_view text, const Document& document,
                             const MarkListOptions& options) {
  Json list;
  try {
    list = Json::parse(text);
  } catch (const Json::parse_error& error) {
    return Error(ErrorCode::malformed,
                 text_place(text, error.byte > 0 ? error.byte - 1 : 0) + ": this is no JSON");
  }
  if (!list.is_array()) return Error(ErrorCode::malformed, "a list of marks is an array");
  std::vector<annotate::ListedMark> marks;
  marks.reserve(list.size());
  for (std::size_t i = 0; i < list.size(); ++i) {
    LUMVET_TRY(NewMark mark, MarkReader(list[i], i + 1, document, options).read());
    if (const auto of = list[i].find("reply_to"); of != list[i].end() && of->is_string())
      mark.reply_to = of->get<std::string>();
    marks.push_back({std::move(mark), "mark " + std::to_string(i + 1)});
  }
  ReadMarks read;
  LUMVET_TRY(read.marks, annotate::fitted(std::move(marks), document, read.findings));
  return read;
}

}  // namespace lumvet
