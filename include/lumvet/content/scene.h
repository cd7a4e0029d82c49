// SPDX-License-Identifier: Apache-2.0
// A page's recorded drawing: interpreted once, drawn as often as wanted, at any scale.
//
//   lumvet::Scene scene = lumvet::Scene::record(page).value();
//   lumvet::render(scene, {.dpi = 300});
//
// Keeps what it needs of its document; images are decoded when they are drawn.
// Threads: immutable, share freely.
#pragma once

#include <memory>

#include "lumvet/base/export.h"
#include "lumvet/base/inside.h"
#include "lumvet/base/progress.h"
#include "lumvet/document/document.h"
#include "lumvet/fonts/font_supply.h"

namespace lumvet {

namespace content {
struct SceneData;
}

struct RecordOptions {
  bool annotations = true;          // their appearances too
  Purpose purpose = Purpose::view;  // which layers and annotations there are
  // The annotation that a person points at or has chosen. Where its flag ToggleNoView is set, it
  // shows on a screen when it otherwise does not, and the other way about (ISO 32000-2, 12.5.3).
  std::optional<ObjectId> pointed_at = {};
  // Whether each of Layers::all shows, in place of the document's own configuration.
  std::optional<std::vector<bool>> layers = {};
  // What layers may follow in the document's own configuration (ISO 32000-2, 8.11.4.4): the zoom,
  // 1 for 100 % (by itself 1, or that at which a page is drawn), the language of the person
  // ("es-MX") and its name or organization; the last two do not count where they are empty.
  std::optional<double> zoom = {};
  std::string language = {};
  std::string user = {};
  FontSupply fonts = FontSupply();  // for fonts that are not embedded
  bool overprint = false;           // whether to show, about, what overprinting inks will look like
  CancelToken cancel = {};
};

class LUMVET_EXPORT Scene {
 public:
  // What cannot be shown goes to the document's findings; so does a limit, which ends the page
  // where it is met. Errors: io, need_more_data, cancelled.
  static Result<Scene> record(const Page& page, const RecordOptions& options = {});

  double width() const;   // points
  double height() const;  // points
  std::size_t operation_count() const;
  // False when a limit ended the page before it was recorded wholly.
  bool is_whole() const;
  std::size_t memory() const;  // bytes, about; without the fonts and images that pages share

 private:
  friend struct Inside<Scene>;
  explicit Scene(std::shared_ptr<const content::SceneData> data) : data_(std::move(data)) {}

  std::shared_ptr<const content::SceneData> data_;
};

}  // namespace lumvet
