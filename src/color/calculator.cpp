// SPDX-License-Identifier: Apache-2.0
#include "color/calculator.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/attempt.h"
#include "objects/lexer.h"

namespace lumvet::color {
namespace {

constexpr std::size_t kDeepestStack = 100;  // what every interpreter has (annex C)
constexpr std::size_t kLongestProgram = 10'000;

}  // namespace

// As deep as it may be, without memory of its own: programs are run for single pixels.
class Calculator::Stack {
 public:
  std::size_t size() const { return size_; }
  bool empty() const { return size_ == 0; }
  bool push(const Value& value) {
    if (size_ >= kDeepestStack) return false;
    values_[size_++] = value;
    return true;
  }
  Value pop() { return values_[--size_]; }
  Value& operator[](std::size_t i) { return values_[i]; }
  const Value* begin() const { return values_.data(); }
  const Value* end() const { return begin() + size_; }
  Value* end() { return values_.data() + size_; }

 private:
  std::array<Value, kDeepestStack> values_;
  std::size_t size_ = 0;
};

// The stack, and what each operator does to it. Each gives false when it cannot be done.
class Calculator::Machine {
 public:
  explicit Machine(std::span<const double> inputs) {
    for (const double input : inputs) stack_.push({Kind::real, input});
  }

  using Operator = bool (Machine::*)();
  struct Named {
    std::string_view name;
    Operator run;
  };
  static std::span<const Named> operators();

  bool push(Value value) { return std::isfinite(value.number) && stack_.push(value); }
  std::optional<Value> pop() {
    if (stack_.empty()) return std::nullopt;
    return stack_.pop();
  }
  const Stack& stack() const { return stack_; }

 private:
  template <typename Compute>
  bool one(const Compute& compute) {
    const auto a = pop();
    return a && a->kind != Kind::truth && push(compute(*a));
  }
  template <typename Compute>
  bool two(const Compute& compute) {
    const auto b = pop();
    const auto a = pop();
    return a && b && a->kind != Kind::truth && b->kind != Kind::truth && push(compute(*a, *b));
  }
  // Of whole numbers only; compute gives nothing where there is no answer.
  template <typename Compute>
  bool whole(const Compute& compute) {
    const auto b = pop();
    const auto a = pop();
    if (!a || !b || a->kind != Kind::integer || b->kind != Kind::integer) return false;
    const std::optional<std::int64_t> result = compute(as_whole(*a), as_whole(*b));
    return result && push({Kind::integer, static_cast<double>(*result)});
  }
  template <typename Bits>
  bool bitwise(const Bits& bits) {
    const auto b = pop();
    const auto a = pop();
    if (!a || !b || a->kind != b->kind || a->kind == Kind::real) return false;
    return push({a->kind, static_cast<double>(bits(as_whole(*a), as_whole(*b)))});
  }
  template <typename Holds>
  bool compare(const Holds& holds) {
    const auto b = pop();
    const auto a = pop();
    return a && b && push({Kind::truth, holds(a->number, b->number) ? 1.0 : 0.0});
  }

  static std::int32_t as_whole(const Value& value) {
    constexpr double kLeast = -2147483648.0;
    constexpr double kMost = 2147483647.0;
    return static_cast<std::int32_t>(std::clamp(value.number, kLeast, kMost));
  }
  // Whole where both were and the result still fits.
  static Value like(const Value& a, const Value& b, double number) {
    const bool fits = std::abs(number) <= 2147483647.0;
    const bool both = a.kind == Kind::integer && b.kind == Kind::integer;
    return {both && fits ? Kind::integer : Kind::real, number};
  }
  static Value real(double number) { return {Kind::real, number}; }
  static double radians(double degrees) { return degrees * std::numbers::pi / 180; }

