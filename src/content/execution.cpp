// SPDX-License-Identifier: Apache-2.0
// Content streams taken apart into operators, which are run in turn (ISO 32000-2, 7.8.2).
#include "content/execution.h"

#include <algorithm>

#include "base/allowance.h"
#include "content/drawing.h"
#include "content/operators.h"
#include "document/declarations.h"
#include "filters/stream_decoder.h"

namespace lumvet::content {
namespace {

constexpr std::size_t kMostOperands = 256;

// Whether a stream is being run, in this frame or around it.
bool is_running(const Frame* frame, const StreamPlace& place) {
  for (; frame != nullptr; frame = frame->outer)
    if (frame->place == place) return true;
  return false;
}

}  // namespace

Frame Frame::inner() const {
  Frame frame;
  frame.outer = this;
  frame.resources = resources;
  frame.state = state;
  frame.pattern_space = pattern_space;
  frame.takes_color = takes_color;
  frame.text.matrix = text.matrix;
  frame.text.line = text.line;
  return frame;
}

Execution::Execution(const document::Core& document, Canvas& drawn_on, TextRecorder& text_kept,
                     std::shared_ptr<const LayerVisibility> visibility,
                     const RecordOptions& options)
    : core(document),
      store(document.store()),
      canvas(&drawn_on),
      text(&text_kept),
      layers(std::move(visibility)),
      supply(options.fonts),
      shows_overprint(options.overprint),
      budget(document.store().limits()) {}

// A page's own intents take the place of the document's.
void Execution::choose_default_inks(const Dict& page) {
  constexpr int kInks = 4;
  default_inks = {};
  const Dict& owner = page.contains("OutputIntents") ? page : core.catalog();
  for (const OutputIntent& intent : document::read_output_intents(store, owner)) {
    if (intent.components != kInks) continue;
    default_inks = Array{Object::name("ICCBased"), intent.profile};
    return;
  }
}

void Execution::note(std::string what) const { store.findings().add({std::move(what), {}, {}}); }

Dict Execution::with_default_inks(Dict resources) const {
  if (default_inks.is_null()) return resources;
  const Object stated = store.get(resources, "ColorSpace");
  if (stated.as_dict().contains("DefaultCMYK")) return resources;
  std::vector<Dict::Entry> spaces(stated.as_dict().begin(), stated.as_dict().end());
  spaces.emplace_back("DefaultCMYK", default_inks);
  std::vector<Dict::Entry> entries;
  for (const Dict::Entry& entry : resources)
    if (entry.first != "ColorSpace") entries.push_back(entry);
  entries.emplace_back("ColorSpace", Object(Dict(std::move(spaces))));
  return Dict(std::move(entries));
}

Status Execution::run(ByteView content) {
  LUMVET_TRY([[maybe_unused]] const std::size_t end, run_window(content, true));
  return Done{};
}

Status Execution::run(document::ContentFeed& content) {
  const auto run_all = [&]() -> Status {
    std::size_t used = 0;
    std::uint64_t told = 0;
    do {
      LUMVET_RETURN_IF_ERROR(content.advance(used));
      budget.add_content(content.encoded() - std::exchange(told, content.encoded()));
      LUMVET_TRY(used, run_window(content.window(), !content.has_more()));
    } while (content.has_more());
    return Done{};
  };
  Status status = run_all();
  end_stream();
  return status;
}

Result<std::size_t> Execution::run_window(ByteView window, bool is_last) {
  objects::Parser parser(window, 0, objects::References::none, budget.limits().nesting);
  Frame& running = *frame;
  running.parser = &parser;
  running.is_last_window = is_last;
  std::size_t whole = 0;  // what ends before this has been run
  for (;;) {
    if (const auto number = parser.lexer().next_number()) {
      if (!is_last && parser.lexer().position() >= window.size()) break;
      if (running.operands.size() < kMostOperands)
        running.operands.push_back(number->is_integer ? Object(number->integer)
                                                      : Object(number->real));
      continue;
    }
    Result<objects::Parsed> parsed = parser.next();
    // What reaches the end of the window may go on behind it.
    if (!is_last && parser.lexer().position() >= window.size()) break;
    if (!parsed.ok()) {
      note("content that cannot be read was passed over: " + parsed.error().message());
      running.operands.clear();
      continue;
    }
    if (parsed->kind == objects::Parsed::Kind::end) break;
    if (parsed->kind == objects::Parsed::Kind::keyword) {
      LUMVET_RETURN_IF_ERROR(apply(parsed->keyword));
      running.operands.clear();
      if (std::exchange(running.needs_more, false)) break;
      whole = parser.lexer().position();
    } else if (running.operands.size() < kMostOperands) {
      running.operands.push_back(std::move(parsed->value));
    }
  }
  running.operands.clear();
  return whole;
}

Status Execution::apply(std::string_view name) {
  LUMVET_RETURN_IF_ERROR(budget.spend_operator());
  LUMVET_RETURN_IF_ERROR(go_on());
  const Operator* op = find_operator(name);
  if (op == nullptr) {
    if (frame->compatible_depth == 0)
      note("the operator '" + std::string(name.substr(0, 20)) +
           "' does not exist and was passed over");
    return Done{};
  }
  std::vector<Object>& operands = frame->operands;
  if (operands.size() < op->operands) {
    note("the operator '" + std::string(name) + "' lacks operands and was passed over");
    return Done{};
  }
  // With more operands than needed the last ones count.
  if (op->operands > 0 && operands.size() > op->operands && !op->takes_more)
    operands.erase(operands.begin(), operands.end() - static_cast<std::ptrdiff_t>(op->operands));
  return op->run(*this);
}

Result<ByteSlice> Execution::content_of(const Stream& stream) {
  const ContentCaches::Place place{{stream.source.get(), stream.offset}, 0};
  if (auto known = caches.streams.find(place)) return *std::move(known);
  if (met_streams.insert({stream.source.get(), stream.offset}).second)
    budget.add_content(stream.length);
  LUMVET_TRY(ByteSlice content, filters::decode_whole(stream, store, budget, store.findings()));
  const std::size_t bytes = content.view().size();
  return caches.streams.keep(place, std::move(content), bytes);
}

Status Execution::run_stream(Frame inner, const Stream& stream) {
  inner.place = StreamPlace{stream.source.get(), stream.offset};
  if (is_running(inner.outer, *inner.place)) {
    note("a form, pattern or glyph uses itself; it was left out there");
    return Done{};
  }
  Result<ByteSlice> content = content_of(stream);
  if (!content.ok()) {
    const ErrorCode code = content.error().code();
    if (code != ErrorCode::malformed && code != ErrorCode::unsupported)
      return std::move(content).error();
    note("a form cannot be read: " + content.error().message());
    return Done{};
  }
  if (const Object own = store.get(stream.dict, "Resources"); own.is_dict())
    inner.resources = with_default_inks(own.as_dict());
  const Replaced<Frame*> running(frame, &inner);
  Status status = run(content->view());
  end_stream();
  return status;
}

// What the stream began and did not end goes with it.
void Execution::end_stream() {
  end_text_group(*this);
  saved_states -= frame->saved.size();
  frame->saved.clear();
  for (; frame->marked_depth > 0; --frame->marked_depth)
    if (text != nullptr) text->end_marked();
  frame->hidden_from.reset();
}

}  // namespace lumvet::content
