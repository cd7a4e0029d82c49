// SPDX-License-Identifier: Apache-2.0
// What fields ask of their values is read from the calls in which they say it, and nothing is run.
#include "lumvet/document/field_format.h"

#include <random>

#include "document/date_pattern.h"
#include "document/script_call.h"
#include "tests/support/catch.h"

using namespace lumvet;
using Kind = FieldFormat::Kind;

namespace {

FormField with_script(const std::string& event, const std::string& script) {
  FormField field;
  field.kind = FormField::Kind::text;
  field.triggers = {
      {event, {{.kind = Action::Kind::script, .type = "JavaScript", .target = script}}}};
  return field;
}
FormField shown_by(const std::string& script) {
  return with_script("before the value is shown", script);
}

FieldFormat format(const std::string& script) {
  const auto read = format_of(shown_by(script));
  CAPTURE(script);
  REQUIRE(read);
  return *read;
}

}  // namespace

TEST_CASE("numbers, dates, times and masks are kept and shown as a field says", "[document]") {
  struct Case {
    const char* script;
    const char* written;
    const char* kept;  // empty for what is refused
    const char* shown;
  };
  const Case cases[] = {
      {"AFNumber_Format(2, 0, 0, 0, \"\", true);", "1234.5", "1234.5", "1,234.50"},
      {"AFNumber_Format(2, 0, 0, 0, \"\", true);", "1,234.5", "1234.5", "1,234.50"},
      {"AFNumber_Format(2, 0, 0, 0, \"\", true);", "1,23.5", "", ""},
      {"AFNumber_Format(2, 2, 0, 0, \" mm\", false)", "1.234,5 mm", "1234.5", "1.234,50 mm"},
      {"AFNumber_Format(2, 2, 0, 0, \" mm\", false)", "1234.5", "1234.5", "1.234,50 mm"},
      {"AFNumber_Format(0, 3, 0, 0, \"\", false)", "12,5", "12.5", "12"},
      {"AFNumber_Format(1, 4, 0, 0, \"\", false)", "1'234'567.25", "1234567.25", "1'234'567.2"},
      {"AFNumber_Format(2, 1, 2, 0, \"$\", true)", "-3", "-3", "($3.00)"},
      {"AFNumber_Format(2, 1, 2, 0, \"$\", true)", "($3.50)", "-3.5", "($3.50)"},
      {"AFNumber_Format(2, 1, 1, 0, \"\", true)", "-3", "-3", "3.00"},
      {"AFNumber_Format(2, 1, 0, 0, \"\", true)", "three", "", ""},
      {"AFNumber_Format(2, 1, 0, 0, \"\", true)", "1e300", "", ""},
      {"AFNumber_Format(2, 1, 0, 0, \"\", true)", "nan", "", ""},
      {"AFNumber_Keystroke(2, 0, 0, 0, '', true)", "-0.001", "-0.001", "0.00"},
      {"AFPercent_Format(1, 0)", "0.255", "0.255", "25.5 %"},
      {"AFPercent_Format(1, 0)", "25.5 %", "0.255", "25.5 %"},
      {"AFDate_FormatEx(\"dd.mm.yyyy\")", "2026-04-12", "12.04.2026", "12.04.2026"},
      {"AFDate_FormatEx(\"dd.mm.yyyy\")", "31.12.2026", "31.12.2026", "31.12.2026"},
      {"AFDate_FormatEx(\"dd.mm.yyyy\")", "29.02.2026", "", ""},
      {"AFDate_FormatEx(\"dd.mm.yyyy\")", "29.2.2024", "29.02.2024", "29.02.2024"},
      {"AFDate_FormatEx(\"dddd, d mmmm yy\")", "2026-12-01", "Tuesday, 1 December 26",
       "Tuesday, 1 December 26"},
      {"AFDate_Format(5)", "12-apr-26", "12-Apr-26", "12-Apr-26"},
      {"AFTime_Format(0)", "9:05", "09:05", "09:05"},
      {"AFTime_FormatEx(\"h:MM tt\")", "14:05", "2:05 pm", "2:05 pm"},
      {"AFTime_FormatEx(\"h:MM tt\")", "12:05 AM", "12:05 am", "12:05 am"},
      {"AFTime_Format(0)", "25:00", "", ""},
      {"AFSpecial_Format(3)", "123456789", "123-45-6789", "123-45-6789"},
      {"AFSpecial_KeystrokeEx(\"AA-9999\")", "OV-0017", "OV-0017", "OV-0017"},
      {"AFSpecial_KeystrokeEx(\"AA-9999\")", "OV0017", "OV-0017", "OV-0017"},
      {"AFSpecial_KeystrokeEx(\"AA-9999\")", "O1-0017", "", ""},
      {"AFSpecial_KeystrokeEx(\"AA-9999\")", "OV-00171", "", ""},
  };
  for (const Case& one : cases) {
    CAPTURE(one.script, one.written);
    const FieldFormat read = format(one.script);
    const auto kept = kept_value(read, one.written);
    if (*one.kept == '\0') {
      REQUIRE_FALSE(kept.ok());
      CHECK(kept.error().code() == ErrorCode::invalid_argument);
      CHECK(kept.error().message().find("takes a") == 0);
      continue;
    }
    REQUIRE(kept.ok());
    CHECK(*kept == one.kept);
    CHECK(shown_value(read, *kept) == one.shown);
    CHECK(kept_value(read, *kept).value() == *kept);
    CHECK(kept_value(read, "").value().empty());
  }
  CHECK(is_shown_red(format("AFNumber_Format(2, 1, 1, 0, \"\", true)"), "-3"));
  CHECK_FALSE(is_shown_red(format("AFNumber_Format(2, 1, 1, 0, \"\", true)"), "3"));
}

