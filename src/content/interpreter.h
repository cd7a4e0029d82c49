// SPDX-License-Identifier: Apache-2.0
// Runs content streams (ISO 32000-2, annex A), tells a Canvas what they draw, and keeps what they
// say as text.
//
// Damage is reported and passed over; only limits, missing bytes, failed reading and cancelling
// stop the work.
//
// Threads: one thread at a time.
#pragma once

#include "content/execution.h"

namespace lumvet::content {

// How an annotation's appearance goes onto the page.
struct AppearanceSetting {
  Rect place;   // of the annotation
  Matrix held;  // within the page's space
  color::BlendMode blend = color::BlendMode::normal;
};

class Interpreter {
 public:
  Interpreter(const document::Core& core, Canvas& canvas, TextRecorder& text,
              std::shared_ptr<const LayerVisibility> layers, const RecordOptions& options);

  // Text is read from now on, and not drawn.
  void leave_letters_out() { execution_.draws_letters = false; }

  // `sheet` is the clip around all that the page shows.
  // Errors: limit, io, need_more_data, cancelled.
  Status run_page(document::ContentFeed& content, const Dict& page, const Matrix& to_display,
                  ClipId sheet);
  // As if a page that shows nothing had been run.
  void begin_page(const Dict& page, const Matrix& to_display, ClipId sheet);
  bool shows(const Object& layer) const { return execution_.layers->shows(layer); }
  // The appearance of an annotation (12.5.5), over what the page has drawn.
  Status run_appearance(const Stream& form, const AppearanceSetting& setting);

 private:
  Execution execution_;
  Frame page_;
};

}  // namespace lumvet::content
