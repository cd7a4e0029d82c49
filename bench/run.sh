#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Makes the inputs, runs the benchmarks and prints each beside its limit as a ratio, from one run.
set -eu
cd "$(dirname "$0")/.."
tools/install_packages.sh bench
cmake --preset release -DLUMVET_BENCH=ON >/dev/null
cmake --build build
inputs=build/demo
[ -f "$inputs/scans/sheet 11.pdf" ] || build/bin/make-demo "$inputs"
[ -f "$inputs/manual.pdf" ] || build/bin/make-demo --manual "$inputs/manual.pdf" 3200
for pages in 300 30000; do
  [ -f "$inputs/manual-$pages.pdf" ] || build/bin/make-demo --manual "$inputs/manual-$pages.pdf" $pages
done
[ -f "$inputs/manual-illustrated.pdf" ] || build/bin/make-demo --illustrated "$inputs/manual-illustrated.pdf" 3200
[ -f "$inputs/large.pdf" ] || build/bin/make-large "$inputs/large.pdf"
if [ ! -d "$inputs/single" ]; then
  mkdir "$inputs/single"
  for page in $(seq 1 300); do
    build/bin/lumvet merge "$inputs/manual.pdf@$page" -o "$inputs/single/$page.pdf" >/dev/null
  done
fi
LUMVET_BENCH_INPUTS=$inputs build/bin/lumvet-bench --benchmark_filter=-memory --benchmark_repetitions=5 \
  --benchmark_report_aggregates_only=true --benchmark_format=csv 2>/dev/null | awk -F, '
  /_median/ { name = $1; gsub(/"/, "", name); sub(/_median.*/, "", name); sub(/\/real_time$/, "", name); sub(/\/iterations.*$/, "", name)
    group = name; sub(/\/.*/, "", group); time = $3
    if (name ~ /\/limit/) limit[group] = time
    printf "%-45s %12.3f %s   %8.2f x the limit\n", name, time, $5, time / limit[group] }'

# A table takes no counters that only some rows have.
LUMVET_BENCH_INPUTS=$inputs build/bin/lumvet-bench --benchmark_filter=memory 2>/dev/null | grep ^memory

# Showing pages over a slow link, before and after.
rm -f "$inputs/manual-web.pdf"
build/bin/lumvet linearize "$inputs/manual-illustrated.pdf" -o "$inputs/manual-web.pdf" --loading --load-pages 1,1600

build/bin/race-scenes | tail -n 1
