#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Real documents that nobody here wrote: the PDF files in some of Debian's documentation packages.
# Each is opened and told in full, every stream is decoded, every 7th page drawn at 72 dpi, its first
# three pages are bound into a new file and that is opened again. Prints a table of what failed and
# why. Where the tests have been built, every page is drawn at 100 dpi, with the count of findings by
# kind and the slowest pages, copies saved in every layout are compared page by page, and damaged
# copies of the same files are tried as well.
#   tools/field_test.sh TOOL [PACKAGE…]
# Keeps the files in LUMVET_FIELD_CACHE, or ~/.cache/lumvet-field.
set -eu
tool=$(realpath "$1")
shift
packages=${*:-avr-libc debian-refcard debian-reference-ja fonts-hosny-amiri fonts-sil-charis glpk-doc
  graphviz-doc groff gutenprint-doc hackrf-doc lure-of-the-temptress octave-doc packaging-tutorial simh xorg-docs}
cache=${LUMVET_FIELD_CACHE:-${XDG_CACHE_HOME:-$HOME/.cache}/lumvet-field}
mkdir -p "$cache"
cd "$cache"
for package in $packages; do
  [ -d "$package" ] && continue
  apt-get download -qq "$package" >/dev/null 2>&1 || { echo "cannot download $package" >&2; continue; }
  rm -rf "$package.new"
  dpkg-deb -x "$package"_*.deb "$package.new"
  find "$package.new" -type f -name '*.pdf.gz' -exec gunzip -f {} +
  find "$package.new" -type f ! -name '*.pdf' -delete
  mv "$package.new" "$package"
  rm -f "$package"_*.deb
done
find . -name '*.pdf' -type f | sort >list
passed=0
failed=0
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
: >table
while read -r file; do
  rm -rf "$work"/* && mkdir "$work/p"
  why=""
  status=0
  "$tool" inspect --json "$file" >"$work/facts" 2>"$work/err" || status=$?
  if [ $status != 0 ]; then
    why="open: $(head -n 1 "$work/err")"
  else
    pages=$(sed -n 's/^    "page_count": \([0-9]*\),$/\1/p' "$work/facts")
    # Every stream but images is decoded, the contents of all pages among them.
    "$tool" inspect --tree --json "$file" >"$work/objects" 2>"$work/err" || true
    broken=$(grep -B 1 '"decoded_bytes": null' "$work/objects" | grep '"filters"' |
      grep -cvE 'DCTDecode|JPXDecode|CCITTFaxDecode|JBIG2Decode' || true)
    [ "$broken" = 0 ] || why="decode: $broken streams could not be decoded"
    chosen=$(seq -s , 1 7 "$pages")
    status=0
    timeout 600 "$tool" render "$file" --pages "$chosen" --dpi 72 --json -o "$work/p/" >"$work/drawn" 2>"$work/err" || status=$?
    [ $status = 0 ] || why="render: $(head -n 1 "$work/err")"
    if [ -z "$why" ]; then
      last=$((pages < 3 ? pages : 3))
      status=0
      "$tool" merge "$file@1-$last" -o "$work/bound.pdf" >"$work/out" 2>"$work/err" || status=$?
      # Some owners do not let pages be taken out.
      if [ $status = 1 ] && grep -q "its owner does not let" "$work/err"; then
        passed=$((passed + 1))
        echo "refused $file, as its owner wishes" >>table
        continue
      fi
      [ $status = 0 ] || why="bind: $(head -n 1 "$work/err")"
      again=$("$tool" inspect --json --show overview "$work/bound.pdf" 2>/dev/null | sed -n 's/^    "page_count": \([0-9]*\),$/\1/p')
      [ -n "$why" ] || [ "$again" = "$last" ] || why="reopen: $again pages instead of $last"
    fi
    [ -n "$why" ] || sed -n '/"findings": \[$/,$p' "$work/drawn" | grep -c '^    "' >"$work/notes" || true
  fi
  if [ -z "$why" ]; then
    passed=$((passed + 1))
    [ "$(cat "$work/notes" 2>/dev/null || echo 0)" = 0 ] || { echo "noted  $file"; sed -n '/"findings": \[$/,$p' "$work/drawn" | sed -n 's/^    /         /p' | head -n 3; } >>table
  else
    failed=$((failed + 1))
    echo "FAILED $file"
    echo "         $why"
  fi
done <list
cat table
# Every page of all of them, where the tests have been built.
every=$(dirname "$tool")/every-page
if [ -x "$every" ]; then
  "$every" "$PWD" >pages.log || failed=$((failed + 1))
  sed -n '/^the slowest pages/,$p' pages.log
fi
# Runs a test program over the same documents, where it has been built: its name, the variable that
# tells it the folder, and what it tries.
try_all() {
  program=$(dirname "$tool")/$1
  [ -x "$program" ] || return 0
  if env "$2=$PWD" "$program" >"$1.log" 2>&1; then
    echo "$3: $(tail -n 2 "$1.log" | head -n 1)"
  else
    tail -n 40 "$1.log"
    failed=$((failed + 1))
  fi
}
# Those of less than 4 MB are bound, cut, and saved in every layout, and every page compared.
try_all test-bound LUMVET_BOUND_FOLDER "saved and bound copies"
# Some small ones, whose bytes come late or fail to.
try_all test-missing-bytes LUMVET_MISSING_BYTES_FOLDER "bytes that are missing for a while"
# Pages are as dark at 72 dpi as at 288 averaged.
try_all test-scales LUMVET_SCALES_FOLDER "pages at two scales"
# The same documents, damaged in every way that we know.
try_all test-damage LUMVET_DAMAGE_FOLDER "damaged copies"
echo "$passed passed, $failed failed"
[ $((passed * 10)) -ge $(((passed + failed) * 9)) ]
