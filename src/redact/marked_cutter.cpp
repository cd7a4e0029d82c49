// SPDX-License-Identifier: Apache-2.0
// Marked content around what is cut (ISO 32000-2, 14.6), which says in other words what went.
#include <algorithm>

#include "objects/serializer.h"
#include "redact/stream_cutter.h"

namespace lumvet::redacting {

void StreamCutter::hit() {
  for (Marked& marked : open_marked_) marked.is_hit = true;
}

void StreamCutter::begin_marked(const std::string& name, const Operands& operands,
                                std::string_view written) {
  Marked marked{out_.size(), 0, "", {}, false};
  if (!operands.empty()) marked.tag = operands.front().as_name();
  if (name == "BDC" && operands.size() > 1) {
    const Object& stated = operands.back();
    marked.properties = stated.is_name()
                            ? store_.resolve(resource("Properties", std::string(stated.as_name())))
                            : stated;
    if (stated.is_name()) use("Properties", std::string(stated.as_name()));
  }
  keep(written);
  marked.end = out_.size();
  open_marked_.push_back(std::move(marked));
}

void StreamCutter::end_marked() {
  const Marked marked = std::move(open_marked_.back());
  open_marked_.pop_back();
  if (!marked.is_hit) return;
  Dict properties = marked.properties.as_dict();
  if (const Object number = store_.get(properties, "MCID"); number.is_integer())
    all_.record_.marked.insert({owner_, static_cast<int>(number.as_integer())});
  bool says_something = false;
  for (const char* key : {"ActualText", "Alt", "E"}) {
    says_something = says_something || properties.contains(key);
    properties.remove(key);
  }
  if (!says_something) return;
  const std::string name = add_resource("Properties", std::move(properties));
  std::string tag;
  objects::serialize(Object::name(marked.tag), tag);
  rewritten_.push_back({{marked.begin, marked.end}, tag + "/" + name + " BDC\n"});
  is_changed_ = true;
}

void StreamCutter::settle_rewritten() {
  std::sort(rewritten_.begin(), rewritten_.end());
  for (auto one = rewritten_.rbegin(); one != rewritten_.rend(); ++one)
    out_.replace(one->first.first, one->first.second - one->first.first, one->second);
}

}  // namespace lumvet::redacting
