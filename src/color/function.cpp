// SPDX-License-Identifier: Apache-2.0
#include "color/function.h"
#include "base/findings_list.h"

#include <algorithm>
#include <cmath>

#include "base/allowance.h"
#include "base/checked.h"
#include "color/calculator.h"
#include "filters/stream_decoder.h"
#include "objects/read_numbers.h"

namespace lumvet::color {
namespace {

struct Interval {
  double low = 0;
  double high = 1;
  double clamp(double value) const {
    return low <= high ? std::clamp(value, low, high) : std::clamp(value, high, low);
  }
};

double interpolate(double x, Interval from, Interval to) {
  if (from.high == from.low) return to.low;
  return to.low + (x - from.low) * (to.high - to.low) / (from.high - from.low);
}

std::vector<double> numbers(const objects::Resolver& resolver, const Dict& dict,
                            std::string_view key) {
  return objects::numbers_of(resolver, dict[key]);
}

std::vector<Interval> intervals(const objects::Resolver& resolver, const Dict& dict,
                                std::string_view key) {
  const std::vector<double> values = numbers(resolver, dict, key);
  std::vector<Interval> pairs;
  for (std::size_t i = 0; i + 1 < values.size(); i += 2)
    pairs.push_back({values[i], values[i + 1]});
  return pairs;
}

void clamp_to(const std::vector<Interval>& range, std::vector<double>& outputs, std::size_t from) {
  for (std::size_t i = 0; i < range.size() && from + i < outputs.size(); ++i)
    outputs[from + i] = range[i].clamp(outputs[from + i]);
}

// Type 0 (7.10.2): samples, interpolated linearly along every input.
class Sampled final : public Function {
 public:
  std::vector<Interval> domain, range, encode, decode;
  std::vector<std::size_t> sizes;
  std::vector<float> samples;                      // 0 to 1; the first input varies fastest
  static constexpr std::size_t kMostBetween = 12;  // inputs that are interpolated

  void evaluate(std::span<const double> inputs, std::vector<double>& outputs) const override {
    const std::size_t m = domain.size();
    const std::size_t n = range.size();
    std::vector<std::size_t> below(m);
    std::vector<double> part(m);
    for (std::size_t i = 0; i < m; ++i) {
      const double x = domain[i].clamp(i < inputs.size() ? inputs[i] : 0);
      const double top = static_cast<double>(sizes[i] - 1);
      const double e = std::clamp(interpolate(x, domain[i], encode[i]), 0.0, top);
      below[i] = std::min(static_cast<std::size_t>(e), sizes[i] > 1 ? sizes[i] - 2 : 0);
      part[i] = e - static_cast<double>(below[i]);
    }
    const std::size_t first = outputs.size();
    outputs.resize(first + n);
    // Inputs that lie on a sample have no other corner; of very many the last ones take the nearer.
    std::size_t lowest = 0;
    std::size_t stride = 1;
    std::vector<std::pair<std::size_t, double>> between;  // strides and parts
    for (std::size_t i = 0; i < m; ++i) {
      const std::size_t above = std::min(below[i] + 1, sizes[i] - 1);
      const bool is_nearer_above =
          part[i] == 1 || (between.size() == kMostBetween && part[i] > 0.5);
      lowest += (is_nearer_above ? above : below[i]) * stride;
      if (part[i] != 0 && part[i] != 1 && above != below[i] && between.size() < kMostBetween)
        between.emplace_back(stride, part[i]);
      stride *= sizes[i];
    }
    for (std::size_t corner = 0; corner < (std::size_t{1} << between.size()); ++corner) {
      double weight = 1;
      std::size_t index = lowest;
      for (std::size_t i = 0; i < between.size(); ++i) {
        const bool upper = (corner >> i & 1) != 0;
        weight *= upper ? between[i].second : 1 - between[i].second;
        index += upper ? between[i].first : 0;
      }
      for (std::size_t j = 0; j < n; ++j)
        outputs[first + j] += weight * static_cast<double>(samples[index * n + j]);
    }
    for (std::size_t j = 0; j < n; ++j)
      outputs[first + j] =
          range[j].clamp(interpolate(outputs[first + j], Interval{0, 1}, decode[j]));
  }
};

// Type 2 (7.10.3): a power between two values.
class Exponential final : public Function {
 public:
  Interval domain;
  std::vector<Interval> range;
  std::vector<double> c0, c1;
  double exponent = 1;

