#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Makes the inputs, runs the benchmarks and prints each beside its limit as a ratio, from one run.
#   bench/run.sh          measures
#   bench/run.sh --short  only sees that everything runs through
set -eu
cd "$(dirname "$0")/.."
tools/install_packages.sh bench
repeats="--benchmark_repetitions=5"
scene_ms=60
if [ "${1:-}" = --short ]; then
  export LUMVET_BENCH_SHORT=1
  repeats="--benchmark_repetitions=2 --benchmark_min_time=0.01"
  scene_ms=1
fi
cmake --preset release -DLUMVET_BENCH=ON >/dev/null
cmake --build build --target lumvet-tool lumvet-bench race-scenes make-large make-demo
inputs=build/demo
[ -f "$inputs/scans/sheet 11.pdf" ] || build/bin/make-demo "$inputs"
[ -f "$inputs/manual.pdf" ] || build/bin/make-demo --manual "$inputs/manual.pdf" 3200
for pages in 300 30000; do
  [ -f "$inputs/manual-$pages.pdf" ] || build/bin/make-demo --manual "$inputs/manual-$pages.pdf" $pages
done
[ -f "$inputs/manual-illustrated.pdf" ] || build/bin/make-demo --illustrated "$inputs/manual-illustrated.pdf" 3200
[ -f "$inputs/large.pdf" ] || build/bin/make-large "$inputs/large.pdf"
if [ ! -d "$inputs/single" ]; then
  build/bin/lumvet merge "$inputs/manual.pdf@1-300" -o "$inputs/first.pdf" >/dev/null 2>&1
  build/bin/lumvet split "$inputs/first.pdf" --every 1 -o "$inputs/single" >/dev/null
fi
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
export LUMVET_BENCH_INPUTS="$inputs"

# shellcheck disable=SC2086
build/bin/lumvet-bench --benchmark_filter=-memory $repeats --benchmark_report_aggregates_only=true \
  --benchmark_format=csv >"$work/times.csv"
if grep ',true,' "$work/times.csv"; then exit 1; fi  # what a benchmark says that failed
awk -F, '
  /_median/ { name = $1; gsub(/"/, "", name); sub(/_median.*/, "", name); sub(/\/real_time$/, "", name); sub(/\/iterations.*$/, "", name)
    group = name; sub(/\/.*/, "", group); time = $3
    if (name ~ /\/limit/) limit[group] = time
    label = $8; gsub(/"/, "", label)
    printf "%-45s %12.3f %s   %8.2f x the limit  %s\n", name, time, $5, time / limit[group], label; rows++ }
  /_median/ && time <= 0 { exit 1 }
  END { if (rows < 51) { print "benchmarks are missing"; exit 1 } }' "$work/times.csv"

build/bin/lumvet-bench --benchmark_filter=^memory --benchmark_format=csv >"$work/memory.csv"
if grep ',true,' "$work/memory.csv"; then exit 1; fi
awk -F, '/^"memory/ { name = $1; gsub(/"/, "", name); sub(/\/iterations.*$/, "", name)
    printf "%-45s %12.1f MiB   %8.2f x the bound\n", name, $12, $11; rows++ }
  END { if (rows < 6) { print "benchmarks are missing"; exit 1 } }' "$work/memory.csv"

# Showing pages over a slow link, before and after.
build/bin/lumvet linearize "$inputs/manual-illustrated.pdf" -o "$inputs/manual-web.pdf" --replace --loading --load-pages 1,1600

build/bin/race-scenes "" $scene_ms >"$work/scenes"
tail -n 1 "$work/scenes"
