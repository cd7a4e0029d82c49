// SPDX-License-Identifier: Apache-2.0
#include "compose/chart_page.h"

#include "compose/single_font_page.h"
#include "objects/content_numbers.h"
#include "save/full_writer.h"

namespace lumvet::compose {
namespace {

void color_operator(const Color& color, std::string& out) {
  objects::append_rounded({color[0], color[1], color[2]}, out);
  out += "rg\n";
}

}  // namespace

void ChartPage::fill(double left, double top, double width, double height, const Color& color) {
  color_operator(color, boxes_);
  objects::append_rounded({left, height_ - top - height, width, height}, boxes_);
  boxes_ += "re f\n";
}

ShapedLine ChartPage::shape(const std::string& text) {
  if (Result<ShapedLine> line = font_.shape(text); line.ok()) return *std::move(line);
  std::string plain;
  for (const char byte : text)
    if ((static_cast<unsigned char>(byte) & 0xC0) != 0x80)  // once for a character
      plain += byte >= ' ' && byte < 0x7F ? byte : '?';
  Result<ShapedLine> line = font_.shape(plain);
  return line.ok() ? *std::move(line) : ShapedLine();
}

void ChartPage::write(const std::string& text, double x, double line, double size,
                      const Color& color, Side side, double room) {
  ShapedLine shaped = shape(text);
  for (std::string rest = text; shaped.width * size > room && !rest.empty();) {
    // Whole characters from the beginning, since names end in what tells them apart.
    do rest.erase(0, 1);
    while (!rest.empty() && (static_cast<unsigned char>(rest[0]) & 0xC0) == 0x80);
    shaped = shape("…" + rest);
  }
  const double width = shaped.width * size;
  if (side == Side::middle) x -= width / 2;
  if (side == Side::right) x -= width;
  texts_.push_back({std::move(shaped), x, height_ - line, size, color});
}

Result<Document> ChartPage::finish(const std::string& title) const {
  file::Ledger ledger;
  const ObjectId catalog = ledger.reserve();
  LUMVET_TRY(const EmbeddedFont font, font_.embed(ledger));
  std::string content = boxes_ + "BT\n";
  for (const Text& text : texts_) {
    color_operator(text.color, content);
    content += "/Text ";
    objects::append_rounded({text.size}, content);
    content += "Tf\n";
    objects::append_rounded({1, 0, 0, 1, text.x, text.y}, content);
    content += "Tm\n" + font.show(text.line, text.size);
  }
  content += "ET\n";
  saving::PageTreeBuilder tree(ledger, 1);
  add_text_page(ledger, tree, width_, height_, font, content);
  ledger.set(catalog, Dict{{"Type", Object::name("Catalog")}, {"Pages", tree.finish()}});
  return saving::opened(ledger, catalog, title);
}

}  // namespace lumvet::compose
