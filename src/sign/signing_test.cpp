// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/signing.h"

#include "lumvet/document/document.h"
#include "lumvet/render/render.h"
#include "tests/support/saved.h"
#include "tests/support/signed.h"

using namespace lumvet;
using namespace test;
using standins::KeyKind;

namespace {

Document page_document() {
  return opened_again(PdfBuilder().page("0 0 1 rg 40 40 60 60 re f").finish());
}

}  // namespace

TEST_CASE("signatures of every kind of key and digest are confirmed by another program", "[sign]") {
  for (const KeyKind kind : {KeyKind::p256, KeyKind::p384, KeyKind::p521, KeyKind::rsa_2048}) {
    const Office office = Office::with(kind);
    for (const SignatureDigest digest :
         {SignatureDigest::sha256, SignatureDigest::sha384, SignatureDigest::sha512})
      for (const SignatureForm form : {SignatureForm::pades, SignatureForm::pkcs7}) {
        SignRequest request = request_at();
        request.digest = digest;
        request.form = form;
        const std::string file = sign_bytes(page_document(), office.chief, request);
        const CommandResult result = confirmed(file, office.root);
        CAPTURE(result.printed, static_cast<int>(kind), static_cast<int>(digest));
        CHECK(result.code == 0);
      }
  }
}
