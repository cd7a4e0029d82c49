// SPDX-License-Identifier: Apache-2.0
// lumvet sign, verify, prolong and trust, over HTTP where times and lists come from.
#include <cstdlib>

#include "nlohmann/json.hpp"
#include "standins/services.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/run_tool.h"
#include "tests/support/token.h"

using namespace test;
using standins::Fault;

namespace {

// A folder with a document and everybody's keys, and the authorities' services.
class Bench {
 public:
  explicit Bench(bool asks_issuers = true)
      : office_(standins::SigningOffice::at(asks_issuers ? services_.address() : "")) {
    services_.serve(office_);
    write_file(folder / "page.pdf",
               PdfBuilder().page("0 0 1 rg 9 9 30 30 re f", "/MediaBox[0 0 300 200]").finish());
    write_file(folder / "chief.p12", text(office_.chief.pkcs12("ostrel")));
    write_file(folder / "former.p12", text(office_.former.pkcs12("ostrel")));
    write_file(folder / "alone.p12", text(office_.alone.pkcs12("ostrel")));
    write_file(folder / "root.pem", office_.root.pem());
    write_file(folder / "alone.pem", office_.alone.pem());
    write_file(folder / "words", "ostrel\n");
    write_file(folder / "wrong", "something\n");
    ::setenv("XDG_CONFIG_HOME", (folder / "configuration").c_str(), 1);
    ::unsetenv("LUMVET_KEY_PASSWORD");
  }

  Ran run(const std::string& arguments) const { return test::run(folder, arguments); }
  Ran sign(const std::string& more, const std::string& key = "chief.p12") const {
    return run("sign page.pdf --key-file " + key + " --key-password-file words " + more);
  }
  std::string times() const { return " --timestamps " + services_.address() + "/time "; }

  TemporaryFolder folder;
  standins::Services& services() { return services_; }

 private:
  static std::string text(const lumvet::Bytes& bytes) {
    return std::string(bytes.begin(), bytes.end());
  }

  standins::Services services_;
  standins::SigningOffice office_;
};

bool has(const std::string& text, const std::string& words) {
  CAPTURE(text);
  const bool is_there = text.find(words) != std::string::npos;
  CHECK(is_there);
  return is_there;
}

}  // namespace

TEST_CASE("a document is signed and judged", "[tool][sign]") {
  const Bench bench(false);
  const Ran made = bench.sign("--reason Inspected --at 1:150,120,120,40 -o s.pdf");
  CAPTURE(made.err);
  CHECK(made.code == 0);
  CHECK(has(made.out, "signed by Ida Verlan, chief inspector in field signature-1"));
  const Ran judged = bench.run("verify s.pdf --trust root.pem");
  CHECK(judged.code == 0);
  CHECK(has(judged.out, "✓ Ida Verlan, chief inspector: valid"));
  CHECK(has(judged.out, "Inspected"));
  CHECK(has(judged.out, "signs the whole document"));
  CHECK(bench.run("verify s.pdf").code == 5);
  CHECK(bench.run("verify page.pdf").code == 5);
  CHECK(has(bench.run("verify page.pdf").out, "no signature"));
  std::string bytes = read_file(bench.folder / "s.pdf");
  bytes[60] = static_cast<char>(bytes[60] ^ 1);
  write_file(bench.folder / "tampered.pdf", bytes);
  const Ran caught = bench.run("verify s.pdf tampered.pdf --trust root.pem");
  CHECK(caught.code == 4);
  CHECK(has(caught.out, "✗ Ida Verlan, chief inspector: not valid"));
  CHECK(bench.run("sign s.pdf --key-file chief.p12 --key-password-file words -o s.pdf").code == 1);
  CHECK(bench.run("verify s.pdf --trust root.pem --at-time 2040-01-01").code == 5);
  CHECK(bench.run("verify s.pdf --at-time soon").code == 2);
}

