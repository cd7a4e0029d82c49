// SPDX-License-Identifier: Apache-2.0
// Type 0 fonts and their CIDFonts (ISO 32000-2, 9.7).
#include <array>
#include <map>

#include "base/allowance.h"
#include "filters/stream_decoder.h"
#include "fonts/cmap.h"
#include "fonts/font_parts.h"
#include "fonts/predefined_encoding.h"
#include "objects/text_string.h"

namespace lumvet::fonts {
namespace {

class CompositeFont final : public Font {
 public:
  explicit CompositeFont(const LineExtent& extent) : Font(extent) {}

  CMap encoding = CMap::identity(false);
  std::shared_ptr<const PredefinedEncoding> predefined;  // in place of `encoding`
  std::optional<CMap> to_unicode;
  LoadedProgram loaded;
  Bytes cid_to_gid;  // two bytes each; empty for the identity
  double default_width = 1;
  std::map<std::uint32_t, double> widths;
  double default_origin_y = 0.88;
  double default_vertical_advance = -1;
  std::map<std::uint32_t, VerticalMetrics> vertical_metrics;

  bool is_vertical() const override {
    return predefined ? predefined->is_vertical() : encoding.is_vertical();
  }
  std::string text_of(std::uint32_t code, std::size_t code_bytes) const override {
    std::string text = to_unicode ? to_unicode->text(code) : std::string();
    if (!text.empty() || !predefined) return text;
    if (const auto character = predefined->unicode({code, code_bytes}))
      objects::append_utf8(*character, text);
    return text;
  }
  std::size_t memory() const override {
    constexpr std::size_t kEntry = 64;  // of a map
    return sizeof(*this) + cid_to_gid.size() + widths.size() * kEntry +
           (loaded.embedded ? 2 * loaded.program->size() : 0);
  }

  void decode(std::string_view text,
              const std::function<void(const Glyph&)>& visit) const override {
    while (!text.empty() && goes_on()) {
      const CodeRead read = predefined ? predefined->next(text) : encoding.next(text);
      text.remove_prefix(read.bytes);
      visit(glyph(read));
    }
  }

 private:
  Glyph glyph(const CodeRead& read) const {
    // The identifiers behind predefined encodings are not known, nor the widths that go by them.
    const std::uint32_t cid = predefined ? 0 : encoding.cid(read.code, read.bytes);
    const auto width = predefined ? widths.end() : widths.find(cid);
    Glyph glyph;
    glyph.code = read.code;
    glyph.code_bytes = read.bytes;
    glyph.width = width == widths.end() ? default_width : width->second;
    if (predefined) glyph.width = predefined->usual_width(read).value_or(default_width);
    if (is_vertical()) {
      const auto metrics = vertical_metrics.find(cid);
      glyph.vertical =
          metrics != vertical_metrics.end()
              ? metrics->second
              : VerticalMetrics{default_vertical_advance, {glyph.width / 2, default_origin_y}};
    }
    const unsigned number = loaded.program ? glyph_number(read, cid) : 0;
    if (number == 0 && (!loaded.embedded || predefined)) {
      if (!is_blank(read)) glyph.outline = box_of_width(glyph.width);
      return glyph;
    }
    glyph.is_missing = number == 0 && cid != 0 && !is_blank(read);
    glyph.outline = loaded.program->outline(number);
    if (!loaded.embedded) {
      const double advance = loaded.program->advance(number);
      if (advance > 0 && glyph.width > 0) glyph.stretch = glyph.width / advance;
    }
    return glyph;
  }

  std::optional<std::uint32_t> character(const CodeRead& read) const {
    if (to_unicode)
      if (const auto unicode = to_unicode->unicode(read.code)) return unicode;
    return predefined ? predefined->unicode(read) : std::nullopt;
  }

