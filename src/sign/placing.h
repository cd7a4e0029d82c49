// SPDX-License-Identifier: Apache-2.0
// Where a signature stands in a document: its field, its mark on a page, what the form and the
// catalog say of it (ISO 32000-2, 12.7.5.5 and 12.8).
//
// Threads: one thread at a time.
#pragma once

#include "lumvet/sign/signing.h"

namespace lumvet::signing {

// The dictionary of a signature before it is signed, and what it says for people.
struct NewSignature {
  Dict dict = {};
  std::string signer = {};  // for the mark
  std::string when = {};
  // Of the document by an authority, which whoever certified it always allows (12.8.2.2).
  bool is_timestamp = false;
};

// The field that has it.
struct Place {
  std::string field;
  ObjectId id;
};

// One step of the document: the field, which is made if need be, gets the signature. Errors: as
// signing's.
Result<Place> place_signature(EditableDocument& document, const SignRequest& request,
                              NewSignature signature);

// The mark as it is shown. Errors: as the drawing's.
Result<Drawing> drawing_of(const SignatureMark& mark, double width, double height,
                           const std::vector<std::string>& lines);

}  // namespace lumvet::signing
