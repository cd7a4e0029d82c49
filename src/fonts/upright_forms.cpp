// SPDX-License-Identifier: Apache-2.0
#include "fonts/upright_forms.h"

#include <hb.h>

namespace lumvet::fonts {

void UprightForms::Closer::operator()(hb_font_t* font) const { hb_font_destroy(font); }

UprightForms::UprightForms(ByteView file, int face_index) {
  hb_blob_t* blob =
      hb_blob_create(reinterpret_cast<const char*>(file.data()), static_cast<unsigned>(file.size()),
                     HB_MEMORY_MODE_READONLY, nullptr, nullptr);
  hb_face_t* face = hb_face_create(blob, static_cast<unsigned>(face_index));
  font_.reset(hb_font_create(face));
  hb_face_destroy(face);
  hb_blob_destroy(blob);
}

unsigned UprightForms::of(std::uint32_t character) const {
  hb_buffer_t* line = hb_buffer_create();
  hb_buffer_add(line, character, 0);
  hb_buffer_set_content_type(line, HB_BUFFER_CONTENT_TYPE_UNICODE);
  hb_buffer_set_direction(line, HB_DIRECTION_TTB);
  hb_buffer_guess_segment_properties(line);
  hb_shape(font_.get(), line, nullptr, 0);
  unsigned count = 0;
  const hb_glyph_info_t* glyphs = hb_buffer_get_glyph_infos(line, &count);
  const unsigned glyph = count == 1 ? glyphs[0].codepoint : 0;
  hb_buffer_destroy(line);
  return glyph;
}

}  // namespace lumvet::fonts
