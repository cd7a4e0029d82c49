// SPDX-License-Identifier: Apache-2.0
#include "fact_list.h"

namespace tool {
namespace {

constexpr std::size_t kStep = 2;  // blanks for each level

// JSON has line ends between its parts only, never within a text.
void print_indented(const Json& json, std::size_t indent, std::ostream& out) {
  const std::string text = json.dump(kStep, ' ', false, Json::error_handler_t::replace);
  const std::string margin(indent, ' ');
  for (std::size_t from = 0; from < text.size();) {
    const std::size_t end = std::min(text.find('\n', from), text.size() - 1) + 1;
    if (from > 0) out << margin;
    out.write(text.data() + from, static_cast<std::streamsize>(end - from));
    from = end;
  }
}

void print_list(const FactList& list, std::size_t indent, std::ostream& out) {
  if (list.empty()) {
    out << "[]";
    return;
  }
  const std::string margin(indent + kStep, ' ');
  const char* before = "[\n";
  for (const Json& entry : list) {
    out << before << margin;
    print_indented(entry, indent + kStep, out);
    before = ",\n";
  }
  out << '\n' << std::string(indent, ' ') << ']';
}

// The entries of an object, one after the other.
class ObjectPrinter {
 public:
  ObjectPrinter(std::size_t indent, std::ostream& out) : indent_(indent), out_(out) {}

  void print(const Json& object) {
    for (const auto& [key, value] : object.items()) {
      begin(key);
      print_indented(value, indent_ + kStep, out_);
    }
  }
  std::ostream& begin(const std::string& key) {
    out_ << (is_first_ ? "{\n" : ",\n") << std::string(indent_ + kStep, ' ') << Json(key).dump()
         << ": ";
    is_first_ = false;
    return out_;
  }
  void end() { out_ << '\n' << std::string(indent_, ' ') << '}'; }

 private:
  std::size_t indent_;
  std::ostream& out_;
  bool is_first_ = true;
};

}  // namespace

void print_json(const Facts& facts, std::size_t indent, std::ostream& out) {
  if (facts.is_list) return print_list(facts.list, indent, out);
  if (facts.key.empty()) return print_indented(facts.value, indent, out);
  ObjectPrinter printer(indent, out);
  printer.print(facts.value);
  print_list(facts.list, indent + kStep, printer.begin(facts.key));
  printer.end();
}

void print_json(const Json& own, const std::vector<std::pair<std::string, Facts>>& named,
                std::size_t indent, std::ostream& out) {
  ObjectPrinter printer(indent, out);
  printer.print(own);
  for (const auto& [name, facts] : named) print_json(facts, indent + kStep, printer.begin(name));
  printer.end();
}

}  // namespace tool
