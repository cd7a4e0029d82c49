// SPDX-License-Identifier: Apache-2.0
// Type 0 fonts and their CIDFonts (ISO 32000-2, 9.7).
#include <array>
#include <map>

#include "base/allowance.h"
#include "filters/stream_decoder.h"
#include "fonts/character_collection.h"
#include "fonts/cmap.h"
#include "fonts/font_parts.h"
#include "fonts/known_codes.h"
#include "fonts/predefined_encoding.h"
#include "objects/text_string.h"

namespace lumvet::fonts {
namespace {

class CompositeFont final : public Font {
 public:
  CompositeFont(const LineExtent& extent, FontTraits traits) : Font(extent, std::move(traits)) {}

  std::shared_ptr<const CodeMap> encoding;
  const CharacterCollection* collection = nullptr;  // null when its characters are not known
  std::optional<CMap> to_unicode;
  LoadedProgram loaded;
  Bytes cid_to_gid;  // two bytes each; empty for the identity
  double default_width = 1;
  std::map<std::uint32_t, double> widths;
  double default_origin_y = 0.88;
  double default_vertical_advance = -1;
  std::map<std::uint32_t, VerticalMetrics> vertical_metrics;

  bool is_vertical() const override { return encoding->is_vertical(); }
  std::size_t memory() const override {
    constexpr std::size_t kEntry = 64;  // of a map
    return sizeof(*this) + cid_to_gid.size() + widths.size() * kEntry +
           (loaded.embedded ? 2 * loaded.program->size() : 0);
  }

  void decode(std::string_view text,
              const std::function<void(const Glyph&)>& visit) const override {
    const bool is_two_bytes = encoding->is_two_bytes();
    while (!text.empty() && goes_on()) {
      const CodeRead read = is_two_bytes && text.size() >= 2
                                ? CodeRead{static_cast<std::uint8_t>(text[0]) * 256u +
                                               static_cast<std::uint8_t>(text[1]),
                                           2}
                                : encoding->next(text);
      text.remove_prefix(read.bytes);
      if (const Glyph* known = known_.find(read)) {
        visit(*known);
        continue;
      }
      auto made = std::make_unique<KnownCode>(KnownCode{glyph(read), text_of(read)});
      made->glyph.text = made->text;
      if (made->glyph.outline) made->glyph.ink = made->glyph.outline->bounds();
      visit(made->glyph);
      known_.keep(read, std::move(made));
    }
  }

 private:
  struct Found {
    const FontProgram* program = nullptr;
    unsigned number = 0;
  };

  std::string text_of(const CodeRead& read) const {
    std::string text = to_unicode ? to_unicode->text(read.code) : std::string();
    if (!text.empty()) return text;
    if (const auto character = known_character(read)) {
      objects::append_utf8(*character, text);
    } else if (const auto cid = encoding->cid(read); cid && loaded.embedded) {
      text = loaded.program->text_of(glyph_of_cid(*cid));
    }
    return text;
  }

  Glyph glyph(const CodeRead& read) const {
    const auto known_cid = encoding->cid(read);
    const std::uint32_t cid = known_cid ? cid_with_glyph(*known_cid) : 0;
    const auto width = widths.find(cid);
    Glyph glyph;
    glyph.code = read.code;
    glyph.code_bytes = read.bytes;
    glyph.width = width == widths.end() ? default_width : width->second;
    if (!known_cid) glyph.width = encoding->usual_width(read).value_or(default_width);
    if (is_vertical()) {
      const auto metrics = vertical_metrics.find(cid);
      glyph.vertical =
          metrics != vertical_metrics.end()
              ? metrics->second
              : VerticalMetrics{default_vertical_advance, {glyph.width / 2, default_origin_y}};
    }
    // Characters can be looked for in an embedded program too, where the map knows no more.
    const bool by_cid = loaded.embedded && (known_cid || !encoding->character(read));
    const Found found =
        by_cid ? Found{loaded.program.get(), glyph_of_cid(cid)} : glyph_of_character(read, cid);
    if (found.number == 0 && !by_cid) {
      if (!is_blank(read)) glyph.outline = box_of_width(glyph.width);
      return glyph;
    }
    glyph.is_missing = found.number == 0 && cid != 0 && !is_blank(read);
    glyph.outline = found.program->outline(found.number);
    if (!loaded.embedded) {
      const double advance = found.program->advance(found.number);
      if (advance > 0 && glyph.width > 0) glyph.stretch = glyph.width / advance;
    }
    return glyph;
  }

  std::optional<std::uint32_t> character(const CodeRead& read) const {
    if (to_unicode)
      if (const auto unicode = to_unicode->unicode(read.code)) return unicode;
    return known_character(read);
  }

  // As the map knows it, or the collection.
  std::optional<std::uint32_t> known_character(const CodeRead& read) const {
    if (const auto character = encoding->character(read)) return character;
    const auto cid = encoding->cid(read);
    return collection != nullptr && cid ? collection->character(*cid) : std::nullopt;
  }

