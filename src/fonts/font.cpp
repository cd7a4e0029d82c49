// SPDX-License-Identifier: Apache-2.0
#include "fonts/font.h"
#include "base/findings_list.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

#include "filters/stream_decoder.h"
#include "fonts/font_parts.h"

namespace lumvet::fonts {
namespace {

constexpr std::array<std::string_view, 14> kStandard14 = {
    "Times-Roman", "Times-Bold",     "Times-Italic",      "Times-BoldItalic",
    "Helvetica",   "Helvetica-Bold", "Helvetica-Oblique", "Helvetica-BoldOblique",
    "Courier",     "Courier-Bold",   "Courier-Oblique",   "Courier-BoldOblique",
    "Symbol",      "ZapfDingbats"};

// Descriptor flags (table 121).
constexpr std::int64_t kFixedPitch = 1 << 0;
constexpr std::int64_t kSerif = 1 << 1;
constexpr std::int64_t kItalic = 1 << 6;
constexpr std::int64_t kForceBold = 1 << 18;

Result<std::shared_ptr<const FontProgram>> load_embedded(const Stream& stream,
                                                         const FontContext& context) {
  Budget budget(context.limits);
  LUMVET_TRY(const ByteSlice bytes,
             filters::decode_whole(stream, context.resolver, budget, context.findings));
  return FontProgram::load(Bytes(bytes.view().begin(), bytes.view().end()));
}

}  // namespace

std::string plain_name(std::string_view base_font) {
  if (base_font.size() > 7 && base_font[6] == '+') base_font.remove_prefix(7);
  return std::string(base_font);
}

std::shared_ptr<const Path> box_of_width(double width) {
  constexpr double kMargin = 0.08;
  constexpr double kLine = 0.04;
  constexpr double kHeight = 0.7;
  const double right = width - kMargin;
  if (!(right - kMargin > 3 * kLine)) return nullptr;
  auto box = std::make_shared<Path>();
  box->add_rect({kMargin, 0, right, kHeight});
  // The other way round, so that the inside stays empty.
  box->move_to({kMargin + kLine, kLine});
  box->line_to({kMargin + kLine, kHeight - kLine});
  box->line_to({right - kLine, kHeight - kLine});
  box->line_to({right - kLine, kLine});
  box->close();
  return box;
}

LineExtent read_line_extent(const Dict& descriptor, const FontContext& context) {
  constexpr double kMost = 2;  // of the font size
  const double ascent = context.resolver.get(descriptor, "Ascent").as_number() / 1000;
  // Some producers write the depth below the baseline without its sign.
  const double descent = -std::abs(context.resolver.get(descriptor, "Descent").as_number() / 1000);
  const LineExtent usual;
  if (!(ascent > 0 && ascent <= kMost)) return usual;
  return {ascent, descent < 0 && descent >= -kMost ? descent : usual.descent};
}

FontTraits read_traits(std::string_view base_font, const Dict& descriptor,
                       const FontContext& context) {
  constexpr double kSemibold = 600;  // of 100 to 900 (table 120)
  FontTraits traits{plain_name(base_font)};
  std::string letters;
  for (const char c : traits.name)
    letters += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  const auto is_called = [&](auto... words) {
    return ((letters.find(words) != std::string::npos) || ...);
  };
  const auto number = [&](std::string_view key) {
    return context.resolver.get(descriptor, key).as_number();
  };
  const std::int64_t flags = context.resolver.get(descriptor, "Flags").as_integer();
  traits.is_bold = (flags & kForceBold) != 0 || number("FontWeight") >= kSemibold ||
                   is_called("bold", "black", "heavy");
  traits.is_italic =
      (flags & kItalic) != 0 || number("ItalicAngle") != 0 || is_called("italic", "oblique");
  return traits;
}

std::optional<CMap> read_to_unicode(const Dict& font, const FontContext& context) {
  const Object object = context.resolver.get(font, "ToUnicode");
  const Stream* stream = object.as_stream();
  if (stream == nullptr) return std::nullopt;
  Budget budget(context.limits);
  const auto bytes = filters::decode_whole(*stream, context.resolver, budget, context.findings);
  if (!bytes.ok()) return std::nullopt;
  auto map = CMap::parse(bytes->view());
  return map.ok() ? std::optional<CMap>(*std::move(map)) : std::nullopt;
}

LoadedProgram load_program(std::string_view base_font, const Dict& descriptor,
                           const std::string& language, const FontContext& context) {
  const std::string name = plain_name(base_font);
  bool damaged = false;
  for (const std::string_view key : {"FontFile", "FontFile2", "FontFile3"}) {
    const Object file = context.resolver.get(descriptor, key);
    const Stream* stream = file.as_stream();
    if (stream == nullptr) continue;
    auto program = load_embedded(*stream, context);
    if (program.ok()) {
      const bool is_truetype = key == "FontFile2" || (*program)->has_truetype_outlines();
      return {*std::move(program), true, is_truetype};
    }
    damaged = true;
    context.findings.add({"the embedded font '" + name + "' cannot be read; another one is shown",
                          stream->offset,
                          {}});
  }
  const std::int64_t flags = context.resolver.get(descriptor, "Flags").as_integer();
  FontWish wish{name,
                (flags & kSerif) != 0,
                (flags & kFixedPitch) != 0,
                (flags & kItalic) != 0,
                (flags & kForceBold) != 0,
                language};
  const bool standard =
      std::find(kStandard14.begin(), kStandard14.end(), name) != kStandard14.end();
  auto program = find_substitute(wish, context.supplied);
  if (!program)
    context.findings.add(
        {"there is no font to show '" + name + "' with; its text shows as boxes. Install one" +
             (language.empty() ? "" : " for the language '" + language + "'") + ", or supply one",
         {},
         {}});
  else if (!standard && !damaged)
    context.findings.add(
        {"the font '" + name + "' is not embedded; a similar one is shown", {}, {}});
  wish.language.clear();
  auto latin = language.empty() ? nullptr : find_substitute(wish, context.supplied);
  return {std::move(program), false, false, std::move(latin)};
}

std::shared_ptr<const Font> Font::make(const Dict& dict, const objects::Resolver& resolver,
                                       const Limits& limits, Findings& findings,
                                       const FontMatcher& supplied) {
  const FontContext context{resolver, limits, findings, supplied};
  return resolver.get(dict, "Subtype").is_name("Type0") ? make_composite_font(dict, context)
                                                        : make_simple_font(dict, context);
}

}  // namespace lumvet::fonts
