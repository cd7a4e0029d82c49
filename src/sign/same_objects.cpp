// SPDX-License-Identifier: Apache-2.0
#include "sign/same_objects.h"

#include <algorithm>

#include "base/attempt.h"

namespace lumvet::signing {

SameObjects::SameObjects(const Document& before, const Document& now) : before_(before), now_(now) {
  for (const Document* document : {&before, &now})
    for (int i = 0; i < document->page_count(); ++i)
      if (const auto page = document->page(i); page.ok()) pages_.insert(page->id());
}

Result<bool> SameObjects::same(const Object& before, const Object& now) {
  return compare({{before, now}});
}

Result<bool> SameObjects::same(const Dict& before, const Dict& now,
                               const std::set<std::string_view>& without) {
  std::vector<Pair> open;
  std::set<std::string_view> keys;
  for (const Dict* dict : {&before, &now})
    for (const auto& [key, value] : *dict) keys.insert(key);
  for (const std::string_view key : keys)
    if (!without.contains(key)) open.emplace_back(before[key], now[key]);
  return compare(std::move(open));
}

Result<bool> SameObjects::stands_where_it_stood(ObjectId id) const {
  LUMVET_TRY(const auto old, before_.place_of(id));
  LUMVET_TRY(const auto current, now_.place_of(id));
  return old && current && old->offset == current->offset && old->packed_in == current->packed_in;
}

Result<bool> SameObjects::compare(std::vector<Pair> open) {
  std::set<std::pair<ObjectId, ObjectId>> met;
  while (!open.empty()) {
    auto [before, now] = std::move(open.back());
    open.pop_back();
    // Past the limit the whole ends with that error, whatever is answered here.
    if (!Attempt::follow(sizeof(Pair))) return false;
    bool is_untouched = false;
    if (before.is_reference() && now.is_reference()) {
      const std::pair ids(before.as_reference(), now.as_reference());
      if (ids.first == ids.second && pages_.contains(ids.first)) continue;
      if (same_.contains(ids) || !met.insert(ids).second) continue;
      if (ids.first == ids.second) {
        LUMVET_TRY(is_untouched, stands_where_it_stood(ids.first));
      }
    }
    LUMVET_TRY(before, before_.resolve(before));
    LUMVET_TRY(now, now_.resolve(now));
    if (before.is_stream() != now.is_stream()) return false;
    if (before.is_stream() && !is_untouched) {
      LUMVET_TRY(const ByteSlice old, before.as_stream()->encoded());
      LUMVET_TRY(const ByteSlice current, now.as_stream()->encoded());
      if (as_text(old.view()) != as_text(current.view())) return false;
    }
    if (before.is_array() && now.is_array()) {
      const Array& old = before.as_array();
      const Array& current = now.as_array();
      if (old.size() != current.size()) return false;
      for (std::size_t i = 0; i < old.size(); ++i) open.emplace_back(old[i], current[i]);
    } else if ((before.is_dict() && now.is_dict()) || before.is_stream()) {
      const Dict& old = before.as_dict();
      const Dict& current = now.as_dict();
      for (const auto& [key, value] : old) open.emplace_back(value, current[key]);
      for (const auto& [key, value] : current)
        if (!old.contains(key)) open.emplace_back(Object(), value);
    } else if (!(before == now)) {
      return false;
    }
  }
  same_.insert(met.begin(), met.end());
  return true;
}

}  // namespace lumvet::signing