TEST_CASE("what is shown is read as the number that is kept, in every format", "[document]") {
  std::mt19937 random(5);
  std::uniform_int_distribution<std::int64_t> any(-99'999'999, 99'999'999);
  for (int separators = 0; separators < 5; ++separators)
    for (int decimals = 0; decimals < 4; ++decimals)
      for (int i = 0; i < 20; ++i) {
        const FieldFormat format{.decimals = decimals,
                                 .separators = static_cast<FieldFormat::Separators>(separators),
                                 .currency = " mm"};
        const double number = static_cast<double>(any(random)) / std::pow(10, decimals);
        const std::string shown = shown_value(format, number_text(number));
        CAPTURE(shown, separators);
        // One separator alone before three digits stands before decimals.
        const bool is_ambiguous = std::abs(number) < 1e6 && decimals == 0 && separators == 2;
        if (!is_ambiguous) CHECK(kept_value(format, shown).value() == number_text(number));
      }
}

TEST_CASE("calls say what they are made of, and nothing else is read", "[document]") {
  const FieldFormat format{.decimals = 3,
                           .separators = FieldFormat::Separators::point_comma,
                           .negative = FieldFormat::Negative::parentheses,
                           .currency = " \"x\" \\",
                           .currency_is_before = true};
  CHECK(format_of(shown_by(show_script(format))) == format);
  CHECK(format_of(with_script("keystroke", keystroke_script(format))) == format);
  for (const Kind kind : {Kind::date, Kind::time, Kind::mask}) {
    const FieldFormat patterned{.kind = kind, .pattern = "99-dd"};
    CHECK(format_of(shown_by(show_script(patterned))) == patterned);
  }
  const FieldRange range{.least = -2.5, .most = 7};
  CHECK(range_of(with_script("value changed", script_of(range))) == range);
  const FieldRange open{.least = {}, .most = 7};
  CHECK(range_of(with_script("value changed", script_of(open))) == open);
  const FieldReckoning reckoning{FieldReckoning::How::product, {"a.b", "c \"d\""}};
  CHECK(reckoning_of(with_script("value calculated", script_of(reckoning))) == reckoning);
  CHECK(reckoning_of(with_script("value calculated", "AFSimple_Calculate('SUM', ['a', 'b'])")) ==
        FieldReckoning{FieldReckoning::How::sum, {"a", "b"}});

  for (const char* script :
       {"app.alert(1)", "AFNumber_Format(2); app.launchURL('http://a.example')",
        "AFNumber_Format(f(2))", "AFNumber_Format(2", "AFNumber_Format(\"2)",
        "if (a) AFDate_Format(1)", "AFNumber_Format(2)\n;;", "AFNumber_Format(2,)",
        "AFSimple_Calculate('SUM', new Array(x))", "", "(", "AFDate_FormatEx(\"\\u12\")"}) {
    CAPTURE(script);
    CHECK_FALSE(format_of(shown_by(script)));
    CHECK_FALSE(reckoning_of(with_script("value calculated", script)));
    CHECK(has_other_scripts(shown_by(script)));
  }
  CHECK_FALSE(has_other_scripts(shown_by("AFNumber_Format(2, 0, 0, 0, \"\", true);")));
  CHECK_FALSE(has_other_scripts(FormField()));
}

TEST_CASE("numbers are plain digits, and nothing beyond what a form holds", "[document]") {
  CHECK(number_in("-12.50") == -12.5);
  CHECK(number_in("+3") == 3);
  for (const char* text :
       {"", "+", "1,5", "1e3", "inf", "nan", "0x10", " 1", "1 ", "9999999999999999"})
    CHECK_FALSE(number_in(text));
  CHECK(number_text(12.5) == "12.5");
  CHECK(number_text(-0.0) == "0");
  CHECK(number_text(1.0 / 3) == "0.3333333333");
}

TEST_CASE("moments are read back as they are written", "[document]") {
  std::mt19937 random(9);
  const auto up_to = [&](int most) { return std::uniform_int_distribution<int>(0, most)(random); };
  for (int i = 0; i < 200; ++i) {
    const document::Moment m{1950 + up_to(99), 1 + up_to(11), 1 + up_to(27),
                             up_to(23),        up_to(59),     up_to(59)};
    for (const char* pattern : {"yyyy-mm-dd HH:MM:ss", "d mmm yy h:M:s tt",
                                "mmmm dd, yyyy; H.MM.ss", "ddd d.m.yyyy \\at hh:MM:ss tt"}) {
      const std::string text = document::moment_text(m, pattern);
      CAPTURE(text, pattern);
      const auto read = document::read_moment(text, pattern);
      REQUIRE(read);
      CHECK(document::moment_text(*read, "yyyy-mm-dd HH:MM:ss") ==
            document::moment_text(m, "yyyy-mm-dd HH:MM:ss"));
      CHECK_FALSE(document::read_moment(text + "!", pattern));
    }
  }
}
