// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/page_glyphs.h"

#include <algorithm>

#include "content/scene_data.h"
#include "text/letters.h"
#include "text/styles.h"

namespace lumvet {

PageGlyphs glyphs_of(const Scene& scene) {
  const content::SceneData& data = data_of(scene);
  const content::SceneText& text = data.text;
  PageGlyphs drawn;
  text::StylesOfText styles(text, drawn.styles);
  struct Placed {
    std::uint32_t run;
    PageGlyph glyph;
  };
  std::vector<Placed> placed;
  const WordOptions as_drawn{.splits_ligatures = false, .composes_accents = false};
  for (const text::Direction& direction : text::letters_of(data, as_drawn))
    for (const text::Letter& letter : direction.letters) {
      const content::TextRun& run = text.runs[letter.run];
      PageGlyph glyph{std::string(letter.characters),
                      letter.is_unknown,
                      direction.quad_of(letter),
                      letter.size,
                      styles.of(run.style),
                      letter.visibility,
                      text::mark_around(text, run.mark)};
      placed.push_back({letter.run, std::move(glyph)});
    }
  std::stable_sort(placed.begin(), placed.end(),
                   [](const Placed& a, const Placed& b) { return a.run < b.run; });
  drawn.glyphs.reserve(placed.size());
  for (Placed& one : placed) drawn.glyphs.push_back(std::move(one.glyph));
  return drawn;
}

}  // namespace lumvet