  bool abs() {
    return one([](Value a) { return Value{a.kind, std::abs(a.number)}; });
  }
  bool add() {
    return two([](Value a, Value b) { return like(a, b, a.number + b.number); });
  }
  bool sub() {
    return two([](Value a, Value b) { return like(a, b, a.number - b.number); });
  }
  bool mul() {
    return two([](Value a, Value b) { return like(a, b, a.number * b.number); });
  }
  bool div() {
    return two([](Value a, Value b) { return real(a.number / b.number); });
  }
  bool neg() {
    return one([](Value a) { return Value{a.kind, -a.number}; });
  }
  bool ceiling() {
    return one([](Value a) { return Value{a.kind, std::ceil(a.number)}; });
  }
  bool floor() {
    return one([](Value a) { return Value{a.kind, std::floor(a.number)}; });
  }
  bool round() {
    return one([](Value a) { return Value{a.kind, std::floor(a.number + 0.5)}; });
  }
  bool truncate() {
    return one([](Value a) { return Value{a.kind, std::trunc(a.number)}; });
  }
  bool sqrt() {
    return one([](Value a) { return real(std::sqrt(a.number)); });
  }
  bool sin() {
    return one([](Value a) { return real(std::sin(radians(a.number))); });
  }
  bool cos() {
    return one([](Value a) { return real(std::cos(radians(a.number))); });
  }
  bool atan() {
    return two([](Value a, Value b) {
      const double degrees = std::atan2(a.number, b.number) * 180 / std::numbers::pi;
      return real(degrees < 0 ? degrees + 360 : degrees);
    });
  }
  bool exp() {
    return two([](Value a, Value b) { return real(std::pow(a.number, b.number)); });
  }
  bool ln() {
    return one([](Value a) { return real(std::log(a.number)); });
  }
  bool log() {
    return one([](Value a) { return real(std::log10(a.number)); });
  }
  bool cvi() {
    return one([](Value a) { return Value{Kind::integer, double{1} * as_whole(a)}; });
  }
  bool cvr() {
    return one([](Value a) { return real(a.number); });
  }
  bool idiv() {
    return whole([](std::int64_t a, std::int64_t b) {
      return b == 0 ? std::nullopt : std::optional(a / b);
    });
  }
  bool mod() {
    return whole([](std::int64_t a, std::int64_t b) {
      return b == 0 ? std::nullopt : std::optional(a % b);
    });
  }
  bool bitshift() {
    return whole([](std::int64_t a, std::int64_t b) -> std::optional<std::int64_t> {
      if (b <= -32 || b >= 32) return 0;
      const auto bits = static_cast<std::uint32_t>(a);
      return static_cast<std::int32_t>(b >= 0 ? bits << b : bits >> -b);
    });
  }
  bool bit_and() {
    return bitwise([](std::int32_t a, std::int32_t b) { return a & b; });
  }
  bool bit_or() {
    return bitwise([](std::int32_t a, std::int32_t b) { return a | b; });
  }
  bool bit_xor() {
    return bitwise([](std::int32_t a, std::int32_t b) { return a ^ b; });
  }
  bool bit_not() {
    const auto a = pop();
    if (!a || a->kind == Kind::real) return false;
    const bool truth = a->kind == Kind::truth;
    return push({a->kind, truth ? 1 - a->number : double{1} * ~as_whole(*a)});
  }
  bool eq() {
    return compare([](double a, double b) { return a == b; });
  }
  bool ne() {
    return compare([](double a, double b) { return a != b; });
  }
  bool gt() {
    return compare([](double a, double b) { return a > b; });
  }
  bool ge() {
    return compare([](double a, double b) { return a >= b; });
  }
  bool lt() {
    return compare([](double a, double b) { return a < b; });
  }
  bool le() {
    return compare([](double a, double b) { return a <= b; });
  }
  bool push_true() { return push({Kind::truth, 1}); }
  bool push_false() { return push({Kind::truth, 0}); }

