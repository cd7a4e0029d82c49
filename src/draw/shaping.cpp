// SPDX-License-Identifier: Apache-2.0
#include "draw/shaping.h"

#include <unicode/uchar.h>
#include <unicode/uscript.h>

#include <algorithm>
#include <cstdio>
#include <span>

#include "objects/text_string.h"

namespace lumvet::draw {
namespace {

constexpr double kNoSize = 1e-6;

bool is_invisible(char32_t c) {
  return c < 0x20 ||
         u_hasBinaryProperty(static_cast<UChar32>(c), UCHAR_DEFAULT_IGNORABLE_CODE_POINT);
}

char32_t character_at(std::u16string_view text, int unit) {
  UChar32 c = 0;
  auto at = static_cast<std::size_t>(unit);
  U16_NEXT(text.data(), at, text.size(), c);
  return static_cast<char32_t>(c);
}

Error missing(std::u16string_view text, int begin, int end, const Face& face) {
  char code[16];
  std::snprintf(code, sizeof code, "U+%04X", static_cast<unsigned>(character_at(text, begin)));
  const auto own =
      text.substr(static_cast<std::size_t>(begin), static_cast<std::size_t>(end - begin));
  return Error(ErrorCode::invalid_argument, "the font " + face.program->family() + " has no '" +
                                                objects::utf16_to_utf8(own) + "' (" + code +
                                                "), and neither has another; name a font that has");
}

// Stretches of one script; signs of none go with what is before them.
std::vector<std::pair<int, int>> scripts_of(std::u16string_view text) {
  std::vector<std::pair<int, int>> runs;  // end, script
  for (int at = 0; at < static_cast<int>(text.size());) {
    const char32_t c = character_at(text, at);
    const int next = at + (c > 0xFFFF ? 2 : 1);
    UErrorCode failed = U_ZERO_ERROR;
    const int script = uscript_getScript(static_cast<UChar32>(c), &failed);
    const bool is_of_none = script == USCRIPT_COMMON || script == USCRIPT_INHERITED;
    if (!runs.empty() && (is_of_none || script == runs.back().second))
      runs.back().first = next;
    else if (!runs.empty() && runs.back().second == USCRIPT_COMMON)
      runs.back() = {next, script};
    else
      runs.emplace_back(next, script);
    at = next;
  }
  return runs;
}

// Stretches that stand upright in lines that run downward, or do not; what goes with the letter
// before it stands as that.
std::vector<std::pair<int, bool>> stands_of(std::u16string_view text) {
  std::vector<std::pair<int, bool>> runs;  // end, whether upright
  for (int at = 0; at < static_cast<int>(text.size());) {
    const char32_t c = character_at(text, at);
    const int next = at + (c > 0xFFFF ? 2 : 1);
    const auto code = static_cast<UChar32>(c);
    const int orientation = u_getIntPropertyValue(code, UCHAR_VERTICAL_ORIENTATION);
    const bool is_upright = orientation != U_VO_ROTATED;
    const bool goes_along = !runs.empty() && (u_getCombiningClass(code) != 0 || is_invisible(c) ||
                                              u_charType(code) == U_NON_SPACING_MARK);
    if (!runs.empty() && (goes_along || runs.back().second == is_upright))
      runs.back().first = next;
    else
      runs.emplace_back(next, is_upright);
    at = next;
  }
  return runs;
}

// A glyph of a line that runs to the right.
ShapedGlyph standing(const Face& face, const hb_glyph_info_t& info,
                     const hb_glyph_position_t& place) {
  const double units = face.units;
  return {info.codepoint,
          static_cast<int>(info.cluster),
          place.x_advance / units,
          hb_font_get_glyph_h_advance(face.font.get(), info.codepoint) / units,
          place.x_offset / units,
          place.y_offset / units,
          false};
}

// And of one that runs downward, where it hangs by the middle of its upper edge (9.7.4.3).
ShapedGlyph hanging(const Face& face, const hb_glyph_info_t& info,
                    const hb_glyph_position_t& place) {
  const double units = face.units;
  hb_position_t x = 0;
  hb_position_t y = 0;
  hb_font_get_glyph_v_origin(face.font.get(), info.codepoint, &x, &y);
  return {info.codepoint,
          static_cast<int>(info.cluster),
          -place.y_advance / units,
          -hb_font_get_glyph_v_advance(face.font.get(), info.codepoint) / units,
          -(place.y_offset + y) / units,
          0,
          false};
}

hb_script_t script_of(int script) {
  const char* name = uscript_getShortName(static_cast<UScriptCode>(script));
  return name == nullptr ? HB_SCRIPT_COMMON : hb_script_from_string(name, -1);
}

}  // namespace

double width_of(const std::vector<ShapedGlyph>& glyphs) {
  double width = 0;
  for (const ShapedGlyph& glyph : glyphs) width += glyph.advance;
  return width;
}

int cluster_end(const ShapedRun& run, int cluster) {
  int end = run.end;
  for (const ShapedGlyph& glyph : run.glyphs)
    if (glyph.cluster > cluster) end = std::min(end, glyph.cluster);
  return end;
}

Result<ShapedText> ShapedText::of(const std::vector<StyledPart>& parts, bool runs_down) {
  ShapedText shaped;
  shaped.runs_down_ = runs_down;
  for (const StyledPart& part : parts) {
    const std::u16string text = objects::utf8_to_utf16(part.text);
    if (text.empty()) continue;
    shaped.text_ += text;
    shaped.styles_.push_back(part.style);
    shaped.style_ends_.push_back(static_cast<int>(shaped.text_.size()));
    LUMVET_TRY(auto faces, faces_of(part.style.face));
    shaped.faces_.push_back(std::move(faces));
  }
  if (!shaped.text_.empty()) LUMVET_RETURN_IF_ERROR(shaped.shape_all());
  return shaped;
}

std::size_t ShapedText::style_at(int unit) const {
  const auto found = std::upper_bound(style_ends_.begin(), style_ends_.end(), unit);
  return std::min(static_cast<std::size_t>(found - style_ends_.begin()), styles_.size() - 1);
}

bool ShapedText::is_leftward() const { return bidi_ && (ubidi_getParaLevel(bidi_.get()) & 1) != 0; }

Status ShapedText::shape_all() {
  bidi_ = std::shared_ptr<UBiDi>(ubidi_open(), CloseBidi());
  UErrorCode failed = U_ZERO_ERROR;
  const auto size = static_cast<int>(text_.size());
  ubidi_setPara(bidi_.get(), text_.data(), size, UBIDI_DEFAULT_LTR, nullptr, &failed);
  if (U_FAILURE(failed))
    return Error(ErrorCode::invalid_argument, "the text's direction cannot be told");
  const auto scripts = scripts_of(text_);
  const auto stands = stands_of(runs_down_ ? std::u16string_view(text_) : std::u16string_view());
  std::size_t script = 0;
  std::size_t stand = 0;
  for (int at = 0; at < size;) {
    int level_end = size;
    UBiDiLevel level = 0;
    ubidi_getLogicalRun(bidi_.get(), at, &level_end, &level);
    while (scripts[script].first <= at) ++script;
    const std::size_t style = style_at(at);
    int end = std::min({level_end, scripts[script].first, style_ends_[style]});
    Course course{(level & 1) != 0};
    if (runs_down_) {
      while (stands[stand].first <= at) ++stand;
      end = std::min(end, stands[stand].first);
      course.is_upright = stands[stand].second;
    }
    LUMVET_RETURN_IF_ERROR(shape(at, end, style, course, scripts[script].second, runs_));
    at = end;
  }
  return Done{};
}

Status ShapedText::shape(int begin, int end, std::size_t style, Course course, int script,
                         std::vector<ShapedRun>& runs) const {
  return shape_with(0, faces_[style], begin, end, style, course, script, runs);
}

// With the font of that place in the list; what it lacks with the next. Runs come in the order of
// the text.
Status ShapedText::shape_with(std::size_t choice, const std::vector<FacePtr>& faces, int begin,
                              int end, std::size_t style, Course course, int script,
                              std::vector<ShapedRun>& runs) const {
  const TextStyle& own = styles_[style];
  FacePtr face = choice < faces.size() ? faces[choice] : nullptr;
  bool is_last = false;
  int at = begin;  // of its first letter
  if (!face) {
    while (at < end && is_invisible(character_at(text_, at))) ++at;
    if (at < end) face = face_with(character_at(text_, at), *faces.front(), data_of(own.face));
    // Only for what its first letter needs; the rest is looked for again.
    is_last = !face || std::find(faces.begin(), faces.end(), face) != faces.end();
    if (is_last) face = faces.front();
  }
  const std::unique_ptr<hb_buffer_t, Release> buffer(hb_buffer_create());
  hb_buffer_add_utf16(buffer.get(), reinterpret_cast<const std::uint16_t*>(text_.data()),
                      static_cast<int>(text_.size()), static_cast<unsigned>(begin), end - begin);
  const bool leftward = course.leftward && !course.is_upright;
  hb_buffer_set_direction(buffer.get(), course.is_upright ? HB_DIRECTION_TTB
                                        : leftward        ? HB_DIRECTION_RTL
                                                          : HB_DIRECTION_LTR);
  hb_buffer_set_script(buffer.get(), script_of(script));
  if (!own.language.empty())
    hb_buffer_set_language(buffer.get(), hb_language_from_string(own.language.c_str(), -1));
  hb_buffer_guess_segment_properties(buffer.get());
  const std::vector<hb_feature_t>& features = data_of(own.face).features;
  hb_shape(face->font.get(), buffer.get(), features.data(), static_cast<unsigned>(features.size()));
  unsigned count = 0;
  const hb_glyph_info_t* infos = hb_buffer_get_glyph_infos(buffer.get(), &count);
  const hb_glyph_position_t* places = hb_buffer_get_glyph_positions(buffer.get(), nullptr);
  const auto glyph_at = [&](unsigned i) { return leftward ? count - 1 - i : i; };  // by the text
  for (unsigned i = 0; i < count;) {
    // As long as all are there, or none.
    const auto cluster_of = [&](unsigned k) {
      return static_cast<int>(infos[glyph_at(k)].cluster);
    };
    const auto lacks = [&](unsigned k) {
      // One that is missing makes all of its cluster missing.
      for (unsigned n = k; n < count && cluster_of(n) == cluster_of(k); ++n)
        if (infos[glyph_at(n)].codepoint == 0 && !is_invisible(character_at(text_, cluster_of(n))))
          return true;
      return false;
    };
    const bool are_missing = lacks(i);
    unsigned last = i;
    while (last < count) {
      if (lacks(last) != are_missing) break;
      const int cluster = cluster_of(last);
      while (last < count && cluster_of(last) == cluster) ++last;
    }
    const int from = cluster_of(i);
    const int to = last < count ? cluster_of(last) : end;
    // One that was found for a letter and still cannot show it is the last.
    const bool is_found_in_vain = choice >= faces.size() && from <= at;
    if (are_missing && !is_last && !is_found_in_vain) {
      LUMVET_RETURN_IF_ERROR(shape_with(std::min(choice + 1, faces.size()), faces, from, to, style,
                                        course, script, runs));
    } else {
      if (are_missing && !own.shows_missing) return missing(text_, from, to, *face);
      ShapedRun run{face, style, from, to, course, {}};
      for (unsigned k = i; k < last; ++k) {
        const hb_glyph_info_t& info = infos[glyph_at(k)];
        const hb_glyph_position_t& place = places[glyph_at(k)];
        if (info.codepoint == 0 && !are_missing) continue;  // nothing to be seen
        const bool is_joined =
            (hb_glyph_info_get_glyph_flags(&info) & HB_GLYPH_FLAG_UNSAFE_TO_BREAK) != 0;
        run.glyphs.push_back(course.is_upright ? hanging(*face, info, place)
                                               : standing(*face, info, place));
        run.glyphs.back().is_joined = is_joined;
      }
      if (leftward) std::reverse(run.glyphs.begin(), run.glyphs.end());
      if (own.spacing != 0)
        for (std::size_t k = 0; k < run.glyphs.size(); ++k)
          if (k + 1 == run.glyphs.size() || run.glyphs[k + 1].cluster != run.glyphs[k].cluster)
            run.glyphs[k].advance += own.spacing / std::max(own.size, kNoSize);
      runs.push_back(std::move(run));
    }
    i = last;
  }
  return Done{};
}

// A part of a run; shaped anew where letters join across its ends.
Result<ShapedRun> ShapedText::cut(const ShapedRun& run, int begin, int end) const {
  if (begin <= run.begin && end >= run.end) return run;
  const bool leftward = run.course.leftward && !run.course.is_upright;
  ShapedRun part{run.face, run.style, begin, end, run.course, {}};
  // Clusters stand in the order of the text, from either side.
  const auto behind = [&](int unit) {
    return std::partition_point(run.glyphs.begin(), run.glyphs.end(),
                                [&](const ShapedGlyph& glyph) {
                                  return leftward ? glyph.cluster >= unit : glyph.cluster < unit;
                                });
  };
  const auto between = [&](int from, int to) {
    return leftward ? std::span(behind(to), behind(from)) : std::span(behind(from), behind(to));
  };
  const auto joins_at = [&](int unit) {
    const auto glyphs = between(unit, unit + 1);
    return std::any_of(glyphs.begin(), glyphs.end(),
                       [](const ShapedGlyph& glyph) { return glyph.is_joined; });
  };
  const auto own_glyphs = between(begin, end);
  part.glyphs.assign(own_glyphs.begin(), own_glyphs.end());
  const bool is_joined = (begin > run.begin && joins_at(begin)) || joins_at(end);
  if (!is_joined) return part;
  const std::u16string_view own = std::u16string_view(text_).substr(
      static_cast<std::size_t>(begin), static_cast<std::size_t>(end - begin));
  std::vector<ShapedRun> again;
  LUMVET_RETURN_IF_ERROR(shape_with(0, {run.face}, begin, end, run.style, run.course,
                                    scripts_of(own).front().second, again));
  part.glyphs.clear();
  for (const ShapedRun& piece : again) {
    const auto at = leftward ? part.glyphs.begin() : part.glyphs.end();
    part.glyphs.insert(at, piece.glyphs.begin(), piece.glyphs.end());
  }
  return part;
}

Result<std::vector<ShapedRun>> ShapedText::line(int begin, int end) const {
  std::vector<ShapedRun> line;
  if (begin >= end) return line;
  const std::unique_ptr<UBiDi, CloseBidi> bidi(ubidi_open());
  UErrorCode failed = U_ZERO_ERROR;
  ubidi_setLine(bidi_.get(), begin, end, bidi.get(), &failed);
  const int32_t visual = ubidi_countRuns(bidi.get(), &failed);
  if (U_FAILURE(failed))
    return Error(ErrorCode::invalid_argument, "the text's direction cannot be told");
  for (int32_t i = 0; i < visual; ++i) {
    int32_t start = 0;
    int32_t length = 0;
    const bool leftward = ubidi_getVisualRun(bidi.get(), i, &start, &length) == UBIDI_RTL;
    const int from = begin + start;
    const int to = from + length;
    std::vector<ShapedRun> own;
    const auto first = std::partition_point(runs_.begin(), runs_.end(),
                                            [&](const ShapedRun& run) { return run.end <= from; });
    for (auto it = first; it != runs_.end() && it->begin < to; ++it) {
      const ShapedRun& run = *it;
      LUMVET_TRY(ShapedRun part, cut(run, std::max(run.begin, from), std::min(run.end, to)));
      own.push_back(std::move(part));
    }
    if (leftward) std::reverse(own.begin(), own.end());
    std::move(own.begin(), own.end(), std::back_inserter(line));
  }
  return line;
}

}  // namespace lumvet::draw
