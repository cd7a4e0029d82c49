// SPDX-License-Identifier: Apache-2.0
// Saving the 3,200-page manual, with its photos some 20 MB: opened and saved whole beside copying
// its bytes, linearized beside whole, one change appended to the file beside the same to a small
// file, and locked beside OpenSSL's cipher on the same bytes. The manual without photos, whose
// objects are as many but small, is harder on us and stands beside it.
#include <benchmark/benchmark.h>
#include <openssl/evp.h>

#include <fstream>

#include "bench/inputs.h"
#include "bench/own_memory.h"
#include "lumvet/edit/editable_document.h"
#include "tests/support/pdf_builder.h"

namespace {

namespace fs = std::filesystem;

constexpr const char* kManual = "manual-illustrated.pdf";
constexpr const char* kOnlyText = "manual.pdf";

void copy(benchmark::State& state, const char* name) {
  const auto input = bench::input(name);
  for (auto _ : state) {
    std::string bytes(fs::file_size(input), '\0');
    std::ifstream(input, std::ios::binary)
        .read(bytes.data(), static_cast<std::streamsize>(bytes.size()));
    auto out =
        lumvet::AtomicFile::create("/tmp/lumvet-bench.bin", lumvet::IfExists::replace).value();
    if (!out.write(lumvet::as_bytes(bytes)).ok() || !out.commit().ok())
      state.SkipWithError("cannot write");
  }
}

void save(benchmark::State& state, const char* name, lumvet::FileLayout layout) {
  const auto input = bench::input(name);
  for (auto _ : state) {
    const auto document = lumvet::Document::open(input).value();
    if (!lumvet::save(document, "/tmp/lumvet-bench.pdf", {.layout = layout, .replace = true}).ok())
      state.SkipWithError("cannot save");
  }
}

// Opens a copy, changes it and appends the change to it.
void append(benchmark::State& state, const char* name) {
  const fs::path file = "/tmp/lumvet-bench.pdf";
  fs::copy_file(bench::input(name), file, fs::copy_options::overwrite_existing);
  const std::uintmax_t before = fs::file_size(file);
  std::uintmax_t added = 0;
  for (auto _ : state) {
    {
      lumvet::EditableDocument document =
          lumvet::EditableDocument::of(lumvet::Document::open(file).value());
      document.set_language("de").value();
      if (!document.append_to_file().ok()) state.SkipWithError("cannot append");
    }
    state.PauseTiming();
    added = fs::file_size(file) - before;
    fs::resize_file(file, before);
    state.ResumeTiming();
  }
  state.SetLabel(std::to_string(added) + " bytes");
}

constexpr std::size_t kContent = 64 << 20;

void openssl(benchmark::State& state) {
  const lumvet::Bytes plain(kContent, 'x');
  lumvet::Bytes hidden(kContent + 32);
  const std::string key(32, 'k');
  for (auto _ : state) {
    EVP_CIPHER_CTX* context = EVP_CIPHER_CTX_new();
    const auto* bytes = reinterpret_cast<const unsigned char*>(key.data());
    int size = 0;
    EVP_EncryptInit_ex(context, EVP_aes_256_cbc(), nullptr, bytes, bytes);
    EVP_EncryptUpdate(context, hidden.data(), &size, plain.data(), static_cast<int>(kContent));
    EVP_CIPHER_CTX_free(context);
  }
}

// A document of some streams that are not to be packed, into memory.
void lock(benchmark::State& state, int streams) {
  test::PdfBuilder pdf;
  std::string own;
  for (int i = 0; i < streams; ++i) {
    own += std::to_string(4 + i) + " 0 R ";
    pdf.stream(4 + i, "/Filter/DCTDecode/Number " + std::to_string(i),
               std::string(kContent / static_cast<std::size_t>(streams), 'x'));
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Own[" + own + "]>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>");
  const auto document = test::open(pdf.finish("/Root 1 0 R")).value();
  // Takes what is written and forgets it.
  class Nowhere : public lumvet::ByteSink {
   public:
    lumvet::Status write(lumvet::ByteView) override { return lumvet::Done{}; }
  };
  for (auto _ : state) {
    Nowhere sink;
    if (!lumvet::save(document, sink,
                      {.protection = lumvet::NewProtection{.user_password = "ostrel"}})
             .ok())
      state.SkipWithError("cannot save");
  }
}

void memory(benchmark::State& state, lumvet::FileLayout layout, double bound) {
  for (auto _ : state) {
    const auto document = lumvet::Document::open(bench::input(kManual)).value();
    const double most = bench::peak_of([&] {
      if (!lumvet::save(document, "/tmp/lumvet-bench.pdf", {.layout = layout, .replace = true})
               .ok())
        state.SkipWithError("cannot save");
    });
    bench::tell_peak(state, most, bound);
  }
}

const auto registered = [] {
  const auto add = [](const char* name, auto run) {
    return benchmark::RegisterBenchmark(name, run)->Unit(benchmark::kMillisecond)->UseRealTime();
  };
  using lumvet::FileLayout;
  const auto copying = [](const char* name) {
    return [name](benchmark::State& state) { copy(state, name); };
  };
  const auto saving = [](const char* name, FileLayout layout) {
    return [name, layout](benchmark::State& state) { save(state, name, layout); };
  };
  add("save/limit: copy the manual", copying(kManual));
  add("save/lumvet: save it whole", saving(kManual, FileLayout::compact));
  add("savetext/limit: copy the manual without photos", copying(kOnlyText));
  add("savetext/lumvet: save it whole", saving(kOnlyText, FileLayout::compact));
  add("linear/limit: save the manual whole", saving(kManual, FileLayout::compact));
  add("linear/lumvet: linearize it", saving(kManual, FileLayout::linearized));
  add("lineartext/limit: save the manual without photos", saving(kOnlyText, FileLayout::compact));
  add("lineartext/lumvet: linearize it", saving(kOnlyText, FileLayout::linearized));
  add("append/limit: a change to 300 pages",
      [](benchmark::State& state) { append(state, "manual-300.pdf"); });
  add("append/lumvet: a change to 30000 pages",
      [](benchmark::State& state) { append(state, "manual-30000.pdf"); });
  add("lock/limit: AES-256-CBC of 64 MiB by OpenSSL", openssl);
  add("lock/lumvet: save 64 MiB locked", [](benchmark::State& state) { lock(state, 64); });
  add("lock/lumvet: the same in one stream", [](benchmark::State& state) { lock(state, 1); });
  constexpr double kFixed = 32;
  add("memory/lumvet: save the manual whole", [](benchmark::State& state) {
    memory(state, FileLayout::compact, kFixed);
  })->Iterations(1);
  add("memory/lumvet: linearize the manual", [](benchmark::State& state) {
    const double size = static_cast<double>(fs::file_size(bench::input(kManual)));
    memory(state, FileLayout::linearized, 2 * size / (1 << 20));
  })->Iterations(1);
  return true;
}();

}  // namespace
