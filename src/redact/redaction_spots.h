// SPDX-License-Identifier: Apache-2.0
// Places on a page that are redacted, and what stands there afterwards.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "appearance/default_appearance.h"
#include "lumvet/document/annotation.h"
#include "lumvet/draw/drawing.h"
#include "lumvet/redact/redaction.h"
#include "redact/areas.h"

namespace lumvet::redacting {

struct Spot {
  Polygon corners;  // in the page's space
  Quad shown;
  RedactLook look;
  appearance::TextLook text_look;
  Annotation::Alignment alignment = Annotation::Alignment::centered;
};

Spot shown_spot(const Page& page, const Quad& quad, const RedactLook& look);
// Of a redaction mark, by its own entries.
std::vector<Spot> spots_of(const Page& page, const Annotation& mark);
// As large as the page is shown, y downward. Errors: the drawing's own.
Result<Drawing> look_of(const Page& page, const std::vector<Spot>& spots,
                        const appearance::Fonts& fonts);

}  // namespace lumvet::redacting
