// SPDX-License-Identifier: Apache-2.0
#include "document/measured_areas.h"

#include "base/attempt.h"
#include "document/geometry_objects.h"
#include "document/text_entries.h"

namespace lumvet::document {
namespace {

MeasureUnit::Fraction fraction_named(std::string_view name) {
  if (name == "F") return MeasureUnit::Fraction::fraction;
  if (name == "R") return MeasureUnit::Fraction::rounded;
  if (name == "T") return MeasureUnit::Fraction::truncated;
  return MeasureUnit::Fraction::decimal;
}

const char* name_of(MeasureUnit::Fraction fraction) {
  switch (fraction) {
    case MeasureUnit::Fraction::fraction: return "F";
    case MeasureUnit::Fraction::rounded: return "R";
    case MeasureUnit::Fraction::truncated: return "T";
    default: return "D";
  }
}

std::vector<MeasureUnit> read_units(const file::ObjectStore& store, const Object& stated) {
  std::vector<MeasureUnit> units;
  const Object list = store.resolve(stated);
  for (const Object& item : list.as_array()) {
    const Object object = store.resolve(item);
    if (!object.is_dict() || !Attempt::follow(sizeof(MeasureUnit))) continue;
    const Dict& dict = object.as_dict();
    MeasureUnit unit;
    unit.label = text_entry(store, dict, "U");
    unit.factor = store.get(dict, "C").as_number(1);
    unit.fraction = fraction_named(store.get(dict, "F").as_name());
    constexpr std::int64_t kMostPrecision = 1'000'000'000;
    const std::int64_t usual = unit.fraction == MeasureUnit::Fraction::fraction ? 16 : 100;
    const std::int64_t precision = store.get(dict, "D").as_integer(usual);
    unit.precision =
        static_cast<int>(precision > 0 && precision <= kMostPrecision ? precision : usual);
    unit.is_kept = store.get(dict, "FD").as_bool();
    const auto text = [&](std::string_view key, std::string& value) {
      if (store.get(dict, key).is_string()) value = text_entry(store, dict, key);
    };
    text("RT", unit.thousands);
    text("RD", unit.decimal_sign);
    text("PS", unit.before);
    text("SS", unit.after);
    unit.label_first = store.get(dict, "O").is_name("P");
    units.push_back(std::move(unit));
  }
  return units;
}

void read_drawing(const file::ObjectStore& store, const Dict& dict, Measure& measure) {
  measure.scale = text_entry(store, dict, "R");
  measure.x = read_units(store, dict["X"]);
  measure.y = read_units(store, dict["Y"]);
  measure.distance = read_units(store, dict["D"]);
  measure.area = read_units(store, dict["A"]);
  measure.angle = read_units(store, dict["T"]);
  measure.slope = read_units(store, dict["S"]);
  const std::vector<Point> origin = points_of(store, dict["O"]);
  if (!origin.empty()) measure.origin = origin[0];
  const Object factor = store.get(dict, "CYX");
  if (factor.is_number()) measure.y_to_x = factor.as_number();
}

void read_map(const file::ObjectStore& store, const Dict& dict, Measure& measure) {
  measure.kind = Measure::Kind::map;
  measure.bounds = points_of(store, dict["Bounds"]);
  measure.places = points_of(store, dict["LPTS"]);
  for (const Point& point : points_of(store, dict["GPTS"]))
    measure.points.push_back({point.x, point.y});
  const Object system = store.get(dict, "GCS");
  measure.is_projected = store.get(system.as_dict(), "Type").is_name("PROJCS");
  constexpr std::int64_t kMostNumber = 1'000'000;
  const std::int64_t number = store.get(system.as_dict(), "EPSG").as_integer();
  if (number > 0 && number < kMostNumber) measure.epsg = static_cast<int>(number);
  measure.wkt = text_entry(store, system.as_dict(), "WKT");
}

Object units_of(const std::vector<MeasureUnit>& units) {
  Array list;
  for (const MeasureUnit& unit : units) {
    Dict dict{{"Type", Object::name("NumberFormat")},
              {"U", text_object(unit.label)},
              {"C", unit.factor},
              {"F", Object::name(name_of(unit.fraction))},
              {"D", std::int64_t{unit.precision}}};
    if (unit.is_kept) dict.set("FD", true);
    const MeasureUnit usual;
    if (unit.thousands != usual.thousands) dict.set("RT", text_object(unit.thousands));
    if (unit.decimal_sign != usual.decimal_sign) dict.set("RD", text_object(unit.decimal_sign));
    if (unit.before != usual.before) dict.set("PS", text_object(unit.before));
    if (unit.after != usual.after) dict.set("SS", text_object(unit.after));
    if (unit.label_first) dict.set("O", Object::name("P"));
    list.push_back(std::move(dict));
  }
  return list.empty() ? Object() : Object(std::move(list));
}

}  // namespace

Measure read_measure(const file::ObjectStore& store, const Dict& dict) {
  Measure measure;
  if (store.get(dict, "Subtype").is_name("GEO"))
    read_map(store, dict, measure);
  else
    read_drawing(store, dict, measure);
  return measure;
}

Dict measure_dict(const Measure& measure) {
  Dict dict{{"Type", Object::name("Measure")},
            {"Subtype", Object::name("RL")},
            {"R", text_object(measure.scale)}};
  dict.set("X", units_of(measure.x));
  dict.set("Y", units_of(measure.y));
  dict.set("D", units_of(measure.distance));
  dict.set("A", units_of(measure.area));
  dict.set("T", units_of(measure.angle));
  dict.set("S", units_of(measure.slope));
  if (measure.origin) dict.set("O", Array{measure.origin->x, measure.origin->y});
  if (measure.y_to_x) dict.set("CYX", *measure.y_to_x);
  return dict;
}

std::vector<MeasuredArea> read_measured_areas(const file::ObjectStore& store, const Dict& page) {
  std::vector<MeasuredArea> measured_areas;
  const Object list = store.get(page, "VP");
  for (const Object& item : list.as_array()) {
    const Object object = store.resolve(item);
    if (!object.is_dict() || !Attempt::follow(sizeof(MeasuredArea))) continue;
    MeasuredArea measured_area;
    measured_area.area = rect_of(store, object.as_dict()["BBox"]).value_or(Rect{});
    measured_area.name = text_entry(store, object.as_dict(), "Name");
    const Object stated = store.get(object.as_dict(), "Measure");
    if (stated.is_dict()) {
      measured_area.measure = read_measure(store, stated.as_dict());
    }
    measured_areas.push_back(std::move(measured_area));
  }
  return measured_areas;
}

}  // namespace lumvet::document
