// SPDX-License-Identifier: Apache-2.0
// A large document signed, and its signature judged, beside digesting the same bytes; fifty
// signatures of one chain judged, beside digesting what they sign.
#include <benchmark/benchmark.h>
#include <openssl/evp.h>

#include <filesystem>
#include <fstream>

#include "bench/inputs.h"
#include "lumvet/sign/verification.h"
#include "standins/identity.h"

namespace {

constexpr std::int64_t kTime = 1'790'000'000;  // seconds since 1970

std::size_t size_of_stream() { return bench::is_short() ? 3'000'000 : 300'000'000; }
int signature_count() { return bench::is_short() ? 3 : 50; }

class NowhereSink final : public lumvet::ByteSink {
 public:
  lumvet::Status write(lumvet::ByteView bytes) override {
    benchmark::DoNotOptimize(bytes.data());
    return lumvet::Done{};
  }
};

const standins::Identity& root() {
  static const auto kRoot = standins::Identity::root({.name = "Root"});
  return kRoot;
}

const lumvet::SigningKey& key() {
  static const auto kKey =
      lumvet::SigningKey::from_pkcs12(root().issue({.name = "Signer"}).pkcs12("ostrel"), "ostrel")
          .value();
  return kKey;
}

lumvet::Trust trust() {
  lumvet::Trust all;
  all.add(root().certificate()).value();
  return all;
}

// A page, and one stream of so many bytes.
std::string large_text() {
  std::string text = "%PDF-1.7\n";
  std::vector<std::size_t> places;
  const auto add = [&](const std::string& object) {
    places.push_back(text.size());
    text += std::to_string(places.size()) + " 0 obj\n" + object + "\nendobj\n";
  };
  add("<</Type/Catalog/Pages 2 0 R/Large 4 0 R>>");
  add("<</Type/Pages/Kids[3 0 R]/Count 1>>");
  add("<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 200]>>");
  std::string stream(size_of_stream(), 'x');
  for (std::size_t i = 0; i < stream.size(); i += 61) stream[i] = static_cast<char>('a' + i % 23);
  add("<</Length " + std::to_string(stream.size()) + ">>\nstream\n" + stream + "\nendstream");
  const std::size_t table = text.size();
  text += "xref\n0 5\n0000000000 65535 f \n";
  for (const std::size_t place : places) {
    const std::string digits = std::to_string(place);
    text += std::string(10 - digits.size(), '0') + digits + " 00000 n \n";
  }
  return text + "trailer\n<</Root 1 0 R/Size 5>>\nstartxref\n" + std::to_string(table) +
         "\n%%EOF\n";
}

// Files that are there while the program runs.
class Files {
 public:
  Files() : folder_(std::filesystem::temp_directory_path() / "lumvet-bench-sign") {
    std::filesystem::create_directories(folder_);
    std::ofstream(plain(), std::ios::binary) << large_text();
    lumvet::sign(lumvet::Document::open(plain()).value(), key(), request(), large(),
                 {.replace = true})
        .value();
  }
  ~Files() { std::filesystem::remove_all(folder_); }
  Files(const Files&) = delete;
  Files& operator=(const Files&) = delete;

  std::filesystem::path plain() const { return folder_ / "plain.pdf"; }
  std::filesystem::path large() const { return folder_ / "signed.pdf"; }
  static lumvet::SignRequest request() {
    lumvet::SignRequest request;
    request.time = kTime;
    return request;
  }

 private:
  std::filesystem::path folder_;
};

const Files& files() {
  static const Files kFiles;
  return kFiles;
}

void digest_alone(benchmark::State& state) {
  const auto source = lumvet::open_file_source(files().plain()).value();
  const auto bytes = source->slice(0, source->size()).value();
  for (auto _ : state) {
    unsigned char digest[EVP_MAX_MD_SIZE];
    EVP_Digest(bytes.view().data(), bytes.size(), digest, nullptr, EVP_sha256(), nullptr);
    benchmark::DoNotOptimize(digest);
  }
  state.SetLabel(std::to_string(bytes.size() / 1'000'000) + " MB");
}
BENCHMARK(digest_alone)->Name("sign/limit: digest 300 MB")->Unit(benchmark::kMillisecond);

void sign_large(benchmark::State& state) {
  const auto document = lumvet::Document::open(files().plain()).value();
  const auto edited = lumvet::EditableDocument::of(document);
  for (auto _ : state) {
    NowhereSink sink;
    lumvet::sign(edited, key(), Files::request(), sink).value();
  }
}
BENCHMARK(sign_large)->Name("sign/sign 300 MB")->Unit(benchmark::kMillisecond);

void verify_large(benchmark::State& state) {
  const auto all = trust();
  for (auto _ : state) {
    const auto document = lumvet::Document::open(files().large()).value();
    const auto judged = lumvet::verify_signatures(document, all, {.time = kTime}).value();
    if (judged.size() != 1 || judged[0].verdict != lumvet::Verdict::valid)
      state.SkipWithError("the signature is not valid");
  }
}
BENCHMARK(verify_large)->Name("sign/verify 300 MB")->Unit(benchmark::kMillisecond);

const lumvet::Bytes& signed_often() {
  static const lumvet::Bytes kBytes = [] {
    lumvet::Bytes bytes;
    auto document = lumvet::Document::open(bench::input("report.pdf")).value();
    for (int i = 0; i < signature_count(); ++i) {
      lumvet::BufferSink sink;
      lumvet::sign(lumvet::EditableDocument::of(document), key(), Files::request(), sink).value();
      bytes = sink.take();
      document = lumvet::Document::open(bytes).value();
    }
    return bytes;
  }();
  return kBytes;
}

void digest_often(benchmark::State& state) {
  const lumvet::Bytes& bytes = signed_often();
  for (auto _ : state)
    for (int i = 0; i < signature_count(); ++i) {
      unsigned char digest[EVP_MAX_MD_SIZE];
      EVP_Digest(bytes.data(), bytes.size(), digest, nullptr, EVP_sha256(), nullptr);
      benchmark::DoNotOptimize(digest);
    }
}
BENCHMARK(digest_often)
    ->Name("signatures/limit: digest what 50 signatures sign")
    ->Unit(benchmark::kMillisecond);

void verify_often(benchmark::State& state) {
  const auto document = lumvet::Document::open(signed_often()).value();
  const auto all = trust();
  for (auto _ : state) {
    const auto judged = lumvet::verify_signatures(document, all, {.time = kTime}).value();
    if (judged.size() != static_cast<std::size_t>(signature_count()))
      state.SkipWithError("signatures are missing");
  }
}
BENCHMARK(verify_often)->Name("signatures/verify 50 signatures")->Unit(benchmark::kMillisecond);

}  // namespace