  bool is_blank(const CodeRead& read) const {
    const auto unicode = character(read);
    return unicode && (*unicode <= ' ' || *unicode == 0xA0 || *unicode == 0x3000 ||
                       (*unicode >= 0x2000 && *unicode <= 0x200F));
  }

  // The one that is asked for, or the usual form of its character where an embedded program has
  // only that: some producers number their glyphs as if letters had no narrow forms.
  std::uint32_t cid_with_glyph(std::uint32_t cid) const {
    if (!loaded.embedded || collection == nullptr || glyph_of_cid(cid) != 0) return cid;
    const auto character = collection->character(cid);
    const auto usual = character ? collection->cid(*character) : std::nullopt;
    return usual && glyph_of_cid(*usual) != 0 ? *usual : cid;
  }

  unsigned glyph_of_cid(std::uint32_t cid) const {
    if (!cid_to_gid.empty()) {
      const std::size_t at = std::size_t{cid} * 2;
      return at + 1 < cid_to_gid.size() ? cid_to_gid[at] * 256u + cid_to_gid[at + 1] : 0u;
    }
    return loaded.is_truetype ? cid : loaded.program->glyph_for_cid(cid);
  }

  // In the first of the programs that has the character; its number is 0 where none has.
  Found glyph_of_character(const CodeRead& read, std::uint32_t cid) const {
    const auto unicode = character(read);
    for (const auto* program : {loaded.program.get(), loaded.latin.get()}) {
      if (program == nullptr || !unicode) continue;
      const bool stands_upright =
          is_vertical() || (collection != nullptr && collection->is_upright(cid));
      const unsigned number =
          stands_upright ? program->upright_glyph(*unicode) : program->glyph_for_unicode(*unicode);
      if (number != 0) return {program, number};
    }
    return {};
  }

  KnownCodes known_;
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

std::shared_ptr<const CodeMap> embedded_map(const Stream& stream, const std::string& name,
                                            const FontContext& context, int depth = 0);

// One that is named; null for a name that is none.
std::shared_ptr<const CodeMap> named_map(std::string_view name) {
  if (name == "Identity-H" || name == "Identity-V")
    return std::make_shared<const CMap>(CMap::identity(name == "Identity-V"));
  return PredefinedEncoding::named(name);
}

// What an embedded map builds on (9.7.5.4): another one, or one that is named.
std::shared_ptr<const CodeMap> base_of(const Stream& stream, ByteView text, const std::string& name,
                                       const FontContext& context, int depth) {
  constexpr int kDeepest = 4;
  const Object stated = context.resolver.get(stream.dict, "UseCMap");
  if (const Stream* base = stated.as_stream())
    return depth < kDeepest ? embedded_map(*base, name, context, depth + 1) : nullptr;
  const std::string named =
      stated.is_name() ? std::string(stated.as_name()) : CMap::base_name(text);
  auto map = named_map(named);
  if (!map && !named.empty())
    context.findings.add(
        {"the code map of the font '" + name + "' builds on '" + named + "', which does not exist",
         stream.offset,
         {}});
  return map;
}

std::shared_ptr<const CodeMap> embedded_map(const Stream& stream, const std::string& name,
                                            const FontContext& context, int depth) {
  const auto bytes = decoded(stream, context);
  if (!bytes.ok()) return nullptr;
  auto map = CMap::parse(bytes->view(), base_of(stream, bytes->view(), name, context, depth));
  return map.ok() ? std::make_shared<const CMap>(*std::move(map)) : nullptr;
}

std::shared_ptr<const CodeMap> read_encoding(const Object& encoding, const std::string& name,
                                             const FontContext& context) {
  if (const Stream* stream = encoding.as_stream()) {
    if (auto map = embedded_map(*stream, name, context)) return map;
    context.findings.add(
        {"the code map of the font '" + name + "' cannot be read", stream->offset, {}});
  } else if (auto map = named_map(encoding.as_name())) {
    return map;
  } else {
    context.findings.add({"the code map '" + std::string(encoding.as_name()) + "' of the font '" +
                              name + "' does not exist; codes of two bytes were taken",
                          {},
                          {}});
  }
  return named_map("Identity-H");
}

// By the character collection (9.7.3).
std::string language_of(std::string_view name) {
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
  const Object base_font = context.resolver.get(dict, "BaseFont");
  const std::string name = plain_name(base_font.as_name());
  auto font = std::make_shared<CompositeFont>(
      read_line_extent(descriptor.as_dict(), context),
      read_traits(base_font.as_name(), descriptor.as_dict(), context));
  const Object encoding = context.resolver.get(dict, "Encoding");
  font->encoding = read_encoding(encoding, name, context);
  const Object system = context.resolver.get(cid_font, "CIDSystemInfo");
  const Object ordering = context.resolver.get(system.as_dict(), "Ordering");
  font->collection = CharacterCollection::named(ordering.as_string());
  font->to_unicode = read_to_unicode(dict, context);
  font->loaded = load_program(base_font.as_name(), descriptor.as_dict(),
                              language_of(ordering.as_string()), context);
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
