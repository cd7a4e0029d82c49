// SPDX-License-Identifier: Apache-2.0
// Documents that are redacted, and whether something is still there: by a little reader that knows
// nothing of documents but packed streams, by the proof, and by the pixels.
#pragma once

#include <zlib.h>

#include <algorithm>

#include "lumvet/redact/redaction.h"
#include "lumvet/render/render.h"
#include "lumvet/text/page_words.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/saved.h"

namespace test {

using namespace lumvet;

// The bytes of a file with all streams unpacked behind them, as far as anybody can.
inline std::string unpacked(const std::string& file) {
  std::string all = file;
  for (std::size_t at = file.find("stream"); at != std::string::npos;
       at = file.find("stream", at + 1)) {
    std::size_t begin = at + 6;
    if (begin < file.size() && file[begin] == '\r') ++begin;
    if (begin < file.size() && file[begin] == '\n') ++begin;
    z_stream zip{};
    if (inflateInit(&zip) != Z_OK) continue;
    zip.next_in = reinterpret_cast<Bytef*>(const_cast<char*>(file.data() + begin));
    zip.avail_in = static_cast<uInt>(file.size() - begin);
    std::string out;
    char buffer[1 << 15];
    int state = Z_OK;
    while (state == Z_OK) {
      zip.next_out = reinterpret_cast<Bytef*>(buffer);
      zip.avail_out = sizeof buffer;
      state = inflate(&zip, Z_NO_FLUSH);
      out.append(buffer, sizeof buffer - zip.avail_out);
      if (zip.avail_out == sizeof buffer && state != Z_STREAM_END) break;
    }
    inflateEnd(&zip);
    all += '\n' + out;
  }
  return all;
}

inline std::string wide(const std::string& ascii) {
  std::string units;
  for (const char c : ascii) {
    units += '\0';
    units += c;
  }
  return units;
}

inline std::string hex(const std::string& bytes) {
  std::string digits;
  for (const char c : bytes) {
    constexpr std::string_view kDigits = "0123456789ABCDEF";
    digits += kDigits[static_cast<unsigned char>(c) / 16];
    digits += kDigits[static_cast<unsigned char>(c) % 16];
  }
  return digits;
}

inline bool says(const std::string& file, const std::string& words) {
  const std::string all = unpacked(file);
  return all.find(words) != std::string::npos || all.find(wide(words)) != std::string::npos ||
         all.find(hex(words)) != std::string::npos ||
         all.find(hex(wide(words))) != std::string::npos;
}

inline std::string saved_bytes(const EditableDocument& document) {
  BufferSink sink;
  REQUIRE(document.save(sink).ok());
  const Bytes bytes = sink.take();
  return std::string(bytes.begin(), bytes.end());
}

inline Document opened(const std::string& bytes) {
  return Document::open(Bytes(bytes.begin(), bytes.end())).value();
}

inline constexpr const char* kFont =
    "/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>";

inline RedactRequest search_for(const std::string& text, bool is_pattern = false) {
  RedactRequest request;
  request.searches = {TextSearch::of(text, {.is_pattern = is_pattern}).value()};
  return request;
}

inline RedactRequest area(double left, double top, double width, double height, int page = 0) {
  RedactRequest request;
  const double right = left + width;
  const double bottom = top + height;
  request.areas = {
      {.page = page, .quads = {{Point{left, top}, {right, top}, {right, bottom}, {left, bottom}}}}};
  return request;
}

// Curves and dashes that an area cuts through are drawn as lines that lie within a tenth of a pixel
// of them, as all curves are, but not on the same ones.
inline constexpr int kCurved = 26;  // levels
inline constexpr int kFewPixels = 4;

struct Redacted {
  std::string bytes;
  Document document;
  RedactReport report;
};
inline Redacted redacted(const Document& document, const RedactRequest& request) {
  auto edited = EditableDocument::of(document);
  auto report = redact(edited, request);
  CAPTURE(report.ok() ? "" : report.error().to_string());
  REQUIRE(report.ok());
  std::string bytes = saved_bytes(edited);
  Document saved = opened(bytes);
  const auto proof = prove_redaction(saved, request, *report);
  REQUIRE(proof.ok());
  for (const Finding& finding : proof->left) FAIL_CHECK(finding.to_string());
  CHECK(proof->revisions == 1);
  CHECK(saved.findings().empty());
  return {std::move(bytes), std::move(saved), *std::move(report)};
}

// The pixels that differ, outside of these areas grown by so much.
inline int different(const Document& before, const Document& after, int page,
                     const std::vector<Rect>& without, double grown, int most = 1) {
  const Raster a = render(before.page(page).value(), {.dpi = 72}).value();
  const Raster b = render(after.page(page).value(), {.dpi = 72}).value();
  REQUIRE(a.width() == b.width());
  int count = 0;
  for (int y = 0; y < a.height(); ++y)
    for (int x = 0; x < a.width(); ++x) {
      const bool is_out = std::none_of(without.begin(), without.end(), [&](const Rect& r) {
        return x + 1 > r.left - grown && x < r.right + grown && y + 1 > r.bottom - grown &&
               y < r.top + grown;
      });
      if (!is_out) continue;
      const PixelColor p = a.at(x, y);
      const PixelColor q = b.at(x, y);
      const int far = std::max(
          {std::abs(p.red - q.red), std::abs(p.green - q.green), std::abs(p.blue - q.blue)});
      count += far > most ? 1 : 0;
    }
  return count;
}

inline std::vector<Rect> rects_of(const RedactReport& report, int page) {
  std::vector<Rect> rects;
  for (const RedactArea& one : report.areas)
    for (const Quad& quad : one.quads) {
      if (one.page != page) continue;
      Rect bounds = Rect::nothing();
      for (const Point p : quad) bounds.include(p);
      rects.push_back(bounds);
    }
  return rects;
}

}  // namespace test