  bool drop() { return pop().has_value(); }
  bool exch() {
    if (stack_.size() < 2) return false;
    std::swap(stack_[stack_.size() - 1], stack_[stack_.size() - 2]);
    return true;
  }
  bool dup() { return !stack_.empty() && push(stack_[stack_.size() - 1]); }
  bool copy() {
    const auto count = count_on_top();
    if (!count || *count > stack_.size()) return false;
    const std::size_t first = stack_.size() - *count;
    for (std::size_t i = 0; i < *count; ++i)
      if (!push(stack_[first + i])) return false;
    return true;
  }
  bool index() {
    const auto depth = count_on_top();
    return depth && *depth < stack_.size() && push(stack_[stack_.size() - 1 - *depth]);
  }
  bool roll() {
    const auto by = pop();
    const auto count = count_on_top();
    if (!by || !count || by->kind != Kind::integer || *count > stack_.size()) return false;
    if (*count == 0) return true;
    const auto n = static_cast<std::int64_t>(*count);
    const std::int64_t up = (as_whole(*by) % n + n) % n;
    std::rotate(stack_.end() - n, stack_.end() - up, stack_.end());
    return true;
  }
  std::optional<std::size_t> count_on_top() {
    const auto count = pop();
    if (!count || count->kind != Kind::integer || count->number < 0) return std::nullopt;
    return static_cast<std::size_t>(as_whole(*count));
  }

  Stack stack_;
};

std::span<const Calculator::Machine::Named> Calculator::Machine::operators() {
  using M = Machine;
  static constexpr Named kOperators[] = {{"abs", &M::abs},
                                         {"add", &M::add},
                                         {"and", &M::bit_and},
                                         {"atan", &M::atan},
                                         {"bitshift", &M::bitshift},
                                         {"ceiling", &M::ceiling},
                                         {"copy", &M::copy},
                                         {"cos", &M::cos},
                                         {"cvi", &M::cvi},
                                         {"cvr", &M::cvr},
                                         {"div", &M::div},
                                         {"dup", &M::dup},
                                         {"eq", &M::eq},
                                         {"exch", &M::exch},
                                         {"exp", &M::exp},
                                         {"false", &M::push_false},
                                         {"floor", &M::floor},
                                         {"ge", &M::ge},
                                         {"gt", &M::gt},
                                         {"idiv", &M::idiv},
                                         {"index", &M::index},
                                         {"le", &M::le},
                                         {"ln", &M::ln},
                                         {"log", &M::log},
                                         {"lt", &M::lt},
                                         {"mod", &M::mod},
                                         {"mul", &M::mul},
                                         {"ne", &M::ne},
                                         {"neg", &M::neg},
                                         {"not", &M::bit_not},
                                         {"or", &M::bit_or},
                                         {"pop", &M::drop},
                                         {"roll", &M::roll},
                                         {"round", &M::round},
                                         {"sin", &M::sin},
                                         {"sqrt", &M::sqrt},
                                         {"sub", &M::sub},
                                         {"true", &M::push_true},
                                         {"truncate", &M::truncate},
                                         {"xor", &M::bit_xor}};
  return kOperators;
}

// Braces become jumps.
class CalculatorCompiler {
 public:
  CalculatorCompiler(ByteView source, int nesting) : lexer_(source), nesting_left_(nesting) {}

  Result<Calculator> compile() {
    LUMVET_TRY(const objects::Token open, lexer_.next());
    if (open.text != "{" || open.kind != objects::TokenKind::keyword)
      return wrong("a calculator function does not begin with '{'", open.offset);
    LUMVET_RETURN_IF_ERROR(block());
    return std::move(calculator_);
  }

 private:
  using Instruction = Calculator::Instruction;

  static Error wrong(std::string what, std::size_t offset) {
    return Error(ErrorCode::malformed, std::move(what)).at_offset(offset);
  }