  void evaluate(std::span<const double> inputs, std::vector<double>& outputs) const override {
    const double x = domain.clamp(inputs.empty() ? 0 : inputs[0]);
    const double power = exponent == 1 ? x : std::pow(x, exponent);
    const std::size_t first = outputs.size();
    for (std::size_t i = 0; i < c0.size(); ++i) outputs.push_back(c0[i] + power * (c1[i] - c0[i]));
    clamp_to(range, outputs, first);
  }
};

// Type 3 (7.10.4): functions side by side.
class Stitching final : public Function {
 public:
  Interval domain;
  std::vector<Interval> range, encode;
  std::vector<std::shared_ptr<const Function>> parts;
  std::vector<double> bounds;

  void evaluate(std::span<const double> inputs, std::vector<double>& outputs) const override {
    const double x = domain.clamp(inputs.empty() ? 0 : inputs[0]);
    std::size_t i = 0;
    while (i < bounds.size() && x >= bounds[i]) ++i;
    const Interval own{i == 0 ? domain.low : bounds[i - 1],
                       i == bounds.size() ? domain.high : bounds[i]};
    const double mapped = interpolate(x, own, encode[i]);
    const std::size_t first = outputs.size();
    parts[i]->evaluate({&mapped, 1}, outputs);
    clamp_to(range, outputs, first);
  }
};

// Type 4 (7.10.5): a program.
class Calculated final : public Function {
 public:
  explicit Calculated(Calculator program) : calculator(std::move(program)) {}
  std::vector<Interval> domain, range;
  Calculator calculator;

  void evaluate(std::span<const double> inputs, std::vector<double>& outputs) const override {
    std::vector<double> clamped(domain.size());
    for (std::size_t i = 0; i < domain.size(); ++i)
      clamped[i] = domain[i].clamp(i < inputs.size() ? inputs[i] : 0);
    const auto results = calculator.run(clamped);
    const std::size_t first = outputs.size();
    outputs.resize(first + range.size());
    // What is on top of the stack counts; a program that fails or leaves too little gives zeros.
    if (results && results->size() >= range.size())
      std::copy(results->end() - static_cast<std::ptrdiff_t>(range.size()), results->end(),
                outputs.begin() + static_cast<std::ptrdiff_t>(first));
    clamp_to(range, outputs, first);
  }
};

// Several functions of one output each, as one.
class Joined final : public Function {
 public:
  std::vector<std::shared_ptr<const Function>> parts;