  bool is_blank(const CodeRead& read) const {
    const auto unicode = character(read);
    return unicode && (*unicode <= ' ' || *unicode == 0xA0 || *unicode == 0x3000 ||
                       (*unicode >= 0x2000 && *unicode <= 0x200F));
  }

  unsigned glyph_number(const CodeRead& read, std::uint32_t cid) const {
    if (!loaded.embedded || predefined) {
      const auto unicode = character(read);
      return unicode ? loaded.program->glyph_for_unicode(*unicode) : 0;
    }
    if (!cid_to_gid.empty()) {
      const std::size_t at = std::size_t{cid} * 2;
      return at + 1 < cid_to_gid.size() ? cid_to_gid[at] * 256u + cid_to_gid[at + 1] : 0u;
    }
    return loaded.is_truetype ? cid : loaded.program->glyph_for_cid(cid);
  }
};

// /W: "c [w1 w2 …]" and "first last w", or /W2 with three numbers in the place of each w (9.7.4.3).
// Calls put(cid, numbers) with the numbers in units of the font size.
template <typename Put>
void read_metrics(const Object& list, std::size_t each, const FontContext& context,
                  const Put& put) {
  const Array& items = list.as_array();
  constexpr std::int64_t kMostCid = 65535;
  constexpr std::uint64_t kEach = 128;  // bytes, about what an entry takes
  const auto numbers = [&](const Array& from, std::size_t at) {
    std::array<double, 3> values{};
    for (std::size_t k = 0; k < each; ++k)
      values[k] = context.resolver.resolve(from[at + k]).as_number() / 1000;
    return values;
  };
  std::size_t i = 0;
  while (i + 1 < items.size() && goes_on()) {
    const std::int64_t first = context.resolver.resolve(items[i]).as_integer(-1);
    const Object second = context.resolver.resolve(items[i + 1]);
    if (first < 0 || first > kMostCid) return;
    if (second.is_array()) {
      const Array& own = second.as_array();
      for (std::size_t k = 0; k + each <= own.size(); k += each)
        put(static_cast<std::uint32_t>(first) + static_cast<std::uint32_t>(k / each),
            numbers(own, k));
      i += 2;
    } else if (i + 1 + each < items.size()) {
      const auto all = numbers(items, i + 2);
      const std::int64_t last = std::min(second.as_integer(), kMostCid);
      // A few bytes can name all that there are, time and again.
      if (last > first && !Attempt::follow(static_cast<std::uint64_t>(last - first) * kEach))
        return;
      for (std::int64_t cid = first; cid <= last; ++cid) put(static_cast<std::uint32_t>(cid), all);
      i += 2 + each;
    } else {
      return;
    }
  }
}

Result<ByteSlice> decoded(const Stream& stream, const FontContext& context) {
  Budget budget(context.limits);
  return filters::decode_whole(stream, context.resolver, budget, context.findings);
}

std::optional<CMap> embedded_map(const Stream& stream, const std::string& name,
                                 const FontContext& context, int depth = 0);

// What an embedded map builds on (9.7.5.4): another one, or one that is named.
std::shared_ptr<const CMap> base_of(const Stream& stream, ByteView text, const std::string& name,
                                    const FontContext& context, int depth) {
  constexpr int kDeepest = 4;
  const Object stated = context.resolver.get(stream.dict, "UseCMap");
  if (const Stream* base = stated.as_stream()) {
    auto map = depth < kDeepest ? embedded_map(*base, name, context, depth + 1) : std::nullopt;
    return map ? std::make_shared<const CMap>(*std::move(map)) : nullptr;
  }
  const std::string named =
      stated.is_name() ? std::string(stated.as_name()) : CMap::base_name(text);
  if (named == "Identity-H" || named == "Identity-V")
    return std::make_shared<const CMap>(CMap::identity(named == "Identity-V"));
  if (!named.empty())
    context.findings.add({"the code map of the font '" + name + "' builds on '" + named +
                              "', whose identifiers are not known",
                          stream.offset,
                          {}});
  return nullptr;
}

std::optional<CMap> embedded_map(const Stream& stream, const std::string& name,
                                 const FontContext& context, int depth) {
  const auto bytes = decoded(stream, context);
  if (!bytes.ok()) return std::nullopt;
  auto map = CMap::parse(bytes->view(), base_of(stream, bytes->view(), name, context, depth));
  return map.ok() ? std::optional(*std::move(map)) : std::nullopt;
}

CMap read_encoding(const Object& encoding, const std::string& name, const FontContext& context) {
  if (const Stream* stream = encoding.as_stream()) {
    if (auto map = embedded_map(*stream, name, context)) return *std::move(map);
    context.findings.add(
        {"the code map of the font '" + name + "' cannot be read", stream->offset, {}});
  } else if (!encoding.is_name("Identity-H") && !encoding.is_name("Identity-V")) {
    context.findings.add({"the code map '" + std::string(encoding.as_name()) + "' of the font '" +
                              name + "' does not exist; codes of two bytes were taken",
                          {},
                          {}});
  }
  return CMap::identity(encoding.is_name("Identity-V"));
}

// By the character collection (9.7.3).
std::string language_of(const Dict& cid_font, const FontContext& context) {
  const Object system = context.resolver.get(cid_font, "CIDSystemInfo");
  const Object ordering = context.resolver.get(system.as_dict(), "Ordering");
  const std::string_view name = ordering.as_string();
  if (name == "Japan1" || name == "Japan2") return "ja";
  if (name == "Korea1" || name == "KR") return "ko";
  if (name == "GB1") return "zh-cn";
  return name == "CNS1" ? "zh-tw" : "";
}

}  // namespace

std::shared_ptr<const Font> make_composite_font(const Dict& dict, const FontContext& context) {
  const Object descendants = context.resolver.get(dict, "DescendantFonts");
  const Object descendant = descendants.as_array().empty()
                                ? Object()
                                : context.resolver.resolve(descendants.as_array()[0]);
  const Dict& cid_font = descendant.as_dict();
  const Object descriptor = context.resolver.get(cid_font, "FontDescriptor");
  auto font = std::make_shared<CompositeFont>(read_line_extent(descriptor.as_dict(), context));
  const Object base_font = context.resolver.get(dict, "BaseFont");
  const std::string name = plain_name(base_font.as_name());
  const Object encoding = context.resolver.get(dict, "Encoding");
  font->predefined = PredefinedEncoding::named(encoding.as_name());
  if (!font->predefined) font->encoding = read_encoding(encoding, name, context);
  font->to_unicode = read_to_unicode(dict, context);
  font->loaded = load_program(base_font.as_name(), descriptor.as_dict(),
                              language_of(cid_font, context), context);
  const Object map = context.resolver.get(cid_font, "CIDToGIDMap");
  if (const Stream* stream = map.as_stream()) {
    const auto bytes = decoded(*stream, context);
    if (bytes.ok()) font->cid_to_gid.assign(bytes->view().begin(), bytes->view().end());
  }
  font->default_width = context.resolver.get(cid_font, "DW").as_number(1000) / 1000;
  read_metrics(context.resolver.get(cid_font, "W"), 1, context,
               [&](std::uint32_t cid, const auto& n) { font->widths[cid] = n[0]; });
  const Object vertical = context.resolver.get(cid_font, "DW2");
  if (vertical.as_array().size() == 2) {
    font->default_origin_y = context.resolver.resolve(vertical.as_array()[0]).as_number() / 1000;
    font->default_vertical_advance =
        context.resolver.resolve(vertical.as_array()[1]).as_number() / 1000;
  }
  read_metrics(context.resolver.get(cid_font, "W2"), 3, context,
               [&](std::uint32_t cid, const auto& n) {
                 font->vertical_metrics[cid] = {n[0], {n[1], n[2]}};
               });
  return font;
}

}  // namespace lumvet::fonts
