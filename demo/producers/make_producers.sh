#!/bin/sh
# SPDX-License-Identifier: Apache-2.0
# Prints the small documents in this folder from their sources, each with another general producer.
# Run rarely: the results are committed. Needs Debian's groff, g++ with libcairo2-dev, chromium,
# texlive-latex-base, texlive-binaries and lmodern.
set -eu
cd "$(dirname "$0")"
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
export SOURCE_DATE_EPOCH=1791963000
tbl notice.ms | groff -ms -Tpdf > notice.pdf
g++ -std=c++20 drawing.cpp -o "$work/drawing" $(pkg-config --cflags --libs cairo)
"$work/drawing" drawing.pdf
# Texts in several languages and layouts, whose words are known (the .txt beside each).
for page in tariff.html words/*.html; do
  page=${page%.html}
  chromium --headless --no-sandbox --disable-gpu --disable-background-networking --disable-component-update \
    --disable-sync --no-first-run --user-data-dir="$work/profile" --no-pdf-header-footer \
    --print-to-pdf="$page.pdf" "$page.html"
done
pdflatex -interaction=batchmode -output-directory="$work" loads.tex
cp "$work/loads.pdf" loads.pdf
# The same notice locked in each way that the typesetter knows: user "ostrel", owner "valley".
lock() { # name, PDF version, key bits, permissions
  printf '\\special{pdf:encrypt userpw (ostrel) ownerpw (valley) length %s perm %s}\n' "$3" "$4" |
    cat - locked.tex >"$work/locked.tex"
  (cd "$work" && tex -interaction=batchmode locked.tex && dvipdfmx -q -V "$2" -o "$1.pdf" locked.dvi)
  cp "$work/$1.pdf" "$1.pdf"
}
lock locked-r2 1.3 40 60
lock locked-r3 1.4 128 2052
lock locked-r4 1.6 128 2052
lock locked-r6 2.0 256 2052
