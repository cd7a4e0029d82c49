// SPDX-License-Identifier: Apache-2.0
#include <initializer_list>
#include <string>

#include "demo_documents.h"

namespace demo {
namespace {

using lumvet::Array;
using lumvet::Bytes;
using lumvet::Dict;
using lumvet::Object;
using lumvet::ObjectId;
using lumvet::Rect;
using lumvet::Stream;

Object name(const std::string& text) { return Object::name(text); }
Object text(const std::string& ascii) { return Object::string(ascii); }
Object box(const Rect& rect) { return Array{rect.left, rect.bottom, rect.right, rect.top}; }

constexpr double kLeft = 60;
constexpr double kField = 190;
constexpr double kRight = 535;

class InspectionForm {
 public:
  explicit InspectionForm(DocumentMaker& maker) : maker_(maker), sheet_(maker.new_page()) {}

  void make() {
    heading();
    text_field("bridge", "Bridge", 690, "Quarry suspension bridge", 2);
    text_field("inspector", "Inspector", 655, "Mira Holt", 2);
    combo("weather", "Weather", 620);
    grades(585);
    box_field("dry", "Anchor block dry", 545, true);
    box_field("sign", "Warning sign in place", 515, false);
    notes(380);
    drawing();
    signature(120);
    marks();
    finish();
  }

 private:
  void heading() {
    {
      const auto tag = sheet_.drawing().tag("H1");
      sheet_.text(kLeft, 770, 20, "Inspection of a footbridge", Face::bold);
    }
    const auto tag = sheet_.drawing().tag("P");
    sheet_.text(kLeft, 745, 10, "Ostrel Valley bridge office, sheet F-1", Face::regular, kPale);
    sheet_.drawing().link({kLeft, 756, 270, 14}, "http://bridges.ostrel.example/forms/f-1");
  }

  void label(double y, const std::string& words) {
    const auto tag = sheet_.drawing().tag("Lbl");
    sheet_.text(kLeft, y + 6, 11, words);
  }

  // How a field looks: a frame, and what stands in it.
  Object look(double width, double height, const std::string& operators) {
    const std::string content = "q 0.45 0.5 0.55 RG 0.6 w 0.3 0.3 " + std::to_string(width - 0.6) +
                                " " + std::to_string(height - 0.6) + " re S Q " + operators;
    const lumvet::ByteView bytes = lumvet::as_bytes(content);
    return maker_.add(Stream::of(
        {{"Type", name("XObject")},
         {"Subtype", name("Form")},
         {"BBox", box({0, 0, width, height})},
         {"Resources", Dict{{"Font", Dict{{"Helv", Dict{{"Type", name("Font")},
                                                        {"Subtype", name("Type1")},
                                                        {"BaseFont", name("Helvetica")}}}}}}}},
        Bytes(bytes.begin(), bytes.end())));
  }

  Dict widget(const Rect& rect) {
    return Dict{{"Type", name("Annot")},
                {"Subtype", name("Widget")},
                {"Rect", box(rect)},
                {"P", maker_.page(0)},
                {"MK", Dict{{"BC", Array{0.45, 0.5, 0.55}}}},
                {"BS", Dict{{"W", 0.6}}},
                {"F", 4}};
  }

  void add_field(Dict field) {
    const Object reference = maker_.add(std::move(field));
    fields_.push_back(reference);
    sheet_.annotations.push_back(reference);
  }

  void text_field(const std::string& key, const std::string& words, double y,
                  const std::string& value, int flags) {
    label(y, words);
    const Rect rect{kField, y, kRight, y + 22};
    Dict field = widget(rect);
    field.set("FT", name("Tx"));
    field.set("T", text(key));
    field.set("TU", text(words));
    field.set("Ff", flags);
    field.set("V", text(value));
    field.set("AP", Dict{{"N", look(rect.width(), rect.height(),
                                    "BT /Helv 11 Tf 4 7 Td (" + value + ") Tj ET")}});
    add_field(std::move(field));
  }

  void combo(const std::string& key, const std::string& words, double y) {
    label(y, words);
    const Rect rect{kField, y, kRight, y + 22};
    constexpr int kCombo = 1 << 17;
    Dict field = widget(rect);
    field.set("FT", name("Ch"));
    field.set("Ff", kCombo);
    field.set("T", text(key));
    field.set("Opt", Array{text("dry"), text("rain"), text("snow")});
    field.set("V", text("rain"));
    field.set("AP",
              Dict{{"N", look(rect.width(), rect.height(), "BT /Helv 11 Tf 4 7 Td (rain) Tj ET")}});
    add_field(std::move(field));
  }

  Object box_looks(const std::string& on, const std::string& operators) {
    return Dict{{"N", Dict{{on, look(18, 18, operators)}, {"Off", look(18, 18, "")}}}};
  }

  void box_field(const std::string& key, const std::string& words, double y, bool is_on) {
    label(y, words);
    Dict field = widget({kField, y + 2, kField + 18, y + 20});
    field.set("FT", name("Btn"));
    field.set("T", text(key));
    field.set("V", name(is_on ? "Yes" : "Off"));
    field.set("AS", name(is_on ? "Yes" : "Off"));
    field.set("AP", box_looks("Yes", "0.72 0.33 0.16 RG 2 w 4 9 m 8 4 l 14 14 l S"));
    add_field(std::move(field));
  }