  void evaluate(std::span<const double> inputs, std::vector<double>& outputs) const override {
    for (const auto& part : parts) {
      if (!goes_on()) return;
      part->evaluate(inputs, outputs);
    }
  }
};

using MadeFunction = Result<std::shared_ptr<const Function>>;

Error malformed(const char* what) { return Error(ErrorCode::malformed, what); }

Result<std::vector<float>> unpack_samples(ByteView bytes, std::size_t count, unsigned bits) {
  if (count > bytes.size() * 8 / bits) return malformed("a sampled function has too few samples");
  LUMVET_RETURN_IF_ERROR(take_memory(count * sizeof(float)));
  std::vector<float> samples(count);
  const double most = std::pow(2.0, bits) - 1;
  std::uint64_t kept = 0;
  unsigned kept_bits = 0;
  std::size_t at = 0;
  for (float& sample : samples) {
    while (kept_bits < bits) {
      kept = kept << 8 | bytes[at++];
      kept_bits += 8;
    }
    kept_bits -= bits;
    const std::uint64_t value = kept >> kept_bits & ((std::uint64_t{1} << bits) - 1);
    sample = static_cast<float>(static_cast<double>(value) / most);
  }
  return samples;
}

MadeFunction make_sampled(const Stream& stream, const objects::Resolver& resolver, Budget& budget,
                          Findings& findings) {
  const Dict& dict = stream.dict;
  auto function = std::make_shared<Sampled>();
  function->domain = intervals(resolver, dict, "Domain");
  function->range = intervals(resolver, dict, "Range");
  constexpr std::size_t kMostInputs = 32;
  if (function->domain.empty() || function->domain.size() > kMostInputs || function->range.empty())
    return malformed("a sampled function without a usable domain or range");
  std::size_t count = function->range.size();
  for (const double size : numbers(resolver, dict, "Size")) {
    if (size < 1 || size > 1e6) return malformed("a sampled function with an impossible size");
    function->sizes.push_back(static_cast<std::size_t>(size));
    const auto product = checked_mul(count, function->sizes.back());
    if (!product) return malformed("a sampled function with an impossible size");
    count = *product;
  }
  if (function->sizes.size() != function->domain.size())
    return malformed("a sampled function whose size does not fit its domain");
  const std::int64_t bits = resolver.get(dict, "BitsPerSample").as_integer();
  if (bits < 1 || bits > 32) return malformed("a sampled function with impossible samples");
  function->encode = intervals(resolver, dict, "Encode");
  for (std::size_t i = function->encode.size(); i < function->sizes.size(); ++i)
    function->encode.push_back({0, static_cast<double>(function->sizes[i] - 1)});
  function->decode = intervals(resolver, dict, "Decode");
  if (function->decode.size() < function->range.size()) function->decode = function->range;
  LUMVET_TRY(const ByteSlice bytes, filters::decode_whole(stream, resolver, budget, findings));
  LUMVET_TRY(function->samples, unpack_samples(bytes.view(), count, static_cast<unsigned>(bits)));
  return std::shared_ptr<const Function>(std::move(function));
}

MadeFunction make_calculated(const Stream& stream, const objects::Resolver& resolver,
                             Budget& budget, Findings& findings) {
  LUMVET_TRY(const ByteSlice source, filters::decode_whole(stream, resolver, budget, findings));
  LUMVET_TRY(Calculator calculator, Calculator::compile(source.view(), budget.limits().nesting));
  auto function = std::make_shared<Calculated>(std::move(calculator));
  function->domain = intervals(resolver, stream.dict, "Domain");
  function->range = intervals(resolver, stream.dict, "Range");
  if (function->domain.empty() || function->range.empty())
    return malformed("a calculator function without a usable domain or range");
  return std::shared_ptr<const Function>(std::move(function));
}

MadeFunction make_exponential(const Dict& dict, const objects::Resolver& resolver) {
  auto function = std::make_shared<Exponential>();
  const auto domain = intervals(resolver, dict, "Domain");
  if (!domain.empty()) function->domain = domain[0];
  function->range = intervals(resolver, dict, "Range");
  function->c0 = numbers(resolver, dict, "C0");
  function->c1 = numbers(resolver, dict, "C1");
  if (function->c0.empty()) function->c0 = {0};
  if (function->c1.empty()) function->c1 = {1};
  if (function->c0.size() != function->c1.size())
    return malformed("an exponential function whose ends differ in size");
  function->exponent = resolver.get(dict, "N").as_number(1);
  return std::shared_ptr<const Function>(std::move(function));
}

MadeFunction make_stitching(const Dict& dict, const objects::Resolver& resolver, Budget& budget,
                            Findings& findings) {
  auto function = std::make_shared<Stitching>();
  const auto domain = intervals(resolver, dict, "Domain");
  if (!domain.empty()) function->domain = domain[0];
  function->range = intervals(resolver, dict, "Range");
  function->encode = intervals(resolver, dict, "Encode");
  function->bounds = numbers(resolver, dict, "Bounds");
  const Object parts = resolver.get(dict, "Functions");
  for (const Object& part : parts.as_array()) {
    LUMVET_TRY(auto made, Function::make(part, resolver, budget, findings));
    function->parts.push_back(std::move(made));
  }
  if (function->parts.empty() || function->bounds.size() + 1 != function->parts.size() ||
      function->encode.size() < function->parts.size())
    return malformed("a stitching function whose parts do not fit together");
  return std::shared_ptr<const Function>(std::move(function));
}

}  // namespace

MadeFunction Function::make(const Object& object, const objects::Resolver& resolver, Budget& budget,
                            Findings& findings) {
  const Budget::Depth depth(budget);
  if (!depth.ok()) return met_limit("functions are nested deeper than Limits::nesting");
  constexpr std::uint64_t kUsual = 512;  // bytes of memory
  LUMVET_RETURN_IF_ERROR(take_memory(kUsual));
  const Object function = resolver.resolve(object);
  if (function.is_array()) {
    auto joined = std::make_shared<Joined>();
    for (const Object& part : function.as_array()) {
      LUMVET_TRY(auto made, make(part, resolver, budget, findings));
      joined->parts.push_back(std::move(made));
    }
    return std::shared_ptr<const Function>(std::move(joined));
  }
  const Dict& dict = function.as_dict();
  switch (resolver.get(dict, "FunctionType").as_integer(-1)) {
    case 0:
      if (const Stream* stream = function.as_stream())
        return make_sampled(*stream, resolver, budget, findings);
      return malformed("a sampled function without samples");
    case 2: return make_exponential(dict, resolver);
    case 3: return make_stitching(dict, resolver, budget, findings);
    case 4:
      if (const Stream* stream = function.as_stream())
        return make_calculated(*stream, resolver, budget, findings);
      return malformed("a calculator function without a program");
    default: return malformed("a function of a type that does not exist");
  }
}

}  // namespace lumvet::color