TEST_CASE("everything that is known of a signature comes as JSON", "[tool][sign]") {
  const Bench bench(false);
  REQUIRE(bench.sign("--place Ostrel --contact office@ostrel.example -o s.pdf").code == 0);
  const Ran ran = bench.run("verify s.pdf --trust root.pem --json");
  const auto json = nlohmann::json::parse(ran.out);
  const auto& signature = json["files"][0]["signatures"][0];
  CHECK(signature["verdict"] == "valid");
  CHECK(signature["indication"] == "TOTAL-PASSED");
  CHECK(signature["level"] == "B-B");
  CHECK(signature["place"] == "Ostrel");
  CHECK(signature["contact"] == "office@ostrel.example");
  CHECK(signature["chain"].size() == 3);
  CHECK(signature["covers_document"] == true);
}

TEST_CASE("a state of a document is written as it was signed", "[tool][sign]") {
  const Bench bench(false);
  REQUIRE(bench.sign("-o s.pdf").code == 0);
  REQUIRE(bench.run("sign s.pdf --key-file chief.p12 --key-password-file words -o t.pdf").code ==
          0);
  REQUIRE(bench.run("verify t.pdf --revision 2 first.pdf").code == 0);
  CHECK(read_file(bench.folder / "first.pdf") == read_file(bench.folder / "s.pdf"));
  CHECK(bench.run("verify t.pdf --revision 2 first.pdf").code == 1);
  CHECK(has(bench.run("verify t.pdf --revision 9 x.pdf").err, "t.pdf has 3 states"));
}

TEST_CASE("a state is laid beside today's", "[tool][sign]") {
  const Bench bench(false);
  REQUIRE(bench.sign("--reason Inspected -o s.pdf").code == 0);
  write_file(bench.folder / "marks.json",
             R"([{"kind": "square", "page": 1, "area": [100, 50, 40, 30], "contents": "Look"}])");
  const Ran marked = bench.run("annotate s.pdf --add marks.json --append -o marked.pdf");
  CAPTURE(marked.err);
  REQUIRE(marked.code == 0);
  const Ran laid = bench.run("verify marked.pdf --trust root.pem --compare 2 both.pdf");
  CAPTURE(laid.err);
  CHECK(laid.code == 0);
  CHECK(has(laid.out, "both.pdf  state 2 of 3 beside today's: page 1 differs"));
  const Ran words = bench.run("text both.pdf");
  CHECK(has(words.out, "Ida Verlan, chief inspector signed this state on"));
  CHECK(has(words.out, "Page 1: 1 place differs"));
  CHECK(has(bench.run("verify s.pdf --compare 2 same.pdf").out, "no page shows anything else"));
  CHECK(bench.run("verify s.pdf --compare 2 same.pdf").code == 1);  // is there already
  const Ran none = bench.run("verify s.pdf --compare 9 never.pdf");
  CHECK(none.code == 2);
  CHECK(has(none.err, "there is no state '9'; s.pdf has 2 states"));
  CHECK(bench.run("verify s.pdf --compare 1 a.pdf --revision 1 b.pdf").code == 2);
  // The document itself is never written over.
  const std::string before = read_file(bench.folder / "s.pdf");
  for (const std::string how : {"--compare", "--revision"}) {
    const Ran over = bench.run("verify s.pdf " + how + " 1 s.pdf --replace");
    CHECK(over.code == 2);
    CHECK(has(over.err, "s.pdf is the input"));
  }
  CHECK(read_file(bench.folder / "s.pdf") == before);
}

TEST_CASE("what cannot sign says so, and nothing is written", "[tool][sign]") {
  const Bench bench(false);
  const auto refused = [&](const std::string& arguments, int code, const std::string& words) {
    const Ran ran = bench.run(arguments + " -o never.pdf");
    CAPTURE(arguments);
    CHECK(ran.code == code);
    CHECK(has(ran.err, words));
    CHECK_FALSE(std::filesystem::exists(bench.folder / "never.pdf"));
  };
  refused("sign page.pdf --key-file chief.p12 --key-password-file wrong", 1,
          "the passphrase of the key file is wrong; give it with --key-password-file");
  refused("sign page.pdf --key-file root.pem --key-password-file words", 1, "no private key");
  refused("sign page.pdf --key-file page.pdf --key-password-file words", 1, "PKCS#12");
  refused("sign page.pdf --key-file missing.p12", 1, "missing.p12");
  const std::string key = "sign page.pdf --key-file chief.p12 --key-password-file words ";
  refused(key + "--at 1:10,10", 2, "--at takes PAGE:left,top,width,height");
  refused(key + "--at 1:250,10,100,40", 2, "does not lie on page 1");
  refused(key + "--mark page.pdf", 2, "--mark needs a place");
  refused(key + "--level b-t", 2, "--timestamps URL");
  refused(key + "--level b-t --timestamps http://127.0.0.1:1/", 1, "127.0.0.1:1");
}

