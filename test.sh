#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Looks at the format, builds and runs all tests: plain, then with the address and undefined-behavior
# sanitizers, then every fuzz target for a few seconds.
#   ./test.sh            all of that
#   ./test.sh --quick    the plain build only
#   ./test.sh --tsan     the thread sanitizer on what runs in parallel
#   ./test.sh --field    real documents out of Debian's packages (downloads them)
#   ./test.sh --fuzz N   every fuzz target for N seconds
set -eu
cd "$(dirname "$0")"
tools/install_packages.sh tests
mode=${1:-all}
jobs=$(nproc)
export ASAN_OPTIONS=detect_leaks=1 UBSAN_OPTIONS=print_stacktrace=1 LSAN_OPTIONS="suppressions=$PWD/tests/leaks.supp:print_suppressions=0"
passed=0
failed=0

build() {
  cmake --preset "$1" -DLUMVET_BENCH=OFF ${2:-} >/dev/null
  cmake --build "build${3:+-$3}" -j "$jobs"
}

# Every source as .clang-format says.
format() {
  if find apps bench demo examples fuzz include src tests -name '*.cpp' -o -name '*.h' | xargs clang-format-14 --dry-run -Werror; then
    passed=$((passed + 1))
  else
    failed=$((failed + 1))
  fi
}

# Runs CTest in a build folder and adds up what it says.
run_tests() {
  log=$1/ctest.log
  (cd "$1" && ctest -j "$jobs" --output-on-failure ${2:+-R "$2"}) >"$log" 2>&1 || true
  grep -E 'Failed|\*\*\*|FAILED|with expansion|ERROR:|runtime error' "$log" || true
  tail -n 3 "$log"
  total=$(sed -n 's/.* tests failed out of \([0-9]*\)$/\1/p' "$log" | tail -n 1)
  bad=$(sed -n 's/.* tests passed, \([0-9]*\) tests failed out of .*/\1/p' "$log" | tail -n 1)
  [ -n "$total" ] || { total=1; bad=1; }
  failed=$((failed + bad))
  passed=$((passed + total - bad))
}

fuzz() {
  build fuzz "" fuzz
  for target in assemble edit images document repair cross_references objects filters codecs security content cmap fonts profiles xmp page_selection hints; do
    corpus=build-fuzz/corpus/$target
    mkdir -p "$corpus"
    if "build-fuzz/bin/fuzz-$target" -dict="fuzz/dictionaries/$target.dict" -max_total_time="$1" -timeout=10 -rss_limit_mb=2048 -artifact_prefix=build-fuzz/ \
        -print_final_stats=1 "$corpus" "fuzz/corpus/$target" >"build-fuzz/$target.log" 2>&1; then
      passed=$((passed + 1))
    else
      failed=$((failed + 1))
      tail -n 30 "build-fuzz/$target.log"
    fi
    echo "fuzz $target: $(sed -n 's/stat::number_of_executed_units: *//p' "build-fuzz/$target.log") executions"
  done
}

case $mode in
  --field) build release "-DLUMVET_TESTS=ON"; exec tools/field_test.sh build/bin/lumvet ;;
  --quick) build release "-DLUMVET_TESTS=ON"; run_tests build ;;
  --tsan) build tsan "" tsan; run_tests build-tsan 'threads|thread|render|test-file|test-document|limits' ;;
  --fuzz) fuzz "${2:-60}" ;;
  all)
    format
    build release "-DLUMVET_TESTS=ON"
    run_tests build
    build asan "" asan
    run_tests build-asan
    fuzz 10
    ;;
  *) sed -n '3,9s/^# //p' "$0"; exit 2 ;;
esac
echo "$passed passed, $failed failed"
[ "$failed" = 0 ]
