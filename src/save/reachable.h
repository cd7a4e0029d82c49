// SPDX-License-Identifier: Apache-2.0
// The objects of a document to be written: those that something leads to, each once, streams that
// are alike as one.
//
// Threads: one thread at a time.
#pragma once

#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "objects/resolver.h"

namespace lumvet::saving {

class Reachable {
 public:
  explicit Reachable(const objects::Resolver& objects) : objects_(objects) {}

  // The catalog and the inner nodes of the page tree before everything else, so that they can lie
  // together and a reader finds any page of many without unpacking much; then the rest.
  void collect_document(const Object& catalog);
  // What a root leads to, behind what is there already.
  void collect(const Object& root);

  // In the order in which they were met.
  const std::vector<ObjectId>& order() const { return order_; }
  // Whether the object at a place of it is a stream, and of how many bytes.
  bool is_stream(std::size_t place) const { return lengths_[place].has_value(); }
  std::uint64_t stream_length(std::size_t place) const { return lengths_[place].value_or(0); }
  // The least version of PDF that knows all filters of the streams ("1.0" without any).
  const std::string& least_version() const { return least_version_; }
  // An object's place in it; nothing for one that is missing or was not met.
  std::optional<std::size_t> place_of(ObjectId id) const;

 private:
  static std::uint64_t key(ObjectId id) { return std::uint64_t{id.number} << 16 | id.generation; }
  Object note(ObjectId id);
  std::size_t same_stream(const Object& object, std::size_t place);

  const objects::Resolver& objects_;
  std::unordered_multimap<std::size_t, std::size_t> streams_;  // places by the hash of the bytes
  std::unordered_map<std::uint64_t, std::size_t> places_;      // counted from 1; 0 for missing ones
  std::vector<ObjectId> order_;
  std::vector<std::optional<std::uint64_t>> lengths_;  // of streams, by place
  std::string least_version_ = "1.0";
};

}  // namespace lumvet::saving
