// SPDX-License-Identifier: Apache-2.0
// Glyphs that are content streams (ISO 32000-2, 9.6.4), in content that is being cut.
#include "base/allowance.h"
#include "base/budget.h"
#include "filters/stream_decoder.h"
#include "fonts/font.h"
#include "redact/stream_cutter.h"

namespace lumvet::redacting {
namespace {

// Whether it is more than the shape of a letter: has colors of its own, or shows text, forms,
// images or shadings.
bool is_drawing(ByteView content) {
  std::vector<objects::Damage> ignored;
  objects::Lexer lexer(content);
  lexer.tolerate(ignored);
  bool has_colors = true;
  for (;;) {
    const Result<objects::Token> token = lexer.next();
    if (!token.ok() || token->kind == objects::TokenKind::end) return has_colors;
    ignored.clear();
    if (token->kind != objects::TokenKind::keyword) continue;
    if (token->text == "d1") has_colors = false;
    if (token->text == "BT" || token->text == "Do" || token->text == "sh") return true;
    // What follows is not text; a stencil has no colors either.
    if (token->text == "BI") return has_colors;
  }
}

}  // namespace

Result<bool> StreamCutter::is_drawing_touched(const fonts::Type3& type3, const fonts::Glyph& glyph,
                                              const Matrix& placed) {
  const Object& entry = type3.procedures[glyph.code & 0xFF];
  const Object object = store_.resolve(entry);
  if (object.as_stream() == nullptr) return false;
  Stream form = *object.as_stream();
  const ObjectId id = entry.as_reference();
  auto known = all_.drawings_.find(id);
  if (known == all_.drawings_.end()) {
    Budget budget(store_.limits());
    const auto content = filters::decode_whole(form, store_, budget, store_.findings());
    if (!content.ok() && content.error().code() != ErrorCode::malformed &&
        content.error().code() != ErrorCode::unsupported)
      return content.error();
    known = all_.drawings_.emplace(id, content.ok() && is_drawing(content->view())).first;
  }
  if (!known->second) return false;
  if (!type3.resources.is_empty()) form.dict.set("Resources", type3.resources);
  const Matrix ctm = std::exchange(state_.ctm, type3.matrix.then(placed));
  const auto cut = cut_form(id, form);
  state_.ctm = ctm;
  if (!cut.ok()) return cut.error();
  return cut->has_value();
}

void StreamCutter::note_procedure(const fonts::Glyph& glyph, bool is_taken) {
  if (state_.font->type3() == nullptr || state_.font_name.empty()) return;
  Procedures& shown = procedures_[state_.font_name];
  shown.font = state_.font;
  (is_taken ? shown.taken : shown.kept).insert(glyph.code & 0xFF);
}

void StreamCutter::drop_procedures() {
  if (has_borrowers_) return;
  for (const auto& [name, shown] : procedures_) {
    const std::vector<Object>& all = shown.font->type3()->procedures;
    std::set<ObjectId> gone;
    for (const std::uint32_t code : shown.taken) gone.insert(all[code].as_reference());
    for (const std::uint32_t code : shown.kept) gone.erase(all[code].as_reference());
    if (gone.empty()) continue;
    Dict font = store_.resolve(resource("Font", name)).as_dict();
    Dict left;
    const Object streams = store_.get(font, "CharProcs");
    for (const auto& [glyph, stream] : streams.as_dict())
      if (!gone.contains(stream.as_reference())) left.set(glyph, stream);
    font.set("CharProcs", std::move(left));
    Dict list = store_.get(resources_, "Font").as_dict();
    list.set(name, all_.ledger_.add(std::move(font)));
    resources_.set("Font", std::move(list));
    is_changed_ = true;
  }
}

}  // namespace lumvet::redacting
