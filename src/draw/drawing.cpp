// SPDX-License-Identifier: Apache-2.0
#include "lumvet/draw/drawing.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "draw/drawing_data.h"
#include "draw/set_lines.h"

namespace lumvet {

using draw::DrawingData;
using draw::Stretch;

template <>
struct Inside<Drawing> {
  static draw::DrawingPtr data(const Drawing& drawing) { return drawing.data_; }
  static draw::DrawingData& own(Drawing& drawing) { return drawing.own(); }
};

namespace draw {

DrawingPtr data_of(const Drawing& drawing) { return Inside<Drawing>::data(drawing); }

Matrix DrawingData::frame(const PageArea& area) const {
  if (is_upward()) return Matrix::translation(area.left, area.top - area.height);
  return {1, 0, 0, -1, area.left, area.top + area.height};
}

Rect DrawingData::rect_of(const PageArea& area) const {
  return frame(area).bounds_of({0, 0, area.width, area.height});
}

void DrawingData::fail(Error what) {
  if (!error) error = std::move(what);
}

int DrawingData::innermost_tag() const {
  return open_tags.empty() || open_tags.back() < 0 ? -1 : open_tags.back();
}

void DrawingData::add_link(const PageArea& area, const std::string& target) {
  links.push_back({state.current.bounds_of(rect_of(area)), target, innermost_tag()});
}

Stretch& DrawingData::stretch() {
  const int tag = open_tags.empty() ? Stretch::kOutside : open_tags.back();
  if (stretches.empty() || stretches.back().tag != tag || stretches.back().layers != open_layers)
    stretches.push_back({tag, open_layers, false, {}});
  return stretches.back();
}

std::string& DrawingData::painting() {
  Stretch& now = stretch();
  now.paints = true;
  return now.operators;
}

void append_matrix(const Matrix& m, std::string& out) {
  objects::append_numbers({m.a, m.b, m.c, m.d}, out);
  objects::append_rounded({m.e, m.f}, out);
  out += "cm\n";
}

namespace {

void append_path(const Path& path, std::string& out) {
  std::size_t at = 0;
  const std::vector<Point>& points = path.points();
  const auto put = [&](int count, const char* operation) {
    for (int i = 0; i < count; ++i, ++at)
      objects::append_rounded({points[at].x, points[at].y}, out);
    out += operation;
  };
  for (const Path::Segment segment : path.segments()) switch (segment) {
      case Path::Segment::move: put(1, "m\n"); break;
      case Path::Segment::line: put(1, "l\n"); break;
      case Path::Segment::curve: put(3, "c\n"); break;
      case Path::Segment::close: put(0, "h\n"); break;
    }
}

bool is_finite(const Path& path) {
  return std::all_of(path.points().begin(), path.points().end(),
                     [](Point p) { return std::isfinite(p.x) && std::isfinite(p.y); });
}

bool is_area(const PageArea& area) {
  return std::isfinite(area.left) && std::isfinite(area.top) && area.width > 0 && area.height > 0 &&
         std::isfinite(area.width) && std::isfinite(area.height);
}

void append_style(const StrokeStyle& style, std::string& out) {
  objects::append_rounded({style.width}, out);
  out += "w " + std::to_string(static_cast<int>(style.cap)) + " J " +
         std::to_string(static_cast<int>(style.join)) + " j ";
  objects::append_rounded({style.miter_limit}, out);
  out += "M [";
  for (const double dash : style.dashes) objects::append_rounded({dash}, out);
  out += "] ";
  objects::append_rounded({style.dash_phase}, out);
  out += "d\n";
}

// The unit square of a picture onto an area of its space, turned to the right.
Matrix onto(double width, double height, int turn) {
  switch (turn) {
    case 90: return {0, -height, width, 0, 0, height};
    case 180: return {-width, 0, 0, -height, width, height};
    case 270: return {0, height, -width, 0, width, 0};
    default: return {width, 0, 0, height, 0, 0};
  }
}

// Where something of a size goes in an area, in a space with y upward from its lower left corner.
Rect fitted(double width, double height, const PageArea& area, Drawing::Fit fit) {
  if (fit == Drawing::Fit::stretched) return {0, 0, area.width, area.height};
  const double across = area.width / width;
  const double along = area.height / height;
  const double scale =
      fit == Drawing::Fit::inside ? std::min(across, along) : std::max(across, along);
  const double left = (area.width - width * scale) / 2;
  const double bottom = (area.height - height * scale) / 2;
  return {left, bottom, left + width * scale, bottom + height * scale};
}

// What `paint` adds, as a state of its own, cut at the area where it would stand out.
template <typename Put>
void within(DrawingData& drawing, const PageArea& area, bool cuts, const Put& put) {
  std::string& out = drawing.painting();
  out += "q\n";
  if (cuts) {
    const Rect r = drawing.rect_of(area);
    objects::append_rounded({r.left, r.bottom, r.width(), r.height()}, out);
    out += "re W n\n";
  }
  put(out);
  out += "Q\n";
}

}  // namespace
}  // namespace draw

// Approximates a quarter of a circle by one curve (to 0.03 % of the radius).
constexpr double kRound = 0.5522847498;

Path box(const PageArea& area) {
  Path path;
  path.add_rect({area.left, area.top, area.left + area.width, area.top + area.height});
  return path;
}

Path rounded_box(const PageArea& area, double radius) {
  const double r = std::clamp(radius, 0.0, std::min(area.width, area.height) / 2);
  if (!(r > 0)) return box(area);
  const double k = r * (1 - kRound);
  const double right = area.left + area.width;
  const double bottom = area.top + area.height;
  Path path;
  path.move_to({area.left + r, area.top});
  path.line_to({right - r, area.top});
  path.curve_to({right - k, area.top}, {right, area.top + k}, {right, area.top + r});
  path.line_to({right, bottom - r});
  path.curve_to({right, bottom - k}, {right - k, bottom}, {right - r, bottom});
  path.line_to({area.left + r, bottom});
  path.curve_to({area.left + k, bottom}, {area.left, bottom - k}, {area.left, bottom - r});
  path.line_to({area.left, area.top + r});
  path.curve_to({area.left, area.top + k}, {area.left + k, area.top}, {area.left + r, area.top});
  path.close();
  return path;
}

Path ellipse(const PageArea& area) {
  const double rx = area.width / 2;
  const double ry = area.height / 2;
  const Point c{area.left + rx, area.top + ry};
  const double kx = rx * kRound;
  const double ky = ry * kRound;
  Path path;
  path.move_to({c.x + rx, c.y});
  path.curve_to({c.x + rx, c.y + ky}, {c.x + kx, c.y + ry}, {c.x, c.y + ry});
  path.curve_to({c.x - kx, c.y + ry}, {c.x - rx, c.y + ky}, {c.x - rx, c.y});
  path.curve_to({c.x - rx, c.y - ky}, {c.x - kx, c.y - ry}, {c.x, c.y - ry});
  path.curve_to({c.x + kx, c.y - ry}, {c.x + rx, c.y - ky}, {c.x + rx, c.y});
  path.close();
  return path;
}

Path sector(Point center, double radius, double from, double to, double inner) {
  constexpr double kWhole = 360;
  constexpr double kLargest = 45;  // degrees that one curve goes round
  const double turn = std::clamp(to - from, -kWhole, kWhole);
  const int pieces = std::max(1, static_cast<int>(std::ceil(std::abs(turn) / kLargest)));
  const double step = turn / pieces * std::numbers::pi / 180;
  const double start = from * std::numbers::pi / 180;
  const double handle = 4.0 / 3 * std::tan(step / 4);
  const auto place = [&](double angle, double r) {
    return Point{center.x + r * std::sin(angle), center.y - r * std::cos(angle)};
  };
  Path path;
  const auto arc = [&](double begin, double by, double r) {
    for (int i = 0; i < pieces; ++i) {
      const double a = begin + by * i;
      const double b = a + by;
      const double h = (by < 0 ? -1 : 1) * std::abs(handle) * r;
      path.curve_to(place(a, r) + Point{std::cos(a) * h, std::sin(a) * h},
                    place(b, r) + Point{-std::cos(b) * h, -std::sin(b) * h}, place(b, r));
    }
  };
  const bool is_whole = std::abs(turn) >= kWhole - 1e-9;
  path.move_to(is_whole || inner > 0 ? place(start, radius) : center);
  if (!is_whole && inner <= 0) path.line_to(place(start, radius));
  arc(start, step, radius);
  if (inner > 0) {
    if (is_whole) {
      path.close();
      path.move_to(place(start, inner));
    } else {
      path.line_to(place(start + step * pieces, inner));
    }
    arc(start + step * pieces, -step, inner);
  }
  path.close();
  return path;
}

Drawing::Drawing(double width, double height, Space space)
    : data_(std::make_shared<DrawingData>()) {
  data_->width = width;
  data_->height = height;
  data_->space = space;
  constexpr double kMost = 14'400 * 1000.0;
  if (!(width > 0 && height > 0 && width < kMost && height < kMost)) {
    data_->width = data_->height = 1;
    data_->fail(Error(ErrorCode::invalid_argument, "a drawing is more than 0 points large"));
  }
  if (space == Space::upward) return;
  data_->state.current = {1, 0, 0, -1, 0, data_->height};
  draw::append_matrix(data_->state.current, data_->operators());
}

Drawing::Drawing(const Drawing&) = default;
Drawing::Drawing(Drawing&&) noexcept = default;
Drawing& Drawing::operator=(const Drawing&) = default;
Drawing& Drawing::operator=(Drawing&&) noexcept = default;
Drawing::~Drawing() = default;

double Drawing::width() const { return data_->width; }
double Drawing::height() const { return data_->height; }
Drawing::Space Drawing::space() const { return data_->space; }
Status Drawing::status() const { return data_->error ? Status(*data_->error) : Status(Done{}); }

DrawingData& Drawing::own() {
  if (data_.use_count() > 1) data_ = std::make_shared<DrawingData>(*data_);
  return *data_;
}

Drawing::Scope::Scope(Scope&& other) noexcept : drawing_(other.drawing_), kind_(other.kind_) {
  other.drawing_ = nullptr;
}
Drawing::Scope::~Scope() {
  if (drawing_ != nullptr) drawing_->end_scope(kind_);
}

Drawing::Scope Drawing::scope() {
  DrawingData& data = own();
  data.operators() += "q\n";
  data.saved.push_back(data.state);
  return Scope(*this, Scope::Kind::state);
}

Drawing::Scope Drawing::tag(const std::string& type, const TagOptions& options) {
  DrawingData& data = own();
  int parent = -1;
  for (const int open : data.open_tags)
    if (open >= 0) parent = open;
  const bool says_more = !options.alternate.empty() || !options.actual_text.empty() ||
                         !options.language.empty() || !options.title.empty();
  data.tags.push_back({type, options.key,
                       says_more ? std::make_shared<const TagOptions>(options) : nullptr, parent});
  data.open_tags.push_back(static_cast<int>(data.tags.size()) - 1);
  return Scope(*this, Scope::Kind::tag);
}

Drawing::Scope Drawing::artifact() {
  own().open_tags.push_back(Stretch::kArtifact);
  return Scope(*this, Scope::Kind::tag);
}

Drawing::Scope Drawing::layer(const std::string& name, const LayerOptions& options) {
  DrawingData& data = own();
  const auto known = std::find_if(data.layers.begin(), data.layers.end(),
                                  [&](const draw::Layer& layer) { return layer.name == name; });
  data.open_layers.push_back(static_cast<int>(known - data.layers.begin()));
  if (known == data.layers.end()) data.layers.push_back({name, options});
  return Scope(*this, Scope::Kind::layer);
}

void Drawing::end_scope(Scope::Kind kind) {
  if (!data_) return;  // moved away
  DrawingData& data = own();
  if (kind == Scope::Kind::layer) {
    if (!data.open_layers.empty()) data.open_layers.pop_back();
    return;
  }
  if (kind == Scope::Kind::tag) {
    if (!data.open_tags.empty()) data.open_tags.pop_back();
    return;
  }
  if (data.saved.empty()) return;
  data.operators() += "Q\n";
  data.state = std::move(data.saved.back());
  data.saved.pop_back();
}

void Drawing::move(double across, double along) { transform(Matrix::translation(across, along)); }
void Drawing::scale(double across, double along) { transform(Matrix::scaling(across, along)); }
void Drawing::turn(double degrees) {
  const double angle = degrees * std::numbers::pi / 180;
  transform({std::cos(angle), std::sin(angle), -std::sin(angle), std::cos(angle), 0, 0});
}
void Drawing::transform(const Matrix& matrix) {
  DrawingData& data = own();
  if (!matrix.is_invertible() || !std::isfinite(matrix.e) || !std::isfinite(matrix.f))
    return data.fail(Error(ErrorCode::invalid_argument, "a map that cannot be taken back"));
  draw::append_matrix(matrix, data.operators());
  data.state.current = matrix.then(data.state.current);
  // Patterns lie in the space as it was.
  data.state.fill_color.clear();
  data.state.stroke_color.clear();
}

void Drawing::clip(const Path& path, FillRule rule) {
  DrawingData& data = own();
  if (!draw::is_finite(path))
    return data.fail(Error(ErrorCode::invalid_argument, "a path with a place that is no number"));
  std::string& out = data.operators();
  // A path without anything leaves nothing.
  if (path.is_empty()) out += "0 0 0 0 re\n";
  draw::append_path(path, out);
  out += rule == FillRule::even_odd ? "W* n\n" : "W n\n";
}

void Drawing::set_opacity(double opacity) {
  DrawingData& data = own();
  data.states.push_back({.opacity = std::clamp(opacity, 0.0, 1.0)});
  data.operators() += "/G" + std::to_string(data.states.size() - 1) + " gs\n";
}

void Drawing::set_blend(BlendMode blend) {
  DrawingData& data = own();
  data.states.push_back({.opacity = {}, .blend = blend});
  data.operators() += "/G" + std::to_string(data.states.size() - 1) + " gs\n";
}

void Drawing::set_mask(const Drawing& mask, Mask kind, Point at) {
  const draw::DrawingPtr form = draw::data_of(mask);
  DrawingData& data = own();
  if (form->error) data.fail(*form->error);
  data.states.push_back({.opacity = {},
                         .blend = {},
                         .mask = form,
                         .mask_kind = kind,
                         .mask_placed = data.frame({at.x, at.y, form->width, form->height})});
  data.operators() += "/G" + std::to_string(data.states.size() - 1) + " gs\n";
}

void Drawing::fill(const Path& path, const Paint& paint, FillRule rule) {
  DrawingData& data = own();
  if (path.is_empty()) return;
  if (!draw::is_finite(path))
    return data.fail(Error(ErrorCode::invalid_argument, "a path with a place that is no number"));
  draw::set_paint(data, paint, false);
  std::string& out = data.painting();
  draw::append_path(path, out);
  out += rule == FillRule::even_odd ? "f*\n" : "f\n";
}

void Drawing::stroke(const Path& path, const Paint& paint, const StrokeStyle& style) {
  DrawingData& data = own();
  if (path.is_empty()) return;
  const bool is_good = draw::is_finite(path) && style.width >= 0 && std::isfinite(style.width) &&
                       style.miter_limit >= 1 && std::isfinite(style.dash_phase) &&
                       std::all_of(style.dashes.begin(), style.dashes.end(),
                                   [](double dash) { return dash >= 0 && std::isfinite(dash); });
  if (!is_good)
    return data.fail(Error(ErrorCode::invalid_argument,
                           "a line with a place, a width or a dash that is no number"));
  draw::set_paint(data, paint, true);
  std::string& out = data.painting();
  out += "q\n";
  draw::append_style(style, out);
  draw::append_path(path, out);
  out += "S\nQ\n";
}

void Drawing::line(Point from, Point to, const Paint& paint, const StrokeStyle& style) {
  Path path;
  path.move_to(from);
  path.line_to(to);
  stroke(path, paint, style);
}

void Drawing::write(const std::string& text, Point at, const TextStyle& style, Side side) {
  DrawingData& data = own();
  // As wide as any line is.
  constexpr double kEndless = 1e7;
  const Result<SetParagraph> set =
      Paragraph(text, style, {.align = ParagraphStyle::Align::left}).set(kEndless);
  if (!set.ok()) return data.fail(set.error());
  const double width = set->line_right(0) - set->line_left(0);
  const double left = at.x - (side == Side::right ? width : side == Side::middle ? width / 2 : 0);
  const double down = data.is_upward() ? -1 : 1;
  draw::show_lines(data, *set, {left, at.y - down * set->base_line(0)}, 0, set->line_count());
}

void Drawing::write(const SetParagraph& paragraph, Point at) {
  write(paragraph, at, 0, paragraph.line_count());
}

void Drawing::write(const SetParagraph& paragraph, Point at, std::size_t first_line,
                    std::size_t lines_end) {
  DrawingData& data = own();
  const double before = paragraph.line_top(first_line);
  const double down = data.is_upward() ? -1 : 1;
  const Point first = draw::lines_of(paragraph).runs_down ? Point{at.x + before, at.y}
                                                          : Point{at.x, at.y - down * before};
  draw::show_lines(data, paragraph, first, first_line, lines_end);
}

Result<double> Drawing::text_width(const std::string& text, const TextStyle& style) {
  LUMVET_TRY(const Paragraph::Widths widths, Paragraph(text, style).widths());
  return widths.whole;
}

void Drawing::draw(const Picture& picture, const PageArea& area, Fit fit) {
  DrawingData& data = own();
  if (!draw::is_area(area))
    return data.fail(Error(ErrorCode::invalid_argument, "an area is more than 0 points large"));
  const auto image = draw::shared_data_of(picture);
  const std::string name = draw::picture_name(data, image);
  const Rect r = draw::fitted(picture.wide(), picture.high(), area, fit);
  draw::within(data, area, fit == Fit::filling, [&](std::string& out) {
    draw::append_matrix(draw::onto(r.width(), r.height(), image->frame.turn)
                            .then(Matrix::translation(r.left, r.bottom))
                            .then(data.frame(area)),
                        out);
    out += "/" + name + " Do\n";
  });
}

void Drawing::draw(const Page& page, const PageArea& area, Fit fit) {
  DrawingData& data = own();
  if (!draw::is_area(area))
    return data.fail(Error(ErrorCode::invalid_argument, "an area is more than 0 points large"));
  data.pages.push_back(page);
  draw::within(data, area, fit == Fit::filling, [&](std::string& out) {
    draw::append_matrix(draw::placed_page(data, page, area, fit), out);
    // A page begins with what it does not set (8.4.1), and not with what was set here.
    out += "0 g 0 G 1 w 0 J 0 j 10 M []0 d 0 Tc 0 Tw 100 Tz 0 TL 0 Tr 0 Ts\n";
    out += "/D" + std::to_string(data.pages.size() - 1) + " Do\n";
  });
}

void Drawing::draw(const Drawing& drawing, Point at, const DrawOptions& options) {
  const draw::DrawingPtr form = draw::data_of(drawing);
  DrawingData& data = own();
  if (form->error) data.fail(*form->error);
  const bool is_group = options.opacity < 1 || options.blend != BlendMode::normal ||
                        options.knockout || !options.isolated;
  data.forms.push_back({form, is_group, options.isolated, options.knockout, {}});
  const std::size_t place = data.forms.size() - 1;
  std::string& out = data.painting();
  out += "q\n";
  if (options.opacity < 1 || options.blend != BlendMode::normal) {
    data.states.push_back(
        {.opacity = std::clamp(options.opacity, 0.0, 1.0), .blend = options.blend});
    out += "/G" + std::to_string(data.states.size() - 1) + " gs\n";
  }
  const Matrix frame = data.frame({at.x, at.y, form->width, form->height});
  draw::append_matrix(frame, out);
  out += "/X" + std::to_string(place) + " Do\nQ\n";
  const Matrix placed = frame.then(data.state.current);
  for (const draw::Link& link : form->links)
    data.links.push_back({placed.bounds_of(link.area), link.target, data.innermost_tag()});
  for (const draw::NamedPlace& one : form->places)
    data.places.push_back({one.name, placed.apply(one.at)});
  for (const draw::OutlineLine& line : form->outline)
    data.outline.push_back({line.title, placed.apply({0, line.top}).y, line.depth});
}

namespace draw {
Matrix placed_page(const DrawingData& drawing, const Page& page, const PageArea& area,
                   Drawing::Fit fit) {
  const Rect r = fitted(page.width(), page.height(), area, fit);
  const Matrix shown{r.width() / page.width(), 0, 0, -r.height() / page.height(), r.left, r.top};
  return page.to_display().then(shown).then(drawing.frame(area));
}

void draw_late(Drawing& drawing, std::shared_ptr<const LateDrawing> late) {
  DrawingData& data = Inside<Drawing>::own(drawing);
  data.forms.push_back({.drawing = {}, .late = std::move(late)});
  std::string& out = data.painting();
  out += "q\n";
  append_matrix(data.frame({0, data.is_upward() ? data.height : 0, data.width, data.height}), out);
  out += "/X" + std::to_string(data.forms.size() - 1) + " Do\nQ\n";
}
}  // namespace draw

void Drawing::link(const PageArea& area, const std::string& target) {
  own().add_link(area, target);
}

void Drawing::name_place(const std::string& name, Point at) {
  DrawingData& data = own();
  data.places.push_back({name, data.state.current.apply(at)});
}

void Drawing::note_field(const std::string& name, const PageArea& area) {
  DrawingData& data = own();
  const Rect rect = data.state.current.bounds_of(data.rect_of(area));
  data.fields.push_back({name, {rect.left, data.height - rect.top, rect.width(), rect.height()}});
}

std::vector<FieldPlace> Drawing::field_places() const { return data_->fields; }

void Drawing::add_outline_entry(const std::string& title, double at, int depth) {
  DrawingData& data = own();
  data.outline.push_back({title, data.state.current.apply({0, at}).y, depth});
}

}  // namespace lumvet