TEST_CASE("a key on a token signs", "[tool][sign]") {
  const Bench bench(false);
  const Office office = Office::with();
  const std::string address = Token::office().put(office.chief, "tool", "41", false);
  write_file(bench.folder / "chain.pem", office.chief.chain_pem());
  write_file(bench.folder / "office.pem", office.root.pem());
  write_file(bench.folder / "pin", std::string(kPin) + "\n");
  const std::string with =
      "sign page.pdf --key-token '" + address + "' --token-module " + kTokenModule;
  const Ran made = bench.run(with + " --certificates chain.pem --key-password-file pin -o s.pdf");
  CAPTURE(made.err);
  CHECK(made.code == 0);
  CHECK(has(made.out, "signed by Ida Verlan in field signature-1"));
  CHECK(bench.run("verify s.pdf --trust office.pem").code == 0);
  const auto refused = [&](const std::string& arguments, int code, const std::string& words) {
    const Ran ran = bench.run(arguments + " -o never.pdf");
    CHECK(ran.code == code);
    CHECK(has(ran.err, words));
    CHECK_FALSE(std::filesystem::exists(bench.folder / "never.pdf"));
  };
  refused(with + " --certificates chain.pem --key-password-file wrong", 1,
          "the PIN of the token is wrong; give it with --key-password-file");
  refused(with + " --key-password-file pin", 1, "a private key without its certificate");
  refused(with + " --certificates chain.pem", 1, "without its PIN");
  refused(with + " --key-file chief.p12", 2, "--key-file");
  refused("sign page.pdf --token-module " + std::string(kTokenModule), 2, "--key-token");
  refused("sign page.pdf", 2, "--key-file FILE or --key-token ADDRESS");
}

TEST_CASE("levels are reached over HTTP", "[tool][sign]") {
  Bench bench;
  const auto level = [&](const std::string& file) {
    const Ran ran = bench.run("verify " + file + " --trust root.pem --json --online");
    CHECK(ran.code == 0);
    return nlohmann::json::parse(ran.out)["files"][0]["signatures"][0]["level"];
  };
  for (const std::string name : {"b-t", "b-lt", "b-lta"}) {
    const Ran made = bench.sign("--level " + name + bench.times() + "--trust root.pem -o " + name);
    CAPTURE(made.err);
    REQUIRE(made.code == 0);
  }
  CHECK(level("b-t") == "B-T");
  CHECK(level("b-lt") == "B-LT");
  CHECK(level("b-lta") == "B-LTA");
  // Without the network, what is not in the document is not known.
  CHECK(bench.run("verify b-t --trust root.pem").code == 5);
  CHECK(bench.run("verify b-lt --trust root.pem").code == 0);
  const Ran kept =
      bench.run("prolong b-t --trust root.pem --online" + bench.times() + "-o kept.pdf");
  CHECK(kept.code == 0);
  CHECK(has(kept.out, "stamped as timestamp-1"));
  CHECK(level("kept.pdf") == "B-LTA");
}

TEST_CASE("documents under a password are signed at every level", "[tool][sign]") {
  const Bench bench;
  REQUIRE(bench.run("protect page.pdf --user-password-file words -o locked.pdf").code == 0);
  const Ran made = bench.run(
      "sign locked.pdf --password-file words --key-file chief.p12 --key-password-file words "
      "--level b-lta --trust root.pem -o s.pdf" +
      bench.times());
  CAPTURE(made.err);
  REQUIRE(made.code == 0);
  CHECK(bench.run("verify s.pdf --password-file words --trust root.pem").code == 0);
}

