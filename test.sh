#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Looks at the format; builds plainly, with the tests of rooms that reckon, of the tool and of the
# library as strangers see it; then with the address and undefined-behavior sanitizers, all tests of
# the library, and every fuzz target for a few seconds; then what runs on threads with the thread
# sanitizer.
# The benchmarks run through shortened, and the reference of the headers is made.
#   ./test.sh            all of that
#   ./test.sh --quick    the plain build only, with all tests
#   ./test.sh --sanitize all tests with the address and undefined-behavior sanitizers, the tool's too
#   ./test.sh --tsan     the thread sanitizer on what runs in parallel
#   ./test.sh --tidy     clang-tidy over lines that have changed since origin/main or the last commit
#   ./test.sh --field    real documents out of Debian's packages (downloads them)
#   ./test.sh --fuzz N   every fuzz target for N seconds
set -eu
cd "$(dirname "$0")"
tools/install_packages.sh tests bench docs
mode=${1:-all}
jobs=$(nproc)
step=$(date +%s)
export ASAN_OPTIONS=detect_leaks=1 UBSAN_OPTIONS=print_stacktrace=1 LSAN_OPTIONS="suppressions=$PWD/tests/leaks.supp:print_suppressions=0"
passed=0
failed=0

# What went by since the last time.
took() {
  now=$(date +%s)
  echo "-- $1: $((now - step)) s"
  step=$now
}

# build PRESET FOLDER [OPTION] [TARGET…]
build() {
  preset=$1
  folder=$2
  option=${3:-}
  shift; shift; [ $# = 0 ] || shift
  cmake --preset "$preset" $option >/dev/null
  cmake --build "$folder" -j "$jobs" ${1:+--target "$@"}
  took "$preset build"
}

# A command that has to succeed.
step() {
  name=$1
  shift
  if "$@"; then
    passed=$((passed + 1))
  else
    failed=$((failed + 1))
    echo "$name FAILED"
  fi
  took "$name"
}

# Every source as .clang-format says.
format() {
  find apps bench demo examples fuzz include src standins tests -name '*.cpp' -o -name '*.h' | xargs clang-format-14 --dry-run -Werror
}

# The lines that have changed, as .clang-tidy says, by a database that knows every file by itself.
tidy() {
  command -v clang-tidy-diff-14.py >/dev/null || return 1
  cmake --preset sanitize -B build-tidy -DLUMVET_UNITY=OFF -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON >/dev/null
  base=$(git merge-base HEAD origin/main 2>/dev/null || git rev-parse HEAD~1)
  [ "$base" != "$(git rev-parse HEAD)" ] || base=$(git rev-parse HEAD~1)
  changed=$(git diff --name-only --diff-filter=d "$base" -- 'src/*.cpp' 'apps/*.cpp' ':!*_test.cpp')
  looked_at=$(echo "$changed" | head -n "${1:-1000}")
  [ "$looked_at" = "$changed" ] || echo "clang-tidy looks at the first $1 files that changed; ./test.sh --tidy at all"
  [ -z "$changed" ] || git diff -U0 "$base" -- $looked_at |
    clang-tidy-diff-14.py -p1 -path build-tidy -j "$jobs" -quiet >build-tidy/tidy.log 2>&1 || true
  [ -z "$changed" ] || ! grep -E ': (warning|error): ' build-tidy/tidy.log
}

# Runs CTest in a build folder, tests of a pattern and without those of another one, and adds up what
# it says.
run_tests() {
  log=$1/ctest.log
  (cd "$1" && ctest -j "$jobs" --output-on-failure ${2:+-R "$2"} ${3:+-E "$3"}) >"$log" 2>&1 || true
  grep -E 'Failed|\*\*\*|FAILED|with expansion|ERROR:|runtime error' "$log" || true
  tail -n 3 "$log"
  total=$(sed -n 's/.* tests failed out of \([0-9]*\)$/\1/p' "$log" | tail -n 1)
  bad=$(sed -n 's/.* tests passed, \([0-9]*\) tests failed out of .*/\1/p' "$log" | tail -n 1)
  [ -n "$total" ] || { total=1; bad=1; }
  failed=$((failed + bad))
  passed=$((passed + total - bad))
  took "tests of $1"
}

# fuzz_one FOLDER SECONDS TARGET
fuzz_one() {
  corpus=$1/corpus/$3
  mkdir -p "$corpus"
  words=fuzz/dictionaries/$3.dict
  [ -f "$words" ] || words=
  "$1/bin/fuzz-$3" ${words:+-dict="$words"} -max_total_time="$2" -timeout=10 -rss_limit_mb=2048 -artifact_prefix="$1/" \
    -print_final_stats=1 "$corpus" "fuzz/corpus/$3" >"$1/$3.log" 2>&1 || touch "$1/$3.found"
}

# fuzz FOLDER SECONDS: every target, as many at once as there are processors.
fuzz() {
  rm -f "$1"/*.found
  running=0
  targets="marks forms redact signatures briefs words text_index trees assemble edit images document repair cross_references objects filters codecs security content cmap fonts profiles xmp page_selection hints"
  for target in $targets; do
    fuzz_one "$1" "$2" "$target" &
    running=$((running + 1))
    [ $((running % jobs)) != 0 ] || wait
  done
  wait
  for target in $targets; do
    echo "fuzz $target: $(sed -n 's/stat::number_of_executed_units: *//p' "$1/$target.log") executions"
    if [ -e "$1/$target.found" ]; then
      failed=$((failed + 1))
      tail -n 30 "$1/$target.log"
    else
      passed=$((passed + 1))
    fi
  done
  took "fuzzing"
}

# The tests that have threads in them, of all rooms.
threads() {
  build tsan build-tsan "" test-together
  run_tests build-tsan 'thread|cancel|at once|apart|ahead|looked through' NOT_BUILT
}

# What is built plainly beside the library where the sanitizers run all tests anyway: whatever depends
# on how the other compiler optimizes, and what looks at the library from outside.
plain() {
  build release build "" lumvet-tool lumvet-bench race-scenes make-large examples/all demo/all standins/all \
    test-base test-raster test-color test-images test-fonts test-filters test-render test-cairo \
    test-scales test-large test-producers test-rules test-tool
  run_tests build "" 'NOT_BUILT|^fuzz-'
}

case $mode in
  --field) build release build; exec tools/field_test.sh build/bin/lumvet ;;
  --quick) build release build; run_tests build ;;
  --sanitize) build sanitize build-sanitize -DLUMVET_TOOL=ON; run_tests build-sanitize ;;
  --tsan) threads ;;
  --tidy) step "clang-tidy" tidy ;;
  --fuzz) build fuzz build-fuzz; fuzz build-fuzz "${2:-60}" ;;
  all)
    step "format" format
    plain
    step "benchmarks, shortened" bench/run.sh --short
    step "reference" tools/make_reference.sh
    build sanitize build-sanitize -DLUMVET_TOOL=OFF
    step "clang-tidy" tidy 6
    run_tests build-sanitize "" 'NOT_BUILT|^test-cairo'  # which runs plainly, and draws as other tests do
    fuzz build-sanitize 5
    threads
    ;;
  *) sed -n '3,14s/^# //p' "$0"; exit 2 ;;
esac
echo "$passed passed, $failed failed"
[ "$failed" = 0 ]
