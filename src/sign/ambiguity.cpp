// SPDX-License-Identifier: Apache-2.0
#include "sign/ambiguity.h"

#include <set>
#include <vector>

#include "document/inside.h"
#include "objects/lexer.h"

namespace lumvet::signing {
namespace {

using objects::Token;
using objects::TokenKind;

constexpr std::uint64_t kMostObject = 1 << 20;  // bytes that are looked through

// The key that stands twice in a dictionary of an object whose value begins at a place.
std::optional<std::string> doubled_key(ByteView bytes, std::size_t begin) {
  struct Open {
    bool is_dict = false;
    bool expects_key = true;
    std::set<std::string> keys = {};
  };
  std::vector<Open> open;
  objects::Lexer lexer(bytes, begin);
  for (;;) {
    const Result<Token> token = lexer.next();
    if (!token.ok() || token->kind == TokenKind::end) return std::nullopt;
    if (open.empty() && token->kind != TokenKind::dict_open && token->kind != TokenKind::array_open)
      return std::nullopt;
    switch (token->kind) {
      case TokenKind::dict_open:
      case TokenKind::array_open:
        if (!open.empty()) open.back().expects_key = true;
        open.push_back({.is_dict = token->kind == TokenKind::dict_open});
        break;
      case TokenKind::dict_close:
      case TokenKind::array_close:
        open.pop_back();
        if (open.empty()) return std::nullopt;
        break;
      case TokenKind::name:
        if (open.back().is_dict && open.back().expects_key) {
          open.back().expects_key = false;
          if (!open.back().keys.insert(token->text).second) return token->text;
        } else {
          open.back().expects_key = true;
        }
        break;
      // What follows a number, as in a reference, is no key.
      default: open.back().expects_key = true;
    }
  }
}

class Looking {
 public:
  explicit Looking(const Document& document) : document_(document) {}

  Result<std::optional<std::string>> run() {
    if (store_of(document_).cross_references().shows_two_states())
      return std::optional<std::string>(
          "programs that do not know cross-reference streams read other objects in this file");
    LUMVET_RETURN_IF_ERROR(look_at(document_.trailer()["Root"]));
    LUMVET_RETURN_IF_ERROR(look_at(document_.catalog()["AcroForm"]));
    LUMVET_RETURN_IF_ERROR(look_at(document_.catalog()["Pages"]));
    LUMVET_TRY(const Form form, document_.form());
    for (const FormField& field : form.fields) {
      LUMVET_RETURN_IF_ERROR(look_at(Object(field.id)));
      LUMVET_RETURN_IF_ERROR(look_at(field.signature));
      for (const FieldWidget& widget : field.widgets)
        LUMVET_RETURN_IF_ERROR(look_at(Object(widget.id)));
    }
    for (int i = 0; i < document_.page_count() && !found_; ++i) {
      LUMVET_TRY(const Page page, document_.page(i));
      LUMVET_RETURN_IF_ERROR(look_at(Object(page.id())));
    }
    return found_;
  }

 private:
  Status look_at(const Object& object) {
    const ObjectId id = object.as_reference();
    if (found_ || id == ObjectId() || !met_.insert(id).second) return Done{};
    LUMVET_TRY(const auto place, document_.place_of(id));
    if (!place) return Done{};
    std::optional<std::string> key;
    if (place->packed_in) {
      LUMVET_TRY(key, doubled_in_stream(*place->packed_in, id));
    } else {
      LUMVET_TRY(const ByteSlice bytes,
                 store_of(document_).source()->slice(place->offset, kMostObject));
      objects::Lexer lexer(bytes.view());
      // "12 0 obj".
      for (int i = 0; i < 3; ++i)
        if (!lexer.next().ok()) return Done{};
      key = doubled_key(bytes.view(), lexer.position());
    }
    if (key)
      found_ = "object " + std::to_string(id.number) + " says /" + *key +
               " twice, and programs may read either";
    return Done{};
  }

  Result<std::optional<std::string>> doubled_in_stream(ObjectId stream, ObjectId id) {
    LUMVET_TRY(const Object packed, document_.object(stream));
    const Result<ByteSlice> bytes = document_.decoded(packed);
    if (!bytes.ok()) return std::optional<std::string>();
    const std::int64_t first = packed.as_dict()["First"].as_integer();
    const std::int64_t count = packed.as_dict()["N"].as_integer();
    objects::Lexer lexer(bytes->view());
    for (std::int64_t i = 0; i < count; ++i) {
      const Result<Token> number = lexer.next();
      const Result<Token> offset = lexer.next();
      if (!number.ok() || !offset.ok() || offset->kind != TokenKind::integer) break;
      const std::int64_t at = first + offset->integer;
      if (number->integer == static_cast<std::int64_t>(id.number) && at >= 0 &&
          at < static_cast<std::int64_t>(bytes->size()))
        return doubled_key(bytes->view(), static_cast<std::size_t>(at));
    }
    return std::optional<std::string>();
  }

  const Document& document_;
  std::set<ObjectId> met_;
  std::optional<std::string> found_;
};

}  // namespace

Result<std::optional<std::string>> ambiguity_of(const Document& document) {
  return Looking(document).run();
}

}  // namespace lumvet::signing