TEST_CASE("signed documents go to standard output, and nothing else does", "[tool][sign]") {
  const Bench bench;
  for (const std::string level : {"b-b", "b-lta"}) {
    const Ran made = bench.sign("--level " + level + bench.times() + "--trust root.pem -o -");
    CAPTURE(made.err);
    REQUIRE(made.code == 0);
    write_file(bench.folder / "s.pdf", made.out);
    CHECK(bench.run("verify s.pdf --trust root.pem --online").code == 0);
  }
  const Ran kept = bench.run("prolong s.pdf --trust root.pem --online" + bench.times() + "-o -");
  REQUIRE(kept.code == 0);
  write_file(bench.folder / "kept.pdf", kept.out);
  CHECK(bench.run("verify kept.pdf --trust root.pem --online").code == 0);
  CHECK(bench.run("prolong s.pdf --json -o -").code == 2);
}

TEST_CASE("certificates that were taken back are found online", "[tool][sign]") {
  const Bench bench;
  REQUIRE(bench.sign("-o f.pdf", "former.p12").code == 0);
  CHECK(bench.run("verify f.pdf --trust root.pem").code == 5);
  const Ran judged = bench.run("verify f.pdf --trust root.pem --online");
  CHECK(judged.code == 4);
  CHECK(has(judged.out, "was taken back on"));
}

TEST_CASE("authorities that fail leave no half-written file", "[tool][sign]") {
  Bench bench;
  const auto fails = [&](Fault fault, const std::string& words) {
    bench.services().set_fault(fault);
    const Ran ran = bench.sign("--level b-t" + bench.times() + "-o never.pdf");
    CHECK(ran.code == 1);
    CHECK(has(ran.err, words));
    CHECK_FALSE(std::filesystem::exists(bench.folder / "never.pdf"));
  };
  fails(Fault::unavailable, "the server answers 503");
  fails(Fault::garbage, "something else than a timestamp");
  fails(Fault::wrong_nonce, "another question");
  fails(Fault::wrong_digest, "something else than was asked for");
  fails(Fault::refuses, "refuses");
  bench.services().set_fault(Fault::wrong_clock);
  REQUIRE(bench.sign("--level b-t" + bench.times() + "-o old.pdf").code == 0);
  bench.services().set_fault(Fault::none);
  const Ran judged = bench.run("verify old.pdf --trust root.pem --online");
  CHECK(judged.code == 5);
  CHECK(has(judged.out, "older than the time at which it claims to be made"));
  bench.services().set_fault(Fault::unavailable);
  const Ran asked = bench.run("verify old.pdf --trust root.pem --online");
  CHECK(asked.code == 5);
  CHECK(has(asked.err, "the server answers 503"));
  bench.services().set_fault(Fault::late);
  CHECK(bench.sign("--level b-t" + bench.times() + "-o late.pdf").code == 0);
}

TEST_CASE("whom a person trusts is kept", "[tool][sign]") {
  const Bench bench(false);
  REQUIRE(bench.sign("-o s.pdf").code == 0);
  REQUIRE(bench.sign("-o a.pdf", "alone.p12").code == 0);
  CHECK(has(bench.run("trust list").out, "nobody is trusted yet"));
  CHECK(bench.run("verify s.pdf a.pdf").code == 5);
  CHECK(bench.run("trust add root.pem alone.pem").code == 0);
  CHECK(has(bench.run("trust add root.pem").out, "trusted already"));
  CHECK(bench.run("verify s.pdf a.pdf").code == 0);
  CHECK(bench.run("verify s.pdf --only-these").code == 5);
  const auto json = nlohmann::json::parse(bench.run("trust list --json").out);
  CHECK(json["certificates"].size() == 2);
  CHECK(bench.run("trust remove 'Rilla Onsk'").code == 0);
  CHECK(bench.run("verify s.pdf a.pdf").code == 5);
  CHECK(bench.run("trust remove 'Rilla Onsk'").code == 2);
  CHECK(bench.run("trust add page.pdf").code == 1);
}
