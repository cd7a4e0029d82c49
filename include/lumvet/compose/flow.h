// SPDX-License-Identifier: Apache-2.0
// Text, tables, pictures and charts one below the other, over as many pages as they take.
//
//   lumvet::Flow report({.title = "Day 12", .footer = {.middle = "{page} of {pages}"}});
//   report.add_heading("Costs");
//   report.add(lumvet::Paragraph("Two thirds are for the Quarry bridge.", {.size = 11}));
//   report.add(costs);
//   report.save("day-12.pdf").value();
//
// Headings stand in the outline and stay with what follows them, lines stay together as their
// paragraphs ask, tables repeat their heads. What is meant to be read aloud is tagged; heads and
// feet of pages are not.
//
// Threads: const methods may run concurrently; anything else needs exclusive access. Since: 0.2
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/compose/chart.h"
#include "lumvet/compose/table.h"
#include "lumvet/draw/new_document.h"

namespace lumvet {

namespace compose {
struct FlowData;
}

// In it {page} is the number of the page, {pages} how many there are, {chapter} the last heading of
// the first level, {title} the document's; "{{" is a brace.
struct PageLine {
  std::string left = {};
  std::string middle = {};
  std::string right = {};
};

struct FlowOptions {
  std::string title = {};
  std::string author = {};
  std::string language = {};
  NewView view = {};
  PaperSize paper = {595.276, 841.89};  // A4
  Margins margins = {64, 72, 64, 72};
  int columns = 1;
  double between_columns = 20;
  std::optional<Color> background = {};  // of every page
  // A page of another document below every page, as large as it has room: a letterhead.
  std::optional<Page> letterhead = {};
  PageLine header = {};
  PageLine footer = {};
  Typeface face = Typeface();  // of headings, and of heads and feet of pages
  double heading_size = 20;    // points, of the first level; each further one is smaller
  Color heading_color = Color::gray(0.1);
  bool is_tagged = true;
  bool first_page_has_header = true;

  // How headings of a level, from 1 to 6, look that say nothing of it.
  LUMVET_EXPORT TextStyle heading_look(int level) const;
  LUMVET_EXPORT ParagraphStyle heading_style(int level) const;
};

class LUMVET_EXPORT Flow {
 public:
  explicit Flow(FlowOptions options = {});
  Flow(Flow&&) noexcept;
  Flow& operator=(Flow&&) noexcept;
  ~Flow();

  // Levels from 1 on. `name` is what links call it: "#costs".
  void add_heading(const std::string& text, int level = 1, const std::string& name = {});
  // With looks of its own; in the outline and the contents it stands without them.
  void add_heading(const Paragraph& text, int level = 1, const std::string& name = {});
  void add(const Paragraph& paragraph);
  // Items with a dot, or numbered from a number on; so deep within other lists.
  void add_list(const std::vector<Paragraph>& items, bool numbered = false, int first = 1,
                int depth = 0);
  void add(const Table& table);
  // As wide as asked for in points, at most as wide as the column; 0 for its own size.
  void add(const Picture& picture, double width = 0, const std::string& description = {});
  // At one side, with what is added behind it beside it, as far as it is high: paragraphs, lists
  // and headings. It is at most two thirds as wide as the column.
  enum class Side { left, right };
  void add_beside(const Picture& picture, Side side, double width = 0,
                  const std::string& description = {});
  void add(const Chart& chart, double height = 220);
  // A drawing at its own size.
  void add(const Drawing& drawing, const std::string& description = {});
  void add_space(double points);
  void add_page_break();
  // The headings so far and after, down to a level, with the pages that they are on.
  void add_contents(int levels = 2);

  // What charts left out, once it is made. Errors: invalid_argument for letters that no font has,
  // for tables that are wider than their column, with the width that they need, and for links to
  // names that are none.
  Result<Document> as_document(std::vector<Finding>* findings = nullptr) const;
  // What charts left out is among the report's findings. Pages are written as they are filled, and
  // forgotten; a sink may have a part of them when it fails.
  Result<SaveReport> save(const std::filesystem::path& path, const SaveOptions& options = {}) const;
  Result<SaveReport> save(ByteSink& sink, const SaveOptions& options = {}) const;

 private:
  std::unique_ptr<compose::FlowData> data_;
};

}  // namespace lumvet
