// SPDX-License-Identifier: Apache-2.0
#include "annotate/marks_of_page.h"

#include <algorithm>

#include "document/inside.h"
#include "document/text_entries.h"

namespace lumvet::annotate {

MarksOfPage::MarksOfPage(file::Ledger& ledger, ObjectId page) : ledger_(ledger), page_(page) {
  list_ = ledger_.get(ledger_.resolve(Object(page)).as_dict(), "Annots").as_array();
}

std::optional<ObjectId> MarksOfPage::named(const std::string& name) const {
  for (const Object& mark : list_)
    if (mark.is_reference() &&
        document::text_entry(ledger_, ledger_.resolve(mark).as_dict(), "NM") == name)
      return mark.as_reference();
  return std::nullopt;
}

std::string MarksOfPage::free_name() {
  if (!knows_names_)
    for (const Object& mark : list_)
      names_.take(document::text_entry(ledger_, ledger_.resolve(mark).as_dict(), "NM"));
  knows_names_ = true;
  return names_.next_free();
}

void MarksOfPage::finish() {
  Dict page = ledger_.resolve(Object(page_)).as_dict();
  const Object stated = page["Annots"];
  ledger_.touch_page(page_);
  if (stated.is_reference() && !list_.empty()) {
    ledger_.set(stated.as_reference(), Object(list_));
    return;
  }
  page.set("Annots", list_.empty() ? Object() : Object(list_));
  ledger_.set(page_, std::move(page));
}

std::set<ObjectId> with_answers(const file::Ledger& ledger, const Array& list,
                                std::set<ObjectId> marks) {
  for (std::size_t before = 0; before != marks.size();) {
    before = marks.size();
    for (const Object& one : list) {
      if (!one.is_reference()) continue;
      const Object object = ledger.resolve(one);
      const Dict& dict = object.as_dict();
      const bool is_popup = ledger.get(dict, "Subtype").is_name("Popup");
      const Object& of = is_popup ? dict["Parent"] : dict["IRT"];
      if (of.is_reference() && marks.contains(of.as_reference())) marks.insert(one.as_reference());
      const Object& popup = dict["Popup"];
      if (popup.is_reference() && marks.contains(one.as_reference()))
        marks.insert(popup.as_reference());
    }
  }
  return marks;
}

Result<int> page_of(const Document& document, ObjectId annotation) {
  const file::ObjectStore& store = store_of(document);
  const document::PageTree& pages = core_of(document).pages();
  const auto is_on = [&](int index) {
    const auto page = pages.find(index);
    if (!page.ok()) return false;
    const Object list = store.get(page->dict, "Annots");
    return std::any_of(list.as_array().begin(), list.as_array().end(), [&](const Object& mark) {
      return mark.is_reference() && mark.as_reference() == annotation;
    });
  };
  const Object object = store.resolve(Object(annotation));
  const Object& stated = object.as_dict()["P"];
  if (stated.is_reference())
    if (const auto page = pages.index_of(stated.as_reference()); page && is_on(*page)) return *page;
  if (object.is_dict())
    for (int page = 0; page < pages.count(); ++page)
      if (is_on(page)) return page;
  return Error(ErrorCode::invalid_argument,
               "object " + std::to_string(annotation.number) + " is no annotation of any page");
}

}  // namespace lumvet::annotate