  // Up to and with its closing brace.
  Status block() {
    if (--nesting_left_ < 0)
      return met_limit("a calculator function is nested deeper than Limits::nesting");
    for (;;) {
      LUMVET_TRY(const objects::Token token, lexer_.next());
      if (calculator_.program_.size() > kLongestProgram)
        return met_limit("a calculator function of more than 10000 steps");
      if (token.kind == objects::TokenKind::integer) {
        emit({Calculator::kPush, {Calculator::Kind::integer, token.real}, 0});
      } else if (token.kind == objects::TokenKind::real) {
        emit({Calculator::kPush, {Calculator::Kind::real, token.real}, 0});
      } else if (token.kind != objects::TokenKind::keyword) {
        return wrong("something that is no operator in a calculator function", token.offset);
      } else if (token.text == "}") {
        break;
      } else if (token.text == "{") {
        LUMVET_RETURN_IF_ERROR(condition());
      } else {
        LUMVET_RETURN_IF_ERROR(operation(token));
      }
    }
    ++nesting_left_;
    return Done{};
  }

  // "{ … } if" or "{ … } { … } ifelse", behind the first brace.
  Status condition() {
    const std::size_t unless = emit({Calculator::kJumpUnless, {}, 0});
    LUMVET_RETURN_IF_ERROR(block());
    LUMVET_TRY(objects::Token next, lexer_.next());
    if (next.kind == objects::TokenKind::keyword && next.text == "if") {
      target(unless);
      return Done{};
    }
    if (next.kind != objects::TokenKind::keyword || next.text != "{")
      return wrong("a block of a calculator function without 'if' or 'ifelse'", next.offset);
    const std::size_t over = emit({Calculator::kJump, {}, 0});
    target(unless);
    LUMVET_RETURN_IF_ERROR(block());
    target(over);
    LUMVET_TRY(next, lexer_.next());
    if (next.kind != objects::TokenKind::keyword || next.text != "ifelse")
      return wrong("two blocks of a calculator function without 'ifelse'", next.offset);
    return Done{};
  }

  Status operation(const objects::Token& token) {
    const auto operators = Calculator::Machine::operators();
    const auto found = std::lower_bound(
        operators.begin(), operators.end(), token.text,
        [](const auto& named, const std::string& text) { return named.name < text; });
    if (found == operators.end() || found->name != token.text)
      return wrong("a calculator function knows no operator '" + token.text.substr(0, 20) + "'",
                   token.offset);
    emit({static_cast<int>(found - operators.begin()), {}, 0});
    return Done{};
  }

  std::size_t emit(const Instruction& instruction) {
    calculator_.program_.push_back(instruction);
    return calculator_.program_.size() - 1;
  }
  // A jump leads to what comes next.
  void target(std::size_t jump) { calculator_.program_[jump].target = calculator_.program_.size(); }

  objects::Lexer lexer_;
  int nesting_left_;
  Calculator calculator_;
};

Result<Calculator> Calculator::compile(ByteView source, int nesting) {
  return CalculatorCompiler(source, nesting).compile();
}

std::optional<std::vector<double>> Calculator::run(std::span<const double> inputs) const {
  Machine machine(inputs);
  const auto operators = Machine::operators();
  for (std::size_t at = 0; at < program_.size(); ++at) {
    const Instruction& instruction = program_[at];
    if (instruction.op == kPush) {
      if (!machine.push(instruction.value)) return std::nullopt;
    } else if (instruction.op == kJump) {
      at = instruction.target - 1;
    } else if (instruction.op == kJumpUnless) {
      const auto truth = machine.pop();
      if (!truth || truth->kind != Kind::truth) return std::nullopt;
      if (truth->number == 0) at = instruction.target - 1;
    } else if (!(machine.*operators[static_cast<std::size_t>(instruction.op)].run)()) {
      return std::nullopt;
    }
  }
  std::vector<double> outputs;
  outputs.reserve(machine.stack().size());
  for (const Value& value : machine.stack()) outputs.push_back(value.number);
  return outputs;
}

}  // namespace lumvet::color