  void grades(double y) {
    label(y, "Grade");
    const ObjectId parent = maker_.reserve();
    Array kids;
    for (int grade = 1; grade <= 5; ++grade) {
      const double x = kField + (grade - 1) * 60;
      const std::string state = std::to_string(grade);
      Dict field = widget({x, y + 2, x + 18, y + 20});
      field.set("Parent", parent);
      field.set("AS", name(grade == 4 ? state : "Off"));
      field.set("AP", box_looks(state, "0.72 0.33 0.16 rg 5 5 8 8 re f"));
      kids.push_back(maker_.add(std::move(field)));
      sheet_.annotations.push_back(kids.back());
      sheet_.text(x + 24, y + 6, 11, state);
    }
    constexpr int kRadio = 1 << 15;
    maker_.set(parent, Dict{{"FT", name("Btn")},
                            {"Ff", kRadio},
                            {"T", text("grade")},
                            {"V", name("4")},
                            {"Kids", std::move(kids)}});
    fields_.push_back(parent);
  }

  void notes(double y) {
    label(y + 90, "Notes");
    const Rect rect{kField, y, kRight, y + 112};
    constexpr int kMultiline = 1 << 12;
    Dict field = widget(rect);
    field.set("FT", name("Tx"));
    field.set("Ff", kMultiline);
    field.set("T", text("notes"));
    field.set("V", text("Three hangers have broken strands.\nLimited to ten persons."));
    field.set("AP", Dict{{"N", look(rect.width(), rect.height(),
                                    "BT /Helv 11 Tf 14 TL 4 96 Td (Three hangers have broken "
                                    "strands.) Tj T* (Limited to ten persons.) Tj ET")}});
    add_field(std::move(field));
  }

  // A sketch in one layer, what only the yard needs in another.
  void drawing() {
    {
      const auto layer = sheet_.drawing().layer("Sketch");
      sheet_.line(kLeft, 250, kRight, 250, 3, kRust);
      for (double x = kLeft + 20; x < kRight; x += 25)
        sheet_.line(x, 250, x, 260 + 0.0012 * (x - 297) * (x - 297), 0.6);
    }
    const auto layer = sheet_.drawing().layer("For the yard", {.is_printed = false});
    sheet_.text(kLeft, 225, 9, "Order strand 4 x 18 mm, 12 m", Face::regular, kRiver);
  }

  void signature(double y) {
    label(y + 10, "Signature");
    Dict field = widget({kField, y, kRight, y + 44});
    field.set("FT", name("Sig"));
    field.set("T", text("signature"));
    field.set("AP", Dict{{"N", look(kRight - kField, 44, "")}});
    add_field(std::move(field));
  }

  void marks() {
    const std::string yellow = "/Faint gs 1 0.85 0.3 rg 0 0 188 17 re f";
    const lumvet::ByteView bytes = lumvet::as_bytes(yellow);
    const Object looks = maker_.add(
        Stream::of({{"Type", name("XObject")},
                    {"Subtype", name("Form")},
                    {"BBox", box({0, 0, 188, 17})},
                    {"Resources", Dict{{"ExtGState", Dict{{"Faint", Dict{{"ca", 0.4}}}}}}}},
                   Bytes(bytes.begin(), bytes.end())));
    const Object mark = maker_.add(Dict{{"Type", name("Annot")},
                                        {"Subtype", name("Highlight")},
                                        {"Rect", box({kField + 2, 470, kField + 190, 487})},
                                        {"QuadPoints", Array{kField + 2, 487, kField + 190, 487,
                                                             kField + 2, 470, kField + 190, 470}},
                                        {"C", Array{1, 0.85, 0.3}},
                                        {"CA", 0.4},
                                        {"AP", Dict{{"N", looks}}},
                                        {"T", text("T. Achterhuis")},
                                        {"M", text("D:20260412101500Z")},
                                        {"Contents", text("Same as last year?")},
                                        {"F", 4}});
    sheet_.annotations.push_back(mark);
  }

  void finish() {
    maker_.outline("Inspection of a footbridge", 0);
    maker_.state(
        "AcroForm",
        Dict{{"Fields", fields_},
             {"DA", text("/Helv 11 Tf 0 g")},
             {"DR", Dict{{"Font", Dict{{"Helv", Dict{{"Type", name("Font")},
                                                     {"Subtype", name("Type1")},
                                                     {"BaseFont", name("Helvetica")}}}}}}}});
    maker_.state("PageMode", name("UseOC"));
    maker_.state("ViewerPreferences", Dict{{"DisplayDocTitle", true}, {"FitWindow", true}});
    maker_.state("PageLabels", Dict{{"Nums", Array{0, Dict{{"S", name("D")}, {"P", text("F-")}}}}});
    maker_.state("OutputIntents",
                 Array{Dict{{"Type", name("OutputIntent")},
                            {"S", name("GTS_PDFX")},
                            {"OutputConditionIdentifier", text("Office printer")},
                            {"RegistryName", text("http://bridges.ostrel.example/printing")}}});
  }

  DocumentMaker& maker_;
  Sheet& sheet_;
  Array fields_;
};

}  // namespace

lumvet::Status make_inspection(const Fonts& fonts, const std::filesystem::path& path) {
  DocumentMaker maker(fonts, "Inspection of a footbridge", "Form F-1");
  InspectionForm(maker).make();
  return maker.save(path, lumvet::FileLayout::compact);
}

}  // namespace demo
