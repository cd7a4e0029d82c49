// SPDX-License-Identifier: Apache-2.0
// Every public call that reads a document, each with its answer as a text that can be compared.
#pragma once

#include <functional>
#include <sstream>

#include "crypto/digest.h"
#include "lumvet/lumvet.h"

namespace test {

struct Call {
  std::string name;
  std::function<lumvet::Result<std::string>(const lumvet::Document&)> answer;
};

namespace calls {

using namespace lumvet;

inline std::string digest_of(ByteView bytes) {
  return std::string(as_text(crypto::digest(crypto::DigestKind::sha256, {bytes})));
}

inline void put(std::ostream& out, const std::optional<Destination>& place) {
  if (!place) return;
  out << place->name << '>' << place->page.value_or(-1) << ' ' << static_cast<int>(place->view)
      << ' ' << place->left.value_or(-1) << ' ' << place->top.value_or(-1);
}
inline void put(std::ostream& out, const std::vector<Action>& actions) {
  for (const Action& action : actions) {
    out << action.type << ' ' << action.target << ' ';
    put(out, action.destination);
  }
}
inline void put(std::ostream& out, const std::vector<Trigger>& triggers) {
  for (const Trigger& trigger : triggers) {
    out << trigger.event << ':';
    put(out, trigger.actions);
  }
}

template <typename Value, typename Show>
Result<std::string> told(Result<Value> value, const Show& show) {
  if (!value.ok()) return std::move(value).error();
  std::ostringstream out;
  show(out, *value);
  return out.str();
}

// Of all pages, until one answers with an error.
template <typename Ask>
Result<std::string> of_pages(const Document& document, const Ask& ask) {
  std::string all;
  for (int i = 0; i < document.page_count(); ++i) {
    LUMVET_TRY(const Page page, document.page(i));
    LUMVET_TRY(const std::string one, ask(page));
    all += one + "\n";
  }
  return all;
}

// Of what is locked the bytes differ in every copy, so what they say is told instead.
template <typename Save>
Result<std::string> saved(const Document& document, const Save& save) {
  BufferSink sink;
  LUMVET_TRY(const SaveReport report, save(sink));
  std::string told = std::to_string(report.pages) + " pages, ";
  if (!document.encryption()) {
    told += digest_of(sink.bytes());
  } else {
    LUMVET_TRY(const Document again, Document::open(sink.take(), {.password = "ostrel"}));
    LUMVET_TRY(const std::uint32_t objects, again.first_unused_number());
    told += std::to_string(objects);
    for (int i = 0; i < again.page_count(); ++i) {
      LUMVET_TRY(const Page page, again.page(i));
      LUMVET_TRY(const Bytes content, page.content());
      told += digest_of(content);
    }
  }
  for (const Finding& finding : report.findings) told += "\n" + finding.to_string();
  return told;
}

inline Result<std::string> drawn(Result<Raster> raster) {
  LUMVET_TRY(const Raster sheet, std::move(raster));
  return digest_of(sheet.bytes());
}

inline std::vector<Call> of_documents() {
  std::vector<Call> all;
  const auto add = [&](std::string name, auto ask) {
    all.push_back({std::move(name), std::move(ask)});
  };
  add("extensions", [](const Document& d) {
    return told(d.extensions(), [](auto& out, const auto& list) {
      for (const Extension& one : list) out << one.prefix << one.base_version << one.level;
    });
  });
  // On threads beside the caller's.
  add("render_pages", [](const Document& d) -> Result<std::string> {
    std::vector<int> pages;
    for (int i = 0; i < d.page_count(); ++i) pages.push_back(i);
    std::string all;
    LUMVET_RETURN_IF_ERROR(
        render_pages(d, pages, {.dpi = 30, .threads = 3}, [&](int, const Raster& sheet) -> Status {
          all += digest_of(sheet.bytes());
          return Done{};
        }));
    return all;
  });
  add("read_pages", [](const Document& d) -> Result<std::string> {
    std::vector<int> pages;
    for (int i = 0; i < d.page_count(); ++i) pages.push_back(i);
    std::string all;
    LUMVET_RETURN_IF_ERROR(
        read_pages(d, pages, {.threads = 3}, [&](int, const PageWords& words) -> Status {
          all += words.text() + "\f";
          return Done{};
        }));
    return all;
  });
  add("facts of opening", [](const Document& d) -> Result<std::string> {
    return d.version() + std::to_string(d.page_count()) + (d.is_linearized() ? "L" : "") +
           (d.was_updated() ? "U" : "") + (d.was_repaired() ? "R" : "") +
           (d.encryption() ? d.encryption()->cipher : "");
  });
  add("revisions", [](const Document& d) -> Result<std::string> {
    LUMVET_TRY(const std::vector<Revision> list, d.revisions());
    std::string sizes;
    for (std::size_t i = 0; i < list.size(); ++i) {
      LUMVET_TRY(const Document then, d.revision(static_cast<int>(i)));
      sizes += std::to_string(list[i].size) + ":" + std::to_string(then.page_count()) + " ";
    }
    return sizes;
  });
  add("info", [](const Document& d) {
    return told(d.info(), [](auto& out, const auto& info) { out << info.title << info.author; });
  });
  add("metadata", [](const Document& d) {
    return told(d.metadata(), [](auto& out, const auto& metadata) {
      out << metadata.properties.title << metadata.has_xmp << metadata.conformance;
    });
  });
  add("outline", [](const Document& d) {
    return told(d.outline(), [](auto& out, const auto& outline) {
      for (const OutlineEntry& entry : outline) {
        out << entry.depth << entry.title << entry.page.value_or(-1);
        put(out, entry.destination);
        put(out, entry.actions);
      }
    });
  });
  add("named_destinations", [](const Document& d) {
    return told(d.named_destinations(), [](auto& out, const auto& places) {
      for (const Destination& place : places) put(out, std::optional(place));
    });
  });
  add("page_label", [](const Document& d) -> Result<std::string> {
    LUMVET_TRY(const bool given, d.has_page_labels());
    std::string labels = given ? "given:" : "";
    for (int i = 0; i < d.page_count(); ++i) {
      LUMVET_TRY(const std::string label, d.page_label(i));
      labels += label + " ";
    }
    return labels;
  });
  add("attachments", [](const Document& d) -> Result<std::string> {
    LUMVET_TRY(const std::vector<Attachment> list, d.attachments());
    std::string all;
    for (const Attachment& one : list) {
      const Result<AttachedBytes> bytes = d.attached_bytes(one);
      if (!bytes.ok() && bytes.error().code() != ErrorCode::malformed) return bytes.error();
      all += one.name + (bytes.ok() ? digest_of(bytes->bytes.view()) : "damaged");
    }
    return all;
  });
  add("fonts", [](const Document& d) {
    return told(d.fonts(), [](auto& out, const auto& fonts) {
      for (const FontUse& font : fonts) out << font.name << font.kind << font.embedded << ' ';
    });
  });
  add("annotations of all pages", [](const Document& d) {
    return told(d.annotations(), [](auto& out, const auto& pages) {
      for (const auto& marks : pages)
        for (const Annotation& mark : marks) out << mark.type << mark.rect.left << mark.contents;
    });
  });
  add("opening_view", [](const Document& d) {
    return told(d.opening_view(), [](auto& out, const auto& view) {
      out << static_cast<int>(view.mode) << view.copies;
      put(out, view.destination);
      put(out, view.actions);
    });
  });
  add("language", [](const Document& d) { return d.language(); });
  add("triggers", [](const Document& d) {
    return told(d.triggers(), [](auto& out, const auto& triggers) { put(out, triggers); });
  });
  add("layers", [](const Document& d) {
    return told(d.layers(), [](auto& out, const auto& layers) {
      for (const Layer& layer : layers.all) out << layer.name;
      for (const LayerLine& line : layers.initial.order) out << line.layer.value_or(-1);
    });
  });
  add("structure", [](const Document& d) {
    return told(d.structure(), [](auto& out, const auto& structure) {
      out << structure.is_marked;
      for (const StructureElement& element : structure.elements)
        out << element.depth << element.role << element.title << element.page.value_or(-1)
            << element.parts.size();
    });
  });
  add("TaggedOrder", [](const Document& d) {
    return told(TaggedOrder::of(d), [](auto& out, const TaggedOrder& tags) {
      out << tags.structure().elements.size();
    });
  });
  add("DocumentSearch", [](const Document& d) -> Result<std::string> {
    DocumentSearch search({d}, TextSearch::of("e").value(), {.threads = 1});
    LUMVET_RETURN_IF_ERROR(search.go_on([](const DocumentHits&) -> Status { return Done{}; }));
    // Pages that are not there yet are left; asked again, they are looked through.
    if (search.pages_left() > 0)
      return Error(ErrorCode::need_more_data, "some pages have not arrived");
    for (const UnreadPage& page : search.unread()) return page.error;
    return std::to_string(search.hit_count());
  });
  add("form", [](const Document& d) {
    return told(d.form(), [](auto& out, const auto& form) {
      for (const FormField& field : form.fields) {
        out << field.name << '=' << field.value();
        for (const FieldWidget& widget : field.widgets) out << widget.page.value_or(-1);
      }
    });
  });
  add("collection", [](const Document& d) {
    return told(d.collection(), [](auto& out, const auto& collection) {
      if (!collection) return;
      out << collection->shown_first;
      for (const CollectionField& field : collection->fields) out << field.key << field.name;
    });
  });
  add("requirements", [](const Document& d) {
    return told(d.requirements(), [](auto& out, const auto& requirements) {
      for (const Requirement& requirement : requirements) out << requirement.type;
    });
  });
  add("articles", [](const Document& d) {
    return told(d.articles(), [](auto& out, const auto& articles) {
      for (const Article& article : articles) {
        out << article.properties.title << ':';
        for (const ArticlePart& part : article.parts)
          out << part.page.value_or(-1) << ' ' << part.area.left << ',';
      }
    });
  });
  add("attachments of the first page", [](const Document& d) {
    return told(d.attachments(1), [](auto& out, const auto& files) {
      for (const Attachment& file : files) out << file.name << ' ';
    });
  });
  add("signatures", [](const Document& d) {
    return told(verify_signatures(d, Trust(), {.time = 1'790'000'000}),
                [](auto& out, const auto& all) {
                  for (const SignatureJudgement& each : all)
                    out << each.field << static_cast<int>(each.verdict) << each.sub_indication
                        << each.signer << each.revision << each.changes.size();
                });
  });
  add("list_signatures", [](const Document& d) {
    return told(list_signatures(d), [](auto& out, const auto& all) {
      for (const SignatureClaim& each : all) out << each.field << each.name;
    });
  });
  add("output_intents", [](const Document& d) {
    return told(d.output_intents(), [](auto& out, const auto& intents) {
      for (const OutputIntent& intent : intents) out << intent.identifier;
    });
  });
  add("objects", [](const Document& d) -> Result<std::string> {
    LUMVET_TRY(const std::uint32_t end, d.first_unused_number());
    std::string all;
    for (std::uint32_t number = 0; number < end; ++number) {
      LUMVET_TRY(const auto place, d.place_of({number, 0}));
      Result<Object> object = d.object({number, 0});
      if (!object.ok() && object.error().code() != ErrorCode::malformed) return object.error();
      all += std::to_string(place ? place->offset : 0) + (object.ok() ? to_text(*object) : "bad");
      LUMVET_TRY(const Object resolved, d.resolve(Object(ObjectId{number, 0})));
      if (!resolved.is_stream()) continue;
      const Result<ByteSlice> bytes = d.decoded(resolved);
      if (!bytes.ok() && bytes.error().code() != ErrorCode::malformed) return bytes.error();
      all += bytes.ok() ? digest_of(bytes->view()) : "no bytes";
    }
    return all;
  });
  return all;
}

inline std::vector<Call> of_all_pages() {
  std::vector<Call> all;
  const auto add = [&](std::string name, auto ask) {
    all.push_back({"page: " + name, [ask](const Document& d) { return of_pages(d, ask); }});
  };
  add("facts", [](const Page& p) -> Result<std::string> {
    std::ostringstream out;
    for (const Rect& box : {p.media_box(), p.crop_box(), p.trim_box(), p.bleed_box(), p.art_box()})
      out << box.left << ' ' << box.right << ' ' << box.bottom << ' ' << box.top << ' ';
    out << p.rotation() << p.user_unit() << static_cast<int>(p.tab_order()) << to_text(p.dict());
    return out.str();
  });
  add("content", [](const Page& p) -> Result<std::string> {
    LUMVET_TRY(const Bytes content, p.content());
    return std::string(as_text(content));
  });
  add("annotations", [](const Page& p) {
    return told(p.annotations(), [](auto& out, const auto& marks) {
      for (const Annotation& mark : marks) {
        out << mark.type << mark.rect.left << mark.contents;
        put(out, mark.destination);
        put(out, mark.actions);
      }
    });
  });
  add("triggers", [](const Page& p) {
    return told(p.triggers(), [](auto& out, const auto& triggers) { put(out, triggers); });
  });
  add("measured_areas", [](const Page& p) {
    return told(p.measured_areas(), [](auto& out, const auto& measured_areas) {
      for (const MeasuredArea& one : measured_areas) {
        out << one.name << one.area.left;
        if (one.measure) out << one.measure->scale << one.measure->wkt << one.measure->x.size();
      }
    });
  });
  add("output_intents of the page", [](const Page& p) {
    return told(p.output_intents(), [](auto& out, const auto& intents) {
      for (const OutputIntent& one : intents) out << one.identifier;
    });
  });
  add("presentation", [](const Page& p) {
    return told(p.presentation(), [](auto& out, const auto& presentation) {
      out << presentation.seconds.value_or(-1);
      if (presentation.transition) out << presentation.transition->style;
    });
  });
  add("fonts", [](const Page& p) {
    return told(p.fonts(), [](auto& out, const auto& fonts) {
      for (const FontUse& font : fonts) out << font.name << font.kind;
    });
  });
  add("images", [](const Page& p) {
    return told(p.images(), [](auto& out, const auto& images) {
      for (const ImageUse& image : images) out << image.width << image.color_space;
    });
  });
  add("Scene::record", [](const Page& p) {
    return told(Scene::record(p), [](auto& out, const auto& s) { out << s.operation_count(); });
  });
  add("render", [](const Page& p) { return drawn(render(p, {.dpi = 40, .threads = 2})); });
  add("render_rows", [](const Page& p) -> Result<std::string> {
    LUMVET_TRY(const Scene scene, Scene::record(p));
    std::string all;
    LUMVET_RETURN_IF_ERROR(
        render_rows(scene, {.dpi = 40, .threads = 1}, [&](const PixelBuffer& rows, int) {
          all += digest_of({rows.data, static_cast<std::size_t>(rows.stride * rows.height)});
          return Status(Done{});
        }));
    return all;
  });
  add("thumbnail", [](const Page& p) -> Result<std::string> {
    LUMVET_TRY(const bool has_own, has_current_thumbnail(p, 20));
    LUMVET_TRY(const std::string small, drawn(thumbnail(p, {.side = 20})));
    return small + (has_own ? " own" : "");
  });
  add("is_blank",
      [](const Page& p) { return told(is_blank(p), [](auto& out, bool blank) { out << blank; }); });
  add("text_of", [](const Page& p) { return text_of(p); });
  add("glyphs_of", [](const Page& p) {
    return told(Scene::record(p), [](auto& out, const Scene& scene) {
      for (const PageGlyph& glyph : glyphs_of(scene).glyphs) out << glyph.characters;
    });
  });
  add("placed_images", [](const Page& p) -> Result<std::string> {
    LUMVET_TRY(const Scene scene, Scene::record(p));
    std::string all;
    for (const PlacedImage& image : placed_images(scene))
      for (const auto& file : {image.stored(), image.shown()}) {
        LUMVET_RETURN_IF_ERROR(file);
        all += file->ending + digest_of(file->bytes);
      }
    return all;
  });
  return all;
}

inline std::vector<Call> of_saves() {
  std::vector<Call> all;
  const auto add = [&](std::string name, auto ask) {
    all.push_back({std::move(name), std::move(ask)});
  };
  for (const FileLayout layout : {FileLayout::compact, FileLayout::classic, FileLayout::linearized})
    add("save, layout " + std::to_string(static_cast<int>(layout)), [layout](const Document& d) {
      return saved(d, [&](ByteSink& sink) { return save(d, sink, {.layout = layout}); });
    });
  add("save, recompressed", [](const Document& d) {
    return saved(d, [&](ByteSink& sink) { return save(d, sink, {.recompress = true}); });
  });
  add("repair",
      [](const Document& d) { return saved(d, [&](ByteSink& sink) { return repair(d, sink); }); });
  add("Assembly", [](const Document& d) -> Result<std::string> {
    Assembly book;
    LUMVET_RETURN_IF_ERROR(book.add(d));
    LUMVET_RETURN_IF_ERROR(book.add(d, PageSelection::parse("1").value()));
    return saved(d, [&](ByteSink& sink) { return book.save(sink); });
  });
  add("SheetPlan", [](const Document& d) -> Result<std::string> {
    LUMVET_TRY(const SheetPlan plan, SheetPlan::of(d, SheetLayout{}));
    LUMVET_TRY(const Document sheets, plan.document());
    LUMVET_TRY(const std::string all, saved(d, [&](ByteSink& sink) { return plan.save(sink); }));
    return all + std::to_string(sheets.page_count());
  });
  add("EditableDocument pages", [](const Document& d) -> Result<std::string> {
    EditableDocument pages = EditableDocument::of(d);
    LUMVET_RETURN_IF_ERROR(pages.duplicate(PageSelection::parse("1").value()));
    LUMVET_RETURN_IF_ERROR(pages.insert(d, PageSelection::parse("last").value(), 0));
    LUMVET_RETURN_IF_ERROR(pages.resize(PageSelection::parse("2").value(), {200, 300}));
    LUMVET_RETURN_IF_ERROR(overlay(pages, PageSelection::parse("1").value(), d));
    LUMVET_RETURN_IF_ERROR(pages.keep(PageSelection::parse("2,1,1").value()));
    LUMVET_TRY(const std::vector<int> origins, pages.page_origins());
    LUMVET_TRY(const std::string all, saved(d, [&](ByteSink& sink) { return pages.save(sink); }));
    return all + std::to_string(origins.front());
  });
  add("EditableDocument", [](const Document& d) -> Result<std::string> {
    EditableDocument edited = EditableDocument::of(d);
    LUMVET_RETURN_IF_ERROR(edited.set_properties({.title = "Day 13"}));
    LUMVET_RETURN_IF_ERROR(edited.rotate(PageSelection::parse("1").value(), 90));
    LUMVET_RETURN_IF_ERROR(edited.insert_blank(0, 1, {90, 90}));
    LUMVET_RETURN_IF_ERROR(edited.move(PageSelection::parse("last").value(), 0));
    LUMVET_RETURN_IF_ERROR(edited.attach({.name = "day.txt", .bytes = Bytes(9, 'x')}));
    LUMVET_TRY(const std::vector<OutlineEntry> outline, d.outline());
    LUMVET_RETURN_IF_ERROR(edited.set_outline(outline));
    LUMVET_RETURN_IF_ERROR(edited.set_page_labels({{.first_page = 0, .prefix = "A-"}}));
    LUMVET_TRY(const std::vector<std::string> names, edited.attachment_names());
    LUMVET_TRY(const Document now, edited.now());
    LUMVET_TRY(const std::vector<int> changed, edited.pages_changed_since(d));
    LUMVET_TRY(std::string all, saved(d, [&](ByteSink& sink) { return edited.save(sink); }));
    Result<Bytes> appended = edited.appended();
    if (!appended.ok() && appended.error().code() != ErrorCode::unsupported)
      return std::move(appended).error();
    if (appended.ok() && !d.encryption()) all += digest_of(*appended);
    return all + std::to_string(now.page_count()) + std::to_string(changed.size()) +
           std::to_string(names.size());
  });
  add("split", [](const Document& d) -> Result<std::string> {
    LUMVET_TRY(const std::vector<SplitPart> parts, SplitRule::every(1).parts_of(d));
    const auto at_outline = SplitRule::at_outline(1).parts_of(d);
    if (!at_outline.ok() && at_outline.error().code() != ErrorCode::invalid_argument)
      return at_outline.error();
    LUMVET_TRY(const auto by_size, SplitRule::at_most(1000).parts_of(d));
    return std::to_string(parts.size()) + " " + std::to_string(by_size.size()) + " " +
           std::to_string(at_outline.ok() ? at_outline->size() : 0);
  });
  add("headings_of", [](const Document& d) {
    return told(headings_of(d), [](auto& out, const auto& headings) {
      for (const OutlineEntry& entry : headings) out << entry.title << entry.page.value_or(-1);
    });
  });
  add("sizes_of", [](const Document& d) {
    return told(sizes_of(d), [](auto& out, const Sizes& sizes) {
      out << sizes.fonts << ' ' << sizes.images << ' ' << sizes.content << ' ' << sizes.bookkeeping
          << ' ' << sizes.attachments << ' ' << sizes.other << ' ' << sizes.unused;
    });
  });
  add("check_linearized", [](const Document& d) {
    return told(check_linearized(d), [](auto& out, const LinearCheck& check) {
      out << static_cast<int>(check.state);
      for (const std::string& difference : check.differences) out << difference;
    });
  });
  add("loading_of", [](const Document& d) {
    return told(loading_of(d), [](auto& out, const LoadingReport& report) {
      for (const PageLoading& page : report.pages) out << page.page << ' ' << page.seconds << ' ';
      out << report.because;
    });
  });
  return all;
}

}  // namespace calls

inline std::vector<Call> public_calls() {
  std::vector<Call> all = calls::of_documents();
  for (auto* more : {&calls::of_all_pages, &calls::of_saves})
    for (Call& call : (*more)()) all.push_back(std::move(call));
  return all;
}

}  // namespace test
