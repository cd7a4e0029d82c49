// SPDX-License-Identifier: Apache-2.0
// Options set by name, one field of each type, under the warnings of a careful application.
#include <lumvet/lumvet.h>

static_assert(LUMVET_VERSION_MAJOR == 0 && LUMVET_VERSION_MINOR >= 2);

int main() {
  const lumvet::OpenOptions open{.password = "ostrel"};
  const lumvet::SaveOptions save{.replace = true};
  const lumvet::NewProtection protection{.user_password = "ostrel"};
  const lumvet::RenderOptions render{.dpi = 150};
  const lumvet::RecordOptions record{.annotations = false};
  const lumvet::ImageFiles files{.pattern = "{page}.png"};
  const lumvet::ImageOptions image{.quality = 80};
  const lumvet::ImagePageOptions pages{.margin = 10};
  const lumvet::Carry carry{.outlines = false};
  const lumvet::AssemblyOptions assembly{.join_fields = true};
  const lumvet::SplitOptions split{.folder = "parts"};
  const lumvet::SheetLayout sheet{.columns = 2};
  const lumvet::BookletLayout booklet{.margin = 10};
  const lumvet::Overlay overlay{.opacity = 0.5};
  const lumvet::PageText text{.text = "{page}"};
  const lumvet::NewAttachment attachment{.name = "a.csv"};
  const lumvet::NewProperties properties{.title = "Day 12"};
  const lumvet::NewView view{.mode = lumvet::PageMode::outline};
  const lumvet::LabelRun run{.first_page = 2};
  const lumvet::LoadingOptions loading{.pages = {0}};
  const lumvet::Connection connection{.speed = 8};
  const lumvet::Limits limits{.nesting = 100};
  const lumvet::SignRequest signature{.reason = "Inspected"};
  const lumvet::SignatureMark mark{.page = 1};
  const lumvet::VerifyOptions judged{.time = 1'790'000'000};
  static_cast<void>(signature), static_cast<void>(mark), static_cast<void>(judged);
  static_cast<void>(open), static_cast<void>(save), static_cast<void>(protection);
  static_cast<void>(render), static_cast<void>(record), static_cast<void>(files);
  static_cast<void>(image), static_cast<void>(pages), static_cast<void>(carry);
  static_cast<void>(assembly), static_cast<void>(split), static_cast<void>(sheet);
  static_cast<void>(booklet), static_cast<void>(overlay), static_cast<void>(text);
  static_cast<void>(attachment), static_cast<void>(properties), static_cast<void>(view);
  static_cast<void>(run), static_cast<void>(loading), static_cast<void>(connection);
  static_cast<void>(limits);
}
