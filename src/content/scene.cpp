// SPDX-License-Identifier: Apache-2.0
#include "lumvet/content/scene.h"

#include <cmath>
#include <functional>
#include <optional>

#include "base/allowance.h"
#include "content/interpreter.h"
#include "content/page_annotations.h"
#include "content/recorder.h"
#include "content/scene_memory.h"
#include "content/touching.h"
#include "document/inside.h"

namespace lumvet {
namespace content {
namespace {

// What a limit stops is stopped by it alone: whoever asked goes on with what there is.
Status as_far_as_it_goes(const Limits& limits, const CancelToken& cancel,
                         const std::function<Status()>& run) {
  if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
  Attempt::State own;
  const Attempt::Within within(&own);
  const Allowance allowance(limits, cancel);
  Status status = run();
  if (own.error) return *std::move(own.error);
  return status;
}

Result<Scene> recorded(const Page& page, const RecordOptions& options, bool draws_letters) {
  return attempted([&]() -> Result<Scene> {
    auto data = std::make_shared<SceneData>();
    data->bounds = {0, 0, page.width(), page.height()};
    Recorder recorder(*data);
    TextRecorder text(*data);
    Interpreter interpreter(
        core_of(page), recorder, text,
        std::make_shared<const LayerVisibility>(
            core_of(page),
            LayerSetting{options.purpose, static_cast<float>(options.zoom.value_or(1)),
                         options.language, options.user},
            options.layers),
        options);
    if (!draws_letters) interpreter.leave_letters_out();
    document::ContentFeed contents(page);
    const auto run = [&]() -> Status {
      LUMVET_RETURN_IF_ERROR(go_on_now());
      Path sheet;
      sheet.add_rect(data->bounds);
      const ClipId within = recorder.clip(kNoClip, std::move(sheet), FillRule::nonzero);
      Status shown = interpreter.run_page(contents, page.dict(), page.to_display(), within);
      text.end_page();
      LUMVET_RETURN_IF_ERROR(std::move(shown));
      if (!options.annotations) return Done{};
      return draw_annotations({page, options, recorder, text, within, draws_letters}, interpreter);
    };
    if (Status status = as_far_as_it_goes(store_of(page).limits(), options.cancel, run);
        !status.ok()) {
      Error error = std::move(status).error();
      const std::string number = std::to_string(page.index() + 1);
      if (error.code() != ErrorCode::limit)
        return std::move(error).during("drawing page " + number);
      recorder.end_groups();
      data->is_whole = false;
      store_of(page).findings().add(
          {"page " + number + " is not shown to its end: " + error.message(), {}, {}});
    }
    text.finish();
    if (draws_letters) mark_touching(*data);
    return Inside<Scene>::made(std::move(data));
  });
}

}  // namespace
}  // namespace content

Result<Scene> Scene::record(const Page& page, const RecordOptions& options) {
  return content::recorded(page, options, true);
}

Result<Scene> record_to_read(const Page& page, const RecordOptions& options) {
  return content::recorded(page, options, false);
}

double Scene::width() const { return data_->bounds.width(); }
double Scene::height() const { return data_->bounds.height(); }
std::size_t Scene::memory() const { return content::memory_of(*data_); }
std::size_t Scene::operation_count() const { return data_->operations.size(); }
bool Scene::is_whole() const { return data_->is_whole; }

}  // namespace lumvet
